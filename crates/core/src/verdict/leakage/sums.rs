//! The sums of R4, public so that a circuit simulator can be asked whether they are right.

use crate::quantity::{Fraction, Ohm, Volt, Watt};

/// How far a coupling capacitor's leak lifts the grid: V · Rg / (Rg + Rleak).
///
/// ```
/// use owl_core::quantity::{Ohm, Volt};
/// use owl_core::verdict::leakage::grid_shift;
/// let shift = grid_shift(Volt::new(200.0).unwrap(), Ohm::new(1e6).unwrap(), Ohm::new(199e6).unwrap());
/// assert!((shift.volts() - 1.0).abs() < 1e-9);
/// ```
#[must_use]
pub fn grid_shift(across: Volt, grid_resistor: Ohm, leak: Ohm) -> Volt {
    across.divided(leak, grid_resistor)
}

/// How far a leak pulls down what is fed through a resistor: V · Rf / (Rf + Rleak), V being what stands there
/// without the leak. Exact where the load draws a constant current.
#[must_use]
pub fn feed_drop(across: Volt, feed: Ohm, leak: Ohm) -> Volt {
    across.divided(leak, feed)
}

/// What the feed dissipates with the leak: ((rail − V)/Rf + drop/Rf)² · Rf.
///
/// # Panics
/// For a feed of no ohms: it is no resistor.
#[must_use]
pub fn feed_power(rail: Volt, across: Volt, feed: Ohm, leak: Ohm) -> Watt {
    let over = (rail - across).max(Volt::ZERO) + feed_drop(across, feed, leak);
    over * (over / feed)
}

/// The share of the AVC voltage that a leak takes: Rs / (Rs + Rleak).
#[must_use]
pub fn avc_loss(source: Ohm, leak: Ohm) -> Fraction {
    source.share_beside(leak)
}
