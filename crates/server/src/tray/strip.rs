//! A part as the tray shows it: a strip, with its three values and what it says in a word.

use owl_core::caution::Step;
use owl_core::marking::encode::bands;
use owl_core::marking::{Code, Colour, Scheme};
use owl_core::part::position::isolate;
use owl_core::part::{MadeOf, PartKind, Position, VisualSign};
use owl_core::quantity::{Ohm, Quantity};
use owl_core::reading::is_read_live;
use owl_core::say::sites;
use owl_core::site::Site;
use owl_core::tray::verdict::{Judged, judged, measured, overloaded};
use owl_core::tray::{Status, TrayPart, question};
use owl_core::verdict::{Outcome, Policy};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::load::Loaded;
use super::uuid;
use crate::amount::Amount;
use crate::error::ApiError;
use crate::table::part::PartRow;

/// A part on the tray.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct StripView {
    /// Its id.
    pub id: Uuid,
    /// Rises with everything that happens to it.
    pub version: i32,
    /// Its name on the sheet.
    pub name: String,
    /// What it is.
    pub kind: PartKind,
    /// How it is made, where that is known.
    pub family: Option<MadeOf>,
    /// Where it sits.
    pub position: Option<Position>,
    /// Where it is found.
    pub place: String,
    /// What was seen on it.
    pub note: String,
    /// The others that it must agree with.
    pub group: Vec<PairView>,
    /// What is seen on it.
    pub looks: Vec<VisualSign>,
    /// How to free one end of it.
    #[serde(serialize_with = "crate::dialect::said")]
    pub isolate: String,
    /// Whether it is measured with the set on.
    pub read_live: bool,
    /// The bank that it is in series in, and its place there: `HT bank, 3 of 8`.
    pub bank: Option<String>,
    /// The part with which it may have died.
    pub suspect_of: Option<PairView>,
    /// The type number that was read on it or fitted.
    pub type_number: Option<String>,
    /// What the sheet says.
    pub sheet: Option<Amount>,
    /// What is marked on it.
    pub marked: Option<Amount>,
    /// A winding's resistance by the sheet.
    pub winding: Option<Amount>,
    /// What was read last of what sits there, or what it measured before it went in; null beyond the meter's range.
    pub reads: Option<Amount>,
    /// Whether that was beyond the meter's range.
    pub beyond: bool,
    /// How its colours were read; null for printed markings.
    pub scheme: Option<Scheme>,
    /// The code that its marking is read by.
    pub code: Option<Code>,
    /// Whether it is a can with sections.
    pub can: bool,
    /// Where it lies on the tray: strips are ordered by this text.
    pub order: String,
    /// The valve that it hangs on first: `V3`.
    pub valve: Option<String>,
    /// Where it lies on a tray that is gone through valve by valve and pin by pin.
    pub valve_order: String,
    /// What is printed on a part without bands, line by line.
    pub print: Vec<String>,
    /// Its bands, or those that it would have.
    pub bands: Vec<Colour>,
    /// What it says in a word: the decision that holds, else the verdict; null where nothing was judged.
    pub says: Option<Outcome>,
    /// The verdict on what sits there.
    pub verdict: Option<Outcome>,
    /// Whether it is among those that are still to be measured.
    pub to_measure: bool,
    /// The question what overloaded it, while nobody has answered it.
    #[serde(serialize_with = "crate::dialect::said")]
    pub cause_question: Option<String>,
    /// The question about values that disagree, while nobody has answered it.
    #[serde(serialize_with = "crate::dialect::said")]
    pub value_question: Option<String>,
    /// How much it needs a hand, for a tray with the worst first: the more, the sooner.
    pub urgency: u8,
    /// How far it has come.
    pub status: Status,
    /// The step that is next.
    pub step: Step,
    /// The steps that there are for such a part.
    pub steps: Vec<Step>,
    /// The steps that it has behind it.
    pub done: Vec<Step>,
}

/// Another part of a pair or group, or a feed.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PairView {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
}

impl PairView {
    /// A part of the tray.
    #[must_use]
    pub fn of(part: &TrayPart) -> Self {
        Self { id: uuid(part.id), name: part.name.clone() }
    }
}

/// From here on a tray is judged by all cores: below, starting a thread takes longer than the work.
const LONG_TRAY: usize = 60;

