//! Pairs and quads out of a lot: `POST /api/transistors/pairs`.

use axum::Json;
use owl_core::part::Material;
use owl_core::transistor::circuit::Stage;
use owl_core::transistor::fellows::{Compared, Fellowship, Shared, compare};
use owl_core::transistor::pairs::{
    Group, GroupSize, Grouped, MOST_EXACT, MOST_PIECES, PairError, Piece, best_pair, pairs_while, quads_while,
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::aside::{AT_ONCE, Asker, search};
use crate::body::Body;
use crate::error::ApiError;
use owl_core::quantity::Quantity;
use owl_core::quantity::format::percent;

/// A lot to be paired.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PairsQuestion {
    /// The pieces.
    #[schema(min_items = 2, max_items = 500)]
    pub transistors: Vec<PieceBody>,
    /// How many pairs; null pairs everything, with one left over of an odd lot.
    #[schema(minimum = 1)]
    pub count: Option<usize>,
    /// Pairs where it does not say.
    pub size: Option<GroupSize>,
    /// The stage that they are for.
    pub stage: Option<PairStage>,
}

/// A piece.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct PieceBody {
    /// What it is called.
    #[schema(min_length = 1, max_length = 40)]
    pub id: String,
    /// Its gain.
    #[schema(exclusive_minimum = 0)]
    pub hfe: f64,
    /// Base to emitter, volt.
    #[schema(minimum = 0, maximum = 5)]
    pub vbe: f64,
}

/// The stage that a pair is for; null is not known.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
pub struct PairStage {
    /// What the stage does.
    pub stage: Option<Stage>,
    /// What both are made of.
    pub material: Option<Material>,
    /// At which collector current the base volts were measured, ampere.
    #[schema(exclusive_minimum = 0)]
    pub test_current: Option<f64>,
    /// The resistor under each emitter, ohm; 0 for none.
    #[schema(minimum = 0)]
    pub emitter_resistor: Option<f64>,
    /// The quiescent current of each, ampere.
    #[schema(exclusive_minimum = 0)]
    pub idle_current: Option<f64>,
}

/// The pairs.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PairsAnswer {
    /// The nearest first.
    pub pairs: Vec<MatchedPair>,
    /// The quads, where quads were asked for, the nearest first.
    pub quads: Vec<MatchedQuad>,
    /// The sum of their distances.
    pub total: f64,
    /// The one nearest pair of all.
    pub best: Option<MatchedPair>,
    /// What to take care of with heat.
    pub cares: Vec<String>,
    /// Pieces that are left over.
    pub left: Vec<String>,
    /// What is not as it was asked for.
    pub note: Option<String>,
}

/// Two that match.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MatchedPair {
    /// One.
    pub a: String,
    /// The other.
    pub b: String,
    /// How far they are apart: a tenth in gain is 1, and so are 10 mV.
    pub distance: f64,
    /// What they differ by, in words.
    pub text: String,
    /// Whether they go together in that stage.
    pub call: Fellowship,
    /// What the difference means there.
    #[serde(serialize_with = "crate::dialect::said")]
    pub means: Vec<String>,
    /// Their quiescent currents in the stage, where that was said.
    pub idle: Option<IdleView>,
}

/// Four that match.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MatchedQuad {
    /// Which.
    pub members: Vec<String>,
    /// The sum of their six distances.
    pub distance: f64,
}

/// Idle currents with both bases at one voltage.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct IdleView {
    /// Through the one.
    pub a: Amount,
    /// Through the other.
    pub b: Amount,
    /// Their difference as a share of the mean.
    pub mismatch: f64,
}

fn stage(s: &PairStage) -> Result<Shared, ApiError> {
    let checks = [
        ("stage.test_current", s.test_current.is_none_or(|i| i > 0.0 && i < 1e3)),
        ("stage.emitter_resistor", s.emitter_resistor.is_none_or(|r| (0.0..1e6).contains(&r))),
        ("stage.idle_current", s.idle_current.is_none_or(|i| i > 0.0 && i < 1e3)),
    ];
    match checks.iter().find(|(_, ok)| !ok) {
        Some((field, _)) => Err(ApiError::field(*field, "a value above zero is needed; a resistor may be 0")),
        None => Ok(Shared {
            stage: s.stage,
            material: s.material,
            emitter_ohms: s.emitter_resistor,
            idle_amperes: s.idle_current,
            test_amperes: s.test_current,
        }),
    }
}

