//! The voltage chart (rule R9): what a sheet says of a point, what it should show today, what it shows.
//!
//! Two things stand between a sheet and a reading: the line that the sheet assumes, and the meter that it was read with.
//! A meter of 1,000 Ω a volt pulls a point down that a large resistance feeds; one of 10 MΩ hardly does. Both are
//! reckoned with where they are known.
//!
//! What this cannot know: regulated points do not follow the line; a sheet's own spread is some 10 to 20 %.

pub mod board;
pub mod spoken;

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::quantity::{Fraction, Ohm, QuantityError, Volt};
use crate::source::Source;
use crate::supply::line::HEATER_WINDOW;
use crate::table::rows;
use crate::verdict::{Policy, PolicyNumber};

named! {
    /// How a reading stands to what the sheet lets expect.
    "status of a reading" ChartStatus {
        /// Near enough.
        Right = "right",
        /// Further off than is usual, not yet a fault.
        Strays = "strays",
        /// Too low.
        Low = "low",
        /// Too high.
        High = "high",
        /// Nothing where there should be volts.
        Dead = "dead",
        /// Volts where there should be none, or the other way up.
        Wrong = "wrong",
        /// Read, with nothing to hold it against.
        Alone = "no sheet",
    }
}

/// How the sheet was made.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct SheetMeter {
    /// The line that it assumes.
    pub line: Option<Volt>,
    /// Ohms for each volt of its meter's range; none where it is not said, or high.
    pub ohms_per_volt: Option<Ohm>,
    /// The meter's range; taken as the usual one above the volts where it is not said.
    pub range: Option<Volt>,
}

/// How a reading was taken.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Taken {
    /// The line at that moment.
    pub line: Option<Volt>,
    /// The resistance of the meter.
    pub meter: Option<Ohm>,
}

/// A point of the chart.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Point {
    /// What the sheet says.
    pub sheet: Option<Volt>,
    /// The resistance that feeds it, where it is known.
    pub fed_through: Option<Ohm>,
    /// A heater must be closer than others.
    pub heater: bool,
    /// A regulated point or a battery does not follow the line.
    pub steady: bool,
}

/// What a point should show.
#[derive(Debug, Clone, PartialEq)]
pub struct Expected {
    /// On this meter at this line.
    pub volts: Volt,
    /// How it came about, one line for each correction; none where the sheet's number stands as it is.
    pub because: Vec<String>,
}

/// How a reading stands.
#[derive(Debug, Clone, PartialEq)]
pub struct Held {
    /// What it should show; none without a sheet.
    pub expected: Option<Expected>,
    /// How far it is off, as a fraction of that.
    pub deviation: Option<Fraction>,
    /// In a word.
    pub status: ChartStatus,
}

