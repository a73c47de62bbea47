//! The capacitor on the reforming supply, followed in time.
//!
//! Three things change: the volts on the oxide (C dv/dt = i − i_leak), the voltage to which the weak oxide is formed,
//! and the warmth of the can. The volts follow in milliseconds where the leak is steep and the oxide in hours, so the
//! equations are stiff: a linearly implicit method of order 2 with an error estimate of order 3 steps them
//! (Shampine and Reichelt, "The MATLAB ODE Suite", SIAM J. Sci. Comput. 18 (1997), the method of section 3.1). The step
//! is chosen so that the estimated error of each step stays below [`RELATIVE`] of the value (not less than of a volt
//! or a kelvin).
//!
//! The supply is taken never to draw current back, as its rectifier does not let it.

use nalgebra::{Matrix3, Vector3};
use serde::{Deserialize, Serialize};

use super::aged::Aged;
use crate::quantity::{Ampere, Ohm, Second, Volt};

/// The error that a step may make, as a share.
pub const RELATIVE: f64 = 1e-5;

/// The shortest step that is tried, in second.
const SHORTEST: f64 = 1e-9;

/// What the capacitor is connected to.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub enum Connected {
    /// Nothing: it empties through its own leak.
    Nothing,
    /// A supply of so many volts through a resistor, perhaps with a current limit.
    Supply {
        /// The supply's volts without load.
        volts: Volt,
        /// In series.
        series: Ohm,
        /// The most that it gives.
        limit: Option<Ampere>,
    },
    /// A discharge resistor.
    Discharge(Ohm),
}

/// How the capacitor is at a moment.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Condition {
    /// On the oxide, in volt.
    pub volts: f64,
    /// The voltage to which the weak oxide is formed.
    pub formed_volts: f64,
    /// Warmth above the room.
    pub kelvin: f64,
    /// Whether it has vented: a short from then on.
    pub vented: bool,
    /// The step with which to go on, in second.
    step_seconds: f64,
}

/// What a meter would show at a moment, without its errors.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shows {
    /// Across the part.
    pub volts: Volt,
    /// From the supply into the part; below zero out of it.
    pub amperes: Ampere,
    /// What leaks through the oxide.
    pub leakage: Ampere,
}

/// What a vented part is: nearly a short, of ten ohm.
const VENTED_SIEMENS: f64 = 0.1;

impl Condition {
    /// A part that lay on the shelf.
    #[must_use]
    pub fn rested(part: &Aged, charge: Volt) -> Self {
        Self {
            volts: charge.volts(),
            formed_volts: part.formed.volts(),
            kelvin: part.warm_kelvin,
            vented: false,
            step_seconds: 1e-3,
        }
    }

    /// The same in `seconds`. Never more than a hundred thousand steps: what is not followed by then is left as it is.
    #[must_use]
    pub fn after(mut self, part: &Aged, connected: Connected, seconds: Second) -> Self {
        let mut left = seconds.seconds();
        for _ in 0..100_000 {
            // What rounding leaves of a span is none.
            if left <= SHORTEST {
                break;
            }
            left -= self.one_step(part, connected, left);
            self.vented |= Aged::vents_at(self.kelvin);
        }
        self
    }

    /// Tries steps until one is close enough, takes it, and says how long it was.
    fn one_step(&mut self, part: &Aged, connected: Connected, most: f64) -> f64 {
        let y = Vector3::new(self.volts, self.formed_volts, self.kelvin);
        let f = |y: &Vector3<f64>| self.slope(part, connected, y);
        let slope = f(&y);
        let jacobian = jacobian(&f, &y, &slope);
        let mut h = self.step_seconds.max(SHORTEST).min(most);
        loop {
            let (next, error) = rosenbrock(&f, &jacobian, &y, &slope, h);
            let worst = (0..3)
                .map(|i| error[i].abs() / (RELATIVE * y[i].abs().max(next[i].abs()).max(1.0)))
                .fold(0.0, f64::max);
            let factor = if worst > 0.0 { (0.8 * worst.powf(-1.0 / 3.0)).clamp(0.1, 4.0) } else { 4.0 };
            let good = worst <= 1.0 && next.iter().all(|v| v.is_finite());
            if good || h <= SHORTEST {
                if next.iter().all(|v| v.is_finite()) {
                    (self.volts, self.formed_volts, self.kelvin) = (next[0], next[1], next[2]);
                }
                // The rest of a span says nothing of how long the next step may be.
                if h < most || factor < 1.0 {
                    self.step_seconds = h * factor;
                } else {
                    self.step_seconds = self.step_seconds.max(h * factor);
                }
                return h;
            }
            h *= if factor.is_finite() { factor.min(0.5) } else { 0.1 };
        }
    }

