//! A rectifier with capacitor input, solved in time until each period is like the last.
//!
//! No rule of thumb: they are off by a quarter in the ripple and by two to four times in the resistor that brings
//! a rail down, because the resistor stands in the charging pulses.
//!
//! Model: the source is a sine; a rectifier that conducts drops a fixed voltage plus a resistance times its
//! current, and blocks wholly otherwise; the load draws a constant current (never pulling the rail below zero) or
//! is a resistance. Between two samples the sine is taken as straight and the rest is solved exactly, so that a
//! small source resistance needs no small step; the moments of opening and closing are found inside of a step.
//! With [`STEPS`] a period that leaves less than 0.01 % against closer steps (tested).

use std::f64::consts::TAU;
use std::sync::LazyLock;

use serde::Deserialize;

use super::{Preferred, Rating, SupplyError, nearest, positive, ranged};
use crate::named::named;
use crate::quantity::{Ampere, Farad, Hertz, Ohm, Volt, Watt};
use crate::source::Source;
use crate::table::rows;

/// Samples a line period.
pub const STEPS: usize = 2000;
/// The least resistance that is reckoned with, ohm: no source has none.
const LEAST_RESISTANCE: f64 = 0.01;
/// The most series resistance that is looked for, ohm.
const MOST_SERIES: Ohm = Ohm::computed(1e6);

named! {
    /// How the rectifiers are arranged.
    "rectifier circuit" Arrangement {
        /// One, charging once a period.
        HalfWave = "half-wave",
        /// Two on a winding with a middle tap; the line is the volts of one half.
        FullWave = "full-wave",
        /// Four; two conduct one after the other.
        Bridge = "bridge",
    }
}

named! {
    /// What rectifies.
    "rectifier kind" RectifierKind {
        /// Silicon.
        Silicon = "silicon",
        /// A selenium stack.
        Selenium = "selenium",
        /// A valve.
        Valve = "valve",
    }
}

/// What a kind of rectifier drops where it is not known better.
#[derive(Debug, Clone, Deserialize)]
pub struct Usual {
    /// Of which kind.
    pub kind: RectifierKind,
    /// Volts that it drops at any current.
    pub drop: f64,
    /// Ohm in series with that.
    pub resistance: f64,
    /// Where that comes from.
    pub source: Source,
}

static USUAL: LazyLock<Vec<Usual>> =
    LazyLock::new(|| rows("rectifier_kind.csv", include_str!("../../data/rectifier_kind.csv")));

impl RectifierKind {
    /// What such a rectifier usually drops; `None` only if the table lacks it, which a test rules out.
    #[must_use]
    pub fn usual(self) -> Option<&'static Usual> {
        USUAL.iter().find(|u| u.kind == self)
    }
}

/// What hangs on the rail.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Load {
    /// A constant current.
    Current(Ampere),
    /// A resistance.
    Resistance(Ohm),
}

/// A supply.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Supply {
    /// How the rectifiers are arranged.
    pub arrangement: Arrangement,
    /// Volts rms at the rectifier.
    pub line: Volt,
    /// Of the line; 10 to 1000 Hz.
    pub frequency: Hertz,
    /// Volts that one rectifier drops at any current.
    pub drop: Volt,
    /// Ohm of one rectifier in series with that.
    pub resistance: Ohm,
    /// Ohm of transformer and line.
    pub source: Ohm,
    /// The series resistor; it stands in the charging pulses.
    pub series: Ohm,
    /// The first capacitor.
    pub capacitance: Farad,
    /// What hangs on the rail.
    pub load: Load,
}

/// A period of the steady state.
#[derive(Debug, Clone, PartialEq)]
pub struct Waveform {
    /// Seconds from the rising zero of the line.
    pub seconds: Vec<f64>,
    /// Volts on the capacitor.
    pub volts: Vec<f64>,
    /// Amperes of charging current.
    pub amperes: Vec<f64>,
}

/// The steady state.
#[derive(Debug, Clone, PartialEq)]
pub struct Steady {
    /// Average on the capacitor.
    pub average: Volt,
    /// Peak to peak on the capacitor.
    pub ripple: Volt,
    /// The most on the capacitor.
    pub peak: Volt,
    /// The least on the capacitor.
    pub low: Volt,
    /// Average of the charging current, which is the load's.
    pub average_current: Ampere,
    /// Peak of the charging current.
    pub peak_current: Ampere,
    /// Its root mean square: what heats the resistor and the winding.
    pub rms_current: Ampere,
    /// Ripple current of the capacitor, rms.
    pub capacitor_current: Ampere,
    /// What the series resistor dissipates.
    pub series_power: Watt,
    /// The most that stands across a rectifier the wrong way.
    pub reverse: Volt,
    /// What flows at the worst moment of switching on, the capacitor being empty.
    pub inrush: Ampere,
    /// One line period.
    pub waveform: Waveform,
}

