//! The one assessment of everything that goes in (rule R7): out of a drawer, bought, a network, or typed by hand. What
//! falls short goes in only when somebody says why, and where a part protects people not at all.

use super::NewPart;
use super::goes_in::{Objection, OfferError};
use crate::drawers::stock_test::passed;
use crate::drawers::{Lot, Piece};
use crate::part::PartKind;
use crate::quantity::{Quantity, Volt, Watt, format};
use crate::reading::usual;
use crate::say::{Tray as Said, understand};
use crate::substitute::{PieceFound, SubstituteError, Wanted};
use crate::transistor::Device;
use crate::verdict::Policy;

/// A piece of what goes in.
#[derive(Debug, Clone, PartialEq)]
pub enum OfferedPiece {
    /// Out of this lot.
    Lot(Box<Lot>),
    /// Bought for this, in words.
    Bought(String),
}

/// What goes in.
#[derive(Debug, Clone, Copy)]
pub struct GoingIn<'a> {
    /// What is said of it.
    pub offered: &'a NewPart,
    /// In words, as they were typed or proposed.
    pub words: &'a str,
    /// Its pieces in their order; none of what was typed by hand.
    pub pieces: &'a [OfferedPiece],
    /// How old stock was tested, as typed.
    pub test: &'a str,
    /// Why it goes in although it falls short; empty where nobody said.
    pub despite: &'a str,
}

/// Whether it may go in; says whether it does so only for the reason that was given.
///
/// # Errors
/// [`Objection`].
pub fn allowed(
    wanted: &Wanted,
    going: &GoingIn<'_>,
    policy: &Policy,
    types: &[Device],
) -> Result<bool, Objection> {
    tested(wanted, going, policy)?;
    let found = assess(wanted, going, policy, types)?;
    // A fuse protects from fire: a larger or a slower one goes in for no reason that anybody can give.
    let people = wanted.position.is_some_and(|p| p.protects_people()) || wanted.gone.kind() == PartKind::Fuse;
    if people && !found.short.is_empty() {
        return Err(Objection::Refused(found.short.join("; ")));
    }
    if going.despite.trim().is_empty() {
        if !found.short.is_empty() {
            return Err(Objection::Short(found.short.join("; ")));
        }
        if !found.unknown.is_empty() {
            return Err(Objection::Unknown(found.unknown.join("; ")));
        }
    }
    Ok(!found.short.is_empty() || !found.unknown.is_empty())
}

/// Old stock was tested.
fn tested(wanted: &Wanted, going: &GoingIn<'_>, policy: &Policy) -> Result<(), Objection> {
    for piece in going.pieces {
        let OfferedPiece::Lot(lot) = piece else { continue };
        if !lot.condition.needs_test() {
            continue;
        }
        let offered = going.offered;
        let piece = Piece {
            value_si: offered.value_si.or(lot.piece.value_si),
            tolerance: offered.tolerance.or(lot.piece.tolerance),
            ..lot.piece.clone()
        };
        let field = if piece.kind == PartKind::Resistor { "measured" } else { "test" };
        passed(&piece, offered.measured_si, wanted.position, &wanted.circuit, policy, going.test)
            .map_err(|why| Objection::Test { why, field })?;
    }
    Ok(())
}

/// What the rules say of all that goes in.
///
/// # Errors
/// [`SubstituteError`] where there is nothing to hold it against.
pub fn assess(
    wanted: &Wanted,
    going: &GoingIn<'_>,
    policy: &Policy,
    types: &[Device],
) -> Result<PieceFound, SubstituteError> {
    if wanted.sections.len() > 1 {
        return sections(wanted, going, policy, types);
    }
    let whole = match going.pieces {
        [OfferedPiece::Lot(lot)] => filled(lot.piece.clone(), going.offered),
        pieces if pieces.len() > 1 => filled(alike(pieces, going.offered.kind), going.offered),
        _ => filled(Piece::new(going.offered.kind), going.offered),
    };
    let printed = wanted.assess(&whole, policy, types)?;
    // What it measures stands in the place, not what is printed on it. Off by what is printed already: once is enough.
    let of = usual(going.offered.kind).quantity();
    let measured = going.offered.measured_si.filter(|_| going.offered.kind.quantity() == Some(of));
    let mut off = Vec::new();
    if let Some(si) = measured.filter(|_| printed.short.is_empty()) {
        let found = wanted.assess(&Piece { value_si: Some(si), ..whole }, policy, types)?;
        off.extend(found.short.into_iter().map(|s| format!("it measures {}: {s}", format::format(of, si))));
    }
    // A network that is proposed was assessed part by part, which says more than the whole can.
    let mut found = if proposed(wanted, going, policy, types)? { PieceFound::default() } else { printed };
    found.short.extend(off);
    Ok(found)
}

