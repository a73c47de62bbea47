//! A bought rare part against a known good one: what a true and a false one show.
//!
//! The best that can be said is that nothing speaks against it. Nobody's word, and no test at a bench, makes a part
//! genuine.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use super::device::Device;
use super::fellows::on_one_bias;
use super::pairs::{Piece, distance};
use super::rule::{RuleNumber, number as rule_number};
use crate::named::{Named, named};
use crate::source::Source;
use crate::table::rows;

named! {
    /// What is looked at.
    "look at a bought part" InspectionItem {
        /// The print under solvent.
        Print = "print",
        /// The surface.
        Body = "body",
        /// The sign.
        Logo = "logo",
        /// The leads.
        Leads = "leads",
        /// Notch, tab, dot, hole.
        Notch = "notch",
        /// What a magnet holds.
        Magnet = "magnet",
        /// Weight, gram.
        Weight = "weight",
        /// Gain.
        Gain = "gain",
        /// Base to emitter, volt.
        BaseVolts = "base volts",
        /// Breakdown, volt.
        Breakdown = "breakdown",
    }
}

named! {
    /// How it is answered.
    "kind of look" LookKind {
        /// Like the known one, or not.
        Seen = "seen",
        /// A number of each.
        Number = "number",
    }
}

named! {
    /// How much it says.
    "weight of a sign" SignWeight {
        /// One is enough.
        Strong = "strong",
        /// It takes two.
        Weak = "weak",
    }
}

named! {
    /// What was seen.
    "seen" Seen {
        /// As a true one.
        True = "as a true one",
        /// As a false one.
        False = "as a false one",
    }
}

named! {
    /// What it comes to. Never more than this: nothing at a bench makes a part genuine.
    "inspection verdict" InspectionVerdict {
        /// Enough was looked at, and nothing speaks against it.
        NoSign = "no sign against it",
        /// Too little was looked at.
        TooLittle = "not enough looked at",
        /// Something speaks against it, not enough to send it back.
        Doubt = "doubtful",
        /// It goes back.
        Against = "signs against it",
    }
}

/// A line of the inspection.
#[derive(Debug, Clone, Deserialize)]
pub struct InspectionStep {
    /// What is looked at.
    pub look: InspectionItem,
    /// How it is answered.
    pub kind: LookKind,
    /// What to do.
    pub ask: String,
    /// What a true one shows.
    pub true_one: String,
    /// What a false one shows.
    pub false_one: String,
    /// How much a sign says.
    pub weight: SignWeight,
    /// Where it comes from.
    pub source: Source,
}

static LINES: LazyLock<Vec<InspectionStep>> =
    LazyLock::new(|| rows("inspection.csv", include_str!("../../data/inspection.csv")));

/// The lines in the order in which to go through them.
#[must_use]
pub fn steps() -> &'static [InspectionStep] {
    &LINES
}

/// An answer to a line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Answer {
    /// Of what.
    pub look: InspectionItem,
    /// What was seen, of a line that is seen.
    pub seen: Option<Seen>,
    /// The bought one's number: gram, plain, volt, volt.
    pub bought_si: Option<f64>,
    /// The known one's number, where there is a known one.
    pub known_si: Option<f64>,
}

/// An answer as it is kept: its numbers as they were typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct StoredAnswer {
    /// Of what.
    pub look: InspectionItem,
    /// What was seen, of a line that is seen.
    pub seen: Option<Seen>,
    /// The bought one's number; empty where it was not measured.
    #[serde(default)]
    pub bought: String,
    /// The known one's number.
    #[serde(default)]
    pub known: String,
}

/// What an answer says.
#[derive(Debug, Clone, PartialEq)]
pub struct Sign {
    /// Of what.
    pub look: InspectionItem,
    /// As a true or as a false one.
    pub seen: Seen,
    /// How much it says.
    pub weight: SignWeight,
    /// In words, with numbers.
    pub text: String,
}

/// What an inspection comes to.
#[derive(Debug, Clone, PartialEq)]
pub struct Inspection {
    /// The verdict.
    pub verdict: InspectionVerdict,
    /// What each answer says.
    pub signs: Vec<Sign>,
    /// What has not been looked at.
    pub open: Vec<InspectionItem>,
    /// What to do.
    pub next: String,
}

/// Weights within so much of each other are alike, a fraction (practice).
const WEIGHT_ALIKE: f64 = 0.05;
/// Gains within this factor of each other are of one order (practice).
const GAIN_ALIKE: f64 = 2.5;
/// At least so many answers make a verdict, the print and two numbers among them (practice).
const ENOUGH: usize = 5;