/// The series resistor that brings the average to a target.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ForTarget {
    /// What it must be.
    pub series: Ohm,
    /// What it dissipates.
    pub series_power: Watt,
    /// What it should be rated at.
    pub rating: Rating,
    /// What can be bought, and the average with it.
    pub preferred: Option<Preferred>,
    /// The average with `series`.
    pub volts: Volt,
}

impl Supply {
    fn check(&self) -> Result<(), SupplyError> {
        ranged("line", self.line, 0.1, 1e5)?;
        ranged("frequency", self.frequency, 10.0, 1000.0)?;
        positive("capacitance", self.capacitance)?;
        ranged("capacitance", self.capacitance, 1e-9, 10.0)?;
        ranged("drop", self.drop, 0.0, 1e4)?;
        match self.load {
            Load::Current(i) => ranged("load.current", i, 0.0, 1e4).map(|_| ()),
            Load::Resistance(r) => positive("load.resistance", r).map(|_| ()),
        }
    }

    fn in_line(&self) -> f64 {
        if self.arrangement == Arrangement::Bridge { 2.0 } else { 1.0 }
    }

    /// Ohm of the whole charging path.
    fn path(&self) -> f64 {
        let all = self.source.ohms() + self.series.ohms() + self.in_line() * self.resistance.ohms();
        all.max(LEAST_RESISTANCE)
    }

    /// What the rectified source would put on the capacitor at a moment, less the fixed drop.
    fn drives(&self, phase: f64) -> f64 {
        let sine = (phase * TAU).sin() * self.line.volts() * std::f64::consts::SQRT_2;
        let rectified = match self.arrangement {
            Arrangement::HalfWave => sine,
            Arrangement::FullWave | Arrangement::Bridge => sine.abs(),
        };
        rectified - self.in_line() * self.drop.volts()
    }

    /// The steady state.
    ///
    /// # Errors
    /// [`SupplyError`] for numbers with which there is none.
    pub fn steady(&self) -> Result<Steady, SupplyError> {
        self.check()?;
        let run = Run::new(self);
        Ok(run.summary(self, run.start()))
    }

    /// The series resistor that brings the average to `target`; `None` where even without one the average is
    /// below it, or where no resistor up to 1 MΩ is enough.
    ///
    /// # Errors
    /// As [`Supply::steady`], and for a target that is not above zero.
    pub fn for_target(&self, target: Volt) -> Result<Option<ForTarget>, SupplyError> {
        self.check()?;
        let wanted = positive("target", target)?;
        let with = |series: Ohm| Self { series, ..*self }.steady();
        let (mut low, mut high) = (Ohm::ZERO, Ohm::computed(1.0));
        if with(low)?.average < wanted {
            return Ok(None);
        }
        while with(high)?.average > wanted {
            low = high;
            high = high * 4.0;
            if high > MOST_SERIES {
                return Ok(None);
            }
        }
        // The average falls with the resistor: halved until a thousandth of a percent is left.
        for _ in 0..40 {
            let middle = (low + high) * 0.5;
            if with(middle)?.average > wanted {
                low = middle;
            } else {
                high = middle;
            }
            if high.ohms() - low.ohms() < 1e-5 * high.ohms() {
                break;
            }
        }
        let series = (low + high) * 0.5;
        let found = with(series)?;
        let preferred = match nearest(series) {
            Some(value) => {
                let s = with(value)?;
                Some(Preferred {
                    value,
                    dissipated: s.series_power,
                    size: Rating::of(s.series_power).size(),
                    volts: s.average,
                })
            }
            None => None,
        };
        Ok(Some(ForTarget {
            series,
            series_power: found.series_power,
            rating: Rating::of(found.series_power),
            preferred,
            volts: found.average,
        }))
    }
}

/// One line period in steps.
struct Run {
    drives: Vec<f64>,
    step: f64,
    c: f64,
    path: f64,
    conductance: f64,
    current: f64,
}

impl Run {
    fn new(supply: &Supply) -> Self {
        let (conductance, current) = match supply.load {
            Load::Current(i) => (0.0, i.amperes()),
            Load::Resistance(r) => (1.0 / r.ohms(), 0.0),
        };
        Self {
            drives: (0..=STEPS).map(|i| supply.drives(i as f64 / STEPS as f64)).collect(),
            step: 1.0 / supply.frequency.hertz() / STEPS as f64,
            c: supply.capacitance.farads(),
            path: supply.path(),
            conductance,
            current,
        }
    }

