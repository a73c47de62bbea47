//! Transistors of the user's own as CSV: one row a type, with a header; columns in any order, UTF-8, comma.
//!
//! | column | holds |
//! |---|---|
//! | `type` | type number |
//! | `kind` | bipolar, darlington, jfet, mosfet |
//! | `polarity` | npn, pnp, n-channel, p-channel |
//! | `material` | germanium, silicon; may be empty |
//! | `vcbo` `vceo` `vebo` | 45 V; of field-effect types drain to gate, drain to source, gate to source |
//! | `vcer` | 40 V: collector to emitter with a resistor at the base, where that is what is registered |
//! | `ic` | 0.5 A |
//! | `p` `p_ref` `p_at` | 0.8 W; ambient or case; 25 (°C) |
//! | `tj` `rth` | 150 (°C); 10 (K/W) |
//! | `hfe_min` `hfe_max` `hfe_ic` `hfe_vce` | 60; 200; 2 mA; 5 V |
//! | `ft` `cob` | 80 MHz; 4 pF |
//! | `idss_min` `idss_max` `gfs` | 2 mA; 6 mA; 3 (mA per volt) |
//! | `package` `pinout` `case` | TO-18; EBC; collector, insulated … |
//! | `leads_vary` | yes where makers have it with the leads in another order; otherwise no or empty |
//! | `use` `sure` `source` | usual use; sure, fair, doubtful; where the row comes from |
//!
//! Only `type`, `kind` and `polarity` are needed; what is empty is unknown. Text that a spreadsheet would take for a
//! formula is refused.

use super::device::{Device, Sure};
use crate::header::{Header, HeaderError};
use crate::named::Named;
use crate::quantity::format::{CapacitanceStyle, format_as};
use crate::quantity::{Quantity, parse};
use crate::source::Source;

/// The columns, in the order in which they are written.
pub const COLUMNS: [&str; 30] = [
    "type",
    "kind",
    "polarity",
    "material",
    "vcbo",
    "vceo",
    "vcer",
    "vebo",
    "ic",
    "p",
    "p_ref",
    "p_at",
    "tj",
    "rth",
    "hfe_min",
    "hfe_max",
    "hfe_ic",
    "hfe_vce",
    "ft",
    "cob",
    "idss_min",
    "idss_max",
    "gfs",
    "package",
    "pinout",
    "leads_vary",
    "case",
    "use",
    "sure",
    "source",
];

/// Why a row is not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{column}: {why}")]
pub struct RowError {
    /// Which column.
    pub column: &'static str,
    /// What is wrong, in words.
    pub why: String,
}

impl RowError {
    fn of(column: &'static str, why: impl std::fmt::Display) -> Self {
        Self { column, why: why.to_string() }
    }
}

/// Reads the first row.
///
/// # Errors
/// [`HeaderError`] for a column that is missing, unknown or there twice.
pub fn header<'a>(columns: impl IntoIterator<Item = &'a str>) -> Result<Header, HeaderError> {
    Header::of(columns, &COLUMNS, &["type", "kind", "polarity"])
}

/// Reads a row.
///
/// # Errors
/// [`RowError`] names the column and what is wrong with it.
pub fn read_row(header: &Header, row: &[&str]) -> Result<Device, RowError> {
    read_fields(|column| header.get(row, column))
}

