//! `POST /api/network/share`: what parts make together, and what each carries.

pub mod wire;

use std::collections::{BTreeMap, HashSet};

use axum::Json;
use owl_core::network::{Tree, shares, spread, worst_volts};

use self::wire::{NetworkNode, PartShare, ShareAnswer, ShareQuestion, ToleranceBody};
use crate::amount::{Amount, part_value};
use crate::body::Body;
use crate::combine::drive;
use crate::combine::string::{quantity, string_of};
use crate::error::ApiError;
use crate::judge::view::LimitsView;

/// The most parts of a network that is described.
const MOST_PARTS: usize = 200;
/// How deep a network may be nested.
const DEEPEST: usize = 20;

/// What a network is worth, what each part carries, and how far the whole may be off.
///
/// # Errors
/// 422 with the part to blame.
#[utoipa::path(post, path = "/api/network/share", tag = "tools", request_body = ShareQuestion, responses(
    (status = 200, body = ShareAnswer, description = "the whole and each part")))]
pub async fn share(Body(q): Body<ShareQuestion>) -> Result<Json<ShareAnswer>, ApiError> {
    let kind = q.kind;
    let mut leaves = Vec::new();
    let tree = tree(&q.network, "network", 0, &mut leaves)?;
    let drive = q.drive.as_ref().map(|d| drive(d, "drive")).transpose()?;
    let value = tree.value(kind);
    if !(value.is_finite() && value > 0.0) {
        return Err(ApiError::field("network", "these values are too far apart to be joined"));
    }
    let carried = shares(&tree, kind, drive);
    let tolerances: Option<Vec<_>> = leaves.iter().map(|l| l.tolerance).collect();
    let worst = drive.zip(tolerances.as_ref()).and_then(|(d, t)| worst_volts(&tree, kind, d, t));
    let mut parts = BTreeMap::new();
    for (i, (leaf, s)) in leaves.iter().zip(&carried).enumerate() {
        let most = worst.as_ref().and_then(|w| w.get(i)).copied();
        parts.insert(leaf.name.clone(), PartShare::of(s, kind, most));
    }
    let spread = tolerances.map(|t| spread(&tree, kind, &t));
    Ok(Json(ShareAnswer {
        value,
        shown: Amount::of(quantity(kind), value),
        expression: tree.expression(kind),
        parts,
        worst_case: spread.map(|s| LimitsView { low: s.low, high: s.high }),
        root_sum_square: spread.map(|s| s.root_sum_square),
        balancing: string_of(&tree, kind, drive),
    }))
}

struct Leaf {
    name: String,
    tolerance: Option<(f64, f64)>,
}

fn tree(node: &NetworkNode, at: &str, depth: usize, leaves: &mut Vec<Leaf>) -> Result<Tree, ApiError> {
    if depth > DEEPEST {
        return Err(ApiError::field(at, "that is nested too deeply"));
    }
    let several = |nodes: &[NetworkNode], name: &str, leaves: &mut Vec<Leaf>| {
        if nodes.is_empty() {
            return Err(ApiError::field(format!("{at}.{name}"), "at least one part is needed"));
        }
        nodes
            .iter()
            .enumerate()
            .map(|(i, n)| tree(n, &format!("{at}.{name}[{i}]"), depth + 1, leaves))
            .collect::<Result<Vec<_>, _>>()
    };
    match node {
        NetworkNode::Series { series } => several(series, "series", leaves).map(Tree::Series),
        NetworkNode::Parallel { parallel } => several(parallel, "parallel", leaves).map(Tree::Parallel),
        NetworkNode::Part(p) => {
            part_value(&format!("{at}.value"), p.value)?;
            let name = match p.name.as_deref().map(str::trim) {
                Some(name) if !name.is_empty() => name.chars().take(40).collect(),
                _ => format!("#{}", leaves.len() + 1),
            };
            let taken: HashSet<&str> = leaves.iter().map(|l| l.name.as_str()).collect();
            if taken.contains(name.as_str()) {
                return Err(ApiError::field(format!("{at}.ref"), format!("{name} stands there twice")));
            }
            if leaves.len() == MOST_PARTS {
                return Err(ApiError::field("network", format!("at most {MOST_PARTS} parts")));
            }
            leaves.push(Leaf { name, tolerance: p.tolerance.as_ref().map(|t| sides(t, at)).transpose()? });
            Ok(Tree::Part(p.value))
        }
    }
}

fn sides(t: &ToleranceBody, at: &str) -> Result<(f64, f64), ApiError> {
    let (minus, plus) = (t.minus.abs(), t.plus.abs());
    if minus < 1.0 && plus.is_finite() && plus < 100.0 {
        Ok((minus, plus))
    } else {
        Err(ApiError::field(format!("{at}.tolerance"), "a tolerance is between 0 and 1: 0.1 is 10 %"))
    }
}
