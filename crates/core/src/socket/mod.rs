//! Sockets and valves: where the pins stand, seen from below, and what each of them is.
//!
//! Pins are counted clockwise from the key, seen from below. All of it is from memory and marked so.

pub mod names;

use std::sync::LazyLock;

use serde::Deserialize;

use self::names::{bare, names_of, without_bulb};
use crate::named::named;
use crate::quantity::Volt;
use crate::source::Source;
use crate::table::rows;
use crate::transistor::device::{Device, Sure, devices};

named! {
    /// What a part hangs on inside of a valve or a transistor.
    "electrode" Electrode {
        /// A valve's plate.
        Plate = "plate",
        /// A valve's cathode.
        Cathode = "cathode",
        /// A control grid.
        Grid = "grid",
        /// A screen grid.
        Screen = "screen",
        /// A suppressor grid.
        Suppressor = "suppressor",
        /// A heater.
        Heater = "heater",
        /// The cap on top.
        TopCap = "top cap",
        /// A transistor's base.
        Base = "base",
        /// Its emitter.
        Emitter = "emitter",
        /// Its collector.
        Collector = "collector",
    }
}

/// A base: how many pins, and where.
#[derive(Debug, Clone, Deserialize)]
pub struct Base {
    /// What it is called.
    pub base: String,
    /// How many pins.
    pub pins: u8,
    /// How many places there are on the circle; one more than pins leaves the gap that is the key.
    pub places: u8,
    /// The number of the first pin after the key.
    pub first: u8,
    /// What the key is.
    pub key: String,
    /// Pins that are thicker, their numbers separated by blanks.
    large: String,
    /// Where that comes from.
    pub source: Source,
}

/// A pin of a base, as it is drawn.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PinPlace {
    /// Its number.
    pub number: u8,
    /// To the right of the middle, as a share of the circle's radius.
    pub x: f64,
    /// Below the middle, likewise.
    pub y: f64,
    /// Whether it is a thick one.
    pub large: bool,
}

/// What a pin is.
#[derive(Debug, Clone, Deserialize)]
pub struct PinRole {
    /// As it is written beside a pin: `g2`.
    pub code: String,
    /// In full: `grid 2 (screen)`.
    pub name: String,
    /// Below these volts against the chassis something else was read.
    least_volts: Option<f64>,
    why_below: String,
    /// Above these volts there is a fault, or something else was read.
    most_volts: Option<f64>,
    why_above: String,
    /// When its pin is probed, the first first: what is fed with high volts before cathodes and grids, heaters last (practice).
    probed: u8,
    /// The electrode that it leads to; none of diode plates, shields and taps.
    pub electrode: Option<Electrode>,
    /// Where that comes from.
    pub source: Source,
}

impl Valve {
    /// Its pins that are read, in the order in which they are probed: not those that must be left free, and no shield.
    #[must_use]
    pub fn in_probing_order(&self) -> Vec<(u8, &'static PinRole)> {
        let read = |r: &PinRole| !matches!(r.code.as_str(), "ic" | "s");
        let mut pins: Vec<_> = self.pins.iter().copied().filter(|(_, r)| read(r)).collect();
        pins.sort_by_key(|(pin, r)| (r.probed, *pin));
        pins
    }
}

impl PinRole {
    /// Whether heater volts stand there.
    #[must_use]
    pub fn is_heater(&self) -> bool {
        self.electrode == Some(Electrode::Heater)
    }

    /// What speaks against a reading there, whatever the sheet's number; `None` where it can be, or the sheet has such volts
    /// too: a cathode at minus, a control grid at plus (practice).
    #[must_use]
    pub fn doubts(&self, sheet: Option<Volt>, read: Volt) -> Option<&str> {
        let below = self.least_volts.filter(|least| read.volts() < *least);
        if below.is_some() && sheet.is_none_or(|s| s.volts() >= 0.0) {
            return Some(&self.why_below);
        }
        let above = self.most_volts.filter(|most| read.volts() > *most);
        (above.is_some() && sheet.is_none_or(|s| s.volts() <= 0.0)).then_some(&self.why_above)
    }
}