/// All parts of a tray as it shows them.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn strips(loaded: &Loaded, policy: &Policy) -> Result<Vec<StripView>, ApiError> {
    let of = |rows: &[PartRow]| -> Result<Vec<StripView>, ApiError> {
        rows.iter().map(|row| strip(row, loaded, policy)).collect()
    };
    let cores = std::thread::available_parallelism().map_or(1, usize::from).min(8);
    if loaded.parts.len() < LONG_TRAY || cores == 1 {
        return of(&loaded.parts);
    }
    let share = loaded.parts.len().div_ceil(cores);
    let judged: Vec<Result<Vec<StripView>, ApiError>> = std::thread::scope(|scope| {
        let threads: Vec<_> = loaded.parts.chunks(share).map(|rows| scope.spawn(|| of(rows))).collect();
        let panicked = |_| Err(ApiError::Internal("a thread that judges parts panicked".to_owned()));
        threads.into_iter().map(|t| t.join().unwrap_or_else(panicked)).collect()
    });
    let mut strips = Vec::with_capacity(loaded.parts.len());
    for part in judged {
        strips.extend(part?);
    }
    Ok(strips)
}

/// One part as the tray shows it.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn strip(row: &PartRow, loaded: &Loaded, policy: &Policy) -> Result<StripView, ApiError> {
    let part = loaded.part(row.id)?;
    Ok(strip_of(row, loaded, &judged(&loaded.tray, part, policy), policy))
}

/// One part that was judged, as the tray shows it.
#[must_use]
pub fn strip_of(row: &PartRow, loaded: &Loaded, judged: &Judged<'_>, policy: &Policy) -> StripView {
    let (tray, part) = (&loaded.tray, judged.part);
    let amount = |v: Option<f64>| part.kind.quantity().zip(v).map(|(q, v)| Amount::of(q, v));
    let read = measured(part);
    let places = sites(part.kind, &row.place, part.position);
    let site = places.first();
    // A valve stands at the head of what hangs on it.
    let own = (part.kind == PartKind::Valve).then_some(part.name.as_str());
    let open = loaded.causes(row.id).is_empty() && overloaded(tray, part, judged.verdict.as_ref(), policy);
    StripView {
        id: row.id,
        version: row.version,
        name: row.name.clone(),
        kind: part.kind,
        family: part.family,
        position: part.position,
        place: row.place.clone(),
        note: row.note.clone(),
        group: tray.others(part).map(PairView::of).collect(),
        looks: part.looks.to_vec(),
        isolate: isolate(part.kind, part.position, &row.place),
        read_live: is_read_live(part.kind),
        bank: loaded.tray.bank_of(part.id).and_then(|b| b.place_in_words(part.id)),
        suspect_of: part.suspect_of.and_then(|id| tray.part(id)).map(PairView::of),
        type_number: part.installed_type().map(str::to_owned),
        sheet: amount(row.sheet),
        marked: amount(row.marked),
        winding: row.winding.map(|v| Amount::of(Quantity::Resistance, v)),
        reads: read.and_then(|(q, v)| Some(Amount::of(q, v?))),
        beyond: read.is_some_and(|(_, v)| v.is_none()),
        scheme: part.mark.as_ref().and_then(|m| m.scheme),
        code: part.mark.as_ref().map(|m| m.code),
        can: part.mark.as_ref().is_some_and(|m| !m.sections.is_empty()),
        order: part.order_key(),
        valve: own.or_else(|| site?.valve_and_half().map(|(v, _)| v)).map(str::to_owned),
        valve_order: own.map_or_else(
            || site.map_or_else(|| "9".to_owned(), Site::order_key),
            Site::order_key_of_the_valve,
        ),
        print: print(part),
        bands: drawn(row, part),
        says: judged.says(),
        verdict: judged.verdict.as_ref().map(|v| v.call),
        to_measure: judged.to_measure(),
        cause_question: open.then(|| question::overload_question(part)),
        value_question: question::disagreement(part).map(|d| d.question),
        urgency: judged.status.progress.urgency(),
        status: judged.status.progress.status().0,
        step: judged.status.step,
        steps: judged.status.steps.to_vec(),
        done: judged.done().into_iter().collect(),
    }
}

/// The bands as they were seen, or as the mark would be banded.
fn drawn(row: &PartRow, part: &TrayPart) -> Vec<Colour> {
    let marked = part.marked_si.filter(|_| part.kind == PartKind::Resistor).and_then(|v| Ohm::new(v).ok());
    let banded = || marked.and_then(|v| bands(v, part.tolerance)).unwrap_or_default();
    if row.colours.is_empty() { banded() } else { row.colours.clone() }
}

/// What stands on a part without bands: its type, its sections, or its value and volts.
fn print(part: &TrayPart) -> Vec<String> {
    if let Some(t) = part.installed_type() {
        return vec![t.to_owned()];
    }
    let rating = part.mark.as_ref().and_then(|m| m.rating).map(|r| r.to_string());
    match &part.mark {
        Some(m) if !m.sections.is_empty() => {
            m.sections.iter().map(crate::decode::wire::section_text).collect()
        }
        _ => {
            let value = part.kind.quantity().zip(part.marked_si).map(|(q, v)| Amount::of(q, v));
            let value = value.map(|a| format!("{}{}", a.number, a.unit));
            value.into_iter().chain(rating).collect()
        }
    }
}
