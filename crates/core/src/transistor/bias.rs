//! The base divider after a change of material: silicon in germanium's place wants about 0.4 V more.

use super::device::{Device, Material};
use super::rule::{RuleNumber, number};
use crate::network::{Kind, Search, SearchError, Stock, Wanted, search};
use crate::quantity::Quantity;
use crate::quantity::format::format;

/// What becomes of the divider.
#[derive(Debug, Clone, PartialEq)]
pub struct NewDivider {
    /// Base volts from the divider before, volt.
    pub before_volts: f64,
    /// Base volts wanted, volt.
    pub wanted_volts: f64,
    /// What the lower resistor becomes, ohm, the upper one staying.
    pub lower_ohms: f64,
    /// What the upper resistor becomes instead, ohm, the lower one staying.
    pub upper_ohms: f64,
}

/// Volts by which the base has to be raised, and the sentence that says so; `None` where the material stays or is not
/// known.
#[must_use]
pub fn shift(old: &Device, new: &Device) -> Option<(f64, String)> {
    let by = number(RuleNumber::SiliconForGermanium);
    match (old.material?, new.material?) {
        (Material::Germanium, Material::Silicon) => Some((
            by,
            format!(
                "silicon in place of germanium: raise the base bias by about {by} V, or it stays cut off; the \
                 thermistor or diode of the bias changes with it"
            ),
        )),
        (Material::Silicon, Material::Germanium) => Some((
            -by,
            format!(
                "germanium in place of silicon: lower the base bias by about {by} V before power, or it runs away; it \
                 leaks with heat"
            ),
        )),
        (Material::Germanium, Material::Germanium) | (Material::Silicon, Material::Silicon) => None,
    }
}

/// The divider of `upper_ohms` and `lower_ohms` on `supply_volts`, raised by `shift_volts` at the base. The base's own
/// current is left out, as it was before.
///
/// V = supply × lower / (lower + upper); solved for the one that changes. `None` where no divider reaches it.
///
/// ```
/// use owl_core::transistor::bias::new_divider;
/// let d = new_divider(9.0, 47e3, 10e3, 0.4).expect("it reaches");
/// assert!((9.0 * d.lower_ohms / (d.lower_ohms + 47e3) - d.wanted_volts).abs() < 1e-9);
/// assert!(new_divider(9.0, 47e3, 10e3, 9.0).is_none());
/// ```
#[must_use]
pub fn new_divider(
    supply_volts: f64,
    upper_ohms: f64,
    lower_ohms: f64,
    shift_volts: f64,
) -> Option<NewDivider> {
    let before = supply_volts * lower_ohms / (lower_ohms + upper_ohms);
    let wanted = before + shift_volts;
    let inside = before.is_finite() && wanted > 0.0 && wanted < supply_volts * 0.999;
    inside.then(|| NewDivider {
        before_volts: before,
        wanted_volts: wanted,
        lower_ohms: upper_ohms * wanted / (supply_volts - wanted),
        upper_ohms: lower_ohms * (supply_volts - wanted) / wanted,
    })
}

/// The nearest networks of one and two parts of a stock that make `ohms`.
///
/// # Errors
/// As [`search`].
pub fn made_of(ohms: f64, stock: &[Stock]) -> Result<Search, SearchError> {
    let wanted = Wanted {
        kind: Kind::Resistor,
        target: ohms,
        within: None,
        max_parts: 2,
        pinned: None,
        drive: None,
        power: None,
        voltage: None,
        limit: 2,
    };
    search(&wanted, stock)
}

impl NewDivider {
    /// In a sentence.
    #[must_use]
    pub fn text(&self) -> String {
        format!(
            "the divider gives {} now, {} are wanted: {} below, or {} above",
            format(Quantity::Voltage, self.before_volts),
            format(Quantity::Voltage, self.wanted_volts),
            format(Quantity::Resistance, self.lower_ohms),
            format(Quantity::Resistance, self.upper_ohms)
        )
    }
}
