//! The banks of a tray: which parts are in series, what is known of each, and what a bank says of its members (rule R20).

use super::status::{decided, goes};
use super::verdict::judged;
use super::{Id, Tray, TrayPart};
use crate::bank::judge::{Judged, judge};
use crate::bank::share::shares;
use crate::bank::{Across, BankKind, Health, Place, Span};
use crate::marking::Meaning;
use crate::network::balance::leak_as_new;
use crate::part::size::at_least;
use crate::part::{CapacitorFamily, DiodeFamily, Fact, MadeOf, NO_BAND, PartKind};
use crate::quantity::{Ampere, Farad, Fraction, Ohm, Volt};
use crate::reading::{ReadQuantity, Reading, Shown, usual};
use crate::set::SetFacts;
use crate::supply::before_the_valves_draw;
use crate::supply::rectifier::Arrangement;
use crate::transistor::diode_device::device;
use crate::verdict::{Outcome, Policy, PolicyNumber};

/// One member of a bank.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Member {
    /// The part.
    pub part: Id,
    /// The resistor across it, where there is one.
    pub across: Option<Id>,
}

/// Parts in series that share the volts.
#[derive(Debug, Clone, PartialEq)]
pub struct Bank {
    /// Which.
    pub id: Id,
    /// What it is called: `HT bank`.
    pub name: String,
    /// What is in series.
    pub kind: BankKind,
    /// The volts across all of it, as [`BankKind::volts_in_words`] has them.
    pub volts: Volt,
    /// Its members, from the high end to the low one.
    pub members: Vec<Member>,
}

impl Bank {
    /// Whether a part is one of it: a member, or the resistor across one.
    #[must_use]
    pub fn has(&self, part: Id) -> bool {
        self.members.iter().any(|m| m.part == part || m.across == Some(part))
    }

    /// Where a part stands in it, in words: `HT bank, 3 of 8`; `None` for parts of others.
    #[must_use]
    pub fn place_in_words(&self, part: Id) -> Option<String> {
        let at = self.members.iter().position(|m| m.part == part || m.across == Some(part))?;
        let across = if self.members.get(at)?.across == Some(part) { ", across" } else { "," };
        Some(format!("{}{across} {} of {}", self.name, at + 1, self.members.len()))
    }
}

/// Where nobody said how a capacitor is made: above that it is an electrolytic (practice: larger ones of paper are rare and
/// say oil on their case).
const LARGEST_OTHER: Farad = Farad::computed(10e-6);
/// Silicon leaks no more than this the wrong way, ampere (memory: data sheets of 1 A rectifiers, cold).
const SILICON_LEAK: Ampere = Ampere::computed(10e-6);
/// A forward drop below is a short, volt (practice: a healthy germanium junction shows more than twice that).
const SHORT_DROP: f64 = 0.05;

fn value_read(part: &TrayPart) -> Option<f64> {
    let fitted = || part.fitting().and_then(|f| f.piece.measured_si);
    part.read_free(usual(part.kind)).and_then(Reading::value_si).or_else(fitted).filter(|v| *v > 0.0)
}

/// What it should have: as fitted, as marked, by the sheet.
fn value_marked(part: &TrayPart) -> Option<f64> {
    let fitted = part.fitting().and_then(|f| f.piece.value_si);
    fitted.or(part.marked_si).or(part.sheet_si).filter(|v| *v > 0.0)
}

fn tolerances(part: &TrayPart) -> (f64, f64) {
    let of = |t: Option<Fraction>| t.map(Fraction::fraction);
    if let Some(f) = part.fitting() {
        let t = of(f.piece.tolerance).unwrap_or(NO_BAND);
        return (t, t);
    }
    let sides = part.mark.as_ref().and_then(|m| m.tolerance).and_then(crate::marking::Tolerance::sides);
    match sides {
        Some((minus, plus)) => (minus.fraction(), plus.fraction()),
        None => of(part.tolerance).map_or((NO_BAND, NO_BAND), |t| (t, t)),
    }
}

