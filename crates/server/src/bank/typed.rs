//! A bank as it is told: its parts by their names, put on the tray where they do not lie there.

use owl_core::bank::names::{NamesError, in_legs, named_parts};
use owl_core::bank::{BankKind, MEMBERS};
use owl_core::part::{PartKind, Position};
use owl_core::quantity::Quantity;
use owl_core::tray::Tray;
use sqlx::PgConnection;
use uuid::Uuid;

use super::wire::BankBody;
use crate::amount::above_zero_below;
use crate::error::ApiError;
use crate::part::{checked_name, take_marking};
use crate::table::bank::{BankRow, MemberRow};
use crate::table::part::{PartRow, by_name, insert, update};
use crate::text::checked_text;
use crate::tray::id;

/// A bank as told, with its members, each of them on the tray.
///
/// # Errors
/// 422 with the input to blame.
pub async fn put_together(
    db: &mut PgConnection,
    tray: &Tray,
    ticket_id: Uuid,
    body: &BankBody,
) -> Result<(BankRow, Vec<MemberRow>), ApiError> {
    let kind = body.kind;
    let name = checked_text("name", &body.name, 60)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "say which one it is: HT bank, left leg of the bridge"));
    }
    let volts = above_zero_below("volts", Quantity::Voltage, Some(&body.volts), 1e6)?
        .ok_or_else(|| ApiError::field("volts", format!("say the {}", kind.volts_in_words())))?;
    let members = names("members", &body.members, kind.member())?;
    if !MEMBERS.contains(&members.len()) {
        return Err(ApiError::field(
            "members",
            format!("{} of them: a bank has {} to {}", members.len(), MEMBERS.start(), MEMBERS.end()),
        ));
    }
    let across = if kind.is_shared_by_resistors() {
        names("across", &body.across, PartKind::Resistor)?
    } else {
        vec![]
    };
    if !across.is_empty() && across.len() != members.len() {
        return Err(ApiError::field(
            "across",
            format!("{} resistors for {} members: one across each, or none", across.len(), members.len()),
        ));
    }
    let mut rows = Vec::with_capacity(members.len());
    for (i, member) in members.iter().enumerate() {
        let part_id = on_tray(db, tray, ticket_id, body, member, "members", &body.marking).await?;
        let across_id = match across.get(i) {
            Some(r) => Some(on_tray(db, tray, ticket_id, body, r, "across", &body.across_marking).await?),
            None => None,
        };
        rows.push(MemberRow { bank_id: body.id, part_id, across_id });
    }
    Ok((BankRow { id: body.id, ticket_id, name, kind, volts, version: 1 }, rows))
}

/// What is told as a bridge, leg by leg: each a string of its own with its share of the names.
///
/// # Errors
/// 422 with the input to blame.
pub fn legs(body: &BankBody) -> Result<Vec<BankBody>, ApiError> {
    let count = body.legs.unwrap_or(1);
    let wrong = |why: &str| Err(ApiError::field("legs", why));
    if count == 1 {
        return Ok(vec![body.clone()]);
    }
    if body.kind != BankKind::Diodes {
        return wrong("a bridge is made of diodes");
    }
    if body.version.is_some() {
        return wrong("it is put together already, each leg by itself");
    }
    let cut = |field: &str, text: &str, kind| {
        in_legs(&names(field, text, kind)?, count)
            .map_err(|e| ApiError::field(if e == NamesError::NoBridge { "legs" } else { field }, e))
    };
    let members = cut("members", &body.members, PartKind::Diode)?;
    let none = body.across.trim().is_empty() || !body.kind.is_shared_by_resistors();
    let across = if none { vec![vec![]; count] } else { cut("across", &body.across, PartKind::Resistor)? };
    let leg = |(i, (members, across)): (usize, (Vec<String>, Vec<String>))| BankBody {
        id: Uuid::from_u128(body.id.as_u128() ^ i as u128),
        name: format!("{}, leg {}", body.name.trim(), i + 1),
        members: members.join(" "),
        across: across.join(" "),
        legs: None,
        ..body.clone()
    };
    Ok(members.into_iter().zip(across).enumerate().map(leg).collect())
}

fn names(field: &str, text: &str, kind: PartKind) -> Result<Vec<String>, ApiError> {
    let text = checked_text(field, text, 400)?;
    named_parts(&text, kind).map_err(|e| ApiError::field(field, e))
}

/// A part of a bank by its name. One that lies on the tray keeps what is known of it, and is in no other bank; one that does
/// not is put there with what is marked on all of them.
async fn on_tray(
    db: &mut PgConnection,
    tray: &Tray,
    ticket_id: Uuid,
    body: &BankBody,
    name: &str,
    field: &str,
    marking: &str,
) -> Result<Uuid, ApiError> {
    if let Some(other) = tray.called(name).and_then(|p| tray.bank_of(p.id)).filter(|b| b.id != id(body.id)) {
        return Err(ApiError::field(field, format!("{name} is in {} already", other.name)));
    }
    let known = by_name(&mut *db, ticket_id, name).await?;
    let is_new = known.is_none();
    let checked = checked_name(name).map_err(|e| e.moved_to(field))?;
    let mut row = known.unwrap_or_else(|| PartRow::new(Uuid::now_v7(), ticket_id, &checked));
    if row.mark.is_none() && row.marked.is_none() && !marking.trim().is_empty() {
        let of = if field == "members" { "marking" } else { "across_marking" };
        take_marking(&mut row, marking).map_err(|e| e.moved_to(of))?;
    }
    row.position = row.position.or(match (field, body.kind) {
        ("across", BankKind::Capacitors) => Some(Position::Balancing),
        ("members", BankKind::Diodes) => Some(Position::Rectifier),
        _ => None,
    });
    if is_new {
        insert(&mut *db, &row).await?;
    } else {
        update(&mut *db, &row).await?;
    }
    Ok(row.id)
}
