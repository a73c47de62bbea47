//! What the simulated parts truly are, read from a file.

use serde::Deserialize;

/// A part as it truly is. What is not said does not play a part.
#[derive(Debug, Clone, Default, PartialEq, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub struct TruePart {
    /// The set that it comes from.
    pub set: String,
    /// Its name there.
    pub name: String,
    /// Resistance to direct current, in ohm: of a resistor, of a winding.
    pub ohms: Option<f64>,
    /// Whether it reads low while it is hot, as carbon composition does.
    pub composition: bool,
    /// What lies in parallel to it in the circuit, in ohm.
    pub neighbours_ohms: Option<f64>,
    /// Capacitance, in farad.
    pub farads: Option<f64>,
    /// Equivalent series resistance, in ohm.
    pub esr_ohms: f64,
    /// Insulation at a few volts, in ohm.
    pub low_leak_ohms: Option<f64>,
    /// Insulation at its working voltage, in ohm.
    pub leak_ohms: Option<f64>,
    /// The voltage from which it leaks as at work.
    pub leaks_from_volts: f64,
    /// Charge that is left in it.
    pub charge_volts: f64,
    /// Inductance, in henry.
    pub henries: Option<f64>,
    /// Share of its reactance that its losses add to its resistance with alternating current.
    pub core_loss: f64,
    /// Forward drop, in volt.
    pub drop_volts: Option<f64>,
    /// Gain of a transistor.
    pub gain: Option<f64>,
    /// Base to emitter, in volt.
    pub base_volts: Option<f64>,
    /// Rated volts of an electrolytic that can be reformed, and its years idle.
    pub rated_volts: Option<f64>,
    /// Years idle.
    pub idle_years: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    #[serde(default)]
    part: Vec<TruePart>,
}

/// A file of parts that makes no sense.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum PartsError {
    /// Not TOML, or an unknown field.
    #[error("the file of parts cannot be read: {0}")]
    Unreadable(String),
    /// A value that cannot be.
    #[error("{part}: {field} must be above zero")]
    Value {
        /// Which part.
        part: String,
        /// Which value.
        field: &'static str,
    },
}

/// Reads a file of parts.
///
/// # Errors
/// [`PartsError`], naming the part.
pub fn read_parts(text: &str) -> Result<Vec<TruePart>, PartsError> {
    let file: File = toml::from_str(text).map_err(|e| PartsError::Unreadable(e.message().to_owned()))?;
    for p in &file.part {
        let positive = [
            ("ohms", p.ohms),
            ("neighbours_ohms", p.neighbours_ohms),
            ("farads", p.farads),
            ("low_leak_ohms", p.low_leak_ohms),
            ("leak_ohms", p.leak_ohms),
            ("henries", p.henries),
            ("rated_volts", p.rated_volts),
        ];
        if let Some((field, _)) = positive.iter().find(|(_, v)| v.is_some_and(|v| v <= 0.0 || !v.is_finite()))
        {
            return Err(PartsError::Value { part: format!("{}/{}", p.set, p.name), field });
        }
    }
    Ok(file.part)
}
