//! What a capacitor's place asks for: the window of values, constructions that do there, volts, a safety class.

use std::sync::LazyLock;

use serde::Deserialize;

use super::assess::{Offer, Tally};
use super::volts::asked;
use super::{ChoiceReason, Need, effect, first_filter};
use crate::drawers::Piece;
use crate::marking::temperature::behaviour;
use crate::named::Named;
use crate::part::safety::ClassRule;
use crate::part::usual_tolerance;
use crate::part::{Capacitor, CapacitorFamily, Fact, MadeOf, PartKind, Position};
use crate::preferred::{Series, is_member, neighbours};
use crate::quantity::format::percent;
use crate::quantity::{Fraction, Quantity, Volt};
use crate::source::Source;
use crate::table::rows;
use crate::verdict::{Policy, PolicyNumber};

/// A single one from the drawers that is no further off makes a bundle needless (practice).
pub(super) const NEAR_ENOUGH: f64 = 0.1;
/// Below this a capacitor is small: mica and ceramic take the place of film.
const SMALL: f64 = 1e-9;
/// Coefficients that are the same to a dial, ppm/K (practice: the spread of class 1).
const SAME_DRIFT: f64 = 60.0;
/// From this value on an electrolytic may go where one was.
const ELECTROLYTIC_FROM: f64 = 1e-6;
/// The least share of an older value that its modern neighbour has: 0.22 for 0.25 (practice).
const MOVED: f64 = 0.875;

#[derive(Deserialize)]
pub(super) struct SuitedRow {
    position: Position,
    families: String,
    small_families: String,
    source: Source,
}

/// What may go into a place.
pub(super) struct Suited {
    position: Position,
    families: Vec<CapacitorFamily>,
    small: Vec<CapacitorFamily>,
    source: Source,
}

static SUITED: LazyLock<Vec<Suited>> = LazyLock::new(|| {
    fn all<T: Named>(text: &str) -> Vec<T> {
        text.split(';').filter(|t| !t.is_empty()).filter_map(|t| T::from_name(t).ok()).collect()
    }
    rows::<SuitedRow>("suited.csv", include_str!("../../data/suited.csv"))
        .into_iter()
        .map(|r| Suited {
            position: r.position,
            families: all(&r.families),
            small: all(&r.small_families),
            source: r.source,
        })
        .collect()
});

pub(super) fn suited(position: Option<Position>) -> Option<&'static Suited> {
    SUITED.iter().find(|f| Some(f.position) == position)
}

/// The facts that count in a place.
pub(super) fn facts(position: Option<Position>) -> &'static [Fact] {
    match position {
        Some(Position::Reservoir) => &[
            Fact::Rail,
            Fact::Secondary,
            Fact::LoadCurrent,
            Fact::FirstFilterLimit,
            Fact::ChargingPath,
            Fact::Frequency,
        ],
        Some(Position::Smoothing | Position::PlateDecoupling) => &[Fact::Rail, Fact::Secondary],
        Some(Position::Coupling) => &[Fact::Voltage, Fact::Rail, Fact::GridResistor],
        Some(Position::Avc) => &[Fact::Voltage, Fact::SourceResistance],
        Some(Position::AcrossTheLine | Position::MainsContact) => &[Fact::Line],
        Some(Position::RectifierSnubber) => &[Fact::Voltage, Fact::Secondary],
        Some(Position::LineToChassis | Position::AntennaIsolation) => &[Fact::Line, Fact::Frequency],
        _ => &[Fact::Voltage, Fact::Rail],
    }
}

/// How far from what is wanted a part may be, as factors; and why.
#[derive(Debug)]
pub(super) struct Window {
    pub(super) low: f64,
    pub(super) high: f64,
    pub(super) why: String,
    pub(super) source: Source,
}

pub(super) fn mark(old: &Capacitor) -> f64 {
    let marked = old.minus.or(old.plus).map(Fraction::fraction);
    marked.unwrap_or_else(|| usual_tolerance(old.family.map(MadeOf::Capacitor)).0)
}

