//! The rows of a tray, read in one transaction, and the tray that they are.

use std::collections::HashMap;

use owl_core::marking::Meaning;
use owl_core::part::PartKind;
use owl_core::quantity::{Fraction, Ohm, Volt, Watt};
use owl_core::tray::bank::{Bank, Member};
use owl_core::tray::{Decision, Explained, Fitting, NewPart, TakenReading, TestedJunctions, Tray, TrayPart};
use sqlx::PgConnection;
use time::OffsetDateTime;
use uuid::Uuid;

use super::{id, moment};
use crate::error::ApiError;
use crate::table::bank::{BankRow, MemberRow};
use crate::table::cause::CauseRow;
use crate::table::decision::DecisionRow;
use crate::table::explanation::ExplanationRow;
use crate::table::fitting::FittingRow;
use crate::table::junction::JunctionRow;
use crate::table::part::{PartRow, parts_of, with_neighbours};
use crate::table::reading::ReadingRow;
use crate::table::{bank, cause, decision, device, explanation, fitting, junction, reading, ticket};

/// Rows of one kind, by their part, oldest first.
type ByPart<T> = HashMap<Uuid, Vec<T>>;

/// A tray, with the rows that it was made from: what was typed, when, and with what stands only in them.
#[derive(Debug, Clone, Default)]
pub struct Loaded {
    /// As the core knows it.
    pub tray: Tray,
    /// The parts' rows, in the same order.
    pub parts: Vec<PartRow>,
    readings: ByPart<ReadingRow>,
    decisions: ByPart<DecisionRow>,
    fittings: ByPart<FittingRow>,
    explanations: ByPart<ExplanationRow>,
    causes: ByPart<CauseRow>,
    junctions: ByPart<JunctionRow>,
}

fn of<T>(rows: &ByPart<T>, part: Uuid) -> &[T] {
    rows.get(&part).map_or(&[], Vec::as_slice)
}

impl Loaded {
    /// The row of a part.
    ///
    /// # Errors
    /// 404 where it is not on this tray.
    pub fn row(&self, part: Uuid) -> Result<&PartRow, ApiError> {
        self.parts.iter().find(|p| p.id == part).ok_or_else(|| ApiError::no_such("part"))
    }

    /// The readings of a part, the voided among them.
    #[must_use]
    pub fn readings(&self, part: Uuid) -> &[ReadingRow] {
        of(&self.readings, part)
    }

    /// The decisions on a part.
    #[must_use]
    pub fn decisions(&self, part: Uuid) -> &[DecisionRow] {
        of(&self.decisions, part)
    }

    /// What went in for a part, what was undone among it.
    #[must_use]
    pub fn fittings(&self, part: Uuid) -> &[FittingRow] {
        of(&self.fittings, part)
    }

    /// How disagreements on a part were explained.
    #[must_use]
    pub fn explanations(&self, part: Uuid) -> &[ExplanationRow] {
        of(&self.explanations, part)
    }

    /// What was said of why a part failed.
    #[must_use]
    pub fn causes(&self, part: Uuid) -> &[CauseRow] {
        of(&self.causes, part)
    }

    /// The tests of a part's junctions.
    #[must_use]
    pub fn junctions(&self, part: Uuid) -> &[JunctionRow] {
        of(&self.junctions, part)
    }

    /// A part as the core knows it.
    ///
    /// # Errors
    /// 404 where it is not on this tray.
    pub fn part(&self, part: Uuid) -> Result<&TrayPart, ApiError> {
        self.tray.part(id(part)).ok_or_else(|| ApiError::no_such("part"))
    }
}

/// A whole tray.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub async fn of_ticket(db: &mut PgConnection, ticket_id: Uuid) -> Result<Loaded, ApiError> {
    let parts = parts_of(&mut *db, ticket_id).await?;
    put_together(db, ticket_id, parts).await
}

/// A part with those of the tray on which it hangs and that hang on it: enough to judge it. What names the whole tray
/// (what could have overloaded it) wants [`of_ticket`].
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub async fn around(db: &mut PgConnection, part: Uuid) -> Result<Loaded, ApiError> {
    let parts = with_neighbours(&mut *db, part).await?;
    // A part that is gone has no neighbours either, and no ticket.
    let Some(ticket_id) = parts.first().map(|p| p.ticket_id) else { return Ok(Loaded::default()) };
    put_together(db, ticket_id, parts).await
}

async fn put_together(
    db: &mut PgConnection,
    ticket_id: Uuid,
    parts: Vec<PartRow>,
) -> Result<Loaded, ApiError> {
    let (set, line) = ticket::set_of(&mut *db, ticket_id).await?;
    let ids: Vec<Uuid> = parts.iter().map(|p| p.id).collect();
    let mut loaded = Loaded {
        readings: by_part(reading::of_parts(&mut *db, &ids).await?, |r| r.part_id),
        decisions: by_part(decision::of_parts(&mut *db, &ids).await?, |r| r.part_id),
        fittings: by_part(fitting::of_parts(&mut *db, &ids).await?, |r| r.part_id),
        explanations: by_part(explanation::of_parts(&mut *db, &ids).await?, |r| r.part_id),
        causes: by_part(cause::of_parts(&mut *db, &ids).await?, |r| r.part_id),
        ..Loaded::default()
    };
    let transistors = parts.iter().any(|p| p.kind == PartKind::Transistor);
    if transistors {
        loaded.junctions = by_part(junction::of_parts(&mut *db, &ids).await?, |r| r.part_id);
    }
    let this_year = OffsetDateTime::now_utc().year();
    let tray: Vec<TrayPart> =
        parts.iter().map(|row| tray_part(row, &loaded, this_year)).collect::<Result<_, _>>()?;
    let own_types = if transistors {
        let fitted =
            |p: &TrayPart| p.fittings.iter().map(|f| f.piece.type_number.clone()).collect::<Vec<_>>();
        let printed = |p: &TrayPart| p.type_number().map(str::to_owned);
        let types: Vec<String> = tray.iter().flat_map(|p| printed(p).into_iter().chain(fitted(p))).collect();
        device::called(&mut *db, &types).await?
    } else {
        vec![]
    };
    let banks = banks(bank::of_ticket(&mut *db, ticket_id).await?)?;
    loaded.tray = Tray::new(tray, own_types).in_set(set, optional(line, Volt::new)?).with_banks(banks);
    loaded.parts = parts;
    Ok(loaded)
}