    /// The volts after `t` seconds from `v`, the rectifier conducting or not, the drive running straight from
    /// `e0` with `slope`. Exact for those: dv/dt = −λv + a + bt.
    fn after(&self, v: f64, on: bool, e0: f64, slope: f64, t: f64) -> f64 {
        let g = if on { 1.0 / self.path } else { 0.0 };
        let rate = (g + self.conductance) / self.c;
        let (a, b) = ((g * e0 - self.current) / self.c, g * slope / self.c);
        let x = rate * t;
        let v = if x < 1e-9 {
            v + (a - rate * v) * t + 0.5 * b * t * t
        } else {
            let (steady, ramp) = (a / rate - b / (rate * rate), b / rate);
            steady + ramp * t + (v - steady) * (-x).exp()
        };
        // A load never pulls below zero.
        v.max(0.0)
    }

    /// One step: where the rectifier opens or closes inside of it, that moment is found by halving.
    fn advance(&self, v: f64, e0: f64, e1: f64) -> f64 {
        let slope = (e1 - e0) / self.step;
        let mut on = e0 > v;
        let (mut v, mut e, mut left) = (v, e0, self.step);
        // A step holds one change in almost every case; three are more than there can be.
        for _ in 0..3 {
            let end = self.after(v, on, e, slope, left);
            if (e + slope * left > end) == on {
                return end;
            }
            let (mut low, mut high) = (0.0, left);
            for _ in 0..40 {
                let middle = 0.5 * (low + high);
                let there = self.after(v, on, e, slope, middle);
                if (e + slope * middle > there) == on { low = middle } else { high = middle }
            }
            v = self.after(v, on, e, slope, high);
            e += slope * high;
            left -= high;
            on = !on;
        }
        self.after(v, on, e, slope, left)
    }

    fn period(&self, start: f64) -> f64 {
        self.drives.windows(2).fold(start, |v, e| self.advance(v, e[0], e[1]))
    }

    /// The volts at the start of the period that come back at its end. What a period makes of a start rises more
    /// slowly than the start, so there is one, between nothing and the peak.
    fn start(&self) -> f64 {
        let (mut low, mut high) = (0.0, self.drives.iter().copied().fold(0.0, f64::max));
        for _ in 0..60 {
            let middle = 0.5 * (low + high);
            if self.period(middle) > middle {
                low = middle
            } else {
                high = middle
            }
            if high - low <= 1e-9 * high {
                break;
            }
        }
        0.5 * (low + high)
    }

    fn summary(&self, supply: &Supply, start: f64) -> Steady {
        let mut volts = Vec::with_capacity(STEPS + 1);
        volts.push(start);
        let mut v = start;
        for e in self.drives.windows(2) {
            v = self.advance(v, e[0], e[1]);
            volts.push(v);
        }
        let amperes: Vec<f64> =
            self.drives.iter().zip(&volts).map(|(e, v)| ((e - v) / self.path).max(0.0)).collect();
        let mean = |of: &dyn Fn(usize) -> f64| {
            (0..STEPS).map(|i| 0.5 * (of(i) + of(i + 1))).sum::<f64>() / STEPS as f64
        };
        let average = mean(&|i| volts[i]);
        let charge = mean(&|i| amperes[i]);
        let rms = mean(&|i| amperes[i] * amperes[i]).sqrt();
        let peak = volts.iter().copied().fold(0.0, f64::max);
        let low = volts.iter().copied().fold(f64::INFINITY, f64::min);
        let crest = supply.line.volts() * std::f64::consts::SQRT_2;
        let reverse = match supply.arrangement {
            Arrangement::HalfWave | Arrangement::FullWave => crest + peak,
            Arrangement::Bridge => crest,
        };
        let drive = self.drives.iter().copied().fold(0.0, f64::max);
        // For a picture every tenth sample is enough.
        let shown: Vec<usize> = (0..=STEPS).step_by(STEPS / 200).collect();
        Steady {
            average: Volt::computed(average),
            ripple: Volt::computed(peak - low),
            peak: Volt::computed(peak),
            low: Volt::computed(low),
            average_current: Ampere::computed(charge),
            peak_current: Ampere::computed(amperes.iter().copied().fold(0.0, f64::max)),
            rms_current: Ampere::computed(rms),
            capacitor_current: Ampere::computed((rms * rms - charge * charge).max(0.0).sqrt()),
            series_power: Watt::computed(rms * rms * supply.series.ohms()),
            reverse: Volt::computed(reverse),
            inrush: Ampere::computed(drive / self.path),
            waveform: Waveform {
                seconds: shown.iter().map(|i| *i as f64 * self.step).collect(),
                volts: shown.iter().map(|i| volts[*i]).collect(),
                amperes: shown.iter().map(|i| amperes[*i]).collect(),
            },
        }
    }
}
