//! One reading of a row of colours by one layout: its value, tolerance and volts.

use super::{MOST, Turn};
use crate::marking::scheme::{Cell, CellUnit, Layout, Role, Table};
use crate::marking::{Colour, Value};
use crate::part::PartKind;
use crate::quantity::{Farad, Henry, Ohm};

/// A reading of the colours by one layout, as small as it can be: there are hundreds, few are told.
#[derive(Clone)]
pub(super) struct Pick {
    pub(super) layout: &'static Layout,
    pub(super) turn: Turn,
    pub(super) colours: [Colour; MOST],
    pub(super) cells: [Option<&'static Cell>; MOST],
    /// Whether any colour is taken for another.
    pub(super) faded: bool,
    pub(super) number: f64,
    pub(super) score: f64,
}

impl Pick {
    pub(super) fn roles(&self) -> impl Iterator<Item = (Role, &'static Cell)> + '_ {
        self.layout.places.iter().zip(&self.cells).filter_map(|(r, c)| c.map(|c| (*r, c)))
    }

    pub(super) fn says_the_same(&self, other: &Self) -> bool {
        self.layout.part == other.layout.part
            && self.number == other.number
            && self.tolerance() == other.tolerance()
            && self.volts() == other.volts()
            && self.cell(Role::Temperature).map(|c| c.value) == other.cell(Role::Temperature).map(|c| c.value)
    }

    pub(super) fn as_seen(&self) -> bool {
        !self.faded && self.turn == Turn::None
    }

    pub(super) fn cell(&self, role: Role) -> Option<&'static Cell> {
        self.roles().find(|(r, _)| *r == role).map(|(_, c)| c)
    }

    pub(super) fn digits(&self) -> usize {
        self.layout.places.iter().filter(|r| **r == Role::Digit).count()
    }

    /// The value in its base unit; `None` where these colours are no value.
    pub(super) fn value_number(&self) -> Option<f64> {
        if self.layout.places[0] == Role::Link {
            return Some(0.0);
        }
        let (mut digits, mut exponent, mut behind_point) = (0.0, self.layout.unit, None);
        let mut first = true;
        for (role, cell) in self.roles() {
            match role {
                Role::Digit => {
                    let digit = cell.value?;
                    if first && digit == 0.0 && self.layout.part == PartKind::Resistor {
                        return None;
                    }
                    first = false;
                    digits = digits * 10.0 + digit;
                    behind_point = behind_point.map(|n: i32| n + 1);
                }
                Role::Multiplier => exponent += cell.value? as i32,
                Role::Point => behind_point = Some(0),
                _ => {}
            }
        }
        exponent -= behind_point.unwrap_or(0);
        let number =
            if exponent < 0 { digits / 10f64.powi(-exponent) } else { digits * 10f64.powi(exponent) };
        if number <= 0.0 {
            return None;
        }
        // Up to 10 pF a ceramic's tolerance is in picofarad, above in percent.
        if self.layout.table == Table::Ceramic
            && let Some(t) = self.cell(Role::Tolerance)
            && (t.unit == CellUnit::Picofarad) != (number <= 10.000001e-12)
        {
            return None;
        }
        self.volts().is_none_or(|v| v > 0.0).then_some(number)
    }

    /// The tolerance as a fraction, for the prior; `None` where there is none or it is absolute.
    pub(super) fn tolerance(&self) -> Option<f64> {
        match self.cell(Role::Tolerance) {
            Some(t) if t.unit == CellUnit::Percent => t.value.map(|v| v / 100.0),
            Some(_) => None,
            None => (self.layout.part != PartKind::Capacitor).then_some(0.2),
        }
    }

    pub(super) fn volts(&self) -> Option<f64> {
        if let Some(cell) = self.cell(Role::Voltage) {
            return cell.value;
        }
        let mut digits = self.roles().filter(|(r, _)| *r == Role::VoltageDigit).filter_map(|(_, c)| c.value);
        match (digits.next(), digits.next(), digits.next()) {
            (Some(one), None, None) => Some(one * 100.0),
            (Some(tens), Some(ones), None) => Some((tens * 10.0 + ones) * 100.0),
            _ => None,
        }
    }

    pub(super) fn value(&self) -> Value {
        // The number is finite and not negative: it was made from digits.
        match self.layout.part {
            PartKind::Capacitor => Value::Capacitance(Farad::computed(self.number)),
            PartKind::Coil => Value::Inductance(Henry::computed(self.number)),
            PartKind::Resistor
            | PartKind::Lamp
            | PartKind::Diode
            | PartKind::Transistor
            | PartKind::Ic
            | PartKind::Valve
            | PartKind::Fuse
            | PartKind::Switch
            | PartKind::Loudspeaker => Value::Resistance(Ohm::computed(self.number)),
        }
    }
}
