//! What a marking says, whatever the part.

use super::{Code, Colour, Scheme};
use crate::named::{Named, named};
use crate::part::{MadeOf, PartKind, SafetyClass};
use crate::quantity::format::{format, percent};
use crate::quantity::{Ampere, Farad, Fraction, Henry, Ohm, Quantity, Volt, Watt};
use crate::source::Source;

/// The value that a marking gives.
#[derive(Debug, Clone, PartialEq)]
pub enum Value {
    /// Of a resistor; zero for a link.
    Resistance(Ohm),
    /// Of a capacitor: the first section of a can.
    Capacitance(Farad),
    /// Of a coil.
    Inductance(Henry),
    /// Of a lamp.
    Voltage(Volt),
    /// Of a fuse: what it carries.
    Current(Ampere),
    /// Of a part that has a type number instead of a value.
    TypeNumber(String),
}

impl Value {
    /// The plain number in its base unit, and what it measures; `None` for a type number.
    #[must_use]
    pub fn number(&self) -> Option<(Quantity, f64)> {
        match self {
            Self::Resistance(v) => Some((Quantity::Resistance, v.ohms())),
            Self::Capacitance(v) => Some((Quantity::Capacitance, v.farads())),
            Self::Inductance(v) => Some((Quantity::Inductance, v.henries())),
            Self::Voltage(v) => Some((Quantity::Voltage, v.volts())),
            Self::Current(v) => Some((Quantity::Current, v.amperes())),
            Self::TypeNumber(_) => None,
        }
    }

    /// The resistance; `None` for any other value.
    #[must_use]
    pub fn resistance(&self) -> Option<Ohm> {
        match self {
            Self::Resistance(v) => Some(*v),
            _ => None,
        }
    }
}

impl std::fmt::Display for Value {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match (self, self.number()) {
            (Self::TypeNumber(name), _) => f.pad(name),
            (_, Some((quantity, value))) => format(quantity, value).fmt(f),
            (_, None) => Ok(()),
        }
    }
}

/// How far the value may be from the mark.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Tolerance {
    /// As fractions of the mark; both are positive for "minus … plus …".
    Relative {
        /// Downwards.
        minus: Fraction,
        /// Upwards.
        plus: Fraction,
    },
    /// The same capacitance to either side, for values below 10 pF.
    Absolute(Farad),
}

impl Tolerance {
    /// The same fraction to either side.
    #[must_use]
    pub fn even(t: Fraction) -> Self {
        Self::Relative { minus: t, plus: t }
    }

    /// The same to either side, in percent; `None` where it is not finite.
    #[must_use]
    pub fn of_percent(percent: f64) -> Option<Self> {
        Fraction::new(percent / 100.0).ok().map(Self::even)
    }

    /// Different fractions downwards and upwards, in percent.
    #[must_use]
    pub fn from_percents(minus: f64, plus: f64) -> Option<Self> {
        Some(Self::Relative {
            minus: Fraction::new(minus / 100.0).ok()?,
            plus: Fraction::new(plus / 100.0).ok()?,
        })
    }

    /// Downwards and upwards as fractions; `None` for an absolute one.
    #[must_use]
    pub fn sides(self) -> Option<(Fraction, Fraction)> {
        match self {
            Self::Relative { minus, plus } => Some((minus, plus)),
            Self::Absolute(_) => None,
        }
    }

    /// The wider side as a fraction; `None` for an absolute one.
    #[must_use]
    pub fn fraction(self) -> Option<Fraction> {
        match self {
            Self::Relative { minus, plus } => Some(if minus > plus { minus } else { plus }),
            Self::Absolute(_) => None,
        }
    }
}

impl std::fmt::Display for Tolerance {
    /// `±10 %`, `−20 % +80 %`, `±0.25 pF`.
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::Relative { minus, plus } if minus == plus => {
                f.pad(&format!("±{}", percent(plus.fraction())))
            }
            Self::Relative { minus, plus } => {
                f.pad(&format!("−{} +{}", percent(minus.fraction()), percent(plus.fraction())))
            }
            Self::Absolute(c) => f.pad(&format!("±{c}")),
        }
    }
}

named! {
    /// Whether volts are direct or alternating. The two are never the same rating.
    "kind of volts" VoltsKind {
        /// Direct volts.
        Direct = "DC",
        /// Alternating volts, effective.
        Alternating = "AC",
        /// Not said; on a part without a safety mark it is mostly direct volts.
        Unstated = "not said",
    }
}

/// A rated voltage.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Rating {
    /// The volts.
    pub volts: Volt,
    /// What kind of volts.
    pub kind: VoltsKind,
    /// What it stands for a moment, where that is marked.
    pub surge: Option<Volt>,
}

impl Rating {
    /// A rating of which nothing else is known; `None` where it is not finite.
    #[must_use]
    pub fn new(volts: f64, kind: VoltsKind) -> Option<Self> {
        Some(Self { volts: Volt::new(volts).ok().filter(|v| v.volts() > 0.0)?, kind, surge: None })
    }
}