pub(super) fn window(need: &Need<'_>, old: &Capacitor, policy: &Policy) -> Window {
    let facts = need.position.and_then(|p| p.facts(PartKind::Capacitor));
    let named = |w: (f64, f64), why: String, source: Source| Window { low: w.0, high: w.1, why, source };
    if let Some(f) = facts
        && let (Some(low), Some(high)) = (f.value_low, f.value_high)
    {
        let why = format!("{low} to {high} times work as {}", f.position);
        return named((low, high), why, Source::practice("what a place takes"));
    }
    let tuned = need.position.is_some_and(Position::makes_a_frequency);
    let most = if tuned { policy.number_si(PolicyNumber::TunedFraction) } else { f64::INFINITY };
    let t = mark(old).min(most);
    let why = match need.position {
        Some(p) => format!("within {} as {p}", percent(t)),
        None => format!("within {}: its place is not known", percent(t)),
    };
    named((1.0 - t, 1.0 + t), why, Source::practice("the mark, at most 5 % where it is tuned"))
}

/// The families that may go in, the best first.
pub(super) fn families(need: &Need<'_>, old: &Capacitor, wanted: f64) -> Vec<CapacitorFamily> {
    let Some(taken) = suited(need.position) else {
        let same = match old.family {
            Some(
                CapacitorFamily::WaxPaper
                | CapacitorFamily::BitumenPaper
                | CapacitorFamily::MouldedPaper
                | CapacitorFamily::MetallisedPaper,
            )
            | None => vec![CapacitorFamily::Polypropylene, CapacitorFamily::Polyester],
            Some(CapacitorFamily::Mica) => vec![CapacitorFamily::SilverMica, CapacitorFamily::Mica],
            Some(CapacitorFamily::Tantalum) => vec![CapacitorFamily::Tantalum, CapacitorFamily::Electrolytic],
            Some(f) => vec![f],
        };
        return same;
    };
    let mut all = if wanted < SMALL { taken.small.clone() } else { vec![] };
    if old.family == Some(CapacitorFamily::Electrolytic)
        && wanted >= ELECTROLYTIC_FROM
        && !taken.position.protects_people()
    {
        all.push(CapacitorFamily::Electrolytic);
    }
    all.extend(taken.families.iter().copied());
    // What the alignment was made with comes first; elsewhere it does as well. Silver mica is what is made now for mica.
    let old_one = old.family.filter(|f| was_right(taken.position, *f));
    let now = old_one.filter(|f| *f == CapacitorFamily::Mica).map(|_| CapacitorFamily::SilverMica);
    for f in now.into_iter().chain(old_one) {
        if !all.contains(&f) {
            let at = if taken.position.makes_a_frequency() { 0 } else { all.len().min(1) };
            all.insert(at, f);
        }
    }
    all.dedup();
    all
}

/// Whether a part of that making was right in its place: what does not fail of age, and does what the place asks for.
fn was_right(position: Position, family: CapacitorFamily) -> bool {
    let fails = MadeOf::Capacitor(family).facts().is_some_and(|f| f.known_bad);
    let polar = matches!(family, CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum);
    let moves = family == CapacitorFamily::CeramicClass2
        && (position.makes_a_frequency()
            || matches!(position, Position::Coupling | Position::Tone | Position::Avc));
    let drifts =
        family == CapacitorFamily::Polyester && (position.makes_a_frequency() || position.takes_pulses());
    let kilovolts = position.blocks_a_plate() || position.protects_people();
    !(fails || polar || moves || drifts || kilovolts)
}