/// Its value with how far it may be off.
fn span<U>(part: &TrayPart, new: impl Fn(f64) -> U) -> Option<Span<U>>
where
    U: Copy + std::ops::Mul<f64, Output = U>,
{
    match (value_read(part), value_marked(part)) {
        (Some(v), _) => Some(Span::known(new(v))),
        (None, Some(v)) => Some(Span::marked(new(v), tolerances(part).0, tolerances(part).1)),
        (None, None) => None,
    }
}

fn rated(part: &TrayPart) -> Option<Volt> {
    let by_type = |t: &str| device(t).map(|d| Volt::computed(d.reverse_volts));
    let of_type = || part.installed_type().filter(|_| part.kind == PartKind::Diode).and_then(by_type);
    let of_mark = || part.mark.as_ref().and_then(Meaning::least_rating);
    match part.fitting() {
        Some(f) => f.piece.volts.or_else(of_type),
        None => of_mark().or_else(of_type),
    }
}

fn across(tray: &Tray, resistor: &TrayPart, policy: Option<&Policy>) -> Option<Across> {
    let watts = resistor.fitting().map_or(resistor.power, |f| f.piece.power);
    let volts = resistor.fitting().and_then(|f| f.piece.volts);
    Some(Across {
        name: resistor.name.clone(),
        ohms: span(resistor, Ohm::computed)?,
        marked: value_marked(resistor).map(Ohm::computed),
        rated: watts,
        body: volts.or_else(|| watts.and_then(at_least).map(|s| s.volts)),
        measured: value_read(resistor).is_some(),
        health: policy.map_or(Health::Well, |p| health(tray, resistor, p)),
    })
}

/// What leaks through a member at an equal share of the volts: as it was read, or as much as such a part may.
fn leak(part: &TrayPart, farads: Option<Farad>, electrolytic: bool, equal: Volt) -> Option<Span<Ampere>> {
    let at = |r: &Reading| {
        let scale = r.test_voltage.filter(|v| *v > Volt::ZERO).map_or(1.0, |v| equal / v);
        r.value_si().map(|i| Ampere::computed(i * scale))
    };
    let insulation = |r: &Reading| r.ohms().filter(|o| *o > Ohm::ZERO).map(|o| equal / o);
    let known = part
        .read_free(ReadQuantity::LeakageCurrent)
        .and_then(at)
        .or_else(|| part.read_free(ReadQuantity::LeakageResistance).and_then(insulation));
    let most = |i: Ampere| Span { low: Ampere::ZERO, is: Ampere::ZERO, high: i };
    let silicon = part.family == Some(MadeOf::Diode(DiodeFamily::Silicon));
    match (known, farads) {
        (Some(i), _) => Some(Span::known(i)),
        (None, Some(c)) if electrolytic => Some(most(leak_as_new(c, equal))),
        (None, _) if silicon => Some(most(SILICON_LEAK)),
        (None, _) => None,
    }
}

/// What a member shows of a short or a break, by its readings alone.
fn dead(part: &TrayPart, policy: Option<&Policy>) -> Option<Health> {
    let short = policy.map_or(10.0, |p| p.number_si(PolicyNumber::ShortOhms));
    match part.kind {
        PartKind::Diode => match part.read_free(ReadQuantity::ForwardVoltage)?.shown {
            Shown::Value { si } if si.abs() < SHORT_DROP => Some(Health::Shorted),
            Shown::Value { .. } => None,
            Shown::Overrange { .. } => Some(Health::Open),
        },
        PartKind::Resistor => {
            matches!(part.read_free(ReadQuantity::Resistance)?.shown, Shown::Overrange { .. })
                .then_some(Health::Open)
        }
        _ => {
            let ohms = part.read_free(ReadQuantity::LeakageResistance)?.ohms()?;
            (ohms.ohms() < short).then_some(Health::Shorted)
        }
    }
}

