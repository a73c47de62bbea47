//! Old parts, and lots of new ones in drawers.
#![allow(clippy::unwrap_used, unreachable_pub)]

use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::part::{
    CapacitorFamily, Circuit, Fact, Family, MadeOf, Part, PartKind, Position, Resistor, SafetyClass,
};
use owl_core::quantity::{Fraction, Ohm, Volt, Watt};
use owl_core::substitute::{Choices, Need, OldPart, choose};
use owl_core::verdict::{Policy, School};

pub fn policy() -> &'static Policy {
    Policy::of(School::TestFirst, false).unwrap()
}

pub fn circuit(facts: &[(Fact, f64)]) -> Circuit {
    let mut c = Circuit::default();
    for (fact, v) in facts {
        c.set_si(*fact, *v).unwrap();
    }
    c
}

pub fn ask(
    gone: &OldPart,
    wanted: Option<f64>,
    at: Option<Position>,
    facts: &[(Fact, f64)],
    lots: &[Lot],
) -> Choices {
    let circuit = circuit(facts);
    let need =
        Need { gone, type_number: "", value_si: wanted, position: at, circuit: &circuit, paired: true };
    choose(&need, policy(), lots).unwrap()
}

pub fn lot(piece: Piece) -> Lot {
    Lot {
        piece,
        count: 3,
        place: "box 7".to_owned(),
        condition: Condition::New,
        measured_si: vec![],
        price_hundredths: Some(40),
        low_water: 0,
    }
}

pub fn resistor(value: f64, watts: f64, family: Family) -> Lot {
    lot(Piece {
        family: Some(MadeOf::Resistor(family)),
        value_si: Some(value),
        tolerance: Fraction::new(0.05).ok(),
        watts: Watt::new(watts).ok(),
        ..Piece::new(PartKind::Resistor)
    })
}

pub fn capacitor(value: f64, volts: f64, family: CapacitorFamily) -> Lot {
    lot(Piece {
        family: Some(MadeOf::Capacitor(family)),
        value_si: Some(value),
        volts: Volt::new(volts).ok(),
        celsius: (family == CapacitorFamily::Electrolytic).then_some(105.0),
        ..Piece::new(PartKind::Capacitor)
    })
}

pub fn of_class(value: f64, class: SafetyClass) -> Lot {
    let mut l = capacitor(value, 300.0, CapacitorFamily::CeramicClass2);
    l.piece.safety = Some(class);
    l
}

pub fn old_resistor(value: f64, watts: Option<f64>, family: Family) -> OldPart {
    OldPart::Part(Part::Resistor(Resistor {
        family,
        value: Ohm::new(value).unwrap(),
        tolerance: Fraction::new(0.1).ok(),
        power: watts.map(|w| Watt::new(w).unwrap()),
    }))
}

pub fn old_capacitor(value: f64, rated: Option<f64>, family: CapacitorFamily) -> OldPart {
    OldPart::Part(Part::Capacitor(crate::bench::capacitor(family, value, rated)))
}

/// Whether a lot is proposed alone.
pub fn takes(c: &Choices, i: usize) -> bool {
    c.choices.iter().any(|x| x.pieces.len() == 1 && x.pieces[0].lot == Some(i))
}

pub fn reason<'a>(c: &'a Choices, holding: &str) -> &'a str {
    let r = c.refused.iter().find(|r| r.lot.is_some() && r.description.contains(holding));
    &r.unwrap_or_else(|| panic!("{holding} is not refused: {:?}", c.refused)).because
}
