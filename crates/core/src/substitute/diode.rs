//! A diode or a rectifier: reverse volts with margin, current, surge, drop and speed.

use super::assess::{Offer, Tally};
use super::catalogue::diode_piece;
use super::{ChoiceReason, Choices, Need, diode_string};
use crate::drawers::{Lot, Piece};
use crate::named::Named;
use crate::part::{Diode, DiodeFamily, Fact, MadeOf, PartKind, Position};
use crate::quantity::format::format;
use crate::quantity::{Ampere, Quantity, Volt};
use crate::source::Source;
use crate::supply::before_the_valves_draw;
use crate::transistor::device::Sure;
use crate::transistor::diode_device::{Device, DiodeJob, device, devices};
use crate::verdict::{Policy, PolicyNumber};

/// Reverse volts of a rectifier of which nothing is known: 2√2 × 230 V with half as much again is 976 V (practice).
const UNKNOWN_VOLTS: f64 = 1000.0;

/// Strings that are proposed at most.
const MOST_STRINGS: usize = 3;

/// The facts that count for a rectifier.
pub(super) const FACTS: [Fact; 3] = [Fact::Secondary, Fact::LoadCurrent, Fact::ChargingPath];

/// What the place asks for.
struct Asked {
    /// The surge into an empty filter at the crest.
    surge: Option<f64>,
    reverse: Option<(f64, String)>,
    amperes: Option<(f64, String)>,
    /// A detector's drop must be small.
    small_drop: bool,
    fast: bool,
}

pub(super) fn choose(need: &Need<'_>, old: &Diode, policy: &Policy, lots: &[Lot]) -> Choices {
    let mut out = Choices::default();
    let known = device(need.type_number);
    let asked = Asked::of(need, old, known, policy);
    if need.position == Some(Position::Rectifier) {
        out.asks = Choices::asking(need, &FACTS).asks;
    }
    let mut offers = Offer::of_lots(lots, |l| l.piece.kind == PartKind::Diode);
    // What is in the table beyond doubt, or nearly: nothing else is proposed to be bought.
    let known_well = devices().iter().filter(|d| d.sure != Sure::Doubtful);
    offers.extend(known_well.map(|d| Offer::to_buy(diode_piece(d))));
    for offer in &offers {
        let tally = assess(&asked, old, offer);
        tally.settle(offer, describe(&offer.piece), None, &mut out);
    }
    if out.choices.is_empty()
        && let Some((volts, _)) = &asked.reverse
    {
        strings(&asked, old, &offers, *volts, &mut out);
    }
    // The humblest that does is bought: it is cheap and in every shop.
    out.choices.sort_by(|a, b| {
        let most = |c: &super::Choice| c.margins.iter().map(|m| m.ratio).fold(0.0, f64::max);
        // Of what is asked for, the more is known of it the better.
        let known = a.margins.len().cmp(&b.margins.len()).reverse();
        a.from_drawers().cmp(&b.from_drawers()).reverse().then(known).then(most(a).total_cmp(&most(b)))
    });
    if need.position == Some(Position::Rectifier) {
        out.advice.extend(switch_on(need, policy));
    }
    if old.family == Some(DiodeFamily::Selenium) {
        out.advice.push(ChoiceReason {
            rule: "R9",
            text:
                "silicon drops less than the stack did and today's line is higher: the rail rises. Raise the \
                   series resistor until the rail is at or a little under the sheet; the rectifier sheet \
                   computes it"
                    .to_owned(),
            source: Source::practice("selenium to silicon"),
        });
        out.advice.push(ChoiceReason::practice(
            "a stack that smokes is poisonous: air the room, do not breathe it, wash your hands",
            "selenium",
        ));
    }
    out
}