/// Whether it is one of the networks or sets that the rules themselves make of these pieces.
fn proposed(
    wanted: &Wanted,
    going: &GoingIn<'_>,
    policy: &Policy,
    types: &[Device],
) -> Result<bool, SubstituteError> {
    if going.pieces.len() < 2 {
        return Ok(false);
    }
    let mut lots: Vec<Lot> = Vec::new();
    for piece in going.pieces {
        if let OfferedPiece::Lot(lot) = piece
            && !lots.contains(lot)
        {
            lots.push((**lot).clone());
        }
    }
    let found = wanted.choose(policy, &lots, types)?;
    let words = |text: &str| text.chars().take(MOST_WORDS).collect::<String>();
    Ok(found
        .choices
        .iter()
        .any(|c| c.pieces.len() == going.pieces.len() && words(&c.description) == going.words))
}

/// The most characters of a description that are kept.
pub const MOST_WORDS: usize = 200;

/// Several pieces as one whole, as far as that follows without knowing how they are wired: alike ones share the watts
/// equally, whether in series or side by side.
fn alike(pieces: &[OfferedPiece], kind: PartKind) -> Piece {
    let mut all = pieces.iter().map(|p| match p {
        OfferedPiece::Lot(lot) => lot.piece.value_si.zip(lot.piece.watts),
        OfferedPiece::Bought(_) => None,
    });
    let first = all.next().flatten();
    let same = first.filter(|f| all.all(|p| p == Some(*f)));
    Piece { watts: same.map(|(_, w)| w * pieces.len() as f64), ..Piece::new(kind) }
}

/// A can: each of its sections is held against its own place.
fn sections(
    wanted: &Wanted,
    going: &GoingIn<'_>,
    policy: &Policy,
    types: &[Device],
) -> Result<PieceFound, SubstituteError> {
    if proposed(wanted, going, policy, types)? {
        return Ok(PieceFound::default());
    }
    let pieces: Option<Vec<Piece>> = if going.pieces.is_empty() {
        read_parts(PartKind::Capacitor, going.words)
    } else {
        going
            .pieces
            .iter()
            .map(|p| match p {
                OfferedPiece::Lot(lot) => Some(lot.piece.clone()),
                OfferedPiece::Bought(words) => first(PartKind::Capacitor, words),
            })
            .collect()
    };
    let mut all = PieceFound::default();
    match pieces {
        Some(pieces) if pieces.len() == wanted.sections.len() => {
            for (n, piece) in pieces.iter().enumerate() {
                let found = wanted.section(n).assess(piece, policy, types)?;
                let named = |text: String| format!("section {}: {text}", n + 1);
                all.short.extend(found.short.into_iter().map(named));
                all.unknown.extend(found.unknown.into_iter().map(named));
                all.cautions.extend(found.cautions);
            }
        }
        _ => {
            let values: Vec<String> = wanted.sections.iter().map(|s| s.capacitance.to_string()).collect();
            all.unknown.push(format!(
                "the can has {} sections, {}: say what goes in for each, with its volts, and + between them",
                values.len(),
                values.join(" and ")
            ));
        }
    }
    Ok(all)
}

/// The parts that words name: the sections of a can as it is printed, or parts with a plus between them.
fn read_parts(kind: PartKind, words: &str) -> Option<Vec<Piece>> {
    let words = words.rsplit_once(": ").map_or(words, |(_, w)| w);
    match read(kind, words) {
        Some(pieces) => Some(pieces),
        None => words.split(" + ").map(|text| first(kind, text)).collect(),
    }
}

fn first(kind: PartKind, words: &str) -> Option<Piece> {
    read(kind, words)?.into_iter().next()
}