/// The place of a member, with what its own readings say of its health.
fn place(tray: &Tray, bank: &Bank, member: Member, policy: Option<&Policy>) -> Option<Place> {
    let part = tray.part(member.part)?;
    let equal = bank.volts.abs() / bank.members.len().max(1) as f64;
    let farads = span(part, Farad::computed).filter(|_| bank.kind == BankKind::Capacitors);
    let family = part.fitting().map_or(part.family, |f| f.piece.family);
    let electrolytic = match family {
        Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum)) => true,
        Some(_) => false,
        None => farads.is_some_and(|f| f.is > LARGEST_OTHER),
    };
    let lies_across = match bank.kind {
        BankKind::Resistors => across(tray, part, policy),
        BankKind::Capacitors | BankKind::Diodes => {
            member.across.and_then(|id| tray.part(id)).and_then(|r| across(tray, r, policy))
        }
    };
    let body = || lies_across.as_ref().and_then(|a| a.body);
    let judged = policy.map_or(Health::Well, |p| health(tray, part, p));
    Some(Place {
        name: part.name.clone(),
        health: dead(part, policy).unwrap_or(judged),
        marked: value_marked(part).map(Farad::computed).filter(|_| farads.is_some()),
        leak: leak(part, farads.map(|f| f.is), electrolytic, equal),
        rated: if bank.kind == BankKind::Resistors { body() } else { rated(part) },
        measured: part.read_free(usual(part.kind)).is_some() || value_read(part).is_some(),
        farads,
        across: lies_across,
        electrolytic,
    })
}

/// How a member is by its own verdict, or by what was decided.
fn health(tray: &Tray, part: &TrayPart, policy: &Policy) -> Health {
    let holds = decided(part).map(|d| d.decided);
    let call = holds.or_else(|| judged(tray, part, policy).verdict.map(|v| v.call));
    match call {
        Some(Outcome::Replace) => Health::Goes,
        _ if part.fitting().is_none() && goes(part) => Health::Goes,
        Some(Outcome::Watch) => Health::Tired,
        Some(Outcome::Keep) => Health::Well,
        Some(Outcome::MeasureAgain) | None => Health::Unsure,
    }
}

/// A bank judged as a set, with its places each judged by itself.
#[must_use]
pub fn judged_bank(tray: &Tray, bank: &Bank, policy: &Policy) -> (Vec<Place>, Judged) {
    let places: Vec<Place> =
        bank.members.iter().filter_map(|m| place(tray, bank, *m, Some(policy))).collect();
    let judged = judge(bank.kind, bank.volts, &places);
    (places, judged)
}

/// The volts that a part of a bank gets, at the most that is known; `None` for parts of none.
#[must_use]
pub fn volts_at(tray: &Tray, part: &TrayPart) -> Option<Volt> {
    let bank = tray.bank_of(part.id)?;
    // What goes is replaced by one of its mark: its own dead readings say nothing of what the next one gets.
    let all: Vec<Place> = bank
        .members
        .iter()
        .filter_map(|m| Some(Place { health: Health::Well, ..place(tray, bank, *m, None)? }))
        .collect();
    let at = bank.members.iter().position(|m| m.part == part.id || m.across == Some(part.id))?;
    let share = shares(bank.volts, &all).get(at).copied()?;
    let equal = bank.volts.abs() / bank.members.len().max(1) as f64;
    share.gets().or(Some(equal))
}

/// What stands across the whole of such a bank in a set of which so much is known; `None` where nothing says it.
#[must_use]
pub fn volts_of_the_set(kind: BankKind, set: &SetFacts, policy: &Policy) -> Option<Volt> {
    let winding = set.shared().get::<Volt>(Fact::Secondary);
    let peak = winding.map(|v| before_the_valves_draw(v, policy));
    match (kind, set.rectifier) {
        (BankKind::Resistors, _) => None,
        (BankKind::Capacitors, _) | (BankKind::Diodes, Some(Arrangement::Bridge)) => peak,
        (BankKind::Diodes, Some(Arrangement::HalfWave | Arrangement::FullWave) | None) => {
            peak.map(|v| v * 2.0)
        }
    }
}
