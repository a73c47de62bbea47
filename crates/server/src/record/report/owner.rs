//! One page in plain words.

use owl_core::caution::{CautionAt, cautions};
use owl_core::part::PartKind;
use owl_core::proof::ProofOutcome;
use owl_core::reading::ReadQuantity;
use owl_core::set::SetClass;
use owl_core::verdict::Outcome;

use super::page::Page;
use super::{ReportData, day};
use crate::dialect::put;
use crate::tray::wire::PartView;

/// More lines than this would make a second page.
const MOST_LINES: usize = 14;

/// The page.
pub fn page(t: &ReportData) -> String {
    let mut p = Page::new(&t.ticket.name);
    let place = if t.workshop.place.is_empty() { String::new() } else { format!(", {}", t.workshop.place) };
    p.soft(&format!("{}{place} · {}", t.workshop.name, day(t.closing.closed_at.unwrap_or(t.today))));
    p.heading("What it came in for");
    p.line(&t.ticket.complaint);
    if !t.ticket.intake.wants.is_empty() {
        p.line(&format!("You wanted: {}", t.ticket.intake.wants));
    }
    p.heading("What was done, and why");
    let mut done: Vec<String> = t.parts.iter().filter_map(replaced).collect();
    done.extend(others(t));
    match done.len() {
        0 => p.line("Nothing was changed."),
        n if n > MOST_LINES => {
            let rest = n - MOST_LINES;
            done.truncate(MOST_LINES);
            done.push(format!("and {rest} more, each in the technician's record"));
            p.list(&done);
        }
        _ => p.list(&done),
    }
    let kept = t.parts.iter().filter(|x| decided(x) == Some(Outcome::Keep)).count();
    if kept > 0 {
        p.line(&format!(
            "{kept} further {} and stayed.",
            if kept == 1 { "part was found good" } else { "parts were found good" }
        ));
    }
    proven(&mut p, t);
    p.heading("What to watch");
    let watched: Vec<String> = t
        .parts
        .iter()
        .filter(|x| decided(x) == Some(Outcome::Watch))
        .map(|x| {
            format!("the {} {} is near its limit: have it measured again in a year", what(x), x.strip.name)
        })
        .collect();
    p.line(&t.closing.words);
    if watched.is_empty() && t.closing.words.is_empty() {
        p.line("Nothing in particular. Should it hum, smell or get hotter than it used to, switch it off and unplug it.");
    }
    p.list(&watched);
    p.heading("For your safety");
    p.list(&warnings(t.ticket.class.known).iter().map(|w| put(w)).collect::<Vec<_>>());
    p.done()
}

fn proven(p: &mut Page, t: &ReportData) {
    let Some(last) = t.closing.soaks.last() else { return };
    let well = last.checks.iter().filter(|c| c.well).count();
    p.heading("How it was tried");
    let seen = last.checks.last().map(|c| format!(" At the end: {}", c.seen)).unwrap_or_default();
    p.line(&format!(
        "It ran for {}, looked at {} times, {} of them without anything to note.{seen}",
        last.ran,
        last.checks.len(),
        if well == last.checks.len() { "all".to_owned() } else { well.to_string() }
    ));
}

fn decided(p: &PartView) -> Option<Outcome> {
    p.decision
        .as_ref()
        .filter(|d| d.stands && p.fittings.iter().all(|f| f.withdrawn_at.is_some()))
        .map(|d| d.decided)
}

/// A part in the owner's words: by its place, else by its kind.
fn what(p: &PartView) -> String {
    match p.strip.position {
        Some(position) => put(&format!("{position} {}", p.strip.kind)),
        None => p.strip.kind.to_string(),
    }
}

