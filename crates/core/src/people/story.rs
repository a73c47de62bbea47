//! What somebody wrote, told in a line.

use crate::named::named;

named! {
    /// A kind of thing that people write.
    "kind of entry" Thing {
        /// A ticket.
        Ticket = "ticket",
        /// A part.
        Part = "part",
        /// A reading.
        Reading = "reading",
        /// A reading that is void.
        Strike = "strike",
        /// A decision.
        Decision = "decision",
        /// An answer to a contradiction.
        Explanation = "explanation",
        /// Readings between leads.
        JunctionTest = "junction_test",
        /// What hurt a part.
        Cause = "cause",
        /// What went in.
        Fitting = "fitting",
        /// What came out again.
        Withdrawal = "withdrawal",
        /// A change of the set.
        Change = "change",
        /// How the set is for it.
        Proof = "proof",
        /// A photo or file.
        Attachment = "attachment",
        /// A line of safety.
        SafetyTick = "safety_tick",
        /// A step of a first power-up.
        PowerUp = "power_up",
        /// A point of the chart.
        ChartPoint = "chart_point",
        /// A set of readings of the chart.
        ChartRun = "chart_run",
        /// Volts at a point.
        ChartReading = "chart_reading",
        /// A supply branch.
        Feed = "feed",
        /// A bank.
        Bank = "bank",
        /// A soak test.
        Soak = "soak",
        /// A look at a soak test.
        SoakCheck = "soak_check",
        /// A reforming run.
        ReformRun = "reform_run",
        /// Cautions that were read.
        Acknowledgement = "acknowledgement",
        /// A lot of the drawers.
        Lot = "lot",
        /// A lot to be matched.
        MatchLot = "match_lot",
        /// An inspection of what was bought.
        Inspection = "inspection",
        /// A type of the workshop's own.
        Device = "device",
        /// An instrument.
        Instrument = "instrument",
        /// A copy of a school.
        Policy = "policy",
        /// The workshop itself.
        Workshop = "workshop",
        /// Somebody of the workshop.
        Person = "person",
        /// A script's token.
        Token = "token",
    }
}

named! {
    /// What happened to an entry.
    "deed" Done {
        /// It is new.
        Added = "added",
        /// It is otherwise than before.
        Changed = "changed",
        /// It was taken back.
        Removed = "removed",
    }
}

/// What was done, in words; `detail` is what the entry says, empty where it is not there any more.
///
/// ```
/// use owl_core::people::story::{Done, Thing, told};
/// assert_eq!(told(Thing::Reading, Done::Added, "413 Ω, lifted"), "measured 413 Ω, lifted");
/// assert_eq!(told(Thing::Reading, Done::Removed, ""), "took a reading back");
/// ```
#[must_use]
pub fn told(thing: Thing, done: Done, detail: &str) -> String {
    use Thing as T;
    let what = match thing {
        T::Ticket => "ticket",
        T::Part => "part",
        T::Reading => "reading",
        T::Strike => "voided reading",
        T::Decision => "decision",
        T::Explanation => "answer to a contradiction",
        T::JunctionTest => "set of readings between leads",
        T::Cause => "answer to what hurt it",
        T::Fitting => "fitting",
        T::Withdrawal => "removal",
        T::Change => "change",
        T::Proof => "proof",
        T::Attachment => "photo or file",
        T::SafetyTick => "line of the safety list",
        T::PowerUp => "step of the first power-up",
        T::ChartPoint => "point of the voltage chart",
        T::ChartRun => "set of readings of the chart",
        T::ChartReading => "reading of the chart",
        T::Feed => "supply branch",
        T::Bank => "bank",
        T::Soak => "soak test",
        T::SoakCheck => "look at the soak test",
        T::ReformRun => "reforming run",
        T::Acknowledgement => "caution",
        T::Lot => "lot of the drawers",
        T::MatchLot => "lot to be matched",
        T::Inspection => "inspection",
        T::Device => "type of the workshop's own",
        T::Instrument => "instrument",
        T::Policy => "copy of a school",
        T::Workshop => "workshop",
        T::Person => "person",
        T::Token => "token",
    };
    let verb = match (thing, done) {
        (T::Reading, Done::Added) => Some("measured"),
        (T::Strike, Done::Added) => Some("voided a reading:"),
        (T::Decision, Done::Added) => Some("decided"),
        (T::Explanation, Done::Added) => Some("answered a contradiction:"),
        (T::Fitting, Done::Added) => Some("fitted"),
        (T::Withdrawal, Done::Added) => Some("took out again:"),
        (T::Change, Done::Added) => Some("began:"),
        (T::Proof, Done::Added) => Some("proved:"),
        (T::SafetyTick, Done::Added) => Some("ticked"),
        (T::PowerUp, Done::Added) => Some("brought up to"),
        (T::ChartReading, _) => Some("read the volts at"),
        _ => None,
    };
    if let Some(verb) = verb.filter(|_| !detail.is_empty()) {
        return format!("{verb} {detail}");
    }
    let article = if what.starts_with(['a', 'e', 'i', 'o', 'u']) { "an" } else { "a" };
    let named = if detail.is_empty() { String::new() } else { format!(": {detail}") };
    match done {
        Done::Added => format!("entered {article} {what}{named}"),
        Done::Changed => format!("changed {article} {what}{named}"),
        Done::Removed => format!("took {article} {what} back{named}"),
    }
}

/// Whose it is, in words.
///
/// ```
/// use owl_core::people::story::by;
/// assert_eq!(by("Maren Holt", "bench 2", Some("Odd Lunde")), "Maren Holt, bench 2, countersigned by Odd Lunde");
/// assert_eq!(by("", "this bench", None), "this bench");
/// ```
#[must_use]
pub fn by(person: &str, bench: &str, countersigned: Option<&str>) -> String {
    let mut out: Vec<String> =
        [person, bench].iter().filter(|t| !t.is_empty()).map(|t| (*t).to_owned()).collect();
    out.extend(countersigned.map(|c| format!("countersigned by {c}")));
    out.join(", ")
}
