//! How the part on the clips is, from the readings so far: least squares.
//!
//! What leaks is what flows less what charges: i − C dv/dt. With it, the formed voltage follows from the charge
//! without solving anything: V_f = V_f0 + (1/q) ∫ (i − v/R_p) dt. So each reading asks for
//!
//! ln i = ln( i_w (e^(k (v/V_f − 1)) − e^(−k)) + v/R_p )
//!
//! and four unknowns (i_w, V_f0, q, R_p; their logarithms) are found by Levenberg's and Marquardt's method (Press et
//! al., *Numerical Recipes*, section "Nonlinear Models"). What is assumed of such a part counts as one more reading
//! for each unknown, so that few readings do not lead far astray. How warm the can is follows from v · i so far.

use nalgebra::{Matrix4, Vector4};

use super::Sample;
use super::aged::Aged;
use crate::quantity::Volt;

/// How sure the assumptions are, as a share (e-fold): weak current, formed voltage, growth, parallel path.
const PRIOR: [f64; 4] = [1.0, 0.25, 0.7, 1.2];
/// How close a reading is to the model, as a share.
const READING: f64 = 0.05;
/// At most so many readings are estimated.
const MOST: usize = 160;

/// A part as its readings say.
#[derive(Debug, Clone, PartialEq)]
pub struct Estimate {
    /// The part as it was at the start.
    pub part: Aged,
    /// To how many volts its weak oxide is formed after the last reading.
    pub formed: Volt,
    /// How warm it is above the room after the last reading.
    pub kelvin: f64,
    /// How far the readings are from the model on average, as a share.
    pub scatter: f64,
    /// The part one standard deviation off along each axis of what the readings leave open, to both sides.
    pub neighbours: Vec<(Aged, Volt)>,
    /// How many readings were estimated.
    pub readings: usize,
}

/// A reading prepared for the fit.
struct Point {
    volts: f64,
    log_leak: f64,
    /// ∫ i_leak dt and ∫ v dt so far.
    coulombs: f64,
    volt_seconds: f64,
    /// Warmth above the room.
    kelvin: f64,
}

/// Fits a part to its readings, starting from what is assumed of it. `None` while there are too few.
#[must_use]
pub fn estimate(assumed: &Aged, samples: &[Sample]) -> Option<Estimate> {
    let points = prepare(assumed, samples);
    if points.len() < 6 {
        return None;
    }
    let mut theta = Vector4::zeros();
    let mut cost = cost_of(&residuals(assumed, &points, &theta), &theta);
    let mut damping = 1e-2;
    for _ in 0..40 {
        let (normal, gradient) = normal_equations(assumed, &points, &theta);
        let damped = normal + Matrix4::from_diagonal(&(normal.diagonal() * damping));
        let Some(inverse) = damped.try_inverse() else { break };
        let step = (inverse * gradient).map(|v| v.clamp(-1.0, 1.0));
        let tried = (theta - step).map(|v| v.clamp(-6.0, 6.0));
        let new = cost_of(&residuals(assumed, &points, &tried), &tried);
        if new < cost {
            let small = (cost - new) < 1e-6 * cost;
            (theta, cost) = (tried, new);
            damping = (damping * 0.3).max(1e-9);
            if small {
                break;
            }
        } else {
            damping *= 5.0;
            if damping > 1e9 {
                break;
            }
        }
    }
    let rest = residuals(assumed, &points, &theta);
    let mean_square = rest.iter().map(|r| r * r).sum::<f64>() / rest.len() as f64;
    let (normal, _) = normal_equations(assumed, &points, &theta);
    let covariance = normal.try_inverse()? * mean_square.max(1.0);
    let spread = covariance.symmetric_eigen();
    let end = points.last()?;
    // What rounding made of readings that say nothing is no part.
    let with = |theta: &Vector4<f64>| {
        theta.iter().all(|t| t.is_finite()).then(|| {
            let part = moved(assumed, theta);
            (part, Volt::computed(formed_at(&part, end)))
        })
    };
    let neighbours = (0..4)
        .flat_map(|i| {
            let axis = spread.eigenvectors.column(i) * spread.eigenvalues[i].max(0.0).sqrt().min(2.0);
            [with(&(theta + axis)), with(&(theta - axis))].into_iter().flatten()
        })
        .collect();
    let (part, formed) = with(&theta)?;
    Some(Estimate {
        part,
        formed,
        kelvin: end.kelvin,
        scatter: mean_square.sqrt() * READING,
        neighbours,
        readings: points.len(),
    })
}