/// The connections of a valve or a transistor.
#[derive(Debug, Clone)]
pub struct Valve {
    /// Its type.
    pub name: String,
    /// Its base.
    pub base: &'static Base,
    /// Each pin that is connected, and what it is.
    pub pins: Vec<(u8, &'static PinRole)>,
    /// What is at its cap, if it has one.
    pub cap: Option<&'static PinRole>,
    /// What it is.
    pub what: String,
    /// How sure its row is.
    pub sure: Sure,
    /// Where that comes from.
    pub source: Source,
}

#[derive(Deserialize)]
struct Row {
    #[serde(rename = "type")]
    name: String,
    base: String,
    pins: String,
    cap: String,
    what: String,
    sure: Sure,
    source: Source,
}

static BASES: LazyLock<Vec<Base>> = LazyLock::new(|| rows("base.csv", include_str!("../../data/base.csv")));
static ROLES: LazyLock<Vec<PinRole>> =
    LazyLock::new(|| rows("pin_role.csv", include_str!("../../data/pin_role.csv")));
static VALVES: LazyLock<Vec<Valve>> = LazyLock::new(|| {
    rows::<Row>("valve.csv", include_str!("../../data/valve.csv"))
        .into_iter()
        .filter_map(Row::valve)
        .collect()
});

impl Row {
    /// A row whose base or pins are not in their tables is left out; a test counts.
    fn valve(self) -> Option<Valve> {
        let pin = |p: &str| {
            let (number, code) = p.split_once('=')?;
            Some((number.parse().ok()?, role(code)?))
        };
        let pins: Option<Vec<_>> = self.pins.split_whitespace().map(pin).collect();
        let cap = if self.cap.is_empty() { None } else { Some(role(&self.cap)?) };
        Some(Valve {
            base: base(&self.base)?,
            pins: pins?,
            cap,
            name: self.name,
            what: self.what,
            sure: self.sure,
            source: self.source,
        })
    }
}

/// Every base.
#[must_use]
pub fn bases() -> &'static [Base] {
    &BASES
}

/// Every valve.
#[must_use]
pub fn valves() -> &'static [Valve] {
    &VALVES
}

static TRANSISTORS: LazyLock<Vec<Valve>> = LazyLock::new(|| devices().iter().filter_map(of_device).collect());

/// Every transistor of the table whose package has a drawing from below.
#[must_use]
pub fn transistors() -> &'static [Valve] {
    &TRANSISTORS
}

/// A transistor's leads as the pins of its package.
fn of_device(d: &Device) -> Option<Valve> {
    let base = base(&d.package)?;
    let leads = d.pinout.as_ref()?.leads();
    let pins: Option<Vec<_>> = (1u8..).zip(leads).map(|(n, l)| Some((n, role(l.role_code())?))).collect();
    Some(Valve {
        name: d.type_number.clone(),
        base,
        pins: pins?.into_iter().filter(|(n, _)| *n <= base.pins).collect(),
        cap: None,
        what: d.usual_use.clone(),
        sure: d.sure,
        source: d.source.clone(),
    })
}

/// The base of that name.
#[must_use]
pub fn base(name: &str) -> Option<&'static Base> {
    BASES.iter().find(|b| b.base.eq_ignore_ascii_case(name.trim()))
}

fn role(code: &str) -> Option<&'static PinRole> {
    ROLES.iter().find(|r| r.code == code)
}

/// The valve or transistor of that type, under any of its names; letters behind it, as in `6V6GT` and `12SK7-GT/G`, are taken
/// for its bulb.
///
/// ```
/// use owl_core::socket::valve;
/// assert_eq!(valve("6v6gt").unwrap().name, "6V6");
/// assert!(valve("9Z9").is_none());
/// ```
#[must_use]
pub fn valve(name: &str) -> Option<&'static Valve> {
    let of = |n: &str| VALVES.iter().find(|v| v.name == n);
    let (wanted, short) = (bare(name), without_bulb(name));
    let device = || TRANSISTORS.iter().find(|v| v.name.eq_ignore_ascii_case(&wanted));
    of(&wanted).or_else(|| of(&short)).or_else(|| names_of(&short).into_iter().find_map(of)).or_else(device)
}

impl Base {
    /// Its pins seen from below, clockwise from the key at the bottom.
    #[must_use]
    pub fn places(&self) -> Vec<PinPlace> {
        let large: Vec<u8> = self.large.split_whitespace().filter_map(|n| n.parse().ok()).collect();
        (0..self.pins)
            .map(|i| {
                // Half a place away from the key on either side; with a gap the key takes the missing pin's place.
                let gap = f64::from(self.places > self.pins);
                let turn = (f64::from(i) + 0.5 + 0.5 * gap) / f64::from(self.places) * std::f64::consts::TAU;
                PinPlace {
                    number: self.first + i,
                    x: -turn.sin(),
                    y: turn.cos(),
                    large: large.contains(&(self.first + i)),
                }
            })
            .collect()
    }
}

impl Valve {
    /// What a pin is; none where nothing is connected to it.
    #[must_use]
    pub fn role(&self, pin: u8) -> Option<&'static PinRole> {
        self.pins.iter().find(|(n, _)| *n == pin).map(|(_, r)| *r)
    }
}
