//! Drawers as CSV: one row a lot, with a header; in any order of columns, UTF-8, comma.
//!
//! | column | holds |
//! |---|---|
//! | `id` | which lot; empty for a new one |
//! | `kind` | resistor, capacitor, coil, diode, lamp, transistor, integrated circuit |
//! | `family` | polyester, metal film, silicon …; may be empty |
//! | `type` | type number: 1N4007 |
//! | `value` | as people write it: 4k7, 0.047 µF, 6.3 V |
//! | `tolerance` | 5 % |
//! | `volts` `watts` `amperes` `winding` | 630 V, 0.6 W, 1 A, 210 Ω |
//! | `safety` | X1, X2, Y1, Y2 |
//! | `celsius` | 105 |
//! | `size` `leads` | 12 × 32 mm; axial, radial … |
//! | `count` | how many; 0 is an empty drawer |
//! | `place` | film binder, page 2 |
//! | `condition` | new; old stock, untested; old stock, tested; salvaged |
//! | `measured` | measured values of single pieces, with ; between |
//! | `price` | 0.45 |
//! | `low_water` | below this it is to be bought again |
//!
//! Only `kind`, `count` and a value or type are needed. Text that a spreadsheet would take for a formula, because it
//! begins with = + - or @, is refused.

use super::{Condition, Lot, Piece};
use crate::header::{Header, HeaderError};
use crate::named::Named;
use crate::part::{MadeOf, PartKind};
use crate::quantity::format::{CapacitanceStyle, format_as, percent};
use crate::quantity::parse::{self, EntryError};
use crate::quantity::{Ampere, Fraction, Ohm, Quantity, Volt, Watt};

/// The columns, in the order in which they are written.
pub const COLUMNS: [&str; 20] = [
    "id",
    "kind",
    "family",
    "type",
    "value",
    "tolerance",
    "volts",
    "watts",
    "amperes",
    "winding",
    "safety",
    "celsius",
    "size",
    "leads",
    "count",
    "place",
    "condition",
    "measured",
    "price",
    "low_water",
];

/// The most pieces of a lot.
pub const MOST_PIECES: u32 = 1_000_000;

/// Why a row is not taken.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum RowError {
    /// A field that cannot be read.
    #[error("{column}: {why}")]
    Field {
        /// Which.
        column: &'static str,
        /// What is wrong, in words.
        why: String,
    },
    /// Neither value nor type.
    #[error("value: a {0} needs a value or a type number")]
    NoValue(PartKind),
}

impl RowError {
    fn of(column: &'static str, why: impl std::fmt::Display) -> Self {
        Self::Field { column, why: why.to_string() }
    }

    /// The column to blame.
    #[must_use]
    pub fn column(&self) -> &'static str {
        match self {
            Self::Field { column, .. } => column,
            Self::NoValue(_) => "value",
        }
    }
}

/// Reads the first row.
///
/// # Errors
/// [`HeaderError`] for a column that is missing, unknown or there twice.
pub fn header<'a>(columns: impl IntoIterator<Item = &'a str>) -> Result<Header, HeaderError> {
    Header::of(columns, &COLUMNS, &["kind", "value", "count"])
}

/// A row as it was read: the lot, and its id as written.
#[derive(Debug, Clone, PartialEq)]
pub struct Row {
    /// Which lot it says it is; empty for a new one.
    pub id: String,
    /// The lot.
    pub lot: Lot,
}

