//! Whatever can be typed, nothing stops: a sum that cannot be is loud, so none of them may be reached from outside.
//! Sizes run from nothing over the least to the most that is taken; laws, no worked numbers.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::bench;

use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::named::Named;
use owl_core::part::{
    Capacitor, CapacitorFamily, Circuit, Coil, CoilFamily, Fact, Family, MadeOf, Part, PartKind, Position,
    Resistor,
};
use owl_core::quantity::{Ampere, Farad, Henry, Hertz, Ohm, Unit, Volt, Watt};
use owl_core::reading::{Mode, ReadQuantity, Reading, Shown, State, readable};
use owl_core::substitute::{OldPart, Wanted};
use owl_core::supply::{discharge::discharge, dropper::dropper, lamp::limiter, ripple, touch::touch};
use owl_core::verdict::{Case, Policy, School, judge};
use proptest::prelude::*;
use proptest::sample::select;

/// A size that somebody could type: nothing, the least, the most, or any between.
fn size() -> impl Strategy<Value = f64> {
    prop_oneof![
        Just(0.0),
        Just(1e-21),
        Just(1e-15),
        Just(9.9e14),
        (-20..15i32).prop_map(|n| 4.7 * 10f64.powi(n - 1))
    ]
}

fn above_zero() -> impl Strategy<Value = f64> {
    size().prop_filter("a part has a value", |v| *v > 0.0)
}

fn maybe<U: Unit + std::fmt::Debug>() -> impl Strategy<Value = Option<U>> {
    proptest::option::of(size().prop_map(U::of_known))
}

/// What stands on parts, and now and then a size that somebody could type.
fn usual_or(usual: &'static [f64]) -> impl Strategy<Value = f64> {
    prop_oneof![4 => select(usual), 1 => above_zero()]
}

fn part() -> impl Strategy<Value = Part> {
    let families = prop_oneof![
        2 => Just(Some(CapacitorFamily::Electrolytic)),
        1 => proptest::option::of(select(CapacitorFamily::ALL)),
    ];
    let rated = proptest::option::of(usual_or(&[16.0, 63.0, 250.0, 450.0]));
    let capacitor = (families, usual_or(&[4.7e-9, 1e-7, 1e-6, 3.3e-5]), rated);
    let watts = proptest::option::of(usual_or(&[0.25, 1.0, 5.0]).prop_map(Watt::computed));
    let resistor = (select(Family::ALL), usual_or(&[33.0, 4700.0, 2.2e5]), watts);
    let coil = (
        select(CoilFamily::ALL),
        proptest::option::of(usual_or(&[0.5, 600.0]).prop_map(Ohm::computed)),
        proptest::option::of(usual_or(&[1e-4, 8.0]).prop_map(Henry::computed)),
    );
    prop_oneof![
        capacitor.prop_map(|(family, value, rated)| {
            let known = bench::capacitor(CapacitorFamily::Mica, value, rated);
            Part::Capacitor(Capacitor { family, ..known })
        }),
        resistor.prop_map(|(family, value, power)| Part::Resistor(Resistor {
            family,
            value: Ohm::computed(value),
            tolerance: None,
            power,
        })),
        coil.prop_map(|(family, resistance, inductance)| Part::Coil(Coil {
            family: Some(family),
            resistance,
            inductance
        })),
    ]
}

/// A reading of something that such a part is read in.
fn reading(kind: PartKind) -> impl Strategy<Value = Reading> {
    let all: Vec<ReadQuantity> = readable(kind).iter().flat_map(|r| r.quantities).copied().collect();
    let how = (select(all), size(), select(State::ALL), select(Mode::ALL));
    (how, maybe::<Volt>(), maybe::<Hertz>()).prop_map(
        |((quantity, si, state, mode), test_voltage, test_frequency)| Reading {
            state,
            mode,
            test_voltage,
            test_frequency,
            ..Reading::of(quantity, Shown::Value { si })
        },
    )
}

/// A part with some readings of it.
fn measured() -> impl Strategy<Value = (Part, Vec<Reading>)> {
    part().prop_flat_map(|part| (Just(part), proptest::collection::vec(reading(part.kind()), 0..4)))
}

/// Facts of the circuit as they are taken: those that cannot be are refused and left out.
fn circuit() -> impl Strategy<Value = Circuit> {
    proptest::collection::vec((select(Fact::ALL), size()), 0..6).prop_map(|facts| {
        let mut circuit = Circuit::default();
        for (fact, value) in facts {
            let _ = circuit.set_si(fact, value);
        }
        circuit
    })
}

/// A drawer of parts near a value, some without volts, watts or tolerance.
fn lots(kind: PartKind, value: f64) -> Vec<Lot> {
    let families: Vec<Option<MadeOf>> =
        MadeOf::ALL.iter().filter(|f| f.suits(kind)).map(|f| Some(*f)).chain([None]).collect();
    let mut lots = Vec::new();
    for (n, family) in families.into_iter().enumerate() {
        for times in [0.5, 2.0] {
            let piece = Piece {
                family,
                value_si: Some(value * times),
                volts: (n % 3 == 0 && times > 0.7).then(|| Volt::computed(400.0)),
                watts: (n % 2 == 0).then(|| Watt::computed(0.5)),
                ..Piece::new(kind)
            };
            lots.push(bench::lot(piece, 9, Condition::New));
        }
    }
    lots
}

fn place() -> impl Strategy<Value = Option<Position>> {
    proptest::option::of(select(Position::ALL))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(3000))]

    #[test]
    fn any_part_is_judged(
        (part, readings) in measured(), circuit in circuit(), position in place(), school in select(School::ALL),
    ) {
        let case = Case { part: &part, position, readings: &readings, partners: &[], circuit: &circuit, looks: &[] };
        let verdict = judge(case, Policy::of(school, false).unwrap());
        prop_assert!(verdict.reasons.iter().all(|r| !r.text.contains("NaN") && !r.text.contains("inf ")), "{verdict:?}");
    }

    #[test]
    fn any_bench_sheet_answers_or_refuses(a in size(), b in size(), c in size(), d in size()) {
        let (v, w) = (Volt::computed(a), Volt::computed(b));
        let _ = dropper(v, w, Ampere::computed(c));
        let _ = discharge(Farad::computed(a), w, Ohm::computed(c), Volt::computed(d));
        let _ = limiter(v, Watt::computed(b));
        let _ = touch(Farad::computed(a), w, Hertz::computed(c));
        let _ = ripple::corner(Ohm::computed(a), Farad::computed(b));
        for section in [ripple::Section::Resistor(Ohm::computed(a)), ripple::Section::Choke(Henry::computed(a))] {
            let _ = ripple::left(section, Farad::computed(b), Hertz::computed(c));
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(250))]

    #[test]
    fn for_any_part_something_is_chosen_or_refused(
        part in part(), circuit in circuit(), position in place(), school in select(School::ALL),
    ) {
        let value = match part {
            Part::Resistor(r) => r.value.ohms(),
            Part::Capacitor(c) => c.value.farads(),
            _ => 100.0,
        };
        let lots = lots(part.kind(), value);
        let wanted = Wanted {
            paired: false,
            gone: OldPart::Part(part),
            type_number: String::new(),
            value_si: Some(value),
            position,
            circuit,
            sections: vec![],
        };
        let _ = wanted.choose(Policy::of(school, false).unwrap(), &lots, &[]);
    }
}
