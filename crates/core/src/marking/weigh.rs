//! How far each meaning of a marking is to be believed.
//!
//! Bayes: the prior of a meaning (is its value one that was made? was it read from the likely
//! end? must colours have changed?) times the likelihood of the measurement and of the sheet's value
//! if it were true. Both errors are mixtures of a narrow and a wide Laplace distribution on a log
//! scale, the wide one leaning to the side to which such parts fail, so that one bad part or one
//! misprint does not drag the marking to itself. All numbers are in `data/weigh.csv`.

use std::sync::LazyLock;

use serde::Deserialize;

use super::Meaning;
use super::hints::Hints;
use crate::named::{Named, named};
use crate::part::PartKind;
use crate::preferred::{Series, numbers, series_of, three_digits};
use crate::quantity::format::{self, percent};
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
        Older = "value from before the preferred series",
        /// See `data/weigh.csv`.
        Odd = "value not preferred",
        /// See `data/weigh.csv`.
        OutOfReach = "value below 0.01 Ω or above 100 MΩ",
        /// See `data/weigh.csv`.
        TooFine = "two digits with a tolerance below 1 %",
        /// See `data/weigh.csv`.
        Faded = "share of parts with changed colours",
        /// See `data/weigh.csv`.
        OtherEnd = "read from the other end",
        /// See `data/weigh.csv`.
        LowerRow = "lower row of dots from its other side",
        /// See `data/weigh.csv`.
        Told = "least share of the likeliest that is told",
        /// See `data/weigh.csv`.
        Sound = "measured: share of sound parts",
        /// See `data/weigh.csv`.
        SoundSpread = "measured: spread of sound parts",
        /// See `data/weigh.csv`.
        BadSpread = "measured: spread of bad parts",
        /// See `data/weigh.csv`.
        ResistorsHigh = "measured: share of bad resistors that read high",
        /// See `data/weigh.csv`.
        CapacitorsHigh = "measured: share of bad capacitors that read high",
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

/// In the order of [`Weight`].
static WEIGHTS: LazyLock<Vec<f64>> = LazyLock::new(|| {
    let table: Vec<Row> = rows("weigh.csv", include_str!("../../data/weigh.csv"));
    let of = |w: &Weight| table.iter().find(|r| r.what == *w).map_or(f64::NAN, |r| r.weight);
    Weight::ALL.iter().map(of).collect()
});

/// A number of the table; a test asks for every one.
pub(super) fn weight(what: Weight) -> f64 {
    WEIGHTS[what as usize]
}

#[derive(Deserialize)]
struct OlderValue {
    part: PartKind,
    /// Two digits.
    number: u16,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static OLDER: LazyLock<Vec<OlderValue>> =
    LazyLock::new(|| rows("marking/older_value.csv", include_str!("../../data/marking/older_value.csv")));

/// Whether the value was made before the preferred series: 25 k, 50 k, 0.05 µF.
fn is_older(part: PartKind, digits: Option<u16>) -> bool {
    digits.is_some_and(|d| OLDER.iter().any(|o| o.part == part && o.number * 10 == d))
}

/// How usual a value is.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Usual {
    InSeries,
    Finer(Series),
    Older,
    Odd,
}

fn usual(part: PartKind, number: f64, tolerance: Option<f64>) -> Usual {
    if number == 0.0 {
        return Usual::InSeries;
    }
    let digits = three_digits(number);
    let member = |series| digits.is_some_and(|d| numbers(series).binary_search(&d).is_ok());
    let preferred = member(Series::E24);
    match (part, tolerance) {
        (PartKind::Resistor, Some(t)) => {
            let series = series_of(t);
            if member(series) || (series >= Series::E24 && preferred) {
                Usual::InSeries
            } else if is_older(part, digits) {
                Usual::Older
            } else if preferred || member(Series::E192) {
                Usual::Finer(series)
            } else {
                Usual::Odd
            }
        }
        (PartKind::Resistor, None) if !preferred && member(Series::E192) => Usual::Finer(Series::E24),
        (
            PartKind::Lamp
            | PartKind::Diode
            | PartKind::Transistor
            | PartKind::Ic
            | PartKind::Valve
            | PartKind::Fuse
            | PartKind::Switch
            | PartKind::Loudspeaker,
            _,
        ) => Usual::InSeries,
        _ if preferred => Usual::InSeries,
        _ if is_older(part, digits) => Usual::Older,
        _ => Usual::Odd,
    }
}

