//! How well a state of the network explains the readings, with good parts within their tolerance and a meter that errs.
//!
//! Each good part moves the nodes together, so the tolerances make one covariance, not a width for each node. A sharper
//! prediction that comes true is worth more than a vague one (the determinant), and a fault whose size is free has paid
//! for it in the direction in which it is free.

use nalgebra::{Cholesky, DMatrix, DVector, Dyn};

use super::{Element, Feed, Solved};

/// A meter's error as a share of the reading and of the rail (practice: a 1 % meter and what a hand reads off).
const METER: (f64, f64) = (0.01, 0.001);
/// What a width is of a tolerance that anything within is as likely: 1/√3.
const UNIFORM: f64 = 0.577_350_269_189_625_8;

/// What was read at the nodes, and with what.
#[derive(Debug, Clone)]
pub(super) struct Readings {
    pub nodes: Vec<usize>,
    pub volts: DVector<f64>,
    /// The meter's own resistance, in ohm; infinite where it is not known.
    pub meter: f64,
}

/// A state of the network held against the readings.
#[derive(Debug, Clone)]
pub(super) struct Weighed {
    /// What the nodes that were read would show.
    pub predicted: DVector<f64>,
    /// Readings less what they would be.
    pub residual: DVector<f64>,
    pub cholesky: Cholesky<f64, Dyn>,
    /// The squares of what is off, in widths.
    pub chi_squared: f64,
    /// Logarithm of the determinant of the covariance.
    pub log_determinant: f64,
}

impl Readings {
    /// What a node's volts become with the meter on it.
    pub fn loaded(&self, solved: &Solved<'_>, node: usize) -> f64 {
        if self.meter.is_finite() { self.meter / (self.meter + solved.ohms[(node, node)]) } else { 1.0 }
    }

    /// A network's answer to a current, at the nodes that were read and with the meter on them.
    pub fn answer(&self, solved: &Solved<'_>, part: usize) -> DVector<f64> {
        let all = solved.answer(part);
        DVector::from_iterator(self.nodes.len(), self.nodes.iter().map(|n| all[*n] * self.loaded(solved, *n)))
    }

    /// `faulty`: parts whose tolerance does not count, as their size is what is sought.
    pub fn weigh(&self, feed: &Feed, solved: &Solved<'_>, faulty: &[usize]) -> Option<Weighed> {
        let m = self.nodes.len();
        let predicted =
            DVector::from_iterator(m, self.nodes.iter().map(|n| solved.volts[*n] * self.loaded(solved, *n)));
        let mut c = DMatrix::zeros(m, m);
        for (i, v) in self.volts.iter().enumerate() {
            c[(i, i)] = (METER.0 * v).powi(2) + (METER.1 * feed.rail).powi(2);
        }
        for (j, p) in feed.parts.iter().enumerate().filter(|(j, _)| !faulty.contains(j)) {
            // A part that is off by a share moves the nodes as a current of that share of its own does.
            let own = match p.element {
                Element::Capacitor(_) | Element::Contact => continue,
                Element::Resistor(_) | Element::Resistance(_) | Element::Current(_) => solved.through(j),
            };
            let width = own * feed.tolerance(j) * UNIFORM;
            if width == 0.0 {
                continue;
            }
            let s = self.answer(solved, j) * width;
            c.ger(1.0, &s, &s, 1.0);
        }
        let cholesky = Cholesky::new(c)?;
        let residual = &self.volts - &predicted;
        let chi_squared = residual.dot(&cholesky.solve(&residual));
        let log_determinant = 2.0 * cholesky.l_dirty().diagonal().iter().map(|d| d.ln()).sum::<f64>();
        Some(Weighed { predicted, residual, cholesky, chi_squared, log_determinant })
    }
}
