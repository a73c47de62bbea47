//! What every assessment shares: an offer, and the tally of what speaks for and against it.

use super::{Choice, ChoiceReason, Choices, Chosen, Effect, Margin, Refused};
use crate::drawers::{Condition, Lot, Piece};
use crate::quantity::format::{format, signed_percent};
use crate::quantity::{Fraction, Quantity};
use crate::source::Source;

/// Something that could go in.
#[derive(Debug, Clone)]
pub(super) struct Offer {
    pub(super) piece: Piece,
    pub(super) lot: Option<usize>,
    pub(super) condition: Condition,
    /// How many lie in the drawer; as many as needed where it is to be bought.
    pub(super) count: Option<u32>,
    pub(super) price_hundredths: Option<u32>,
}

impl Offer {
    pub(super) fn to_buy(piece: Piece) -> Self {
        Self { piece, lot: None, condition: Condition::New, count: None, price_hundredths: None }
    }

    /// The lots of a kind that are not empty.
    pub(super) fn of_lots(lots: &[Lot], keep: impl Fn(&Lot) -> bool) -> Vec<Self> {
        let there = lots.iter().enumerate().filter(|(_, l)| l.count > 0 && keep(l));
        there
            .map(|(i, l)| Self {
                piece: l.piece.clone(),
                lot: Some(i),
                condition: l.condition,
                count: Some(l.count),
                price_hundredths: l.price_hundredths,
            })
            .collect()
    }

    pub(super) fn chosen(&self) -> Chosen {
        Chosen { piece: self.piece.clone(), lot: self.lot, condition: self.condition }
    }
}

/// What was found of an offer.
#[derive(Debug, Default)]
pub(super) struct Tally {
    pub(super) passes: Vec<ChoiceReason>,
    pub(super) cautions: Vec<ChoiceReason>,
    pub(super) effects: Vec<Effect>,
    pub(super) margins: Vec<Margin>,
    /// Why it must not go in; the first reason found stands first.
    pub(super) short: Vec<String>,
    /// What its place asks for and nobody has said of it.
    pub(super) unknown: Vec<String>,
}

impl Tally {
    pub(super) fn refuse(&mut self, because: impl Into<String>) {
        self.short.push(because.into());
    }

    pub(super) fn better(&mut self, text: impl Into<String>) {
        self.effects.push(Effect { better: true, text: text.into() });
    }

    pub(super) fn worse(&mut self, text: impl Into<String>) {
        self.effects.push(Effect { better: false, text: text.into() });
    }

    /// What becomes different, for the better or not.
    pub(super) fn changed(&mut self, better: bool, text: impl Into<String>) {
        self.effects.push(Effect { better, text: text.into() });
    }

    /// Holds what a piece has against what is needed; less is a reason to refuse it.
    pub(super) fn margin(&mut self, of: &'static str, quantity: Quantity, has: Option<f64>, needs: f64) {
        let Some(has) = has else {
            let text = format!("its {of} are not known: it needs {}", format(quantity, needs));
            if matches!(quantity, Quantity::Voltage | Quantity::Power) {
                self.unknown.push(text.clone());
            }
            self.cautions
                .push(ChoiceReason::practice(text, "what is not known is looked up before it is fitted"));
            return;
        };
        let (h, n) = (format(quantity, has).to_string(), format(quantity, needs).to_string());
        if has < needs * (1.0 - 1e-9) {
            self.refuse(format!("{h} where {n} are needed"));
        }
        self.margins.push(Margin { of, has: h, needs: n, ratio: has / needs });
    }

    /// What a condition asks for before the iron is warm.
    pub(super) fn condition(&mut self, condition: Condition) {
        let text = match condition {
            Condition::New | Condition::OldTested => return,
            Condition::OldUntested => "old stock, never tested: test it before it is fitted",
            Condition::Salvaged => "out of another set: test it before it is fitted",
        };
        self.cautions.push(ChoiceReason::practice(text, "old stock is tested before it is fitted"));
    }

    /// A line about the value against what is wanted.
    pub(super) fn value(
        &mut self,
        quantity: Quantity,
        wanted: f64,
        value: f64,
        window: &str,
        source: Source,
    ) {
        let off = deviation(wanted, value).fraction();
        let text = if off == 0.0 {
            format!("{} is what is wanted", format(quantity, wanted))
        } else {
            format!("{} from {}; {window}", signed_percent(off), format(quantity, wanted))
        };
        self.passes.push(ChoiceReason::r7(text, source));
    }

    /// Puts a single piece where it belongs.
    pub(super) fn settle(self, offer: &Offer, description: String, wanted: Option<f64>, out: &mut Choices) {
        if let Some(because) = self.short.into_iter().next() {
            out.refused.push(Refused {
                description,
                because,
                lot: offer.lot,
                piece: Some(offer.piece.clone()),
            });
            return;
        }
        // What nobody has said of it is said beside it: it is no choice that merely passes.
        let mut cautions = self.cautions;
        for text in self.unknown {
            if cautions.iter().all(|c| c.text != text) {
                cautions
                    .push(ChoiceReason::practice(text, "what is not known is looked up before it is fitted"));
            }
        }
        let piece = &offer.piece;
        let off = wanted.zip(piece.value_si).map(|(w, v)| deviation(w, v));
        out.choices.push(Choice {
            description,
            value_si: piece.value_si,
            deviation: off,
            volts: piece.volts,
            watts: piece.watts,
            network: None,
            pieces: vec![offer.chosen()],
            passes: self.passes,
            cautions,
            effects: self.effects,
            margins: self.margins,
            price_hundredths: offer.price_hundredths,
        });
    }
}

/// How far a value is from what is wanted; below one part in a hundred thousand it is the same.
pub(super) fn deviation(wanted: f64, value: f64) -> Fraction {
    let off = value / wanted - 1.0;
    Fraction::computed(if off.abs() < 1e-5 { 0.0 } else { off })
}