impl std::fmt::Display for Rating {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let kind = match self.kind {
            VoltsKind::Direct => " DC",
            VoltsKind::Alternating => " AC",
            VoltsKind::Unstated => "",
        };
        let surge = self.surge.map(|s| format!(", surge {s}")).unwrap_or_default();
        f.pad(&format!("{}{kind}{surge}", self.volts))
    }
}

/// One capacitor of several in one can.
#[derive(Debug, Clone, PartialEq)]
pub struct Section {
    /// The sign beside its lug, where there is one: `▲`, `■`, `◗`, `plain`.
    pub sign: Option<String>,
    /// Its capacitance.
    pub capacitance: Farad,
    /// Its rating, where it is marked.
    pub rating: Option<Rating>,
}

/// One meaning of a marking.
#[derive(Debug, Clone, PartialEq)]
pub struct Meaning {
    /// What the part is.
    pub part: PartKind,
    /// The code that gives it.
    pub code: Code,
    /// Its value.
    pub value: Value,
    /// The tolerance; `None` where the marking shows none.
    pub tolerance: Option<Tolerance>,
    /// The rated volts, where they are marked.
    pub rating: Option<Rating>,
    /// The rated power, where it is marked or follows from the style or size.
    pub power: Option<Watt>,
    /// The current of a lamp.
    pub current: Option<Ampere>,
    /// What it says of temperature: `50 ppm/K`, `N750: −750 ppm/K`, `X7R: ±15 % from −55 to 125 °C`.
    pub temperature: Option<String>,
    /// How it is made, where the code tells.
    pub made: Option<MadeOf>,
    /// The sections of a can; empty for a single capacitor.
    pub sections: Vec<Section>,
    /// The safety class, where it is marked.
    pub safety: Option<SafetyClass>,
    /// What else the marking says: failure rate, characteristic, date ("perhaps").
    pub notes: Vec<String>,
    /// How the colours were read, where there are colours.
    pub scheme: Option<Scheme>,
    /// The colours as they are believed to be, in the order of the code.
    pub colours: Vec<Colour>,
    /// Whether it is read as given: no colour taken for another, nothing turned.
    pub as_seen: bool,
    /// Share of belief, 0 to 1; the meanings of one marking sum to 1.
    pub likelihood: f64,
    /// Why it is read so and what speaks for or against it.
    pub because: Vec<String>,
    /// The table that it is read by.
    pub source: Source,
}

impl Meaning {
    /// A meaning of which only the value is known so far.
    #[must_use]
    pub fn new(part: PartKind, code: Code, value: Value, source: Source) -> Self {
        Self {
            part,
            code,
            value,
            tolerance: None,
            rating: None,
            power: None,
            current: None,
            temperature: None,
            made: None,
            sections: vec![],
            safety: None,
            notes: vec![],
            scheme: None,
            colours: vec![],
            as_seen: true,
            likelihood: 1.0,
            because: vec![],
            source,
        }
    }

    /// The value as ohms; `None` for anything but a resistor.
    #[must_use]
    pub fn resistance(&self) -> Option<Ohm> {
        self.value.resistance()
    }

    /// The type number; `None` for a part with a value.
    #[must_use]
    pub fn type_number(&self) -> Option<&str> {
        match &self.value {
            Value::TypeNumber(name) => Some(name),
            Value::Resistance(_)
            | Value::Capacitance(_)
            | Value::Inductance(_)
            | Value::Voltage(_)
            | Value::Current(_) => None,
        }
    }

    /// The volts that the whole part stands: those of the part, or the least of a can's sections, which carry their
    /// own.
    #[must_use]
    pub fn least_rating(&self) -> Option<Volt> {
        let sections = self.sections.iter().filter_map(|s| s.rating.map(|r| r.volts));
        let least = sections.min_by(|a, b| a.volts().total_cmp(&b.volts()));
        self.rating.map(|r| r.volts).or(least).filter(|v| *v > Volt::ZERO)
    }

    /// The tolerance as one fraction; `None` where there is none or where it is absolute.
    #[must_use]
    pub fn tolerance_fraction(&self) -> Option<Fraction> {
        self.tolerance.and_then(Tolerance::fraction)
    }

    /// Value, tolerance, ratings and what else it says, in one line.
    #[must_use]
    pub fn in_words(&self) -> String {
        let mut words = vec![match self.sections.len() {
            0 => self.value.to_string(),
            _ => self.sections.iter().map(|s| s.capacitance.to_string()).collect::<Vec<_>>().join(" + "),
        }];
        if let Some(t) = self.tolerance {
            words[0] = format!("{} {t}", words[0]);
        }
        words.extend(self.rating.map(|r| r.to_string()));
        words.extend(self.current.map(|c| c.to_string()));
        words.extend(self.power.map(|p| p.to_string()));
        words.extend(self.safety.map(|s| format!("class {s}")));
        words.extend(self.temperature.clone());
        words.extend(self.made.map(|m| m.name().to_owned()));
        words.join(", ")
    }
}
