//! Two leads: what a diode's drop both ways says.

use std::sync::LazyLock;

use serde::Deserialize;

use super::identify::VOLTS_PER_KELVIN;
use crate::named::named;
use crate::source::Source;
use crate::table::rows;

named! {
    /// What a diode may be.
    "kind of diode" DiodeKind {
        /// Silicon.
        Silicon = "silicon",
        /// Germanium.
        Germanium = "germanium",
        /// Metal on silicon.
        Schottky = "Schottky",
        /// Plates of selenium.
        Selenium = "selenium",
        /// It glows.
        Led = "LED",
        /// For a voltage of its own.
        Zener = "zener",
    }
}

named! {
    /// In what state a diode is.
    "diode state" DiodeHealth {
        /// One way.
        Good = "good",
        /// Both ways.
        Shorted = "shorted",
        /// Neither way.
        Open = "open",
        /// Something comes back.
        Leaky = "leaky",
    }
}

#[derive(Deserialize)]
struct Row {
    kind: DiodeKind,
    low: f64,
    high: f64,
    reverse: String,
    tell: String,
    source: Source,
}

static ROWS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("diode_kind.csv", include_str!("../../data/diode_kind.csv")));

/// One thing that it may be.
#[derive(Debug, Clone, PartialEq)]
pub struct MayBe {
    /// What.
    pub kind: DiodeKind,
    /// The window of its drop, volt.
    pub low_volts: f64,
    /// The window's end, volt.
    pub high_volts: f64,
    /// What tells it from others.
    pub tell: &'static str,
    /// Where that comes from.
    pub source: &'static Source,
}

/// What two readings of a diode say.
#[derive(Debug, Clone, PartialEq)]
pub struct DiodeFound {
    /// Its state.
    pub health: DiodeHealth,
    /// What it may be, the likeliest first.
    pub may_be: Vec<MayBe>,
    /// In words.
    pub text: String,
}

/// Below this it is a piece of wire, volt (practice).
const SHORT: f64 = 0.05;

/// What a diode is by its drop one way and the other, volt at about a milliampere and `celsius`; `None` is nothing
/// shown. A material's drop falls by 2 mV with each kelvin and is led back to 25 °C.
#[must_use]
pub fn diode(one_way: Option<f64>, other_way: Option<f64>, celsius: f64) -> DiodeFound {
    let found = |health, text: String| DiodeFound { health, may_be: vec![], text };
    let (forward, back) = match (one_way, other_way) {
        (None, None) => {
            return found(
                DiodeHealth::Open,
                "nothing either way: open, or a stack that drops more than the range".to_owned(),
            );
        }
        (Some(a), Some(b)) if a < SHORT && b < SHORT => {
            return found(
                DiodeHealth::Shorted,
                format!("{a:.3} V and {b:.3} V: it conducts both ways, shorted"),
            );
        }
        (Some(a), Some(b)) => (a.min(b), Some(a.max(b))),
        (Some(a), None) | (None, Some(a)) => (a, None),
    };
    let cold = forward + VOLTS_PER_KELVIN * (celsius - 25.0);
    let fits = |r: &&Row| {
        (r.low..=r.high).contains(&cold)
            && (back.is_none() || r.reverse != "none")
            && (r.reverse != "zener" || back.is_none_or(|b| b > 1.5))
    };
    let mut may_be: Vec<MayBe> = ROWS
        .iter()
        .filter(fits)
        .map(|r| MayBe {
            kind: r.kind,
            low_volts: r.low,
            high_volts: r.high,
            tell: &r.tell,
            source: &r.source,
        })
        .collect();
    if back.is_some() {
        // Something that comes back speaks for those that let something come back.
        may_be.sort_by_key(|m| m.kind != DiodeKind::Zener);
    }
    match back {
        // Its own volts, within the range.
        Some(b) if may_be.first().is_some_and(|m| m.kind == DiodeKind::Zener) => DiodeFound {
            health: DiodeHealth::Good,
            text: format!(
                "{forward:.3} V forward, {b:.2} V backwards: a zener of about {b:.1} V, or one that breaks down"
            ),
            may_be,
        },
        Some(b) if b < 2.0 * forward || may_be.is_empty() => DiodeFound {
            health: DiodeHealth::Leaky,
            text: format!("{forward:.3} V one way and {b:.3} V the other: it conducts both ways, leaky"),
            may_be,
        },
        Some(b) => DiodeFound {
            health: DiodeHealth::Leaky,
            text: format!("{forward:.3} V forward, {b:.3} V backwards: something comes back"),
            may_be,
        },
        None if may_be.is_empty() => DiodeFound {
            health: DiodeHealth::Good,
            text: format!("{forward:.3} V one way, nothing the other: a drop that no single junction has"),
            may_be,
        },
        None => DiodeFound {
            health: DiodeHealth::Good,
            text: format!("{forward:.3} V forward, nothing backwards"),
            may_be,
        },
    }
}