/// What words say of a piece, section by section of a can; `None` where they name no value.
#[must_use]
pub fn read(kind: PartKind, words: &str) -> Option<Vec<Piece>> {
    // A comma between two things that are said is no decimal comma.
    let u = understand(&format!("{} {}", called(kind), words.replace(", ", " ")), &Said::default()).ok()?;
    let piece = Piece { family: u.said.family, ..Piece::new(kind) };
    if kind == PartKind::Resistor {
        let value_si = Some(u.mark.value?.ohms());
        return Some(vec![Piece { value_si, tolerance: u.mark.tolerance, watts: u.mark.power, ..piece }]);
    }
    let m = u.other?.meaning;
    let piece = Piece {
        family: piece.family.or(m.made),
        tolerance: m.tolerance_fraction(),
        watts: m.power,
        amperes: m.current,
        safety: m.safety,
        volts: m.rating.map(|r| r.volts),
        value_si: m.value.number().map(|(_, v)| v),
        type_number: m.type_number().unwrap_or_default().to_owned(),
        ..piece
    };
    if m.sections.len() > 1 {
        let of = |s: &crate::marking::Section| Piece {
            value_si: Some(s.capacitance.farads()),
            volts: s.rating.map(|r| r.volts).or(piece.volts),
            ..piece.clone()
        };
        return Some(m.sections.iter().map(of).collect());
    }
    Some(vec![piece])
}

/// What a piece has, and where that is not known what was said of it.
fn filled(piece: Piece, said: &NewPart) -> Piece {
    Piece {
        family: piece.family.or(said.family),
        value_si: piece.value_si.or(said.value_si),
        tolerance: piece.tolerance.or(said.tolerance),
        volts: piece.volts.or(said.volts),
        watts: piece.watts.or(said.power),
        safety: piece.safety.or(said.safety),
        type_number: if piece.type_number.is_empty() { said.type_number.clone() } else { piece.type_number },
        ..piece
    }
}

/// What a sentence calls a part of a kind of which only the kind counts.
fn called(kind: PartKind) -> &'static str {
    match kind {
        PartKind::Resistor => "R1",
        PartKind::Capacitor => "C1",
        PartKind::Coil => "L1",
        PartKind::Diode => "D1",
        PartKind::Lamp => "P1",
        PartKind::Transistor => "Q1",
        PartKind::Ic => "U1",
        PartKind::Valve => "V1",
        PartKind::Fuse => "F1",
        PartKind::Switch => "S1",
        PartKind::Loudspeaker => "LS1",
    }
}

/// Two values that are the same to the last figure that anybody writes.
const SAME: f64 = 1e-3;

/// Fills in what the words say and no field does.
///
/// # Errors
/// [`OfferError::TwoValues`] where words and field name two.
pub fn fill(offered: &mut NewPart, words: &str) -> Result<(), OfferError> {
    let Some(said) = read_parts(offered.kind, words).and_then(|p| p.into_iter().next()) else {
        return Ok(());
    };
    let two = [
        ("value", offered.kind.quantity(), said.value_si, offered.value_si),
        ("volts", Some(Quantity::Voltage), said.volts.map(Volt::volts), offered.volts.map(Volt::volts)),
        ("watts", Some(Quantity::Power), said.watts.map(Watt::watts), offered.power.map(Watt::watts)),
    ];
    for (field, quantity, words, typed) in two {
        if let (Some(q), Some(words), Some(typed)) = (quantity, words, typed)
            && (words / typed - 1.0).abs() > SAME
        {
            let text = |v| format::format(q, v).to_string();
            return Err(OfferError::TwoValues { field, words: text(words), typed: text(typed) });
        }
    }
    offered.value_si = offered.value_si.or(said.value_si);
    offered.tolerance = offered.tolerance.or(said.tolerance);
    offered.volts = offered.volts.or(said.volts);
    offered.power = offered.power.or(said.watts);
    offered.family = offered.family.or(said.family.filter(|f| f.suits(offered.kind)));
    offered.safety = offered.safety.or(said.safety);
    if offered.type_number.is_empty() {
        offered.type_number = said.type_number;
    }
    Ok(())
}
