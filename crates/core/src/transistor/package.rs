//! Packages from below: where each lead comes out, what holds the package down, what its case is.
//!
//! Cannot tell two makers of one outline apart who put the leads in another order: the pinout belongs to the type,
//! and it is checked with the meter before it is soldered.

use std::fmt;
use std::str::FromStr;
use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::{Named, named};
use crate::source::Source;
use crate::table::rows;

named! {
    /// What a lead is connected to.
    "electrode" Lead {
        /// Emitter.
        Emitter = "emitter",
        /// Base.
        Base = "base",
        /// Collector.
        Collector = "collector",
        /// Source.
        Source = "source",
        /// Gate.
        Gate = "gate",
        /// Drain.
        Drain = "drain",
        /// The case or the screen inside.
        Shield = "shield",
    }
}

impl Lead {
    /// What is written beside it in a socket's drawing.
    pub(crate) fn role_code(self) -> &'static str {
        match self {
            Self::Emitter => "e",
            Self::Base => "b",
            Self::Collector => "c",
            Self::Source => "src",
            Self::Gate => "gate",
            Self::Drain => "drain",
            Self::Shield => "s",
        }
    }

    /// Its letter in a pinout: E B C, S G D, X for the shield.
    #[must_use]
    pub fn letter(self) -> char {
        match self {
            Self::Emitter => 'E',
            Self::Base => 'B',
            Self::Collector => 'C',
            Self::Source => 'S',
            Self::Gate => 'G',
            Self::Drain => 'D',
            Self::Shield => 'X',
        }
    }
}

/// The most leads that a pinout has.
pub const MOST_LEADS: usize = 4;

/// Which electrode is on which lead, in the order of the package.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Pinout {
    leads: [Lead; MOST_LEADS],
    count: usize,
}

/// A pinout that is none.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error(
    "'{0}' is no pinout: write two to four of E B C, or S G D, and X for the shield, each once, in the order of the \
     leads seen from below"
)]
pub struct PinoutError(String);

impl Pinout {
    /// The electrodes in the order of the leads.
    #[must_use]
    pub fn leads(&self) -> &[Lead] {
        self.leads.get(..self.count).unwrap_or(&[])
    }

    /// On which lead an electrode is, counted from zero.
    #[must_use]
    pub fn position(&self, lead: Lead) -> Option<usize> {
        self.leads().iter().position(|l| *l == lead)
    }
}

impl FromStr for Pinout {
    type Err = PinoutError;

    fn from_str(text: &str) -> Result<Self, PinoutError> {
        let wrong = || PinoutError(text.chars().take(20).collect());
        let mut leads = Vec::new();
        for c in text.trim().to_ascii_uppercase().chars() {
            let lead = Lead::ALL.iter().copied().find(|l| l.letter() == c).ok_or_else(wrong)?;
            if leads.contains(&lead) {
                return Err(wrong());
            }
            leads.push(lead);
        }
        let field = leads.iter().any(|l| matches!(l, Lead::Source | Lead::Gate | Lead::Drain));
        let bipolar = leads.iter().any(|l| matches!(l, Lead::Emitter | Lead::Base | Lead::Collector));
        if !(2..=MOST_LEADS).contains(&leads.len()) || field == bipolar {
            return Err(wrong());
        }
        let count = leads.len();
        leads.resize(MOST_LEADS, Lead::Shield);
        let leads: [Lead; MOST_LEADS] = leads.try_into().map_err(|_| wrong())?;
        Ok(Self { leads, count })
    }
}

impl fmt::Display for Pinout {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.leads().iter().try_for_each(|l| write!(f, "{}", l.letter()))
    }
}

impl<'de> Deserialize<'de> for Pinout {
    fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        String::deserialize(d)?.parse().map_err(serde::de::Error::custom)
    }
}

named! {
    /// What holds a package down.
    "mounting" Mount {
        /// Its leads alone.
        Leads = "leads",
        /// One screw through its body.
        Screw = "screw",
        /// One screw through its tab.
        Tab = "tab",
        /// A flange with two screws.
        Flange = "flange",
        /// A stud with a nut.
        Stud = "stud",
    }
}

