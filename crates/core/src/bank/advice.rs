//! What goes in a bank: one place, or all; and what lies across each where nothing lies there yet (rule R20).

use super::names::in_one_breath;
use super::says::three;
use super::share::{Share, shares};
use super::{BankKind, Health, Place, Span};
use crate::network::balance::balancing;
use crate::part::size::at_least;
use crate::preferred::{Series, neighbours};
use crate::quantity::{Farad, Ohm, Volt, Watt};
use crate::supply::RATING;
use crate::transistor::rule::{RuleNumber, number};

/// From this share of the members on that go or are tired, all electrolytics go (practice: the rest is as old and worked as
/// hard).
const WHOLE_FROM: f64 = 0.5;

/// What is to go in a bank.
#[derive(Debug, Clone, PartialEq)]
pub enum Advice {
    /// Nothing.
    Stays,
    /// These parts, members or resistors across them, and the others stay.
    Singly {
        /// Their names.
        parts: Vec<String>,
        /// Why the others may stay.
        why: String,
    },
    /// All of them.
    Whole {
        /// Why.
        why: String,
    },
}

/// What goes: the places that cannot stay; all of them where half are on the way out, or where the others could not stand it.
pub(super) fn advice(kind: BankKind, volts: Volt, places: &[Place]) -> Advice {
    let count = |f: &dyn Fn(&Place) -> bool| places.iter().filter(|p| f(p)).count() as f64;
    let members = places.iter().filter(|p| p.health.is_to_go()).map(|p| p.name.clone());
    let resistors = places.iter().filter_map(|p| p.across.as_ref()).filter(|a| a.health.is_to_go());
    let resistors = resistors.filter(|_| kind.is_shared_by_resistors()).map(|a| a.name.clone());
    let parts: Vec<String> = members.chain(resistors).collect();
    if parts.is_empty() {
        return Advice::Stays;
    }
    let named = in_one_breath(&parts.iter().map(String::as_str).collect::<Vec<_>>());
    let out = count(&|p| p.health == Health::Tired || p.health.is_to_go());
    if places.iter().all(|p| p.health.is_to_go()) {
        return Advice::Whole { why: "none of them stays".to_owned() };
    }
    if places.iter().any(|p| p.electrolytic) && out >= places.len() as f64 * WHOLE_FROM {
        let why =
            format!("{out:.0} of {} are out or tired: the rest is as old and worked as hard", places.len());
        return Advice::Whole { why };
    }
    if kind == BankKind::Diodes {
        let shorted = count(&|p| p.health == Health::Shorted);
        let left = places.len() as f64 - shorted;
        let weakest =
            places.iter().filter(|p| !p.health.is_to_go()).filter_map(|p| p.rated).reduce(Volt::min);
        let had = (left > 0.0).then(|| volts / left);
        if let (Some(had), Some(stands)) = (had.filter(|_| shorted > 0.0), weakest)
            && had > stands
        {
            return Advice::Whole {
                why: format!(
                    "while {named} was shorted the others had {} each of their {stands}",
                    three(had)
                ),
            };
        }
    }
    let mended: Vec<Place> = places.iter().map(renewed).collect();
    let then = shares(volts, &mended);
    let over =
        then.iter().zip(&mended).any(|(s, p)| s.gets().zip(p.rated).is_some_and(|(v, rated)| v > rated));
    if over {
        return Advice::Whole {
            why: format!("beside a new {named} an old one would get more than it stands"),
        };
    }
    let worst = then.iter().filter_map(Share::gets).reduce(Volt::max);
    let why = match (worst, kind) {
        (Some(v), BankKind::Capacitors | BankKind::Diodes) => {
            format!("with a new {named} none gets more than {}", three(v))
        }
        _ => format!("the others are in order beside a new {named}"),
    };
    Advice::Singly { parts, why }
}

/// The place with new parts of the marked values for those that go.
fn renewed(place: &Place) -> Place {
    let mut place = place.clone();
    let member = place.health.is_to_go();
    if member {
        place.health = Health::Well;
        place.farads = place.marked.map(Span::known).or(place.farads);
        place.leak = None;
    }
    // Of a string of resistors the member itself.
    if let Some(across) =
        place.across.as_mut().filter(|a| a.health.is_to_go() || (member && a.name == place.name))
    {
        across.ohms = across.marked.map_or(across.ohms, Span::known);
    }
    place
}

/// What goes across each member where nothing lies there yet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Proposed {
    /// Its ohms.
    pub ohms: Ohm,
    /// What it should be rated at; over all its bodies where there are several.
    pub watts: Watt,
    /// Over how many bodies in series its volts go.
    pub bodies: u32,
}

/// The resistor that goes across each of the members; `None` where one lies across each, or where nothing is known of them.
#[must_use]
pub fn proposed(kind: BankKind, volts: Volt, places: &[Place]) -> Option<Proposed> {
    if places.iter().all(|p| p.across.is_some()) || volts == Volt::ZERO {
        return None;
    }
    let each = volts.abs() / places.len() as f64;
    let ohms = match kind {
        BankKind::Capacitors => {
            let least = places.iter().filter_map(|p| p.farads.map(|f| f.is)).reduce(Farad::min)?;
            balancing(least, volts, places.len())?.resistor
        }
        BankKind::Diodes => {
            let rated = places.iter().filter_map(|p| p.rated).reduce(Volt::min)?;
            let wanted = rated.volts() * number(RuleNumber::EqualisingOhms);
            Ohm::computed(neighbours(Series::E12, wanted)?.nearest)
        }
        BankKind::Resistors => return None,
    };
    let heat = each * (each / ohms);
    let size = at_least(heat * RATING.0)?;
    Some(Proposed { ohms, watts: size.power, bodies: (each / size.volts).ceil().max(1.0) as u32 })
}