/// The banks as the core knows them.
fn banks((banks, members): (Vec<BankRow>, Vec<MemberRow>)) -> Result<Vec<Bank>, ApiError> {
    let of = |b: &BankRow| members.iter().filter(|m| m.bank_id == b.id).map(member).collect();
    let bank = |b: &BankRow| {
        let volts = Volt::new(b.volts).map_err(corrupt)?;
        Ok(Bank { id: id(b.id), name: b.name.clone(), kind: b.kind, volts, members: of(b) })
    };
    banks.iter().map(bank).collect()
}

fn member(m: &MemberRow) -> Member {
    Member { part: id(m.part_id), across: m.across_id.map(id) }
}

fn by_part<T>(rows: Vec<T>, part: impl Fn(&T) -> Uuid) -> ByPart<T> {
    let mut out: ByPart<T> = HashMap::new();
    for row in rows {
        out.entry(part(&row)).or_default().push(row);
    }
    out
}

fn corrupt(e: impl std::fmt::Display) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
}

fn optional<T, E: std::fmt::Display>(
    value: Option<f64>,
    new: impl Fn(f64) -> Result<T, E>,
) -> Result<Option<T>, ApiError> {
    value.map(new).transpose().map_err(corrupt)
}

/// A part's row and all that happened to it, as the core knows it.
fn tray_part(row: &PartRow, loaded: &Loaded, this_year: i32) -> Result<TrayPart, ApiError> {
    Ok(TrayPart {
        id: id(row.id),
        name: row.name.clone(),
        kind: row.kind,
        family: row.family,
        position: row.position,
        place: row.place.clone(),
        group: row.group_id.map(id),
        fed_by: row.feed_id.map(id),
        suspect_of: row.suspect_of.map(id),
        roles: row.roles.as_ref().map(|r| r.0.clone()),
        looks: row.looks.clone(),
        said: row.facts.0.clone(),
        test_warm: row.test_warm,
        years: row.made.and_then(|y| u16::try_from(this_year - y).ok()),
        plates: row.plates.and_then(|n| u16::try_from(n).ok()),
        winding: optional(row.winding, Ohm::new)?,
        sheet_si: row.sheet,
        marked_si: row.marked,
        tolerance: optional(row.tolerance, Fraction::new)?,
        power: optional(row.watts, Watt::new)?,
        mark: mark(row)?,
        readings: loaded.readings(row.id).iter().map(taken).collect::<Result<_, _>>()?,
        decisions: loaded.decisions(row.id).iter().map(decided).collect(),
        fittings: loaded.fittings(row.id).iter().map(fitted).collect::<Result<_, _>>()?,
        explained: loaded.explanations(row.id).iter().map(explained).collect(),
        cause_said: !loaded.causes(row.id).is_empty(),
        junctions: loaded.junctions(row.id).iter().map(tested).collect::<Result<_, _>>()?,
    })
}

/// The accepted reading of a part's marking, whichever release wrote it.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn mark(row: &PartRow) -> Result<Option<Meaning>, ApiError> {
    row.mark.as_ref().map(|kept| Meaning::try_from(kept.0.clone()).map_err(corrupt)).transpose()
}

fn taken(r: &ReadingRow) -> Result<TakenReading, ApiError> {
    Ok(TakenReading {
        id: id(r.id),
        reading: r.reading()?,
        taken_at: moment(r.taken_at),
        voided_at: r.voided_at.map(moment),
    })
}

fn decided(d: &DecisionRow) -> Decision {
    Decision { decided: d.decided, decided_at: moment(d.decided_at) }
}

fn fitted(f: &FittingRow) -> Result<Fitting, ApiError> {
    let piece = NewPart {
        kind: f.kind,
        family: f.family,
        value_si: f.value,
        tolerance: optional(f.tolerance, Fraction::new)?,
        power: optional(f.watts, Watt::new)?,
        volts: optional(f.volts, Volt::new)?,
        type_number: f.type_number.clone(),
        safety: f.safety,
        measured_si: f.measured,
    };
    Ok(Fitting {
        id: id(f.id),
        piece,
        fitted_at: moment(f.fitted_at),
        proof: f.outcome,
        withdrawn_at: f.withdrawn_at.map(moment),
    })
}

fn explained(e: &ExplanationRow) -> Explained {
    Explained { between: e.pair, sheet_si: e.sheet, marked_si: e.marked, measured_si: e.measured }
}

fn tested(j: &JunctionRow) -> Result<TestedJunctions, ApiError> {
    Ok(TestedJunctions { test: crate::transistor::junction_view::test_of(j)?, taken_at: moment(j.taken_at) })
}