/// What is hardly ever made, in the base unit.
fn out_of_reach(part: PartKind, number: f64) -> bool {
    let reach = match part {
        PartKind::Resistor => 0.01..=100e6,
        PartKind::Capacitor => 0.4e-12..=0.1,
        PartKind::Coil => 1e-8..=100.0,
        PartKind::Lamp
        | PartKind::Diode
        | PartKind::Transistor
        | PartKind::Ic
        | PartKind::Valve
        | PartKind::Fuse
        | PartKind::Switch
        | PartKind::Loudspeaker => {
            return false;
        }
    };
    number != 0.0 && !reach.contains(&number)
}

fn too_fine(digits: usize, tolerance: Option<f64>) -> bool {
    digits == 2 && tolerance.is_some_and(|t| t < 0.0099)
}

/// The prior of a value (base unit) with its tolerance (fraction), written with so many digits; 0
/// digits where it is not known.
pub(super) fn prior(part: PartKind, number: f64, tolerance: Option<f64>, digits: usize) -> f64 {
    let of_value = weight(match usual(part, number, tolerance) {
        Usual::InSeries => Weight::InSeries,
        Usual::Finer(_) => Weight::Finer,
        Usual::Older => Weight::Older,
        Usual::Odd => Weight::Odd,
    });
    let reach = if out_of_reach(part, number) { weight(Weight::OutOfReach) } else { 1.0 };
    let fine = if too_fine(digits, tolerance) { weight(Weight::TooFine) } else { 1.0 };
    of_value * reach * fine
}

fn laplace(x: f64, spread: f64) -> f64 {
    (-x.abs() / spread).exp() / (2.0 * spread)
}

/// A Laplace distribution of which the share `high` lies above zero.
fn leaning(x: f64, spread: f64, high: f64) -> f64 {
    let share = if x >= 0.0 { high } else { 1.0 - high };
    share * (-x.abs() / spread).exp() / spread
}

/// How likely what is known of the part is, if its value were `number`.
pub(super) fn given(part: PartKind, number: f64, hints: &Hints) -> f64 {
    let mut likely = 1.0;
    if let Some(x) = hints.measured_si.and_then(|m| log_ratio(m, number)) {
        let high = match part {
            PartKind::Capacitor => weight(Weight::CapacitorsHigh),
            PartKind::Resistor => weight(Weight::ResistorsHigh),
            PartKind::Coil
            | PartKind::Lamp
            | PartKind::Diode
            | PartKind::Transistor
            | PartKind::Ic
            | PartKind::Valve
            | PartKind::Fuse
            | PartKind::Switch
            | PartKind::Loudspeaker => 0.5,
        };
        let sound = weight(Weight::Sound);
        likely *= sound * laplace(x, weight(Weight::SoundSpread))
            + (1.0 - sound) * leaning(x, weight(Weight::BadSpread), high);
    }
    if let Some(x) = hints.expected_si.and_then(|e| log_ratio(e, number)) {
        let right = weight(Weight::RightSheet);
        likely *= right * laplace(x, weight(Weight::SheetSpread))
            + (1.0 - right) * laplace(x, weight(Weight::WrongSheetSpread));
    }
    likely
}

/// No value is likelier than this, whatever it is: what [`given`] says where the value is the measured and the sheet's.
pub(super) fn given_at_most(part: PartKind, hints: &Hints) -> f64 {
    let alone = |measured_si, expected_si| Hints { measured_si, expected_si, ..*hints };
    let of = |hint: Option<f64>, hints: Hints| hint.map_or(1.0, |si| given(part, si, &hints).max(1.0));
    of(hints.measured_si, alone(hints.measured_si, None))
        * of(hints.expected_si, alone(None, hints.expected_si))
}