#[derive(Deserialize)]
struct Range {
    volts: f64,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static RANGES: LazyLock<Vec<Range>> =
    LazyLock::new(|| rows("meter_range.csv", include_str!("../../data/meter_range.csv")));

/// What a point should show on this meter at this line; none where the sheet does not say.
///
/// # Errors
/// [`QuantityError`] for numbers that cannot be.
///
/// ```
/// use owl_core::chart::{Point, SheetMeter, Taken, expected};
/// use owl_core::quantity::Volt;
/// let volts = |v| Volt::new(v).ok();
/// let point = Point { sheet: volts(200.0), fed_through: None, heater: false, steady: false };
/// let sheet = SheetMeter { line: volts(120.0), ..SheetMeter::default() };
/// let now = Taken { line: volts(108.0), meter: None };
/// assert_eq!(expected(point, sheet, now).unwrap().unwrap().volts, Volt::new(180.0).unwrap());
/// ```
pub fn expected(point: Point, sheet: SheetMeter, now: Taken) -> Result<Option<Expected>, QuantityError> {
    let Some(said) = point.sheet else { return Ok(None) };
    let mut volts = said.volts();
    let mut because = Vec::new();
    if let Some(fed) = point.fed_through.filter(|r| r.ohms() > 0.0) {
        let theirs = loads(volts, sheet).map_or(1.0, |meter| 1.0 + fed.ohms() / meter);
        let ours = now.meter.map_or(1.0, |m| m.ohms() / (m.ohms() + fed.ohms()));
        let free = volts * theirs;
        let shown = free * ours;
        if (shown - volts).abs() > 0.005 * volts.abs() {
            because.push(format!(
                "fed through {fed}: {} without a meter, {} on this one",
                about(free),
                about(shown)
            ));
            volts = shown;
        }
    }
    if let (Some(theirs), Some(ours), false) = (sheet.line, now.line, point.steady)
        && theirs.volts() > 0.0
        && theirs != ours
    {
        volts *= ours.volts() / theirs.volts();
        because.push(format!(
            "line {} instead of {}: times {:.3}",
            about(ours.volts()),
            about(theirs.volts()),
            ours.volts() / theirs.volts()
        ));
    }
    Ok(Some(Expected { volts: Volt::computed(volts), because }))
}

/// The resistance of the sheet's meter on the range that one would read so many volts on.
fn loads(volts: f64, sheet: SheetMeter) -> Option<f64> {
    let each = sheet.ohms_per_volt.filter(|o| o.ohms() > 0.0)?.ohms();
    let usual = || RANGES.iter().map(|r| r.volts).find(|r| *r >= volts.abs());
    Some(each * sheet.range.map(Volt::volts).or_else(usual)?)
}

fn about(v: f64) -> String {
    let digits = usize::from(v.abs() < 100.0);
    format!("{v:.digits$} V")
}

/// Below this, in volt, a meter shows nothing (practice).
const NOTHING: f64 = 0.2;
/// Where the sheet says zero, so much is still zero.
const STRAY: f64 = 1.0;

/// How a reading stands to what the sheet lets expect.
///
/// # Errors
/// [`QuantityError`] for numbers that cannot be.
pub fn held(
    point: Point,
    sheet: SheetMeter,
    now: Taken,
    read: Volt,
    policy: &Policy,
) -> Result<Held, QuantityError> {
    let Some(expected) = expected(point, sheet, now)? else {
        return Ok(Held { expected: None, deviation: None, status: ChartStatus::Alone });
    };
    let (should, has) = (expected.volts.volts(), read.volts());
    if should.abs() < NOTHING {
        let status = if has.abs() <= STRAY { ChartStatus::Right } else { ChartStatus::Wrong };
        return Ok(Held { expected: Some(expected), deviation: None, status });
    }
    let off = has / should - 1.0;
    let (near, far) = if point.heater {
        (HEATER_WINDOW, HEATER_WINDOW)
    } else {
        (policy.number_si(PolicyNumber::ChartNear), policy.number_si(PolicyNumber::ChartOff))
    };
    let status = if has.abs() < NOTHING {
        ChartStatus::Dead
    } else if has * should < 0.0 {
        ChartStatus::Wrong
    } else if off.abs() <= near {
        ChartStatus::Right
    } else if off.abs() <= far {
        ChartStatus::Strays
    } else if off < 0.0 {
        ChartStatus::Low
    } else {
        ChartStatus::High
    };
    Ok(Held { expected: Some(expected), deviation: Some(Fraction::computed(off)), status })
}

/// Two points that belong together, held against each other.
#[derive(Debug, Clone, PartialEq)]
pub struct Pair {
    /// |a − b| over their mean.
    pub apart: Fraction,
    /// Whether they agree.
    pub agree: bool,
    /// In words.
    pub text: String,
}

/// Halves of a push-pull pair agree with each other better than with the sheet; `None` where both are at nothing.
///
/// # Errors
/// [`QuantityError`] for numbers that cannot be.
pub fn pair(a: Volt, b: Volt, policy: &Policy) -> Result<Option<Pair>, QuantityError> {
    let mean = 0.5 * (a.volts() + b.volts()).abs();
    if mean < NOTHING {
        return Ok(None);
    }
    let apart = (a.volts() - b.volts()).abs() / mean;
    let most = policy.number_si(PolicyNumber::ChartPair);
    let agree = apart <= most;
    let percent = |f: f64| format!("{:.1} %", 100.0 * f);
    let text = if agree {
        format!("{} apart: they agree", percent(apart))
    } else {
        format!(
            "{} apart, more than {}: cathode resistors, coupling capacitors, the valves themselves",
            percent(apart),
            percent(most)
        )
    };
    Ok(Some(Pair { apart: Fraction::computed(apart), agree, text }))
}