    /// What leaks through the weak oxide, and through all there is, in ampere.
    fn leaks(&self, part: &Aged, y: &Vector3<f64>) -> (f64, f64) {
        let (weak, parallel) = part.leakage_amperes(y[0], y[1], y[2]);
        let shorted = if self.vented { y[0] * VENTED_SIEMENS } else { 0.0 };
        (weak, weak + parallel + shorted)
    }

    fn slope(&self, part: &Aged, connected: Connected, y: &Vector3<f64>) -> Vector3<f64> {
        let (weak, leak) = self.leaks(part, y);
        let flow = current(connected, y[0], part.esr.ohms());
        let watts = y[0] * leak + flow * flow * part.esr.ohms();
        Vector3::new(
            (flow - leak) / part.capacitance.farads().max(1e-15),
            part.growth_volts_per_second(weak, y[1]),
            Aged::warming_kelvin_per_second(watts.abs(), y[2]),
        )
    }

    /// What a perfect meter shows.
    #[must_use]
    pub fn shows(&self, part: &Aged, connected: Connected) -> Shows {
        let esr = part.esr.ohms();
        let flow = current(connected, self.volts, esr);
        let (_, leak) = self.leaks(part, &Vector3::new(self.volts, self.formed_volts, self.kelvin));
        Shows {
            volts: Volt::computed(self.volts + flow * esr),
            amperes: Ampere::computed(flow),
            leakage: Ampere::computed(leak),
        }
    }
}

/// What flows into the part that has so many volts on its oxide.
fn current(connected: Connected, volts: f64, esr: f64) -> f64 {
    match connected {
        Connected::Nothing => 0.0,
        Connected::Supply { volts: supply, series, limit } => {
            let most = limit.map_or(f64::INFINITY, Ampere::amperes);
            let path = (series.ohms() + esr).max(1e-3);
            ((supply.volts() - volts) / path).clamp(0.0, most.max(0.0))
        }
        Connected::Discharge(resistor) => -volts / (resistor.ohms() + esr).max(1e-3),
    }
}

/// By differences: the current limit and the growth's end have corners where no formula would be better.
fn jacobian(
    f: &impl Fn(&Vector3<f64>) -> Vector3<f64>,
    y: &Vector3<f64>,
    slope: &Vector3<f64>,
) -> Matrix3<f64> {
    let mut columns = [Vector3::zeros(); 3];
    for (i, column) in columns.iter_mut().enumerate() {
        let delta = 1e-7 * y[i].abs().max(1e-2);
        let mut moved = *y;
        moved[i] += delta;
        *column = (f(&moved) - slope) / delta;
    }
    Matrix3::from_columns(&columns)
}

/// One step of the method: the next values and the estimated error.
fn rosenbrock(
    f: &impl Fn(&Vector3<f64>) -> Vector3<f64>,
    jacobian: &Matrix3<f64>,
    y: &Vector3<f64>,
    slope: &Vector3<f64>,
    h: f64,
) -> (Vector3<f64>, Vector3<f64>) {
    let d = 1.0 / (2.0 + std::f64::consts::SQRT_2);
    let e32 = 6.0 + std::f64::consts::SQRT_2;
    let Some(inverse) = (Matrix3::identity() - jacobian * (h * d)).try_inverse() else {
        return (*y, Vector3::repeat(f64::INFINITY));
    };
    let k1 = inverse * slope;
    let middle = f(&(y + k1 * (0.5 * h)));
    let k2 = inverse * (middle - k1) + k1;
    let next = y + k2 * h;
    let end = f(&next);
    let k3 = inverse * (end - (k2 - middle) * e32 - (k1 - slope) * 2.0);
    (next, (k1 - k2 * 2.0 + k3) * (h / 6.0))
}
