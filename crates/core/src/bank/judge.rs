//! What is said of a bank as a set: what each place gets against what it stands, what the resistors carry, how it empties,
//! and whether one place goes or all (rule R20).

use super::advice::{Advice, Proposed, advice, proposed};
use super::says::three;
use super::share::{Share, Whole, shares, whole};
use super::{Across, BankKind, Health, Place, says};
use crate::quantity::format::signed_percent;
use crate::quantity::{Farad, Ohm, Volt};
use crate::source::Source;
use crate::supply::RATING;
use crate::supply::discharge::{Danger, SAFE_VOLTS, danger};
use crate::verdict::Outcome;

/// From this share of its rating on a place is watched (practice: a tenth is kept for the line and for ageing).
const WATCH_FROM: f64 = 0.9;
/// What a multiplier or a divider may be off as a whole before it is said, a fraction (memory: class 2 of IEC 60051).
const SCALE_ERROR: f64 = 0.02;

/// One thing that is said of a bank.
#[derive(Debug, Clone, PartialEq)]
pub struct Said {
    /// What follows from it.
    pub call: Outcome,
    /// The places that it is said of, by their numbers from zero; none of the whole.
    pub places: Vec<usize>,
    /// In words, with its numbers.
    pub text: String,
    /// Where it comes from.
    pub source: Source,
}

/// A bank as it is judged.
#[derive(Debug, Clone, PartialEq)]
pub struct Judged {
    /// What each place gets.
    pub shares: Vec<Share>,
    /// The bank as a whole.
    pub whole: Whole,
    /// What it is together.
    pub call: Outcome,
    /// Why, the worst first.
    pub said: Vec<Said>,
    /// What goes.
    pub advice: Advice,
    /// What goes across each, where nothing lies there yet.
    pub proposed: Option<Proposed>,
    /// What a charge in it can do to a hand.
    pub danger: Option<Danger>,
    /// What is said before a hand goes in.
    pub cautions: Vec<String>,
}

/// Judges a bank with so much across it.
#[must_use]
pub fn judge(kind: BankKind, volts: Volt, places: &[Place]) -> Judged {
    let volts = volts.abs();
    let shares = shares(volts, places);
    let whole = whole(kind, volts, places, &shares, Volt::computed(SAFE_VOLTS));
    let mut said: Vec<Said> = Vec::new();
    for (i, (place, share)) in places.iter().zip(&shares).enumerate() {
        said.extend(of_place(kind, i, place, share));
    }
    said.extend(of_whole(kind, volts, places, &whole));
    said.extend(says::alike(kind, places));
    said.sort_by_key(|s| std::cmp::Reverse(s.call.weight()));
    let call = said.first().map_or(Outcome::Keep, |s| s.call);
    let advice = advice(kind, volts, places);
    let danger = whole.energy_joules.map(|j| danger(volts, j));
    let cautions = says::cautions(kind, volts, places, &whole, danger);
    Judged { shares, whole, call, said, advice, proposed: proposed(kind, volts, places), danger, cautions }
}

fn of_place(kind: BankKind, at: usize, place: &Place, share: &Share) -> Vec<Said> {
    let mut out = Vec::new();
    let mut say = |call, text: String, source: Source| {
        out.push(Said { call, places: vec![at], text, source });
    };
    let name = &place.name;
    let ohms_law = || Source::handbook("capacitors and rectifiers in series");
    match place.health {
        Health::Shorted => {
            say(Outcome::Replace, format!("{name} is shorted: the others share its volts"), ohms_law());
            return out;
        }
        Health::Open => {
            say(Outcome::Replace, format!("{name} is open: all of the volts stand across it"), ohms_law());
        }
        Health::Well | Health::Unsure | Health::Tired | Health::Goes => {}
    }
    match (place.rated, share.at_worst(), share.gets()) {
        (Some(rated), _, Some(gets)) if gets > rated => say(
            Outcome::Replace,
            format!("{name} gets {}, and stands {rated}{}", three(gets), says::because(kind, place, share)),
            ohms_law(),
        ),
        (Some(rated), Some(worst), Some(_)) if worst > rated => say(
            Outcome::MeasureAgain,
            format!(
                "{name} may get {} of its {rated}, as far as values and leaks are known: measure them",
                three(worst)
            ),
            ohms_law(),
        ),
        (Some(rated), _, Some(gets)) if gets > rated * WATCH_FROM => say(
            Outcome::Watch,
            format!("{name} gets {} of its {rated}: little is left for the line and for ageing", three(gets)),
            Source::practice("a tenth is kept"),
        ),
        _ => {}
    }
    for (call, text, source) in place.across.iter().flat_map(|a| of_across(a, share)) {
        say(call, text, source);
    }
    out
}

/// What the resistor across a place carries, against its watts and the volts of its body.
fn of_across(across: &Across, share: &Share) -> Vec<(Outcome, String, Source)> {
    let mut out = Vec::new();
    let name = &across.name;
    let Some(volts) = share.volts else { return out };
    let heat = volts * (volts / across.ohms.is);
    if let Some(rated) = across.rated {
        let of = format!("{name} turns {} into heat of its {rated}", three(heat));
        let sources = Source::practice("watts of two to five times");
        if heat > rated {
            out.push((Outcome::Replace, of, sources));
        } else if heat * RATING.0 > rated * (1.0 + 1e-9) {
            let wanted = heat * RATING.0;
            out.push((Outcome::Watch, format!("{of}: {} or more keep it cool", three(wanted)), sources));
        }
    }
    if let Some(body) = across.body.filter(|b| volts > *b) {
        let bodies = (volts / body).ceil();
        out.push((
            Outcome::Watch,
            format!(
                "{name} stands {body} by its size, and {} lie across it: {bodies:.0} bodies in series",
                three(volts)
            ),
            Source::memory("volts of a resistor's body by its size"),
        ));
    }
    out
}

fn of_whole(kind: BankKind, volts: Volt, places: &[Place], whole: &Whole) -> Vec<Said> {
    let mut out = Vec::new();
    if let Some(stands) = whole.stands.filter(|s| *s < volts && kind != BankKind::Resistors) {
        let live = places.iter().filter(|p| p.health != Health::Shorted).count();
        out.push(Said {
            call: Outcome::Replace,
            places: vec![],
            text: format!(
                "{live} in series stand {} by the weakest of them, one a little over its share: {volts} are too much",
                three(stands)
            ),
            source: Source::handbook("capacitors and rectifiers in series"),
        });
    }
    let (Some(is), Some(marked)) = (whole.value_si, whole.marked_si) else { return out };
    let off = is / marked - 1.0;
    let all = places.iter().all(|p| p.measured || p.across.as_ref().is_some_and(|a| a.measured));
    if kind == BankKind::Resistors && all && off.abs() > SCALE_ERROR {
        let reads = signed_percent(1.0 / (1.0 + off) - 1.0);
        out.push(Said {
            call: Outcome::Replace,
            places: vec![],
            text: format!(
                "{} instead of {}: a meter behind it reads {reads}",
                three(Ohm::computed(is)),
                three(Ohm::computed(marked))
            ),
            source: Source::memory("class 2 of IEC 60051"),
        });
    }
    if kind == BankKind::Capacitors && off < -0.2 {
        out.push(Said {
            call: Outcome::Watch,
            places: vec![],
            text: format!(
                "{} instead of {}: more ripple, by {}",
                three(Farad::computed(is)),
                three(Farad::computed(marked)),
                signed_percent(1.0 / (1.0 + off) - 1.0)
            ),
            source: Source::practice("ripple rises as the farads fall"),
        });
    }
    out
}
