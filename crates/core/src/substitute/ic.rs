//! An integrated circuit: the same type, or one of the same pins and job whose supply range holds what feeds it (rule R21).

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices, Need};
use crate::drawers::{Lot, Piece};
use crate::ic::{Device, device, devices};
use crate::part::{Fact, Ic, PartKind};
use crate::quantity::{Quantity, Volt};

/// The facts that count for a circuit.
pub(super) const FACTS: [Fact; 1] = [Fact::Rail];

fn same(need: &Need<'_>, piece: &Piece) -> bool {
    let of = |t: &str| device(t).map_or_else(|| t.trim().to_ascii_uppercase(), |d| d.type_number.clone());
    !need.type_number.trim().is_empty() && of(need.type_number) == of(&piece.type_number)
}

pub(super) fn choose(need: &Need<'_>, old: &Ic, lots: &[Lot]) -> Choices {
    let mut out = Choices::asking(need, &FACTS);
    let mut offers = Offer::of_lots(lots, |l| l.piece.kind == PartKind::Ic);
    let like = |d: &&Device| old.device.is_some_and(|o| o.is_like(d));
    offers.extend(devices().iter().filter(like).map(|d| Offer::to_buy(piece_of(d))));
    if old.device.is_none() && !need.type_number.trim().is_empty() {
        let piece = Piece { type_number: need.type_number.trim().to_owned(), ..Piece::new(PartKind::Ic) };
        offers.push(Offer::to_buy(piece));
    }
    for offer in &offers {
        let tally = assess(need, old, offer);
        tally.settle(offer, offer.piece.to_string(), None, &mut out);
    }
    // Out of the drawers before it is bought; the same type first, then what stands the most.
    out.choices.sort_by_key(|c| {
        let is_same = c.pieces.first().is_some_and(|p| same(need, &p.piece));
        let stands = c
            .pieces
            .first()
            .and_then(|p| device(&p.piece.type_number))
            .map_or(0, |d| d.supply_most.volts() as i64);
        (!c.from_drawers(), !is_same, -stands)
    });
    for text in ic_advice() {
        out.advice.push(ChoiceReason::practice(*text, "integrated circuits"));
    }
    out
}

fn piece_of(d: &Device) -> Piece {
    Piece { type_number: d.type_number.clone(), ..Piece::new(PartKind::Ic) }
}

/// Holds a circuit against the one that goes.
pub(super) fn assess(need: &Need<'_>, old: &Ic, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    t.condition(offer.condition);
    let piece = &offer.piece;
    if need.type_number.trim().is_empty() {
        t.unknown.push("the old one's number is not known: only the same number goes in".to_owned());
        return t;
    }
    let new = device(&piece.type_number);
    let like = old.device.zip(new).filter(|(o, n)| o.is_like(n));
    if same(need, piece) {
        t.passes.push(ChoiceReason::practice("the same type number", "a circuit is replaced by its like"));
    } else if let Some((o, n)) = like {
        let text = format!("the same pins and the same job as {}", o.type_number);
        t.passes.push(ChoiceReason::practice(text, "circuits of one connection of pins"));
        other(&mut t, need, o, n);
    } else {
        let why = match (old.device, new) {
            (Some(_), Some(n)) => {
                format!("{} is {} with other pins or another job", piece.type_number, n.job)
            }
            _ => format!("{} is not {}: only the same number goes in", piece.type_number, need.type_number),
        };
        t.refuse(why);
    }
    if let (Some(n), Some(v)) = (new, need.fact(Fact::Rail)) {
        t.margin("supply volts", Quantity::Voltage, Some(n.supply_most.volts()), v);
        if v < n.supply_least.volts() {
            t.refuse(format!("it needs {} at least, and {} feed it", n.supply_least, Volt::computed(v)));
        }
    }
    t
}

/// What becomes different with another type.
fn other(t: &mut Tally, need: &Need<'_>, old: &Device, new: &Device) {
    let known = need.fact(Fact::Rail).is_some();
    if new.supply_most < old.supply_most && !known {
        t.cautions.push(ChoiceReason::practice(
            format!(
                "it stands {}, the old one {}: measure its supply first",
                new.supply_most, old.supply_most
            ),
            "the supply decides",
        ));
    }
    if new.supply_least > old.supply_least && !known {
        t.cautions.push(ChoiceReason::practice(
            format!(
                "it needs {} at least, the old one {}: measure its supply first",
                new.supply_least, old.supply_least
            ),
            "the supply decides",
        ));
    }
    if let (Some(o), Some(n)) = (old.watts, new.watts) {
        if n < o {
            t.worse(format!("it gives {n}, the old one {o}"));
        } else if n > o {
            t.better(format!("it gives up to {n}, the old one {o}, where the heat sink is large enough"));
        }
    }
    if new.note != old.note && !new.note.is_empty() {
        t.cautions.push(ChoiceReason::practice(
            format!("{}: {}", new.type_number, new.note),
            "data sheet, from memory",
        ));
    }
}

/// What is advised of an integrated circuit.
#[must_use]
pub fn ic_advice() -> &'static [&'static str] {
    &[
        "measure the voltage at every pin first: a capacitor or a resistor round it fails far more often",
        "no circuit is replaced by its ratings: the same type number, or one of the same pins and the same job",
        "cut the old one out pin by pin, clear the holes, and note where pin 1 is before it comes out; a socket goes in where \
         little heat and no high frequency flow, and one with a tab is soldered in with its heat sink screwed on first",
        "old stock goes in last, with the supply off; a field-effect one is handled with the hand on the chassis",
    ]
}