/// Reads a type from its columns' texts, as a form sends them.
///
/// # Errors
/// [`RowError`] names the column and what is wrong with it.
pub fn read_fields<'a>(get: impl Fn(&'static str) -> &'a str) -> Result<Device, RowError> {
    let text = |column: &'static str, most: usize| -> Result<String, RowError> {
        let t = get(column).trim();
        if t.chars().count() > most {
            return Err(RowError::of(column, format!("at most {most} characters")));
        }
        if t.chars().any(char::is_control) {
            return Err(RowError::of(column, "holds a sign that is no text"));
        }
        if t.starts_with(['=', '+', '-', '@']) {
            return Err(RowError::of(column, format!("a spreadsheet would take '{t}' for a formula")));
        }
        Ok(t.to_owned())
    };
    let amount = |column: &'static str, q: Quantity, most: f64| above_zero(column, q, get(column), most);
    let number = |column: &'static str, low: f64, high: f64| plain(column, get(column), low, high);
    let type_number = text("type", 20)?;
    if type_number.is_empty() {
        return Err(RowError::of("type", "a type number is needed"));
    }
    let kind = needed("kind", get("kind"))?;
    let polarity = needed("polarity", get("polarity"))?;
    let mut d = Device::unknown(kind, polarity);
    check_polarity(&d)?;
    d.type_number = type_number;
    d.material = named("material", get("material"))?;
    d.vcbo_volts = amount("vcbo", Quantity::Voltage, 1e5)?;
    d.vceo_volts = amount("vceo", Quantity::Voltage, 1e5)?;
    d.vcer_volts = amount("vcer", Quantity::Voltage, 1e5)?;
    d.vebo_volts = amount("vebo", Quantity::Voltage, 1e5)?;
    d.ic_amperes = amount("ic", Quantity::Current, 1e4)?;
    d.power_watts = amount("p", Quantity::Power, 1e5)?;
    d.power_reference = named("p_ref", get("p_ref"))?;
    d.power_at_celsius = number("p_at", -100.0, 300.0)?;
    d.junction_celsius = number("tj", 0.0, 400.0)?;
    d.rth_kelvin_per_watt = number("rth", 0.01, 5000.0)?;
    d.gain_min = number("hfe_min", 0.1, 1e6)?;
    d.gain_max = number("hfe_max", 0.1, 1e6)?;
    if let (Some(a), Some(b)) = (d.gain_min, d.gain_max)
        && a > b
    {
        return Err(RowError::of("hfe_max", format!("{b} is less than the least gain of {a}")));
    }
    d.gain_at_amperes = amount("hfe_ic", Quantity::Current, 1e4)?;
    // A gain at 0 V to the base is quoted for germanium output types: the collector on the base.
    d.gain_at_volts = match get("hfe_vce").trim() {
        "0" | "0 V" => Some(0.0),
        _ => amount("hfe_vce", Quantity::Voltage, 1e5)?,
    };
    d.ft_hertz = amount("ft", Quantity::Frequency, 1e12)?;
    d.cob_farads = amount("cob", Quantity::Capacitance, 1e-3)?;
    d.idss_min_amperes = amount("idss_min", Quantity::Current, 1e4)?;
    d.idss_max_amperes = amount("idss_max", Quantity::Current, 1e4)?;
    d.gfs_siemens = number("gfs", 0.001, 1e6)?.map(|ms| ms * 1e-3);
    d.package = text("package", 20)?;
    d.pinout = match get("pinout").trim() {
        "" => None,
        p => Some(p.parse().map_err(|e| RowError::of("pinout", e))?),
    };
    if let Some(p) = d.pinout {
        let base = p.leads().iter().any(|l| matches!(l.letter(), 'E' | 'B' | 'C'));
        if base != kind.has_base() {
            return Err(RowError::of("pinout", format!("{p} are not the leads of a {kind} type")));
        }
    }
    d.leads_vary = match get("leads_vary").trim() {
        "" | "no" => false,
        "yes" => true,
        other => return Err(RowError::of("leads_vary", format!("'{other}' is neither yes nor no"))),
    };
    d.case = named("case", get("case"))?;
    d.usual_use = text("use", 120)?;
    d.sure = named("sure", get("sure"))?.unwrap_or(Sure::Fair);
    d.source = match text("source", 200)?.as_str() {
        "" => Source::practice("entered by the workshop"),
        s => s.parse().unwrap_or_else(|_| Source::handbook(s)),
    };
    Ok(d)
}