/// Reads a row.
///
/// # Errors
/// [`RowError`] names the column and what is wrong with it.
pub fn read_row(header: &Header, row: &[&str]) -> Result<Row, RowError> {
    let get = |column| header.get(row, column);
    let text = |column: &'static str, most: usize| -> Result<String, RowError> {
        let t = get(column);
        if t.chars().count() > most {
            return Err(RowError::of(column, format!("at most {most} characters")));
        }
        if t.contains('\0') {
            return Err(RowError::of(column, "holds a sign that is no text"));
        }
        if t.starts_with(['=', '+', '-', '@']) {
            return Err(RowError::of(column, format!("a spreadsheet would take '{t}' for a formula")));
        }
        Ok(t.to_owned())
    };
    let kind: PartKind = get("kind").parse().map_err(|e| RowError::of("kind", e))?;
    let mut piece = Piece::new(kind);
    piece.family = named::<MadeOf>("family", get("family"))?;
    if let Some(f) = piece.family.filter(|f| !f.suits(kind)) {
        return Err(RowError::of("family", format!("'{}' is no family of a {kind}", f.name())));
    }
    piece.type_number = text("type", 40)?;
    piece.value_si = match (get("value"), kind.quantity()) {
        ("", _) => None,
        (v, Some(q)) => Some(above_zero("value", q, v)?),
        (_, None) => return Err(RowError::of("value", format!("a {kind} has a type number, not a value"))),
    };
    if piece.value_si.is_none() && piece.type_number.is_empty() {
        return Err(RowError::NoValue(kind));
    }
    let number = |column, q| match get(column) {
        "" => Ok(None),
        v => above_zero(column, q, v).map(Some),
    };
    piece.tolerance = number("tolerance", Quantity::Fraction)?.and_then(|t| Fraction::new(t).ok());
    if piece.tolerance.is_some_and(|t| t.fraction() >= 1.0) {
        return Err(RowError::of("tolerance", "a tolerance lies between 0 and 100 %"));
    }
    piece.volts = number("volts", Quantity::Voltage)?.and_then(|v| Volt::new(v).ok());
    piece.watts = number("watts", Quantity::Power)?.and_then(|v| Watt::new(v).ok());
    piece.amperes = number("amperes", Quantity::Current)?.and_then(|v| Ampere::new(v).ok());
    piece.winding = number("winding", Quantity::Resistance)?.and_then(|v| Ohm::new(v).ok());
    piece.safety = named("safety", get("safety"))?;
    if piece.safety.is_some() && kind != PartKind::Capacitor {
        return Err(RowError::of("safety", format!("a {kind} has no such class")));
    }
    piece.celsius = match get("celsius").trim_end_matches("°C").trim_end_matches('C').trim() {
        "" => None,
        c => Some(
            c.parse()
                .ok()
                .filter(|c| (-100.0..=1000.0).contains(c))
                .ok_or_else(|| RowError::of("celsius", format!("'{c}' is no temperature such as 105")))?,
        ),
    };
    piece.size = text("size", 60)?;
    piece.leads = named("leads", get("leads"))?;
    let count = whole("count", get("count"), None)?;
    let condition = named("condition", get("condition"))?.unwrap_or(Condition::New);
    let mut measured_si = Vec::new();
    for m in get("measured").split(';').map(str::trim).filter(|m| !m.is_empty()) {
        let q = kind
            .quantity()
            .ok_or_else(|| RowError::of("measured", format!("a {kind} has no value to measure")))?;
        measured_si.push(above_zero("measured", q, m)?);
    }
    if measured_si.len() > count as usize {
        return Err(RowError::of("measured", "more measured values than pieces"));
    }
    let low_water = match get("low_water") {
        "" => 0,
        w => whole("low_water", w, Some(0))?,
    };
    let place = text("place", 120)?;
    let price_hundredths = price(get("price"))?;
    let lot = Lot { piece, count, place, condition, measured_si, price_hundredths, low_water };
    Ok(Row { id: text("id", 60)?, lot })
}

fn named<T: Named>(column: &'static str, text: &str) -> Result<Option<T>, RowError> {
    if text.is_empty() { Ok(None) } else { T::from_name(text).map(Some).map_err(|e| RowError::of(column, e)) }
}

fn above_zero(column: &'static str, of: Quantity, text: &str) -> Result<f64, RowError> {
    match parse::best(of, text) {
        Ok(v) if v > 0.0 && v < 1e15 => Ok(v),
        Ok(_) => Err(RowError::of(column, format!("'{text}' is not above zero"))),
        Err(e @ EntryError::TooLong(_)) => Err(RowError::of(column, e)),
        Err(e) => Err(RowError::of(column, e)),
    }
}

