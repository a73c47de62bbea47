//! Volts and currents as they are written beside each other in a set.

/// Volts as a meter shows them in a set: no millivolts beside a hundred volts.
#[must_use]
pub fn volts(v: f64) -> String {
    if v.abs() < 0.05 {
        return "0 V".to_owned();
    }
    let digits = if v.abs() < 100.0 { 1 } else { 0 };
    let text = format!("{v:.digits$}");
    format!("{} V", text.strip_suffix(".0").unwrap_or(&text)).replace('-', "−")
}

/// A load's current to two digits: it is worked out, not read.
#[must_use]
pub fn amperes(i: f64) -> String {
    use crate::quantity::Quantity;
    use crate::quantity::format::{CapacitanceStyle, format_as};
    format_as(Quantity::Current, i, 2, CapacitanceStyle::WithNano).to_string()
}
