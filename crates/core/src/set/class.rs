//! The class of a set is three answers: how it is fed, what it works with, and the highest volts in it. What can hurt, what is
//! gone through before work and how it is brought up follow from them.

use crate::named::{Named, named};
use crate::quantity::Volt;
use crate::set::SetFacts;

named! {
    /// How a set is fed.
    "power source" PowerSource {
        /// From the mains, through a transformer with windings of its own.
        Transformer = "mains transformer",
        /// From the mains without one: its chassis may be live.
        LiveChassis = "mains, live chassis",
        /// From batteries.
        Battery = "battery",
        /// From batteries, or from the mains through a transformer.
        BatteryOrTransformer = "battery or mains transformer",
        /// From batteries, or from the mains without one.
        BatteryOrLiveChassis = "battery or mains, live chassis",
    }
}

named! {
    /// What a set works with.
    "devices" Devices {
        /// Valves.
        Valves = "valves",
        /// Transistors.
        Transistors = "transistors",
        /// Both.
        Both = "valves and transistors",
    }
}

named! {
    /// What in a set can hurt people or parts: each has its own warnings and lists.
    "hazard" Hazard {
        /// More volts than a receiver or an amplifier has.
        HighVoltage = "high voltage",
        /// The line itself on the chassis.
        LiveChassis = "live chassis",
        /// The line, behind a transformer.
        Mains = "mains",
        /// Batteries.
        Battery = "battery",
        /// Devices that die of one slip.
        Transistors = "transistors",
    }
}

/// From these volts on a set is handled as one of high voltage (practice: above the HT of receivers and amplifiers; from
/// here on a charged capacitor kills without help).
pub const HIGH_FROM: Volt = Volt::computed(600.0);

/// What a set is, as far as it decides what in it can hurt.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SetClass {
    /// How it is fed.
    pub source: PowerSource,
    /// What it works with.
    pub devices: Devices,
    /// The highest volts in it, where somebody said them.
    pub highest: Option<Volt>,
}

impl SetClass {
    /// A set of which the volts are not known.
    #[must_use]
    pub fn of(source: PowerSource, devices: Devices) -> Self {
        Self { source, devices, highest: None }
    }

    /// The same with the volts of its rails, where one has more than somebody said.
    #[must_use]
    pub fn with_rails(self, facts: &SetFacts) -> Self {
        let rails = facts.rails.iter().map(|r| r.volts.abs());
        Self { highest: self.highest.into_iter().chain(rails).reduce(Volt::max), ..self }
    }

    /// Whether its chassis may be live.
    #[must_use]
    pub fn has_live_chassis(self) -> bool {
        matches!(self.source, PowerSource::LiveChassis | PowerSource::BatteryOrLiveChassis)
    }

    /// Whether it hangs on the mains, always or at times.
    #[must_use]
    pub fn is_on_the_mains(self) -> bool {
        self.source != PowerSource::Battery
    }

    /// Whether it runs on batteries, always or at times.
    #[must_use]
    pub fn has_batteries(self) -> bool {
        !matches!(self.source, PowerSource::Transformer | PowerSource::LiveChassis)
    }

    /// Whether there are valves in it.
    #[must_use]
    pub fn has_valves(self) -> bool {
        self.devices != Devices::Transistors
    }

    /// Whether there are transistors in it.
    #[must_use]
    pub fn has_transistors(self) -> bool {
        self.devices != Devices::Valves
    }

    /// Whether its volts are those of a transmitter.
    #[must_use]
    pub fn is_high_voltage(self) -> bool {
        self.highest.is_some_and(|v| v >= HIGH_FROM)
    }

    /// Whether its heaters, and the lamps with them, hang in a chain across the line.
    #[must_use]
    pub fn has_heater_chain(self) -> bool {
        self.has_live_chassis() && self.has_valves()
    }

    /// What in it can hurt, the most pressing first. The lists of high voltage hold all that those of the mains do.
    #[must_use]
    pub fn hazards(self) -> Vec<Hazard> {
        let high = self.is_high_voltage();
        let mains = self.is_on_the_mains() && !self.has_live_chassis() && !high;
        [
            (Hazard::HighVoltage, high),
            (Hazard::LiveChassis, self.has_live_chassis()),
            (Hazard::Mains, mains),
            (Hazard::Battery, self.has_batteries()),
            (Hazard::Transistors, self.has_transistors()),
        ]
        .into_iter()
        .filter_map(|(hazard, holds)| holds.then_some(hazard))
        .collect()
    }

    /// The one whose way up it takes at first power: a set that runs on batteries alone from a bench supply, one without
    /// valves by its idle current, and not by what glows.
    #[must_use]
    pub fn comes_up_as(self) -> Hazard {
        if self.is_high_voltage() {
            Hazard::HighVoltage
        } else if !self.is_on_the_mains() {
            Hazard::Battery
        } else if !self.has_valves() {
            Hazard::Transistors
        } else if self.has_live_chassis() {
            Hazard::LiveChassis
        } else {
            Hazard::Mains
        }
    }

    /// The one whose list is gone through before it goes out; `None` where it hangs on no mains.
    #[must_use]
    pub fn closes_as(self) -> Option<Hazard> {
        let by_chassis = if self.has_live_chassis() { Hazard::LiveChassis } else { Hazard::Mains };
        self.is_on_the_mains().then_some(by_chassis)
    }

    /// Whether what holds for these devices holds for this set; what is said of none holds for all.
    #[must_use]
    pub fn works_with(self, devices: Option<Devices>) -> bool {
        match devices {
            None | Some(Devices::Both) => true,
            Some(Devices::Valves) => self.has_valves(),
            Some(Devices::Transistors) => self.has_transistors(),
        }
    }

    /// In a word, by what can hurt in it: `live chassis`, `1.2 kV`.
    #[must_use]
    pub fn in_short(self) -> String {
        match self.highest.filter(|_| self.is_high_voltage()) {
            Some(v) => v.to_string(),
            None if self.has_live_chassis() => Hazard::LiveChassis.name().to_owned(),
            None if self.is_on_the_mains() => Hazard::Mains.name().to_owned(),
            None => Hazard::Battery.name().to_owned(),
        }
    }

    /// In words: `valves, mains, live chassis`; its volts where they are high.
    #[must_use]
    pub fn in_words(self) -> String {
        let high = self.highest.filter(|_| self.is_high_voltage()).map(|v| format!(", {v}"));
        format!("{}, {}{}", self.devices.name(), self.source.name(), high.unwrap_or_default())
    }
}