fn whole(column: &'static str, text: &str, empty: Option<u32>) -> Result<u32, RowError> {
    match (text, empty) {
        ("", Some(n)) => Ok(n),
        ("", None) => Err(RowError::of(column, "says nothing; how many are there?")),
        (t, _) => {
            t.parse().ok().filter(|n| *n <= MOST_PIECES).ok_or_else(|| {
                RowError::of(column, format!("'{t}' is no whole number from 0 to {MOST_PIECES}"))
            })
        }
    }
}

/// `0.45` or `0,45` in hundredths.
fn price(text: &str) -> Result<Option<u32>, RowError> {
    if text.is_empty() {
        return Ok(None);
    }
    let wrong = || RowError::of("price", format!("'{text}' is no price such as 0.45"));
    let (whole, part) = text.split_once(['.', ',']).unwrap_or((text, ""));
    let digits = |t: &str| t.chars().all(|c| c.is_ascii_digit());
    if part.len() > 2 || whole.len() > 7 || !digits(part) || !digits(whole) || text.len() < 2 && !digits(text)
    {
        return Err(wrong());
    }
    let number = |t: &str| if t.is_empty() { Ok(0) } else { t.parse::<u32>().map_err(|_| wrong()) };
    let hundredths = if part.len() == 1 { number(part)? * 10 } else { number(part)? };
    Ok(Some(number(whole)? * 100 + hundredths))
}

/// A price as it is written.
#[must_use]
pub fn price_text(hundredths: u32) -> String {
    format!("{}.{:02}", hundredths / 100, hundredths % 100)
}

/// A row as it is written, in the order of [`COLUMNS`]; read again it is the same lot.
#[must_use]
pub fn write_row(id: &str, lot: &Lot) -> Vec<String> {
    let p = &lot.piece;
    // Fifteen digits: what was read is written, whatever was typed.
    let exact = |q: Quantity, v: f64| format_as(q, v, 15, CapacitanceStyle::WithNano).to_string();
    let value = |v: f64| p.kind.quantity().map_or_else(String::new, |q| exact(q, v));
    let name = |n: Option<&'static str>| n.unwrap_or("").to_owned();
    vec![
        id.to_owned(),
        p.kind.name().to_owned(),
        name(p.family.map(Named::name)),
        p.type_number.clone(),
        p.value_si.map_or_else(String::new, value),
        p.tolerance.map_or_else(String::new, |t| percent(t.fraction())),
        p.volts.map_or_else(String::new, |v| exact(Quantity::Voltage, v.volts())),
        p.watts.map_or_else(String::new, |v| exact(Quantity::Power, v.watts())),
        p.amperes.map_or_else(String::new, |v| exact(Quantity::Current, v.amperes())),
        p.winding.map_or_else(String::new, |v| exact(Quantity::Resistance, v.ohms())),
        name(p.safety.map(Named::name)),
        p.celsius.map_or_else(String::new, |c| c.to_string()),
        p.size.clone(),
        name(p.leads.map(Named::name)),
        lot.count.to_string(),
        lot.place.clone(),
        lot.condition.name().to_owned(),
        lot.measured_si.iter().map(|m| value(*m)).collect::<Vec<_>>().join("; "),
        lot.price_hundredths.map_or_else(String::new, price_text),
        lot.low_water.to_string(),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_price_is_read_as_it_is_written() {
        for (text, hundredths) in [("0.45", 45), ("0,4", 40), ("12", 1200), (".05", 5), ("7.", 700)] {
            assert_eq!(price(text), Ok(Some(hundredths)), "{text}");
        }
        assert_eq!(price_text(1205), "12.05");
        for wrong in ["1.234", "-1", "free", ".", "1e3", "99999999"] {
            assert!(price(wrong).is_err(), "{wrong}");
        }
    }
}