/// Says what speaks for and against a meaning.
pub(super) fn explain(m: &mut Meaning, hints: &Hints, digits: usize) {
    let Some((quantity, number)) = m.value.number() else { return };
    let tolerance = m.tolerance_fraction().map(|t| t.fraction());
    match usual(m.part, number, tolerance) {
        Usual::InSeries => {}
        Usual::Finer(series) => m.because.push(match tolerance {
            Some(t) => format!("unusual: {} at {} is not in {series}", m.value, percent(t)),
            None => format!("unusual: {} is not in {series} and shows no tolerance", m.value),
        }),
        Usual::Older => m.because.push("a value from before the preferred series".to_owned()),
        Usual::Odd => m.because.push("not a preferred value".to_owned()),
    }
    if out_of_reach(m.part, number) {
        m.because.push(match m.part {
            PartKind::Resistor => "hardly ever made: below 0.01 Ω or above 100 MΩ".to_owned(),
            _ => format!("hardly ever made: {}", format::format(quantity, number)),
        });
    }
    if too_fine(digits, tolerance) {
        m.because.push("so close a tolerance has three digits, as a rule".to_owned());
    }
    if let Some(x) = hints.measured_si.and_then(|v| log_ratio(v, number)) {
        m.because.push(compared("the measurement", "it measures", x));
    }
    if let Some(x) = hints.expected_si.and_then(|v| log_ratio(v, number)) {
        m.because.push(if x.abs() < 0.2 {
            "the sheet agrees".to_owned()
        } else {
            compared("the sheet", "the sheet says", x)
        });
    }
}

fn log_ratio(a: f64, b: f64) -> Option<f64> {
    let ratio = a / b;
    (ratio > 0.0 && ratio.is_finite()).then(|| ratio.ln())
}

/// "the measurement is 8 % above it", "but the sheet says 10 times that".
fn compared(what: &str, says: &str, x: f64) -> String {
    let ratio = x.exp();
    if x.abs() < 0.005 {
        format!("{what} agrees")
    } else if x.abs() < 0.7 {
        let (size, way) = if x > 0.0 { (ratio - 1.0, "above") } else { (1.0 - ratio, "below") };
        format!("{what} is {:.0} % {way} it", size * 100.0)
    } else if x > 0.0 {
        format!("but {says} {ratio:.1} times that")
    } else {
        format!("but {says} 1/{:.1} of that", 1.0 / ratio)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_weight_is_in_the_table() {
        assert!(Weight::ALL.iter().all(|w| weight(*w).is_finite()));
    }

    #[test]
    fn nothing_is_likelier_than_what_is_measured_and_on_the_sheet() {
        // The search for changed colours gives up what cannot become likely enough any more.
        assert!(weight(Weight::ResistorsHigh) >= 0.5 && weight(Weight::CapacitorsHigh) >= 0.5);
        for part in [PartKind::Resistor, PartKind::Capacitor, PartKind::Coil] {
            for (measured_si, expected_si) in
                [(Some(4.7e3), None), (None, Some(1.0)), (Some(33.0), Some(47.0)), (Some(0.0), None)]
            {
                let hints = Hints { measured_si, expected_si, ..Hints::default() };
                let most = given_at_most(part, &hints);
                for tenth in -80..80 {
                    assert!(given(part, 10f64.powf(f64::from(tenth) / 10.0), &hints) <= most);
                }
                assert!(
                    given(part, 0.0, &hints) <= most
                        && given(part, measured_si.unwrap_or(1.0), &hints) <= most
                );
            }
        }
    }

    #[test]
    fn values_from_before_the_series_are_known() {
        assert!(is_older(PartKind::Resistor, three_digits(250e3)));
        assert!(is_older(PartKind::Capacitor, three_digits(0.05e-6)));
        assert!(!is_older(PartKind::Resistor, three_digits(47e3)));
    }
}
