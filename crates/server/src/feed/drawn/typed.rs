//! A feed as it is told, and told again.

use owl_core::feed::sentence::{Told, named_apart, told, written};
use owl_core::feed::{Element, FeedKind, FeedPart, RAIL};
use owl_core::quantity::{Ampere, Farad, Fraction, Ohm, Quantity, Watt};
use uuid::Uuid;

use super::internal;
use super::wire::FeedBody;
use crate::amount::typed_optional;
use crate::error::ApiError;
use crate::table::chart::ChartRows;
use crate::table::feed::{FeedNodeRow, FeedPartRow, FeedRow};
use crate::text::checked_text;

/// A feed as told, with its parts and nodes.
///
/// # Errors
/// 422 with the line to blame.
pub fn typed(
    ticket_id: Uuid,
    body: &FeedBody,
    chart: &ChartRows,
    rails: &[(String, f64)],
) -> Result<(FeedRow, Vec<FeedPartRow>, Vec<FeedNodeRow>), ApiError> {
    let name = checked_text("name", &body.name, 60)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "say which feed it is: screens, B+ of the output stage"));
    }
    let volts = |field: &str, text: &str| {
        let v = typed_optional(Quantity::Voltage, Some(text)).map_err(|e| ApiError::field(field, e))?;
        match v {
            Some(v) if v.abs() >= 1e6 => {
                Err(ApiError::field(field, "those are more volts than any bench has"))
            }
            v => Ok(v),
        }
    };
    let rail = volts("rail", &body.rail)?
        .filter(|v| *v != 0.0)
        .ok_or_else(|| ApiError::field("rail", "say the volts of the rail by the sheet"))?;
    let rails = rails.iter().map(|(n, _)| n.clone());
    let known: Vec<String> = rails.clone().chain(chart.points.iter().map(|p| p.name.clone())).collect();
    // A rail of the set is that rail however it is typed.
    let as_rail = |node: &mut String| {
        if let Some(rail) = rails.clone().find(|r| r.eq_ignore_ascii_case(node)) {
            *node = rail;
        }
    };
    let text = checked_text("parts", &body.parts, 20_000)?;
    let mut all: Vec<Told> = Vec::new();
    let mut lines: Vec<usize> = Vec::new();
    for (i, line) in text.lines().enumerate().filter(|(_, l)| !l.trim().is_empty()) {
        let at = |why: String| ApiError::field("parts", format!("line {}: {why}", i + 1));
        let mut one = told(line, &known).map_err(|e| at(e.to_string()))?;
        as_rail(&mut one.part.a);
        as_rail(&mut one.part.b);
        for (what, text) in [("name", &one.part.name), ("node", &one.part.a), ("node", &one.part.b)] {
            if text.chars().count() > 40 {
                return Err(at(format!(
                    "the {what} '{}…' is too long",
                    text.chars().take(20).collect::<String>()
                )));
            }
        }
        if one.part.a == one.part.b {
            return Err(at(format!("both ends of {} are on the same node", one.part.name)));
        }
        all.push(one);
        lines.push(i);
    }
    named_apart(&mut all);
    for (n, t) in all.iter().enumerate() {
        let line = lines.get(n).map_or(0, |i| i + 1);
        if all[..n].iter().any(|o| o.part.name == t.part.name) {
            return Err(ApiError::field("parts", format!("line {line}: {} stands there twice", t.part.name)));
        }
        if t.part.name.chars().count() > 40 {
            return Err(ApiError::field("parts", format!("line {line}: the name of its node is too long")));
        }
    }
    if all.is_empty() {
        return Err(ApiError::field("parts", "say at least one part: R9 from rail to screen 3k3"));
    }
    if all.len() > owl_core::feed::MOST_PARTS {
        return Err(ApiError::field("parts", format!("at most {} parts", owl_core::feed::MOST_PARTS)));
    }
    let nodes = body
        .nodes
        .iter()
        .enumerate()
        .map(|(i, n)| {
            Ok(FeedNodeRow {
                feed_id: body.id,
                node: checked_text(&format!("nodes[{i}].node"), &n.node, 40)?,
                sheet: volts(&format!("nodes[{i}].sheet"), &n.sheet)?,
                measured: volts(&format!("nodes[{i}].measured"), &n.measured)?,
            })
        })
        .collect::<Result<Vec<_>, ApiError>>()?;
    // A node is kept as long as a part has an end there.
    let used = |n: &FeedNodeRow| {
        let here = |t: &Told| t.part.a == n.node || t.part.b == n.node || n.node == RAIL;
        (n.sheet.is_some() || n.measured.is_some()) && all.iter().any(here)
    };
    let mut kept: Vec<FeedNodeRow> = Vec::new();
    for n in nodes.into_iter().filter(used) {
        if kept.iter().all(|k| k.node != n.node) {
            kept.push(n);
        }
    }
    let row = FeedRow { id: body.id, ticket_id, name, rail, version: 1 };
    Ok((row, all.iter().map(|t| part_row(body.id, t)).collect(), kept))
}

fn part_row(feed_id: Uuid, t: &Told) -> FeedPartRow {
    let (value, as_ohms) = match t.part.element {
        Element::Resistor(r) => (Some(r.ohms()), false),
        Element::Resistance(r) => (Some(r.ohms()), true),
        Element::Capacitor(c) => (c.map(Farad::farads), false),
        Element::Current(a) => (t.valued.then(|| a.amperes()), false),
        Element::Contact => (None, false),
    };
    FeedPartRow {
        feed_id,
        name: t.part.name.clone(),
        kind: t.part.element.kind(),
        node_a: t.part.a.clone(),
        node_b: t.part.b.clone(),
        value,
        as_ohms,
        tolerance: t.part.tolerance.map(Fraction::fraction),
        rating: t.part.rating.map(Watt::watts),
    }
}

/// A stored part as it would be told.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn told_again(p: &FeedPartRow) -> Result<String, ApiError> {
    let kind = p.kind;
    let value = p.value.unwrap_or(0.0);
    let element = match kind {
        FeedKind::Resistor => Element::Resistor(Ohm::new(value).map_err(internal)?),
        FeedKind::Capacitor => Element::Capacitor(p.value.map(Farad::new).transpose().map_err(internal)?),
        FeedKind::Contact => Element::Contact,
        FeedKind::Load if p.as_ohms => Element::Resistance(Ohm::new(value).map_err(internal)?),
        FeedKind::Load => Element::Current(Ampere::new(value).map_err(internal)?),
    };
    let part = FeedPart {
        name: p.name.clone(),
        element,
        a: p.node_a.clone(),
        b: p.node_b.clone(),
        tolerance: p.tolerance.map(Fraction::new).transpose().map_err(internal)?,
        rating: p.rating.map(Watt::new).transpose().map_err(internal)?,
    };
    Ok(written(&part, p.value.is_some()))
}