/// Holds an offer against what its place asks for.
pub(super) fn assess(
    need: &Need<'_>,
    old: &Capacitor,
    wanted: f64,
    window: &Window,
    offer: &Offer,
    policy: &Policy,
) -> Tally {
    let mut t = Tally::default();
    let piece = &offer.piece;
    let family = piece.family.and_then(MadeOf::capacitor);
    if let Some(rule) = need.position.and_then(Position::class_rule) {
        safety(need, rule, piece, &mut t);
    }
    kind_of(need, old, wanted, piece, &mut t);
    if piece.safety.is_some() && !need.position.is_some_and(Position::protects_people) {
        t.refuse("made for the line and rated in volts AC: its volts DC are not known");
    }
    if let Some(value) = piece.value_si {
        let ratio = value / wanted;
        t.value(Quantity::Capacitance, wanted, value, &window.why, window.source.clone());
        let exact = need.position.is_some_and(Position::makes_a_frequency);
        let moved = !exact && window.low > MOVED && ratio >= MOVED && moved_to(wanted, value);
        if moved && ratio < window.low {
            t.passes.push(ChoiceReason::practice(
                format!("{} is what is made now for it", piece.value_text()),
                "preferred values moved: 0.25 became 0.22",
            ));
        }
        if !moved && ratio < window.low * (1.0 - 1e-6) || ratio > window.high * (1.0 + 1e-6) {
            let far = super::assess::deviation(wanted, value).fraction();
            let far = crate::quantity::format::signed_percent(far);
            t.refuse(format!("{far} from what is wanted: {}", window.why));
        }
        first_filter::judge(need, value, policy, &mut t);
        effect::of(need, wanted, value, &mut t);
    }
    if piece.safety.is_none() {
        let asked = asked(need, old, family.unwrap_or(CapacitorFamily::Polyester), policy);
        match asked.volts {
            Some(v) => {
                t.margin("volts", Quantity::Voltage, piece.volts.map(Volt::volts), v);
                t.passes.push(asked.line);
            }
            None => t.cautions.push(asked.line),
        }
    }
    if family == Some(CapacitorFamily::Electrolytic) {
        electrolytic(need, piece, policy, &mut t);
    }
    if need.position.is_some_and(Position::makes_a_frequency) {
        drift(old, piece, &mut t);
    }
    if need.position.is_some_and(Position::blocks_a_plate) {
        t.cautions.push(ChoiceReason::practice(
            "it carries the tank's radio frequency: look up its current at that frequency; kilovolts, one hand, \
             the stick first",
            "transmitter tank: radio-frequency current rating",
        ));
    }
    if need.position == Some(Position::Snubber) {
        t.cautions.push(ChoiceReason::practice(
            "say what it lies across: a rectifier, a vibrator's winding, an output transformer or a contact in the line; \
             each asks for other volts",
            "a snubber by what it does",
        ));
    }
    t.condition(offer.condition);
    t
}

/// A part that goes with heat was put there to hold the tuning: its coefficient is carried, or its loss said.
fn drift(old: &Capacitor, piece: &Piece, t: &mut Tally) {
    let Some(was) = old.ppm_per_kelvin else { return };
    let signed = |ppm: f64| format!("{}{:.0} ppm/K", if ppm < 0.0 { "−" } else { "+" }, ppm.abs());
    let new = piece.type_number.split_whitespace().find_map(behaviour).and_then(|b| b.ppm_per_kelvin);
    let source = "a part with a coefficient holds the tuning as the set warms";
    match new {
        Some(is) if (is - was).abs() <= SAME_DRIFT => {
            t.passes.push(ChoiceReason::practice(format!("{} as the old one", signed(is)), source));
        }
        Some(is) => t.worse(format!(
            "{} where {} held the tuning: it drifts as the set warms",
            signed(is),
            signed(was)
        )),
        None if was.abs() <= SAME_DRIFT => {}
        None => {
            t.worse(format!("the old one's {} are lost: the tuning drifts as the set warms", signed(was)))
        }
    }
}

/// Whether `value` is the preferred value that took the place of an older one that is made no more.
pub(super) fn moved_to(wanted: f64, value: f64) -> bool {
    !is_member(Series::E12, wanted)
        && [Series::E6, Series::E12]
            .iter()
            .filter_map(|s| neighbours(*s, wanted))
            .any(|n| (n.nearest / value - 1.0).abs() < 1e-6)
}

