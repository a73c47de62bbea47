//! A valve for a valve (rule R23): the same under any of its names, or what a table lets take its place, with what becomes
//! different; the heater above all.

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices, Need};
use crate::drawers::{Lot, Piece};
use crate::part::{PartKind, Valve};
use crate::quantity::Ampere;
use crate::quantity::format::percent;
use crate::socket::names::{bare, is_same};
use crate::source::Source;
use crate::supply::heater::MISMATCH;
use crate::valve::alike::{Likeness, Wire, adapter, between, others};
use crate::valve::{ValveType, valve_type};

/// From this share on more current matters to the heater's winding (practice).
const MORE_HEATER: f64 = 0.1;

pub(super) fn choose(need: &Need<'_>, old: &Valve, lots: &[Lot]) -> Choices {
    let mut out = Choices::asking(need, &[]);
    let mut offers = Offer::of_lots(lots, |l| l.piece.kind == PartKind::Valve);
    let own = need.type_number.trim();
    if !own.is_empty() {
        let names = std::iter::once(own).chain(others(own));
        offers.extend(
            names.map(|n| Offer::to_buy(Piece { type_number: n.to_owned(), ..Piece::new(PartKind::Valve) })),
        );
    }
    for offer in &offers {
        let tally = assess(need, old, offer);
        tally.settle(offer, offer.piece.to_string(), None, &mut out);
    }
    // The same valve first, and out of the drawers before it is bought; then what changes the least.
    out.choices.sort_by_key(|c| {
        let rank = c.pieces.first().map_or(u8::MAX, |p| rank(own, &p.piece.type_number));
        let worse = c.effects.iter().filter(|e| !e.better).count();
        (rank, !c.from_drawers(), worse + c.cautions.len())
    });
    for text in advice() {
        out.advice.push(ChoiceReason::practice(*text, "valves"));
    }
    out
}

/// How little becomes different: 0 for the same valve.
fn rank(old: &str, new: &str) -> u8 {
    if is_same(old, new) {
        return 0;
    }
    match between(old, new).map(|a| a.how) {
        Some(Likeness::Characteristics) => 1,
        Some(Likeness::Base) => 2,
        Some(Likeness::Heater) => 3,
        Some(Likeness::Never) | None => 4,
    }
}

/// Holds a valve against the one that goes.
pub(super) fn assess(need: &Need<'_>, old: &Valve, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    t.condition(offer.condition);
    let (own, new) = (need.type_number.trim(), offer.piece.type_number.trim());
    if own.is_empty() {
        t.unknown.push("the old one's number is not known: only the same number goes in".to_owned());
        return t;
    }
    let row = between(own, new);
    if let Some(row) = row {
        match row.how {
            Likeness::Never => t.refuse(format!("{new} for {own}: {}", row.changes)),
            Likeness::Base => base(&mut t, own, new, &row.changes, &row.source),
            // What the heater changes is reckoned below.
            Likeness::Heater => t.passes.push(said(&row.changes, &row.source)),
            Likeness::Characteristics => {
                t.changed(true, row.changes.clone());
                t.passes.push(said("the same pins", &row.source));
            }
        }
    } else if is_same(own, new) {
        let text = if is_same_number(own, new) {
            "the same type number"
        } else {
            "the same valve under another name"
        };
        t.passes.push(ChoiceReason::practice(text, "a valve is replaced by its like"));
    } else {
        t.refuse(format!("no table says that {new} takes the place of {own}"));
    }
    if let (Some(o), Some(n)) = (old.of.or_else(|| valve_type(own)), valve_type(new)) {
        heater(&mut t, old.in_chain, o, n);
        limits(&mut t, o, n);
    }
    t
}

fn is_same_number(a: &str, b: &str) -> bool {
    bare(a) == bare(b)
}

fn said(text: &str, source: &Source) -> ChoiceReason {
    ChoiceReason { rule: "R23", text: text.to_owned(), source: source.clone() }
}

/// Another base takes an adapter, whose wires are told; where the pins of either are not known it takes a data sheet.
fn base(t: &mut Tally, old: &str, new: &str, changes: &str, source: &Source) {
    t.cautions.push(said(changes, source));
    let text = match adapter(old, new) {
        Some(wires) => format!("adapter, the set's socket to the new valve: {}", in_words(&wires)),
        None => "their pins are not both in the tables: wire the adapter by the sheets".to_owned(),
    };
    t.cautions.push(ChoiceReason::practice(text, "short wires; grid and plate apart"));
}

fn in_words(wires: &[Wire]) -> String {
    let end = |pin: Option<u8>| pin.map_or_else(|| "cap".to_owned(), |p| p.to_string());
    let all: Vec<String> =
        wires.iter().map(|w| format!("{} {} → {}", w.role, end(w.socket), end(w.valve))).collect();
    all.join(", ")
}

/// The heater decides: the wrong volts burn it or leave it cold, in a chain the wrong current does so to all.
fn heater(t: &mut Tally, in_chain: bool, old: &ValveType, new: &ValveType) {
    let (Some(o), Some(n)) = (old.heater, new.heater) else { return };
    let practice = |text: String| ChoiceReason::practice(text, "heaters");
    if in_chain {
        let fits = |i: Ampere| (i / o.current - 1.0).abs() <= MISMATCH;
        let doubled = n.tapped && fits(n.current * 2.0);
        if !fits(n.current) && !doubled {
            t.refuse(format!("its heater takes {n}, and the chain carries {}", o.current));
        } else if (n.volts / o.volts - 1.0).abs() > crate::supply::heater::VOLTS_OFF {
            let text = format!("its heater takes {n} in a chain made for {o}: reckon the dropper anew");
            t.cautions.push(practice(text));
        }
        return;
    }
    match n.in_place_of(o) {
        None => t.refuse(format!("its heater takes {n}, the socket gives {}", o.volts)),
        Some(draws) => {
            let has = o.in_place_of(o).unwrap_or(o.current);
            if draws > has * (1.0 + MORE_HEATER) {
                let more = draws - has;
                let text = format!(
                    "its heater draws {draws}, the old one's {has}: the winding must give {more} more"
                );
                t.cautions.push(practice(text));
            } else {
                t.passes.push(practice(format!("heater {n}")));
            }
        }
    }
}

/// What it stands, against what the old one stood.
fn limits(t: &mut Tally, old: &ValveType, new: &ValveType) {
    if let Some((o, n)) = old.plate_most.zip(new.plate_most).filter(|(o, n)| n < o) {
        t.worse(format!("it stands {n} at its plate, the old one {o}: measure before it goes in"));
    }
    if let Some((o, n)) = old.dissipation_most.zip(new.dissipation_most).filter(|(o, n)| n < o) {
        t.worse(format!("its plate takes up {n}, the old one's {o}"));
    }
    if let (Some(o), Some(n)) = (old.transconductance, new.transconductance) {
        let change = n / o - 1.0;
        if change < -0.15 {
            t.worse(format!("{} less transconductance: {n} for {o}", percent(-change)));
        } else if change > 0.15 {
            t.changed(true, format!("{} more transconductance: {n} for {o}", percent(change)));
        }
    }
}

/// What is advised of a valve.
#[must_use]
fn advice() -> &'static [&'static str] {
    &[
        "find what killed it first: a leaking coupling capacitor or no bias kills the next one as well",
        "switch off, let it cool and the filters empty before it is pulled; caps and plates of transmitting valves carry \
         kilovolts",
        "old stock is tested for shorts before it sees the HT",
        "silicon in the place of a rectifier valve: a surge resistor, and the HT some tens of volts higher at once, before \
         anything draws; judge every capacitor behind it by that",
    ]
}
