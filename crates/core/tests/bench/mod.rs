//! What the tests of verdicts lay on the bench: parts, readings, facts, and a judge.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::part::{Capacitor, CapacitorFamily, Circuit, Fact, Part, Position, VisualSign};
use owl_core::quantity::{Farad, Hertz, Volt};
use owl_core::reading::{ReadQuantity, Reading, Shown, State};
use owl_core::verdict::{Case, Partner, Policy, School, Verdict, judge};

pub fn capacitor(family: CapacitorFamily, farads: f64, rated: Option<f64>) -> Capacitor {
    Capacitor {
        family: Some(family),
        value: Farad::new(farads).unwrap(),
        minus: None,
        plus: None,
        rated: rated.map(|v| Volt::new(v).unwrap()),
        safety: None,
        years: None,
        new: false,
        test_warm: false,
        ppm_per_kelvin: None,
    }
}

/// A capacitor of that family on the bench.
pub fn of(family: CapacitorFamily, farads: f64, rated: f64) -> Bench {
    Bench::with(Part::Capacitor(capacitor(family, farads, Some(rated))))
}

pub fn wax(farads: f64, rated: f64) -> Bench {
    of(CapacitorFamily::WaxPaper, farads, rated)
}

pub fn can(farads: f64, rated: f64) -> Bench {
    of(CapacitorFamily::Electrolytic, farads, rated)
}

/// Some pieces in a drawer.
pub fn lot(piece: Piece, count: u32, condition: Condition) -> Lot {
    Lot {
        piece,
        count,
        place: "drawer 4".to_owned(),
        condition,
        measured_si: vec![],
        price_hundredths: None,
        low_water: 0,
    }
}

/// A reading with the part out of circuit.
pub fn read(quantity: ReadQuantity, si: f64) -> Reading {
    Reading::of(quantity, Shown::Value { si })
}

pub fn overrange(quantity: ReadQuantity) -> Reading {
    Reading::of(quantity, Shown::Overrange { ceiling_si: None })
}

pub fn at_volts(reading: Reading, volts: f64) -> Reading {
    Reading { test_voltage: Some(Volt::new(volts).unwrap()), ..reading }
}

pub fn at_hertz(reading: Reading, hertz: f64) -> Reading {
    Reading { test_frequency: Some(Hertz::new(hertz).unwrap()), ..reading }
}

pub fn in_circuit(reading: Reading) -> Reading {
    Reading { state: State::InCircuit, ..reading }
}

/// A part with all that is known of it.
pub struct Bench {
    pub part: Part,
    pub position: Option<Position>,
    pub readings: Vec<Reading>,
    pub partners: Vec<Partner>,
    pub circuit: Circuit,
    pub looks: Vec<VisualSign>,
}

impl Bench {
    pub fn with(part: Part) -> Self {
        Self {
            part,
            position: None,
            readings: vec![],
            partners: vec![],
            circuit: Circuit::default(),
            looks: vec![],
        }
    }

    pub fn at(mut self, position: Position) -> Self {
        self.position = Some(position);
        self
    }

    pub fn reads(mut self, reading: Reading) -> Self {
        self.readings.push(reading);
        self
    }

    pub fn looks(mut self, look: VisualSign) -> Self {
        self.looks.push(look);
        self
    }

    pub fn fact(mut self, fact: Fact, value: f64) -> Self {
        self.circuit.set_si(fact, value).unwrap();
        self
    }

    pub fn by(&self, policy: &Policy) -> Verdict {
        judge(
            Case {
                part: &self.part,
                position: self.position,
                readings: &self.readings,
                partners: &self.partners,
                circuit: &self.circuit,
                looks: &self.looks,
            },
            policy,
        )
    }

    pub fn under(&self, school: School) -> Verdict {
        self.by(Policy::of(school, false).unwrap())
    }

    pub fn first(&self) -> Verdict {
        self.under(School::TestFirst)
    }
}

/// Everything that a verdict says, in one string, for a test that looks for a word.
pub fn all_words(v: &Verdict) -> String {
    v.reasons
        .iter()
        .map(|r| r.text.as_str())
        .chain(v.next.iter().map(String::as_str))
        .collect::<Vec<_>>()
        .join(" | ")
}
