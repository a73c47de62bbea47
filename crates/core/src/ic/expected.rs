//! What a pin shows when its circuit works and stands without a signal.

use super::{Device, Function, Pin};
use crate::quantity::Volt;

/// What feeds a circuit, as it was read at its pins.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Feeding {
    /// At its minus pin, or the chassis.
    pub minus: Volt,
    /// At its plus pin.
    pub plus: Volt,
}

impl Feeding {
    /// From the minus to the plus.
    #[must_use]
    pub fn volts(self) -> Volt {
        Volt::computed(self.plus.volts() - self.minus.volts())
    }
}

/// What a pin should show, and how far it may be off.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Expected {
    /// What it should show.
    pub volts: Volt,
    /// How far it may be off.
    pub within: Volt,
}

impl Expected {
    /// Whether a reading fits.
    #[must_use]
    pub fn fits(self, read: Volt) -> bool {
        (read.volts() - self.volts.volts()).abs() <= self.within.volts() * (1.0 + 1e-9)
    }
}

impl Pin {
    /// Whether what it shows is known.
    #[must_use]
    pub fn is_known(&self) -> bool {
        self.of_supply.is_some()
    }

    /// What it should show at that feeding; `None` where the table does not say.
    #[must_use]
    pub fn expected(&self, feeding: Feeding) -> Option<Expected> {
        let supply = feeding.volts().volts();
        let share = self.of_supply?;
        // What is a share of the supply stands over its minus; what is a few volts does as well.
        let volts = feeding.minus.volts() + share * supply + self.volts.unwrap_or(0.0);
        let within = self.within_of_supply.unwrap_or(0.0) * supply + self.within_volts.unwrap_or(0.0);
        // The chassis is the chassis, whatever feeds it.
        let volts = if self.function == Function::Ground { 0.0 } else { volts };
        Some(Expected { volts: Volt::computed(volts), within: Volt::computed(within) })
    }

    /// What it should show, in words, whatever feeds it: `half the supply`, `1.4 V`; empty where the table does not say.
    #[must_use]
    pub fn in_words(&self) -> String {
        let Some(share) = self.of_supply else { return String::new() };
        let more = self.volts.unwrap_or(0.0);
        let of = if (share - 0.5).abs() < 1e-9 { "half the supply" } else { "the supply" };
        match (share == 0.0, more == 0.0) {
            (true, true) => "0 V".to_owned(),
            (true, false) => Volt::computed(more).to_string(),
            (false, true) => of.to_owned(),
            (false, false) => {
                let sign = if more < 0.0 { "less" } else { "and" };
                format!("{of} {sign} {}", Volt::computed(more.abs()))
            }
        }
    }
}

impl Device {
    /// What feeds it, where its plus pin was read; a minus pin that was not read is on the chassis.
    #[must_use]
    pub fn feeding(&self, read: impl Fn(u8) -> Option<Volt>) -> Option<Feeding> {
        let of = |f: Function| self.pins().filter(|p| p.function == f).find_map(|p| read(p.number));
        Some(Feeding {
            plus: of(Function::Supply)?,
            minus: of(Function::NegativeSupply).unwrap_or(Volt::ZERO),
        })
    }
}