/// What went in for a part, and why the old one went.
fn replaced(p: &PartView) -> Option<String> {
    let f = p.fittings.iter().rfind(|f| f.withdrawn_at.is_none())?;
    let why = plain(p).map(|w| format!(": {w}")).unwrap_or_default();
    // A set that stayed silent for another reason is no failure of what went in.
    let proven = match f.proof.as_ref().map(|x| x.outcome) {
        Some(ProofOutcome::Better) => "",
        Some(ProofOutcome::AsBefore) => " The fault itself lay elsewhere.",
        Some(ProofOutcome::Worse) => " The set was worse with it.",
        None => " It was not tried by itself.",
    };
    Some(format!("The {} {} was replaced by {}{why}.{proven}", what(p), p.strip.name, f.description))
}

/// Why a part went, without its sums.
fn plain(p: &PartView) -> Option<String> {
    let d = p.decision.as_ref();
    if let Some(d) = d.filter(|d| !d.why.is_empty()) {
        return Some(d.why.clone());
    }
    let old: Vec<_> = p.readings.iter().filter(|r| r.before_fitting && r.voided.is_none()).collect();
    let leaks = |q: ReadQuantity| {
        matches!(
            q,
            ReadQuantity::LeakageCurrent
                | ReadQuantity::LeakageResistance
                | ReadQuantity::LeakagePercent
                | ReadQuantity::LeakageEye
        )
    };
    let share = |q: ReadQuantity| {
        let read = old.iter().rfind(|r| r.quantity == q)?.measured.as_ref()?.value;
        let should = p.strip.marked.as_ref().or(p.strip.sheet.as_ref())?.value;
        (should > 0.0).then(|| read / should - 1.0)
    };
    let said = match p.strip.kind {
        PartKind::Resistor if old.last().is_some_and(|r| r.overrange) => Some("it had opened".to_owned()),
        PartKind::Resistor => share(ReadQuantity::Resistance)
            .map(|off| format!("it had drifted to {:.1} times its value", 1.0 + off)),
        PartKind::Capacitor if old.iter().any(|r| leaks(r.quantity)) => Some("it leaked".to_owned()),
        PartKind::Capacitor if share(ReadQuantity::Capacitance).is_some_and(|off| off < -0.2) => {
            Some("it had lost most of what it should hold".to_owned())
        }
        _ => None,
    };
    let known = p.family_known.as_ref().filter(|f| f.known_bad);
    said.or_else(|| known.map(|_| "parts of its kind fail with age".to_owned()))
        .or_else(|| d.and_then(|d| d.reasons.first()).map(|r| put(&r.text)))
}

fn others(t: &ReportData) -> impl Iterator<Item = String> {
    use owl_core::change::ChangeKind;
    t.changes
        .changes
        .iter()
        .filter(|c| !matches!(c.kind, ChangeKind::Part | ChangeKind::Undo) && c.undone_at.is_none())
        .map(|c| format!("{}: {}.", upper(&c.kind.to_string()), c.what))
}

fn upper(word: &str) -> String {
    let mut c = word.chars();
    c.next().map(|f| f.to_uppercase().chain(c).collect()).unwrap_or_default()
}

/// What is said of a set whose frame may be live.
const LIVE: &str = "Its metal frame can be connected to the mains. Never use it with the back off, with bare knob shafts, or \
                    near water; do not connect anything to it that is not made for it.";

fn warnings(set: SetClass) -> Vec<String> {
    let mut all = Vec::new();
    if set.has_live_chassis() {
        all.push(LIVE.to_owned());
    }
    if set.is_high_voltage() {
        let kills = "It holds voltages that kill, also after it is switched off. It is opened by licensed people only.";
        all.push(kills.to_owned());
    } else if set.is_on_the_mains() && !set.has_live_chassis() {
        all.push("Keep the back on: some parts hold a charge after it is unplugged.".to_owned());
    }
    if set.has_batteries() {
        all.push("Take the batteries out when it is not used for a month.".to_owned());
    }
    if set.is_high_voltage() {
        all.extend(cautions(set, CautionAt::Prove).map(|c| c.text.clone()));
    }
    all.push("Do not fit a larger fuse. Local electrical codes come first.".to_owned());
    all
}
