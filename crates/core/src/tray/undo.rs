//! What holds a fitting: whether it can still be proven or undone.

use super::{Fitting, Id, TrayPart};
use crate::proof::ProofOutcome;

/// Why a fitting stays as it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum Held {
    /// It was undone.
    #[error("this fitting was undone")]
    Undone,
    /// It was undone, and cannot be again.
    #[error("this fitting was undone already")]
    UndoneAlready,
    /// It was proven to work.
    #[error("this fitting was proven to work: what goes in now is another change")]
    Works,
    /// Something else was fitted there since.
    #[error("something else was fitted there since: undo that first")]
    Followed,
}

fn of(part: &TrayPart, fitting: Id) -> Option<(usize, &Fitting)> {
    part.fittings.iter().enumerate().find(|(_, f)| f.id == fitting)
}

/// Whether a fitting can be proven now: until the set was better for it, and not after it was undone. What left the set as
/// it was is proven anew once something else is mended.
///
/// # Errors
/// [`Held`]. A fitting that is not this part's is nobody's, and holds nothing.
pub fn may_prove(part: &TrayPart, fitting: Id) -> Result<(), Held> {
    match of(part, fitting) {
        Some((_, f)) if f.proof == Some(ProofOutcome::Better) => Err(Held::Works),
        Some((_, f)) if f.withdrawn_at.is_some() => Err(Held::Undone),
        _ => Ok(()),
    }
}

/// Whether a fitting can be undone now: the last one, and not when it was proven to work.
///
/// # Errors
/// [`Held`].
pub fn may_undo(part: &TrayPart, fitting: Id) -> Result<(), Held> {
    let Some((at, f)) = of(part, fitting) else { return Ok(()) };
    if f.withdrawn_at.is_some() {
        return Err(Held::UndoneAlready);
    }
    if f.proof == Some(ProofOutcome::Better) {
        return Err(Held::Works);
    }
    if part.fittings.iter().skip(at + 1).any(|g| g.withdrawn_at.is_none()) {
        return Err(Held::Followed);
    }
    Ok(())
}
