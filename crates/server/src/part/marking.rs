//! What is marked on a part, put into its row: what was said, a reading that was chosen, or nothing any more.

use owl_core::marking::remark::{Marked, remarked};
use owl_core::marking::stored::StoredMark;
use owl_core::marking::{Colour, Meaning};
use owl_core::named::Named;
use owl_core::part::MadeOf;
use owl_core::quantity::{Fraction, Ohm, Watt};

use crate::error::ApiError;
use crate::table::part::PartRow;
use crate::tray::load::mark;

/// Sets the mark as it was said; bands and a reading that no longer belong to it go.
pub fn set_mark(row: &mut PartRow, value: Ohm, tolerance: Option<Fraction>, colours: &[Colour]) {
    row.marked = Some(value.ohms());
    // Four bands with no tolerance say 20 % by saying nothing, which is what null means here.
    row.tolerance = tolerance.map(Fraction::fraction);
    row.colours = colours.to_vec();
    row.mark = None;
}

/// Puts a reading of the marking on the part.
///
/// # Errors
/// 422 for a reading of another kind of part, or of a link, which has no value to judge.
pub fn accept(row: &mut PartRow, m: &Meaning, typed: &str) -> Result<(), ApiError> {
    let kind = row.kind;
    if m.part != kind {
        let why = format!("that is the marking of a {}; {} is a {kind}", m.part, row.name);
        return Err(ApiError::field("marking", why));
    }
    let number = m.value.number().map(|(_, v)| v);
    if number == Some(0.0) {
        return Err(ApiError::field("marking", "zero ohm is a link, not a resistor with a value"));
    }
    row.marked = number;
    row.tolerance = m.tolerance_fraction().map(Fraction::fraction).filter(|t| *t > 0.0 && *t < 1.0);
    row.colours.clone_from(&m.colours);
    row.watts = m.power.map(Watt::watts).or(row.watts);
    if let Some(made) = m.made.filter(|made| made.kind() == kind) {
        row.family = Some(made);
    }
    row.marking = typed.replace('\0', "").trim().chars().take(200).collect();
    row.mark = Some(sqlx::types::Json(StoredMark::from(m)));
    Ok(())
}

/// Asks before a mark that was known becomes another, unless that was confirmed. `field` is where it was typed.
///
/// # Errors
/// [`ApiError::Ask`].
pub fn ask_if_remarked(was: &PartRow, now: &PartRow, confirmed: bool, field: &str) -> Result<(), ApiError> {
    let (before, after) = (mark(was)?, mark(now)?);
    let question = remarked(&was.name, was.kind, marked(was, before.as_ref()), marked(now, after.as_ref()));
    match question {
        Some(question) if !confirmed => Err(ApiError::ask(question, field)),
        _ => Ok(()),
    }
}

fn marked<'a>(row: &PartRow, m: Option<&'a Meaning>) -> Marked<'a> {
    Marked { value_si: row.marked, type_number: m.and_then(Meaning::type_number) }
}

/// Takes the mark away.
pub fn unmark(row: &mut PartRow) {
    row.marked = None;
    row.tolerance = None;
    row.marking = String::new();
    row.colours = vec![];
    row.mark = None;
}

/// Sets how a part is made.
///
/// # Errors
/// 422 for a family of another kind of part.
pub fn set_family(row: &mut PartRow, family: MadeOf) -> Result<(), ApiError> {
    let kind = row.kind;
    if !family.suits(kind) {
        return Err(ApiError::field("family", format!("'{}' is no family of a {kind}", family.name())));
    }
    row.family = Some(family);
    Ok(())
}