/// Only parts of a class that protects people.
fn safety(need: &Need<'_>, rule: &ClassRule, piece: &Piece, t: &mut Tally) {
    let (wanted, place) = (rule.wanted(), rule.position);
    match piece.safety {
        Some(class) if rule.classes.contains(&class) => {
            t.passes.push(ChoiceReason {
                rule: "R4s",
                text: format!("class {class}: made to stand {place}"),
                source: rule.source.clone(),
            });
            if let Some(line) = need.fact(Fact::Line) {
                t.margin("volts AC", Quantity::Voltage, piece.volts.map(Volt::volts), line);
            }
            t.cautions.push(ChoiceReason::r7(
                "plug out, discharge, and check with a meter; local electrical codes come first",
                Source::practice("line parts"),
            ));
        }
        Some(class) => {
            t.refuse(format!("class {class} {place}: needs class {}", wanted));
        }
        None => t.refuse(format!(
            "ordinary {} {place}: needs class {}",
            piece.family.map_or("part", Named::name),
            wanted
        )),
    }
}

/// Only dielectrics that do in that place.
fn kind_of(need: &Need<'_>, old: &Capacitor, wanted: f64, piece: &Piece, t: &mut Tally) {
    let Some(family) = piece.family.and_then(MadeOf::capacitor) else {
        // A class printed on it says that it is made for the line.
        if piece.safety.is_none() {
            t.refuse("nobody knows how it is made");
        }
        return;
    };
    if MadeOf::Capacitor(family).facts().is_some_and(|f| f.known_bad)
        && family != CapacitorFamily::Electrolytic
    {
        t.refuse(format!("{}: it fails of age as the old one did", family.name()));
        return;
    }
    let allowed = families(need, old, wanted);
    if allowed.contains(&family) {
        let text = match need.position {
            Some(p) => format!("{} does as {p}", family.name()),
            None => format!("{} in place of {}", family.name(), old.family.map_or("it", Named::name)),
        };
        let source = suited(need.position).map_or(Source::practice("what replaces it"), |f| f.source.clone());
        t.passes.push(ChoiceReason::r7(text, source));
        if need.position == Some(Position::RfBypass) && family == CapacitorFamily::Polypropylene {
            t.cautions.push(ChoiceReason::practice(
                "film only with leads cut short: its inductance counts here",
                "short leads, low inductance",
            ));
        }
        return;
    }
    let names: Vec<&str> = allowed.iter().map(|f| f.name()).collect();
    let place = need.position.map_or_else(|| "here".to_owned(), |p| format!("as {p}"));
    t.refuse(format!(
        "{} {place}: needs {}{}",
        family.name(),
        names.join(" or "),
        because(need.position, family)
    ));
}

/// Why a dielectric does not do.
pub(super) fn because(position: Option<Position>, family: CapacitorFamily) -> &'static str {
    match (position, family) {
        (Some(p), _) if p.makes_a_frequency() => "; it drifts and takes the alignment along",
        (_, CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum) => {
            "; it leaks and has a plus and a minus"
        }
        (Some(Position::Coupling | Position::Tone | Position::Avc), CapacitorFamily::CeramicClass2) => {
            "; its value changes with volts and it sings"
        }
        _ => "",
    }
}

/// What heat and ripple ask of an electrolytic.
pub(super) fn electrolytic(need: &Need<'_>, piece: &Piece, policy: &Policy, t: &mut Tally) {
    if need.position == Some(Position::Reservoir) {
        match piece.celsius {
            Some(c) if c < 105.0 => {
                t.refuse(format!("{c} °C: the first filter runs hot, 105 °C is needed"));
            }
            Some(_) => {}
            None => t.cautions.push(ChoiceReason::practice(
                "see that it is of 105 °C: the first filter runs hot",
                "electrolytic of 105 °C",
            )),
        }
        if let Some(load) = need.fact(Fact::LoadCurrent) {
            let needs = load * policy.number_si(PolicyNumber::RippleFactor);
            t.margin(
                "ripple current",
                Quantity::Current,
                piece.amperes.map(crate::quantity::Ampere::amperes),
                needs,
            );
        }
    }
    t.cautions
        .push(ChoiceReason::practice("mind plus and minus; never stand over it at switch-on", "polarity"));
}
