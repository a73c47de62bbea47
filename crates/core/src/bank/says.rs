//! The sentences of a bank.

use super::judge::Said;
use super::names::in_one_breath;
use super::share::{Share, Whole};
use super::{Across, BankKind, Health, Place};
use crate::quantity::format::{CapacitanceStyle, format_as};
use crate::quantity::{Unit, Volt};
use crate::source::Source;
use crate::supply::discharge::Danger;
use crate::verdict::Outcome;

/// A number with three digits: a share is known no better.
pub(super) fn three<U: Unit>(value: U) -> String {
    format_as(U::QUANTITY, value.si(), 3, CapacitanceStyle::WithNano).to_string()
}

/// Why a place gets more than the others, in a few words with a comma before; empty where nothing says it.
pub(super) fn because(kind: BankKind, place: &Place, share: &Share) -> String {
    let by_charge = share.charging.zip(share.volts).is_some_and(|(c, v)| c > v);
    match (kind, &place.across, place.farads) {
        (BankKind::Capacitors, _, Some(f)) if by_charge => {
            format!(", as it charges: at {} it is the smallest", three(f.is))
        }
        (BankKind::Capacitors | BankKind::Diodes, Some(a), _) => {
            format!(": {} across it has {}", a.name, three(a.ohms.is))
        }
        (BankKind::Resistors, Some(a), _) => format!(": it has {}", three(a.ohms.is)),
        _ => String::new(),
    }
}

/// What is said before a hand goes in, in the order in which it is done. Local code and licensed practice come first.
pub(super) fn cautions(
    kind: BankKind,
    volts: Volt,
    places: &[Place],
    whole: &Whole,
    danger: Option<Danger>,
) -> Vec<String> {
    let mut all = Vec::new();
    if danger == Some(Danger::Kills) || volts.volts() >= 600.0 {
        let joules = whole.energy_joules.map_or_else(String::new, |j| format!(" and {j:.1} J"));
        all.push(format!(
            "{}{joules} can kill. Plug out and locked out, one hand, a second person in the room; the discharge stick \
             on first and left on. Local code and licensed practice come first.",
            three(volts)
        ));
    }
    if kind == BankKind::Capacitors {
        let bare: Vec<&str> = places.iter().filter(|p| p.across.is_none()).map(|p| p.name.as_str()).collect();
        let empties = match (bare.as_slice(), whole.empties_in) {
            ([], Some(t)) => {
                format!(
                    "Down to 5 V in {}, then each can by itself: an open resistor leaves it charged.",
                    three(t)
                )
            }
            ([], None) => "Each can by itself: an open resistor leaves it charged.".to_owned(),
            (_, _) => {
                format!(
                    "Nothing empties {}: the stick on each, across its own two ends.",
                    in_one_breath(&bare)
                )
            }
        };
        all.push(format!("{empties} The cans' cases stand at volts: sleeves on, none against the chassis."));
    }
    all
}

/// What is said alike of several places, once for all of them.
pub(super) fn alike(kind: BankKind, places: &[Place]) -> Vec<Said> {
    let itself = || Source::practice("a member is judged by itself first");
    let shared = kind.is_shared_by_resistors();
    let resistor = |p: &Place| p.across.clone().filter(|_| shared);
    let of_resistor = |p: &Place, f: fn(&Across) -> bool| resistor(p).filter(f).map(|a| a.name);
    let member = |p: &Place, holds: bool| holds.then(|| p.name.clone());
    let bare = match kind {
        BankKind::Capacitors => "nothing lies across {}: leaks share the volts, and they keep their charge",
        BankKind::Diodes => {
            "nothing lies across {}: their leaks share the volts, even only among diodes of one type and batch"
        }
        BankKind::Resistors => "",
    };
    type Of<'a> = &'a dyn Fn(&Place) -> Option<String>;
    let rows: [(Outcome, &str, Source, Of<'_>); 8] = [
        (Outcome::Replace, "{}: out by what was read of it alone", itself(), &|p| {
            member(p, p.health == Health::Goes)
        }),
        (Outcome::Replace, "{}: out by what was read of it alone", itself(), &|p| {
            of_resistor(p, |a| a.health.is_to_go())
        }),
        (Outcome::MeasureAgain, "not measured: {}", itself(), &|p| {
            member(p, !p.measured && p.health == Health::Unsure)
        }),
        (
            Outcome::MeasureAgain,
            "not measured: {}; they share the volts, and are measured as the others are",
            itself(),
            &|p| of_resistor(p, |a| !a.measured),
        ),
        (
            Outcome::MeasureAgain,
            "{}: not all is read yet that tells, such as the leak at work",
            itself(),
            &|p| member(p, p.measured && p.health == Health::Unsure),
        ),
        (
            Outcome::MeasureAgain,
            "{}: no volts are known that they stand: read the mark",
            Source::practice("a rating is read, not guessed"),
            &|p| member(p, shared && p.rated.is_none() && p.health != Health::Shorted),
        ),
        (Outcome::Watch, "{}: near their own limits", itself(), &|p| member(p, p.health == Health::Tired)),
        (
            Outcome::Watch,
            bare,
            Source::handbook("rectifiers and capacitors in series: equalising resistors"),
            &|p| member(p, shared && p.across.is_none()),
        ),
    ];
    rows.into_iter()
        .filter_map(|(call, sentence, source, of)| {
            let (at, names): (Vec<usize>, Vec<String>) =
                places.iter().enumerate().filter_map(|(i, p)| Some((i, of(p)?))).unzip();
            let names: Vec<&str> = names.iter().map(String::as_str).collect();
            (!at.is_empty()).then(|| Said {
                call,
                places: at,
                text: sentence.replace("{}", &in_one_breath(&names)),
                source,
            })
        })
        .collect()
}