/// The best pairs of a lot.
///
/// # Errors
/// 422 with the input to blame.
pub fn answer(q: &PairsQuestion, asker: &Asker) -> Result<PairsAnswer, ApiError> {
    let shared = q.stage.as_ref().map_or(Ok(Shared::default()), stage)?;
    let mut seen = std::collections::HashSet::new();
    for (i, t) in q.transistors.iter().enumerate().take(MOST_PIECES + 1) {
        if t.id.trim().is_empty() {
            return Err(ApiError::field(format!("transistors[{i}].id"), "each piece needs a name"));
        }
        if !seen.insert(t.id.trim().to_owned()) {
            return Err(ApiError::field(
                format!("transistors[{i}].id"),
                format!("'{}' stands there twice", t.id),
            ));
        }
    }
    let lot: Vec<Piece> = q.transistors.iter().map(|t| Piece { gain: t.hfe, base_volts: t.vbe }).collect();
    let refused = |e: PairError| match e {
        PairError::Piece(i) => {
            let t = &q.transistors[i - 1];
            let field = if t.hfe.is_finite() && t.hfe > 0.0 { "vbe" } else { "hfe" };
            ApiError::field(format!("transistors[{}].{field}", i - 1), e)
        }
        PairError::MorePairs { .. } | PairError::NoPairs => ApiError::field("count", e),
        PairError::TooMany(_) if q.count.is_some() => ApiError::field("count", e),
        PairError::TooFew(_) | PairError::TooMany(_) | PairError::FarTooMany(_) => {
            ApiError::field("transistors", e)
        }
    };
    let best = best_pair(&lot).map_err(refused)?;
    let quads_asked = q.size.is_some_and(|s| s == owl_core::transistor::pairs::GroupSize::Quads);
    let many = lot.len() > MOST_EXACT;
    let mut note = (many && q.count.is_none() && !quads_asked).then(|| {
        format!(
            "{} pieces: only the one best pair is looked for; up to {MOST_EXACT} are paired as a whole",
            lot.len()
        )
    });
    let go_on = &mut || asker.waits();
    let found = if quads_asked {
        quads_while(&lot, go_on).map_err(refused)?
    } else if note.is_some() {
        Grouped { groups: vec![best.clone()], complete: true }
    } else {
        pairs_while(&lot, q.count, go_on).map_err(refused)?
    };
    if !found.complete {
        note = Some(
            "the best that was found in the time: a lot so mixed can have a slightly better one".to_owned(),
        );
    }
    let groups = found.groups;
    let name = |i: usize| q.transistors[i].id.trim().to_owned();
    let used: Vec<usize> = groups.iter().flat_map(|g| g.members.clone()).collect();
    let left = if many { vec![] } else { (0..lot.len()).filter(|i| !used.contains(i)).map(name).collect() };
    let pair = |g: &Group| {
        let says = compare(lot[g.members[0]], lot[g.members[1]], true, &shared);
        matched(q, &lot, g, says)
    };
    let mut cares: Vec<String> = Vec::new();
    for g in groups.iter().filter(|_| !quads_asked) {
        let all = compare(lot[g.members[0]], lot[g.members[1]], true, &shared).cares;
        cares.extend(all.into_iter().filter(|c| !cares.contains(c)).collect::<Vec<_>>());
    }
    let total = groups.iter().map(|g| g.distance).sum();
    let quad = |g: &Group| MatchedQuad {
        members: g.members.iter().map(|i| name(*i)).collect(),
        distance: g.distance,
    };
    Ok(PairsAnswer {
        best: Some(pair(&best)),
        quads: if quads_asked { groups.iter().map(quad).collect() } else { vec![] },
        pairs: if quads_asked { vec![] } else { groups.iter().map(pair).collect() },
        total,
        cares,
        left,
        note,
    })
}

fn matched(q: &PairsQuestion, lot: &[Piece], g: &Group, says: Compared) -> MatchedPair {
    let (a, b) = (g.members[0], g.members[1]);
    let (pa, pb) = (lot[a], lot[b]);
    let gain = (pa.gain / pb.gain).max(pb.gain / pa.gain) - 1.0;
    let volts = (pa.base_volts - pb.base_volts).abs();
    MatchedPair {
        a: q.transistors[a].id.trim().to_owned(),
        b: q.transistors[b].id.trim().to_owned(),
        distance: g.distance,
        text: format!("gain {} apart, {:.0} mV", percent((gain * 1e3).round() / 1e3), volts * 1e3),
        call: says.call,
        means: says.means,
        idle: says.idle.map(|s| IdleView {
            a: Amount::of(Quantity::Current, s.a_amperes),
            b: Amount::of(Quantity::Current, s.b_amperes),
            mismatch: s.mismatch(),
        }),
    }
}

/// Pairs a lot: the least total distance of all ways to pair it.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/pairs", tag = "transistors", operation_id = "pair_transistors",
    request_body = PairsQuestion, responses((status = 200, body = PairsAnswer)))]
pub async fn pairs(Body(q): Body<PairsQuestion>) -> Result<Json<PairsAnswer>, ApiError> {
    Ok(Json(search(AT_ONCE, move |asker| answer(&q, asker)).await??))
}
