//! A reading of colours with its reasons, in words.

use super::pick::Pick;
use super::refuse::refusal;
use super::{Turn, taken};
use crate::marking::colour::spelled;
use crate::marking::scheme::{Cell, CellUnit, Layout, Role, Scheme};
use crate::marking::{Code, Colour, Hints, Meaning, Rating, Tolerance, VoltsKind, fading, weigh};
use crate::part::{Family, MadeOf};
use crate::quantity::Farad;

impl Pick {
    /// The reading with its reasons.
    pub(super) fn explain(&self, given: &[Colour], hints: &Hints) -> Meaning {
        let layout = self.layout;
        let mut m = Meaning::new(layout.part, layout.code, self.value(), layout.source.clone());
        m.scheme = Some(layout.scheme);
        m.colours = self.colours[..layout.places.len()].to_vec();
        m.as_seen = self.as_seen();
        m.made = layout.made;
        if hints.wide_first && layout.scheme == Scheme::Bands && m.colours.len() > 2 {
            m.made = Some(MadeOf::Resistor(Family::Wirewound));
            m.because.push("a wide first band: wirewound".to_owned());
        }
        m.because.push(format!("{}{}", counted(layout, m.colours.len()), spelled(&m.colours)));
        self.explain_order(given, &mut m.because);
        for (role, cell) in self.roles() {
            match role {
                Role::FailureRate => m.notes.push(format!("failure rate {}", cell.note)),
                Role::Characteristic => m.notes.push(cell.note.clone()),
                Role::Temperature => m.temperature = Some(temperature(cell)),
                Role::Identifier | Role::Point | Role::Tolerance | Role::Link if !cell.note.is_empty() => {
                    m.because.push(cell.note.clone());
                }
                _ => {}
            }
            if cell.weight < 0.5 && role == Role::Tolerance {
                m.source = cell.source.clone();
            }
        }
        if let (Some(figure), Some(factor)) =
            (self.cell(Role::TemperatureFigure), self.cell(Role::TemperatureFactor))
        {
            let ppm = figure.value.unwrap_or(0.0) * factor.value.unwrap_or(0.0);
            m.temperature = Some(format!("{} ppm/K", format!("{ppm:+}").replace('-', "−")));
        }
        self.explain_tolerance(&mut m);
        self.explain_volts(&mut m);
        weigh::explain(&mut m, hints, self.digits());
        m
    }

    fn explain_order(&self, given: &[Colour], because: &mut Vec<String>) {
        let seen = taken(self.layout, self.turn, given);
        match self.turn {
            Turn::None => {}
            Turn::OtherEnd => match refusal(self.layout, &taken(self.layout, Turn::None, given)) {
                Some(why) => because.push(format!("{why}, so it was read from the other end")),
                None => because.push("read from the other end".to_owned()),
            },
            Turn::LowerRow => because.push("the lower row read from its other side".to_owned()),
        }
        if self.layout.scheme == Scheme::BodyEndDot && given.get(1..3) != self.colours.get(1..3) {
            because.push("no dot or end of its own: it has the body's colour".to_owned());
        }
        if self.faded
            && self.turn == Turn::None
            && let Some(why) = refusal(self.layout, &seen)
        {
            because.push(format!("{why}, so a colour has changed"));
        }
        let mut told: Vec<(Colour, Colour)> = Vec::new();
        for (&truly, &looks) in self.colours.iter().zip(&seen) {
            if truly != looks && !told.contains(&(truly, looks)) {
                told.push((truly, looks));
                if let Some(row) = fading::because(truly, looks) {
                    because.push(format!("taking the {looks} for {truly}: {}", row.because));
                }
            }
        }
        if self.turn == Turn::None && self.layout.turns && !self.faded {
            let back = taken(self.layout, Turn::OtherEnd, given);
            if back != seen
                && let Some(why) = refusal(self.layout, &back)
            {
                because.push(format!("it cannot be read from the other end: {why}"));
            }
        }
    }

    fn explain_tolerance(&self, m: &mut Meaning) {
        match self.cell(Role::Tolerance) {
            Some(cell) => {
                let value = cell.value.unwrap_or(0.0);
                m.tolerance = match cell.unit {
                    CellUnit::Picofarad => Farad::new(value / 1e12).ok().map(Tolerance::Absolute),
                    _ => Tolerance::from_percents(value, cell.plus.unwrap_or(value)),
                };
            }
            None if matches!(m.code, Code::ColourBands | Code::ChokeBands | Code::MicaRma) => {
                m.tolerance = Tolerance::of_percent(20.0);
                m.because.push(match m.code {
                    Code::MicaRma => "three dots mean 20 % and 500 V".to_owned(),
                    _ => "no tolerance band means 20 %".to_owned(),
                });
            }
            None => {}
        }
    }

    fn explain_volts(&self, m: &mut Meaning) {
        let three_dots = self.layout.scheme == Scheme::MicaThreeDot;
        let volts = self.volts().or(three_dots.then_some(500.0));
        m.rating = volts.and_then(|v| Rating::new(v, VoltsKind::Direct));
    }
}

fn temperature(cell: &Cell) -> String {
    match (cell.value, cell.note.as_str()) {
        (Some(ppm), "") => format!("{ppm} ppm/K"),
        (Some(ppm), name) => format!("{name}: {} ppm/K", format!("{ppm}").replace('-', "−")),
        (None, name) => name.to_owned(),
    }
}

/// "four bands: " for resistors; the other codes' names say enough.
fn counted(layout: &Layout, n: usize) -> String {
    match layout.code {
        Code::ColourBands => format!("{} bands: ", ["one", "two", "three", "four", "five", "six"][n - 1]),
        _ => String::new(),
    }
}
