//! Random numbers that are the same each time, so that what fails once fails again.
#![allow(missing_docs, unreachable_pub)]

/// A sequence of numbers that is the same each time (a 64-bit linear congruence, its upper half).
pub struct Dice(u64);

impl Dice {
    pub fn of_seed(seed: u64) -> Self {
        Self(seed)
    }

    pub fn next(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) as f64 / f64::from(1u32 << 31)
    }

    pub fn of<T: Copy>(&mut self, all: &[T]) -> T {
        all[((self.next() * all.len() as f64) as usize).min(all.len() - 1)]
    }

    /// Half of the time nothing.
    pub fn perhaps<T: Copy>(&mut self, all: &[T]) -> Option<T> {
        (self.next() < 0.5).then(|| self.of(all))
    }

    /// Between two numbers, evenly by their logarithm.
    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        (low.ln() + self.next() * (high / low).ln()).exp()
    }
}