fn check_polarity(d: &Device) -> Result<(), RowError> {
    use super::device::Polarity::{NChannel, Npn, PChannel, Pnp};
    let bipolar = match d.polarity {
        Npn | Pnp => true,
        NChannel | PChannel => false,
    };
    if bipolar == d.kind.has_base() {
        return Ok(());
    }
    let known = if d.kind.has_base() { "npn or pnp" } else { "n-channel or p-channel" };
    Err(RowError::of("polarity", format!("a {} type is {known}", d.kind)))
}

fn named<T: Named>(column: &'static str, text: &str) -> Result<Option<T>, RowError> {
    let text = text.trim();
    if text.is_empty() { Ok(None) } else { T::from_name(text).map(Some).map_err(|e| RowError::of(column, e)) }
}

fn needed<T: Named>(column: &'static str, text: &str) -> Result<T, RowError> {
    named(column, text)?.ok_or_else(|| {
        let known: Vec<&str> = T::ALL.iter().map(|m| m.name()).collect();
        RowError::of(column, format!("says nothing; one of: {}", known.join(", ")))
    })
}

fn above_zero(column: &'static str, of: Quantity, text: &str, most: f64) -> Result<Option<f64>, RowError> {
    let text = text.trim();
    if text.is_empty() {
        return Ok(None);
    }
    match parse::best(of, text) {
        Ok(v) if v > 0.0 && v < most => Ok(Some(v)),
        Ok(_) => {
            Err(RowError::of(column, format!("'{text}' cannot be: unknown is left empty, not written as 0")))
        }
        Err(e) => Err(RowError::of(column, e)),
    }
}

fn plain(column: &'static str, text: &str, low: f64, high: f64) -> Result<Option<f64>, RowError> {
    let text = text.trim();
    if text.is_empty() {
        return Ok(None);
    }
    let number = text.replace(',', ".").parse::<f64>().ok().filter(|v| (low..=high).contains(v));
    number.map(Some).ok_or_else(|| {
        RowError::of(column, format!("'{text}' is no number from {low} to {high}; unknown is left empty"))
    })
}

/// A type as it is written, in the order of [`COLUMNS`]; read again it is the same.
#[must_use]
pub fn write_row(d: &Device) -> Vec<String> {
    let exact = |q: Quantity, v: Option<f64>| {
        v.map_or_else(String::new, |v| format_as(q, v, 15, CapacitanceStyle::WithNano).to_string())
    };
    let number = |v: Option<f64>| v.map_or_else(String::new, |v| v.to_string());
    let name = |n: Option<&'static str>| n.unwrap_or("").to_owned();
    use Quantity::{Capacitance, Current, Frequency, Power, Voltage};
    vec![
        d.type_number.clone(),
        d.kind.name().to_owned(),
        d.polarity.name().to_owned(),
        name(d.material.map(Named::name)),
        exact(Voltage, d.vcbo_volts),
        exact(Voltage, d.vceo_volts),
        exact(Voltage, d.vcer_volts),
        exact(Voltage, d.vebo_volts),
        exact(Current, d.ic_amperes),
        exact(Power, d.power_watts),
        name(d.power_reference.map(Named::name)),
        number(d.power_at_celsius),
        number(d.junction_celsius),
        number(d.rth_kelvin_per_watt),
        number(d.gain_min),
        number(d.gain_max),
        exact(Current, d.gain_at_amperes),
        exact(Voltage, d.gain_at_volts),
        exact(Frequency, d.ft_hertz),
        exact(Capacitance, d.cob_farads),
        exact(Current, d.idss_min_amperes),
        exact(Current, d.idss_max_amperes),
        d.gfs_siemens.map_or_else(String::new, |g| ((g * 1e6).round() / 1e3).to_string()),
        d.package.clone(),
        d.pinout.map_or_else(String::new, |p| p.to_string()),
        if d.leads_vary { "yes" } else { "" }.to_owned(),
        name(d.case.map(Named::name)),
        d.usual_use.clone(),
        d.sure.name().to_owned(),
        format!("{}: {}", d.source.kind.name(), d.source.clause),
    ]
}