/// Judges a bought part of `device` (where its type is known here) by what was seen.
#[must_use]
pub fn inspect(device: Option<&Device>, answers: &[Answer]) -> Inspection {
    let signs: Vec<Sign> = answers.iter().filter_map(|a| sign(device, a)).collect();
    let open: Vec<InspectionItem> =
        InspectionItem::ALL.iter().copied().filter(|l| !signs.iter().any(|s| s.look == *l)).collect();
    let against = |w: SignWeight| signs.iter().filter(|s| s.seen == Seen::False && s.weight == w).count();
    let numbers = signs.iter().filter(|s| step(s.look).is_some_and(|l| l.kind == LookKind::Number)).count();
    let enough = signs.len() >= ENOUGH && !open.contains(&InspectionItem::Print) && numbers >= 2;
    let (verdict, next) = if against(SignWeight::Strong) > 0 || against(SignWeight::Weak) > 1 {
        let text = "do not fit it; keep it apart, with this list, and write to whoever sold it";
        (InspectionVerdict::Against, text)
    } else if against(SignWeight::Weak) > 0 {
        let text =
            "go through what is still open; if it is fitted at all, then last, with the current limited";
        (InspectionVerdict::Doubt, text)
    } else if enough {
        let text =
            "fit it with the bias back to the start and the current limited; the set has the last word";
        (InspectionVerdict::NoSign, text)
    } else {
        let text = "wipe the print and measure at least two numbers beside a known one";
        (InspectionVerdict::TooLittle, text)
    };
    Inspection { verdict, signs, open, next: next.to_owned() }
}

fn step(look: InspectionItem) -> Option<&'static InspectionStep> {
    LINES.iter().find(|l| l.look == look)
}

fn sign(device: Option<&Device>, a: &Answer) -> Option<Sign> {
    let line = step(a.look)?;
    let of = |ok: bool, text: String| {
        let seen = if ok { Seen::True } else { Seen::False };
        Some(Sign { look: a.look, seen, weight: line.weight, text })
    };
    if line.kind == LookKind::Seen {
        let seen = a.seen?;
        let text = if seen == Seen::True { &line.true_one } else { &line.false_one };
        return of(seen == Seen::True, text.clone());
    }
    let bought = a.bought_si?;
    match a.look {
        InspectionItem::Weight => {
            let known = a.known_si?;
            let off = bought / known - 1.0;
            of(
                off.abs() <= WEIGHT_ALIKE,
                format!("{bought} g, the known one {known} g: {:+.0} %", off * 100.0),
            )
        }
        InspectionItem::Gain => gain(device, bought, a.known_si).and_then(|(ok, text)| of(ok, text)),
        InspectionItem::BaseVolts => {
            let known = a.known_si?;
            let off = bought - known;
            // What passes for a pair by its base volts alone is the same kind of chip: one measure for both.
            let alike =
                distance(Piece { gain: 1.0, base_volts: bought }, Piece { gain: 1.0, base_volts: known })
                    <= rule_number(RuleNumber::PairDistance) + 1e-9;
            let mut text = format!("{bought:.3} V, the known one {known:.3} V: {:+.0} mV", off * 1e3);
            if alike && off.abs() > rule_number(RuleNumber::BaseVoltsPerKelvin) {
                text = format!("{text}; {}", on_one_bias(off));
            }
            of(alike, text)
        }
        InspectionItem::Breakdown => {
            let needs = device.and_then(|d| d.vceo_volts).or(a.known_si)?;
            of(bought >= needs, format!("{bought:.0} V, {needs:.0} V are needed"))
        }
        InspectionItem::Print
        | InspectionItem::Body
        | InspectionItem::Logo
        | InspectionItem::Leads
        | InspectionItem::Notch
        | InspectionItem::Magnet => None,
    }
}

fn gain(device: Option<&Device>, bought: f64, known: Option<f64>) -> Option<(bool, String)> {
    if let Some(known) = known {
        let factor = (bought / known).max(known / bought);
        return Some((factor <= GAIN_ALIKE, format!("{bought:.0}, the known one {known:.0}")));
    }
    let d = device?;
    let low = d.gain_min?;
    let high = d.gain_max.unwrap_or(f64::INFINITY);
    let sheet = d.gain_max.map_or_else(|| format!("{low:.0} and more"), |h| format!("{low:.0} to {h:.0}"));
    Some(((low..=high).contains(&bought), format!("{bought:.0}, the sheet says {sheet}")))
}