/// No single one stands the volts: strings of those that do in everything else, the shortest first.
fn strings(asked: &Asked, old: &Diode, offers: &[Offer], volts: f64, out: &mut Choices) {
    let else_fits = |o: &&Offer| {
        let mut alone = (*o).clone();
        alone.piece.volts = Some(Volt::computed(volts));
        assess(asked, old, &alone).short.is_empty()
    };
    let mut all: Vec<super::Choice> =
        offers.iter().filter(else_fits).filter_map(|o| diode_string::string(o, volts)).collect();
    all.sort_by_key(|c| (!c.from_drawers(), c.pieces.len()));
    all.truncate(MOST_STRINGS);
    out.choices.extend(all);
}

fn describe(piece: &Piece) -> String {
    let family = piece.family.map_or("diode", Named::name);
    let volts = piece.volts.map_or_else(String::new, |v| format!(", {v}"));
    let amperes = piece.amperes.map_or_else(String::new, |a| format!(" {a}"));
    format!("{} {family}{volts}{amperes}", piece.type_number)
}

/// What silicon meets at switch-on: nothing that limits the first charge, or a path that is not known.
fn switch_on(need: &Need<'_>, policy: &Policy) -> Vec<ChoiceReason> {
    let say =
        |text: String| ChoiceReason { rule: "R9", text, source: Source::practice("silicon at switch-on") };
    let mut out = Vec::new();
    if need.fact(Fact::ChargingPath).is_none() {
        out.push(say(
            "silicon has next to no resistance of its own: measure the ohms of winding, line and series resistor; where \
             there are none, a series resistor goes in with it"
                .to_owned(),
        ));
    }
    if let Some(v) = need.fact(Fact::Secondary) {
        let peak = before_the_valves_draw(Volt::computed(v), policy);
        out.push(say(format!(
            "the rail stands at once, before any heater is warm: up to {} on the filters until the set draws",
            peak
        )));
    }
    out
}

impl Asked {
    fn of(need: &Need<'_>, old: &Diode, known: Option<&'static Device>, policy: &Policy) -> Self {
        let of_old = |v: f64, q: Quantity| (v, format!("the old one's {}", format(q, v)));
        let shared = need.fact(Fact::Voltage).map(|v| {
            let factor = policy.number_si(PolicyNumber::LineHigh);
            (
                v * factor,
                format!("{} the wrong way is its share of the string, × {factor}", Volt::computed(v)),
            )
        });
        let seen = need.fact(Fact::Secondary).map(|v| {
            // The crest on one side, the charged filter on the other, as a half-wave or a middle tap has it.
            let across = 2.0 * std::f64::consts::SQRT_2 * v;
            let factor = policy.number_si(PolicyNumber::ReverseFactor);
            let (a, b) = (format(Quantity::Voltage, across), format(Quantity::Voltage, v));
            (across * factor, format!("2√2 × {b} is {a} the wrong way, × {factor} for pulses"))
        });
        let reverse = shared.or(seen).or_else(|| known.map(|d| of_old(d.reverse_volts, Quantity::Voltage)));
        // Nothing is known: what stands any line costs no more.
        let reverse = reverse.or_else(|| {
            let unknown =
                "the volts that it sees are not known: 1 kV stands a line of 230 V and costs no more";
            (need.position == Some(Position::Rectifier)).then(|| (UNKNOWN_VOLTS, unknown.to_owned()))
        });
        let load = need.fact(Fact::LoadCurrent).map(|i| {
            let factor = policy.number_si(PolicyNumber::DiodeCurrentFactor);
            (i * factor, format!("{factor} × the load's {}", format(Quantity::Current, i)))
        });
        let amperes = load.or_else(|| known.and_then(|d| d.amperes).map(|a| of_old(a, Quantity::Current)));
        let detector = need.position == Some(Position::Detector)
            || need.position.is_none() && old.family == Some(DiodeFamily::Germanium);
        let path = need.fact(Fact::ChargingPath);
        let surge = need.fact(Fact::Secondary).zip(path).map(|(v, r)| std::f64::consts::SQRT_2 * v / r);
        Self {
            surge,
            reverse,
            amperes,
            small_drop: detector,
            fast: detector || known.is_some_and(|d| d.fast),
        }
    }
}