named! {
    /// How the leads come out.
    "lead arrangement" Shape {
        /// In a row.
        Row = "row",
        /// Round a circle, a dot marks one.
        Circle = "circle",
        /// Round a circle, a tab marks the first.
        Tab = "tab",
        /// Two pins in a flange, the case is the third.
        Flange = "flange",
        /// On top of a stud.
        Stud = "stud",
    }
}

impl Shape {
    /// Whether the leads go round in a circle.
    #[must_use]
    pub fn is_round(self) -> bool {
        match self {
            Self::Circle | Self::Tab => true,
            Self::Row | Self::Flange | Self::Stud => false,
        }
    }
}

/// A registered outline.
#[derive(Debug, Clone, Deserialize)]
pub struct Package {
    /// Its name.
    pub package: String,
    /// What holds it down.
    pub mount: Mount,
    /// From hole to hole, millimetre.
    pub hole_millimetres: Option<f64>,
    /// How its leads come out.
    pub shape: Shape,
    /// How many leads it has beside its case.
    pub leads: usize,
    /// From junction to still air, K/W, where that is typical of the outline.
    pub free_air_kelvin_per_watt: Option<f64>,
    /// How it looks.
    pub about: String,
    /// Where the row comes from.
    pub source: Source,
}

static PACKAGES: LazyLock<Vec<Package>> =
    LazyLock::new(|| rows("package.csv", include_str!("../../data/package.csv")));

/// All outlines of the table.
#[must_use]
pub fn packages() -> &'static [Package] {
    &PACKAGES
}

/// The outline of that name; `None` where the table has none.
#[must_use]
pub fn package(name: &str) -> Option<&'static Package> {
    PACKAGES.iter().find(|p| p.package.eq_ignore_ascii_case(name.trim()))
}

/// Where a lead comes out, seen from below: shares of half the drawing's width, x to the right, y upwards.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spot {
    /// To the right.
    pub x_share: f64,
    /// Upwards.
    pub y_share: f64,
}

impl Package {
    /// Where its leads come out, in their order, seen from below. In a row: left to right with the print or the flat
    /// side up; with a tab: clockwise from it, which is at the lower left; in a flange: the two pins above the
    /// middle.
    #[must_use]
    pub fn spots(&self) -> Vec<Spot> {
        let at = |x_share: f64, y_share: f64| Spot { x_share, y_share };
        match self.shape {
            Shape::Row => {
                // The last of four stands off by a gap.
                let gap = if self.leads == 4 { 0.5 } else { 0.0 };
                let span = (self.leads - 1) as f64 + gap;
                (0..self.leads)
                    .map(|i| {
                        let x = i as f64 + if i == 3 { gap } else { 0.0 };
                        at((2.0 * x / span - 1.0) * 0.55, 0.0)
                    })
                    .collect()
            }
            Shape::Circle | Shape::Tab | Shape::Stud => [(-0.5, 0.0), (0.0, 0.5), (0.5, 0.0), (0.0, -0.5)]
                .iter()
                .take(self.leads)
                .map(|(x, y)| at(*x, *y))
                .collect(),
            Shape::Flange => vec![at(-0.28, 0.1), at(0.28, 0.1)],
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_pinout_is_read_as_it_is_written() -> Result<(), PinoutError> {
        for text in ["EBC", "CBE", "BE", "EBXC", "SDGX"] {
            assert_eq!(text.parse::<Pinout>()?.to_string(), text);
        }
        for wrong in ["", "E", "EBG", "EEB", "ABC", "EBCXS", "XX"] {
            assert!(wrong.parse::<Pinout>().is_err(), "{wrong}");
        }
        Ok(())
    }

    #[test]
    fn every_outline_draws_its_leads_apart() {
        for p in packages() {
            let spots = p.spots();
            assert_eq!(spots.len(), p.leads, "{}", p.package);
            for (i, a) in spots.iter().enumerate() {
                for b in spots.iter().skip(i + 1) {
                    let d = (a.x_share - b.x_share).hypot(a.y_share - b.y_share);
                    assert!(d > 0.2, "{}: {d}", p.package);
                }
            }
        }
    }
}