/// The readings of which the leak can be told, thinned out evenly.
fn prepare(assumed: &Aged, samples: &[Sample]) -> Vec<Point> {
    let c = assumed.capacitance.farads();
    let mut points = Vec::new();
    let (mut coulombs, mut volt_seconds, mut kelvin) = (0.0, 0.0, 0.0);
    for pair in samples.windows(2) {
        let (a, b) = (pair[0], pair[1]);
        let dt = b.at_s - a.at_s;
        if !(dt > 0.0 && b.set_volts.is_some()) {
            continue;
        }
        let charging = c * (b.volts - a.volts) / dt;
        let flow = f64::midpoint(a.amperes, b.amperes);
        let leak = flow - charging;
        coulombs += leak.max(0.0) * dt;
        volt_seconds += f64::midpoint(a.volts, b.volts).max(0.0) * dt;
        let watts = f64::midpoint(a.volts, b.volts).max(0.0) * leak.max(0.0);
        kelvin = Aged::warmth_after(watts, kelvin, dt);
        // The capacitance is known to a tenth or so: what mostly charges says little of the leak.
        let settled = charging.abs() < 0.05 * flow.abs();
        if settled && leak > 1e-7 && b.volts > 1.0 {
            let volts = f64::midpoint(a.volts, b.volts);
            points.push(Point { volts, log_leak: leak.ln(), coulombs, volt_seconds, kelvin });
        }
    }
    let every = points.len().div_ceil(MOST).max(1);
    // The last one is where the forecast begins.
    let last = points.len().saturating_sub(1);
    let mut i = 0;
    points.retain(|_| {
        i += 1;
        (i - 1) % every == 0 || i - 1 == last
    });
    points
}

/// The assumed part with its unknowns moved by so many e-folds.
fn moved(assumed: &Aged, theta: &Vector4<f64>) -> Aged {
    Aged {
        weak_current: assumed.weak_current * theta[0].exp(),
        formed: (assumed.formed * theta[1].exp()).min(assumed.formed_when_made),
        coulombs_per_volt: assumed.coulombs_per_volt * theta[2].exp(),
        parallel: assumed.parallel * theta[3].exp(),
        ..*assumed
    }
}

fn formed_at(part: &Aged, p: &Point) -> f64 {
    let grown = (p.coulombs - p.volt_seconds / part.parallel.ohms().max(1e-3)).max(0.0);
    let (from, made) = (part.formed.volts(), part.formed_when_made.volts());
    if part.coulombs_per_volt <= 0.0 || from >= made {
        return from;
    }
    // dV_f/dQ = (1 − V_f/V_a) / q, solved.
    made - (made - from) * (-grown / (part.coulombs_per_volt * made)).exp()
}

/// How far each reading is from the model, in its standard deviations.
fn residuals(assumed: &Aged, points: &[Point], theta: &Vector4<f64>) -> Vec<f64> {
    let part = moved(assumed, theta);
    points
        .iter()
        .map(|p| {
            let (weak, parallel) = part.leakage_amperes(p.volts, formed_at(&part, p), p.kelvin);
            let leak = weak + parallel;
            (leak.max(1e-12).ln() - p.log_leak) / READING
        })
        .collect()
}

fn cost_of(residuals: &[f64], theta: &Vector4<f64>) -> f64 {
    let prior: f64 = (0..4).map(|i| (theta[i] / PRIOR[i]).powi(2)).sum();
    residuals.iter().map(|r| r * r).sum::<f64>() + prior
}

/// JᵀJ and Jᵀr with the assumptions as further readings.
fn normal_equations(assumed: &Aged, points: &[Point], theta: &Vector4<f64>) -> (Matrix4<f64>, Vector4<f64>) {
    let here = residuals(assumed, points, theta);
    let delta = 1e-5;
    let columns: Vec<Vec<f64>> = (0..4)
        .map(|i| {
            let mut moved = *theta;
            moved[i] += delta;
            residuals(assumed, points, &moved).iter().zip(&here).map(|(a, b)| (a - b) / delta).collect()
        })
        .collect();
    let dot = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(x, y)| x * y).sum::<f64>();
    let mut normal = Matrix4::from_fn(|i, j| dot(&columns[i], &columns[j]));
    let mut gradient = Vector4::from_fn(|i, _| dot(&columns[i], &here));
    for i in 0..4 {
        normal[(i, i)] += 1.0 / (PRIOR[i] * PRIOR[i]);
        gradient[i] += theta[i] / (PRIOR[i] * PRIOR[i]);
    }
    (normal, gradient)
}