/// Holds one offer against what its place asks for; what its type's row says of it counts where nothing else is said.
pub(super) fn assess_any(need: &Need<'_>, old: &Diode, policy: &Policy, offer: &Offer) -> Tally {
    let asked = Asked::of(need, old, device(need.type_number), policy);
    let mut offer = offer.clone();
    if let Some(d) = device(&offer.piece.type_number) {
        let row = diode_piece(d);
        offer.piece.family = offer.piece.family.or(row.family);
        offer.piece.volts = offer.piece.volts.or(row.volts);
        offer.piece.amperes = offer.piece.amperes.or(row.amperes);
    }
    assess(&asked, old, &offer)
}

fn assess(asked: &Asked, old: &Diode, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    let piece = &offer.piece;
    let known = device(&piece.type_number);
    let family = piece.family.and_then(MadeOf::diode);
    match family {
        Some(DiodeFamily::Selenium) => {
            t.refuse("selenium: its drop rises with age, and it burns with poisonous smoke")
        }
        Some(DiodeFamily::Silicon) if asked.small_drop => {
            t.refuse("silicon drops 0.6 V: weak stations are lost; germanium drops 0.3 V");
        }
        Some(DiodeFamily::Germanium) if !asked.small_drop => {
            t.refuse("germanium is for signals: it leaks with heat and carries little");
        }
        None => t.refuse("nobody knows what it is made of"),
        Some(f) => t.passes.push(ChoiceReason::practice(
            match old.family {
                Some(o) if o != f => format!("{} in place of {}", f.name(), o.name()),
                _ => format!("{} as it was", f.name()),
            },
            "what replaces it",
        )),
    }
    if let Some((volts, why)) = &asked.reverse {
        t.margin("reverse volts", Quantity::Voltage, piece.volts.map(Volt::volts), *volts);
        t.passes.push(ChoiceReason::practice(why.clone(), "reverse volts with margin"));
    } else if !asked.small_drop {
        t.cautions.push(ChoiceReason::practice(
            "the volts that it sees are not known: a filter behind it doubles the crest",
            "reverse volts with margin",
        ));
    }
    if let Some((amperes, why)) = &asked.amperes {
        t.margin("amperes", Quantity::Current, piece.amperes.map(Ampere::amperes), *amperes);
        t.passes.push(ChoiceReason::practice(why.clone(), "current with margin"));
    }
    if asked.surge.is_some() && known.is_none() {
        t.cautions.push(ChoiceReason::practice(
            "the surge that it stands is not known: look it up before it is fitted",
            "surge at switch-on",
        ));
    }
    if let Some(d) = known {
        if let Some(needs) = asked.surge {
            t.margin("surge", Quantity::Current, d.surge_amperes, needs);
        }
        if asked.fast && !d.fast {
            t.refuse("too slow: it still conducts when the wave has turned");
        }
        if !asked.small_drop {
            if let (Some(drop), Some(a), Some(surge)) = (d.drop, d.amperes, d.surge_amperes) {
                t.passes.push(ChoiceReason {
                    rule: "R7",
                    text: format!(
                        "{} drop at {}, one surge of {}",
                        format(Quantity::Voltage, drop),
                        format(Quantity::Current, a),
                        format(Quantity::Current, surge)
                    ),
                    source: d.source.clone(),
                });
            }
            if d.job == DiodeJob::Signal {
                t.refuse("a signal diode: it carries no supply");
            }
        }
    }
    if old.family == Some(DiodeFamily::Selenium) {
        t.better("less drop, no ageing, no smoke");
        t.worse("the rail rises and the charging pulses sharpen: a series resistor brings it down");
    }
    if piece.kind == PartKind::Diode {
        t.cautions.push(ChoiceReason::practice(
            "mind the ring: it is the cathode, towards the filter's plus",
            "polarity",
        ));
    }
    t.condition(offer.condition);
    t
}
