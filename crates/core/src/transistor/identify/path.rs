//! What lies between two of three leads.

/// Both ways below this is a piece of wire, volt (practice).
pub(super) const SHORT: f64 = 0.05;

/// The six readings: what the diode range showed with red on one lead and black on another.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SixReadings {
    volts: [[Option<f64>; 3]; 3],
}

/// Why six readings are not six readings.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum ReadingsError {
    /// Both probes on one lead.
    #[error("red and black are on the same lead")]
    SameLead,
    /// A lead that there is not.
    #[error("a transistor has three leads here")]
    NoSuchLead,
    /// Twice the same.
    #[error("this way round stands there twice")]
    Twice,
    /// Not six.
    #[error("six readings are needed: red and black on each pair of leads both ways round; {0} are there")]
    Missing(usize),
    /// Not a drop.
    #[error("{0} V is no drop of a diode range: 0 to 10 V, or nothing shown")]
    NoDrop(f64),
}

impl SixReadings {
    /// Six readings as (red, black, volts), leads counted from zero; `None` where the meter showed nothing.
    ///
    /// # Errors
    /// [`ReadingsError`], in the technician's words.
    pub fn new(readings: &[(usize, usize, Option<f64>)]) -> Result<Self, ReadingsError> {
        let mut volts = [[None; 3]; 3];
        let mut seen = [[false; 3]; 3];
        for (red, black, shown) in readings {
            if red == black {
                return Err(ReadingsError::SameLead);
            }
            let (Some(row), Some(was)) = (volts.get_mut(*red), seen.get_mut(*red)) else {
                return Err(ReadingsError::NoSuchLead);
            };
            let (Some(cell), Some(was)) = (row.get_mut(*black), was.get_mut(*black)) else {
                return Err(ReadingsError::NoSuchLead);
            };
            if *was {
                return Err(ReadingsError::Twice);
            }
            if let Some(v) = shown.filter(|v| !(0.0..=10.0).contains(v)) {
                return Err(ReadingsError::NoDrop(v));
            }
            *was = true;
            *cell = *shown;
        }
        if readings.len() != 6 {
            return Err(ReadingsError::Missing(readings.len()));
        }
        Ok(Self { volts })
    }

    /// What was shown with red on one lead and black on another.
    #[must_use]
    pub fn volts(&self, red: usize, black: usize) -> Option<f64> {
        self.volts.get(red).and_then(|r| r.get(black)).copied().flatten()
    }

    /// All six as (red, black, volts).
    #[must_use]
    pub fn all(&self) -> Vec<(usize, usize, Option<f64>)> {
        let pairs = [(0, 1), (1, 0), (0, 2), (2, 0), (1, 2), (2, 1)];
        pairs.iter().map(|(r, b)| (*r, *b, self.volts(*r, *b))).collect()
    }

    pub(super) fn path(&self, a: usize, b: usize) -> Path {
        match (self.volts(a, b), self.volts(b, a)) {
            (None, None) => Path::Nothing,
            (Some(v), None) => Path::OneWay(Way { from: a, to: b, volts: v }),
            (None, Some(v)) => Path::OneWay(Way { from: b, to: a, volts: v }),
            (Some(x), Some(y)) if x < SHORT && y < SHORT => Path::Short,
            (Some(x), Some(y)) if (x - y).abs() <= (0.1 * x.max(y)).max(0.02) => Path::Resistive(x.max(y)),
            (Some(x), Some(y)) if x < y => Path::Leaky(Way { from: a, to: b, volts: x }, y),
            (Some(x), Some(y)) => Path::Leaky(Way { from: b, to: a, volts: y }, x),
        }
    }
}

/// A way that conducts.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Way {
    pub from: usize,
    pub to: usize,
    pub volts: f64,
}

/// What lies between two leads.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum Path {
    /// Nothing either way.
    Nothing,
    /// A junction.
    OneWay(Way),
    /// A piece of wire.
    Short,
    /// The same both ways: volts.
    Resistive(f64),
    /// A junction through which something comes back: the volts backwards.
    Leaky(Way, f64),
}
