//! At which current two gains are compared.

use crate::transistor::device::Device;

/// The current at which gain is compared: as said, between the two that are quoted, or the one that is.
pub(super) fn common_current(said: Option<f64>, wanted: &Device, d: &Device) -> Option<f64> {
    said.or_else(|| match (wanted.gain_at_amperes, d.gain_at_amperes) {
        (Some(a), Some(b)) => Some((a * b).sqrt()),
        (a, b) => a.or(b),
    })
}
