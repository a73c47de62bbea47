//! How far each meaning of a marking is to be believed.
//!
//! Bayes: the prior of a meaning (is its value one that was made? was it read from the likely
//! end?) times the likelihood of the measurement and of the sheet's value if it were true. Both
//! errors are mixtures of a narrow and a wide Laplace distribution on a log scale, so that one
//! bad part or one misprint does not drag the marking to itself. All numbers are in
//! `data/weigh.csv`.

use std::sync::LazyLock;

use serde::Deserialize;

use super::Meaning;
use super::colour_bands::End;
use crate::named::named;
use crate::part::NO_BAND;
use crate::preferred::{Series, is_member, series_of};
use crate::quantity::{Ohm, write};
use crate::source::Source;
use crate::table::rows;

named! {
    /// A number of the table.
    "weight" Weight {
        /// See `data/weigh.csv`.
        InSeries = "value in the series of its tolerance",
        /// See `data/weigh.csv`.
        Finer = "value preferred but finer than its tolerance",
        /// See `data/weigh.csv`.
        Odd = "value not preferred",
        /// See `data/weigh.csv`.
        OutOfReach = "value below 0.01 Ω or above 100 MΩ",
        /// See `data/weigh.csv`.
        OtherEnd = "read from the other end",
        /// See `data/weigh.csv`.
        Sound = "measured: share of sound parts",
        /// See `data/weigh.csv`.
        SoundSpread = "measured: spread of sound parts",
        /// See `data/weigh.csv`.
        BadSpread = "measured: spread of bad parts",
        /// See `data/weigh.csv`.
        RightSheet = "sheet: share of right sheets",
        /// See `data/weigh.csv`.
        SheetSpread = "sheet: spread",
        /// See `data/weigh.csv`.
        WrongSheetSpread = "sheet: spread where it disagrees",
    }
}

#[derive(Deserialize)]
struct Row {
    what: Weight,
    weight: f64,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static WEIGHTS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("weigh.csv", include_str!("../../data/weigh.csv")));

/// A number of the table; a test asks for every one.
fn weight(what: Weight) -> f64 {
    WEIGHTS.iter().find(|r| r.what == what).map_or(f64::NAN, |r| r.weight)
}

/// The prior of a value with its tolerance, and what to say about it.
pub(super) fn prior(meaning: &mut Meaning, end: End) -> f64 {
    let tolerance = meaning.tolerance.map_or(NO_BAND, |t| t.fraction());
    let value = meaning.value.ohms();
    let series = series_of(tolerance);
    let own = is_member(series, value) || (series >= Series::E24 && is_member(Series::E24, value));
    let of_value = if meaning.tolerance.is_none() || own {
        let any = own || is_member(Series::E24, value) || is_member(Series::E192, value);
        if !any {
            meaning.because.push("not a preferred value".to_owned());
        }
        weight(if any { Weight::InSeries } else { Weight::Odd })
    } else if is_member(Series::E24, value) || is_member(Series::E192, value) {
        meaning.because.push(format!(
            "unusual: {} at {} is not in {series}",
            meaning.value,
            write::percent(tolerance)
        ));
        weight(Weight::Finer)
    } else {
        meaning.because.push("not a preferred value".to_owned());
        weight(Weight::Odd)
    };
    let of_value = if (0.01..=100e6).contains(&value) {
        of_value
    } else {
        meaning.because.push("hardly ever made: below 0.01 Ω or above 100 MΩ".to_owned());
        of_value * weight(Weight::OutOfReach)
    };
    match end {
        End::First => of_value,
        End::Other => of_value * weight(Weight::OtherEnd),
    }
}

fn laplace(x: f64, spread: f64) -> f64 {
    (-x.abs() / spread).exp() / (2.0 * spread)
}

/// How likely `measured` is if the part is marked `meaning`.
pub(super) fn given_measured(meaning: &mut Meaning, measured: Ohm) -> f64 {
    let sound = weight(Weight::Sound);
    let Some(x) = log_ratio(measured, meaning.value) else { return 1.0 };
    meaning.because.push(compared("the measurement", "it", x));
    sound * laplace(x, weight(Weight::SoundSpread)) + (1.0 - sound) * laplace(x, weight(Weight::BadSpread))
}

/// How likely the sheet's value is if the part is marked `meaning`.
pub(super) fn given_sheet(meaning: &mut Meaning, sheet: Ohm) -> f64 {
    let right = weight(Weight::RightSheet);
    let Some(x) = log_ratio(sheet, meaning.value) else { return 1.0 };
    meaning.because.push(if x.abs() < 0.2 {
        "the sheet agrees".to_owned()
    } else {
        compared("the sheet", "the sheet", x)
    });
    right * laplace(x, weight(Weight::SheetSpread))
        + (1.0 - right) * laplace(x, weight(Weight::WrongSheetSpread))
}

fn log_ratio(a: Ohm, b: Ohm) -> Option<f64> {
    let ratio = a.ohms() / b.ohms();
    (ratio > 0.0 && ratio.is_finite()).then(|| ratio.ln())
}

/// "the measurement is 8 % higher", "but the sheet says 10 times that".
fn compared(what: &str, subject: &str, x: f64) -> String {
    let ratio = x.exp();
    if x.abs() < 0.005 {
        format!("{what} agrees")
    } else if x.abs() < 0.7 {
        let (size, way) = if x > 0.0 { (ratio - 1.0, "above") } else { (1.0 - ratio, "below") };
        format!("{what} is {:.0} % {way} it", size * 100.0)
    } else if x > 0.0 {
        format!("but {subject} {} {:.1} times that", if subject == "it" { "measures" } else { "says" }, ratio)
    } else {
        format!(
            "but {subject} {} 1/{:.1} of that",
            if subject == "it" { "measures" } else { "says" },
            1.0 / ratio
        )
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::named::Named;

    #[test]
    fn every_weight_is_in_the_table() {
        assert!(Weight::ALL.iter().all(|w| weight(*w).is_finite()));
    }
}
