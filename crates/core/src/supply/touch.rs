//! What flows through a person who touches what hangs on the line by a capacitor.

use super::{SupplyError, positive};
use crate::quantity::{Ampere, Farad, Hertz, Volt};

/// The published limit for apparatus without earth, rms (memory: IEC 62368-1, 0.5 mA; older IEC 60065, 0.7 mA peak).
pub const LIMIT: Ampere = Ampere::computed(0.5e-3);

/// A current through a person.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Touch {
    /// Rms.
    pub current: Ampere,
    /// Whether it is within [`LIMIT`].
    pub within: bool,
    /// The greatest capacitance that stays within it.
    pub most: Farad,
}

/// 2πf·C·V, the person taken as no resistance at all.
///
/// # Errors
/// [`SupplyError`] for numbers that are not above zero.
pub fn touch(capacitance: Farad, line: Volt, frequency: Hertz) -> Result<Touch, SupplyError> {
    let (f, line) = (positive("frequency", frequency)?, positive("line", line)?);
    let current = line / positive("capacitance", capacitance)?.reactance(f);
    Ok(Touch { current, within: current <= LIMIT, most: capacitance * (LIMIT / current) })
}
