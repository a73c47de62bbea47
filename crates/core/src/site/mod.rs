//! Where a part sits, as a place on a socket: a valve or a transistor, and there an electrode or a pin. It links the part with
//! the socket's drawing and with the voltage chart.

use crate::socket::{Electrode, PinRole, Valve};

/// A place on a socket, as far as it was said.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Site {
    /// The valve or the transistor, in capitals: `V3`, `V3A` for a half of it.
    pub valve: Option<String>,
    /// The electrode.
    pub electrode: Option<Electrode>,
    /// The pin.
    pub pin: Option<u8>,
}

/// A point of a socket that a probe touches.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum SocketPoint {
    /// A pin, by its number.
    Pin(u8),
    /// The cap on top.
    Cap,
}

impl Site {
    /// The valve as the chart has it, and the half of it that was said: `V3` and `A` of `V3A`.
    #[must_use]
    pub fn valve_and_half(&self) -> Option<(&str, Option<char>)> {
        let name = self.valve.as_deref()?;
        let half = name.chars().last().filter(|c| *c == 'A' || *c == 'B');
        Some((name.trim_end_matches(['A', 'B']), half))
    }

    /// Whether it is a place of that valve: a half belongs to the whole.
    #[must_use]
    pub fn is_at(&self, valve: &str) -> bool {
        self.valve.as_deref().is_some_and(|v| v.eq_ignore_ascii_case(valve))
            || self.valve_and_half().is_some_and(|(v, _)| v.eq_ignore_ascii_case(valve))
    }

    /// Where on such a valve it is; `None` where that is not said, or could be one half as well as the other.
    ///
    /// ```
    /// use owl_core::part::PartKind;
    /// use owl_core::say::sites;
    /// use owl_core::site::SocketPoint;
    /// use owl_core::socket::valve;
    /// let on = |place, of| sites(PartKind::Resistor, place, None)[0].on(valve(of).unwrap());
    /// assert_eq!(on("V3 screen", "6V6"), Some(SocketPoint::Pin(4)));
    /// assert_eq!(on("V3A grid", "6SN7"), Some(SocketPoint::Pin(1)));
    /// assert_eq!(on("V3 grid", "6SN7"), None);
    /// assert_eq!(on("V1 grid", "24A"), Some(SocketPoint::Cap));
    /// ```
    #[must_use]
    pub fn on(&self, valve: &Valve) -> Option<SocketPoint> {
        if let Some(pin) = self.pin {
            return Some(SocketPoint::Pin(pin));
        }
        let wanted = self.electrode?;
        if wanted == Electrode::TopCap {
            return valve.cap.map(|_| SocketPoint::Cap);
        }
        let half = self.valve_and_half().and_then(|(_, half)| half);
        let of_half = |r: &PinRole| half.is_none_or(|h| !r.code.ends_with(['A', 'B']) || r.code.ends_with(h));
        let is = |r: &PinRole| r.electrode == Some(wanted) && of_half(r);
        let pins: Vec<_> = valve.pins.iter().filter(|(_, r)| is(r)).collect();
        match pins.as_slice() {
            [] => {
                // A valve without a cathode of its own is heated directly.
                let filament = valve.pins.iter().find(|(_, r)| r.electrode == Some(Electrode::Heater));
                let cathode = (wanted == Electrode::Cathode).then_some(filament).flatten();
                let cap = valve.cap.filter(|r| is(r)).map(|_| SocketPoint::Cap);
                cap.or_else(|| cathode.map(|(n, _)| SocketPoint::Pin(*n)))
            }
            [(first, role), rest @ ..] => {
                let same = rest.iter().all(|(_, r)| r.code == role.code);
                same.then_some(SocketPoint::Pin(*first))
            }
        }
    }

    /// A text by which places sort valve by valve, and there in the order in which electrodes are probed.
    #[must_use]
    pub fn order_key(&self) -> String {
        let (valve, _) = self.valve_and_half().unwrap_or(("", None));
        let digits: String = valve.chars().filter(char::is_ascii_digit).collect();
        let letters: String = valve.chars().filter(|c| !c.is_ascii_digit()).collect();
        let probed = self.electrode.map_or(9, probed);
        // A valve before a transistor, as boards are told.
        let rank = u8::from(letters != "V");
        format!("{rank}{letters:<2}{digits:0>4}{probed}{:0>2}", self.pin.unwrap_or(99))
    }

    /// The same of the valve itself: before all that hangs on it.
    #[must_use]
    pub fn order_key_of_the_valve(valve: &str) -> String {
        let whole = Self { valve: Some(valve.to_owned()), electrode: None, pin: Some(0) };
        let key = whole.order_key();
        let socket = key.len() - "900".len();
        format!("{}000", key.get(..socket).unwrap_or(&key))
    }
}

/// When an electrode is probed, the first first (practice): fed ones before cathodes and grids, heaters last.
fn probed(electrode: Electrode) -> u8 {
    match electrode {
        Electrode::Plate | Electrode::TopCap | Electrode::Collector => 1,
        Electrode::Screen => 2,
        Electrode::Cathode | Electrode::Emitter => 3,
        Electrode::Grid | Electrode::Suppressor | Electrode::Base => 4,
        Electrode::Heater => 6,
    }
}
