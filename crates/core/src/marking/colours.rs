//! A row of colours, read by every layout that fits: as seen, from the other end, and with colours
//! that may have become others.
//!
//! Cannot tell apart codes that give the same colours the same places; the likelier one is named.

use super::read::Hints;
use super::scheme::{Cell, CellUnit, Layout, Role, Scheme, Table, layouts};
use super::weigh::{self, Weight, weight};
use super::{Code, Colour, MarkingError, Meaning, Tolerance, Value, VoltsKind, fading};
use crate::named::Named;
use crate::part::{Family, MadeOf, PartKind};
use crate::quantity::{Farad, Henry, Ohm};

/// The most colours that any code has.
pub const MOST: usize = 6;

/// The most readings that are told, beside those that take the colours as they are seen.
const MOST_TOLD: usize = 12;

/// In which order the colours were taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Turn {
    /// As given.
    None,
    /// From the other end.
    OtherEnd,
    /// The lower row of a mica block from the other side.
    LowerRow,
}

/// A reading of the colours by one layout, as small as it can be: there are hundreds, few are told.
#[derive(Clone)]
struct Pick {
    layout: &'static Layout,
    turn: Turn,
    colours: [Colour; MOST],
    cells: [Option<&'static Cell>; MOST],
    /// Whether any colour is taken for another.
    faded: bool,
    number: f64,
    score: f64,
}

/// What is being read.
struct Search<'a> {
    layout: &'static Layout,
    turn: Turn,
    seen: &'a [Colour],
    hints: &'a Hints,
    /// Of the scheme, and of the order.
    weight: f64,
    found: &'a mut Vec<Pick>,
}

/// The meanings of a row of colours with their weights, heaviest first; empty where nothing is legal.
pub(super) fn meanings(colours: &[Colour], hints: &Hints) -> Vec<(f64, Meaning)> {
    let mut found = Vec::new();
    for layout in layouts() {
        if hints.scheme.is_some_and(|s| s != layout.scheme) || hints.part.is_some_and(|p| p != layout.part) {
            continue;
        }
        let Some(row) = fitted(layout, colours) else { continue };
        // Nobody sees a body-end-dot in two colours unless he knows that it is one.
        if hints.scheme.is_none() && layout.scheme == Scheme::BodyEndDot && colours.len() < 3 {
            continue;
        }
        // A scheme that was named is the right one, however rare.
        let of_scheme = if hints.scheme.is_some() { layout.weight.max(0.05) } else { layout.weight };
        let mut search = |turn: Turn, seen: &[Colour], weight: f64| {
            Search { layout, turn, seen, hints, weight: of_scheme * weight, found: &mut found }.run();
        };
        search(Turn::None, &row, 1.0);
        let n = row.len();
        let mut turned = row.clone();
        turned.reverse();
        if layout.turns && turned != row {
            search(Turn::OtherEnd, &turned, weight(Weight::OtherEnd));
        }
        if layout.scheme == Scheme::MicaSixDot && row[3] != row[5] {
            let mut lower = row.clone();
            lower.swap(3, n - 1);
            search(Turn::LowerRow, &lower, weight(Weight::LowerRow));
        }
    }
    // Nothing legal as seen: colours may have changed, but hardly most of them.
    if !found.iter().any(|p| !p.faded) {
        found.retain(|p| {
            let as_taken = taken(p.layout, p.turn, colours);
            let changed = as_taken.iter().zip(&p.colours).filter(|(a, b)| a != b).count();
            changed * 2 < colours.len()
        });
    }
    found.sort_by(|a, b| b.score.total_cmp(&a.score));
    let least = found.first().map_or(0.0, |p| p.score) * weight(Weight::Told);
    // What says the same by another way only adds to its weight; only what is told is explained.
    let mut told: Vec<(f64, &Pick)> = Vec::new();
    for pick in found.iter().filter(|p| p.score >= least || p.as_seen()) {
        if let Some((score, _)) = told.iter_mut().find(|(_, t)| t.says_the_same(pick)) {
            *score += pick.score;
        } else if pick.as_seen() || told.len() < MOST_TOLD {
            told.push((pick.score, pick));
        }
    }
    told.into_iter().map(|(score, pick)| (score, pick.explain(colours, hints))).collect()
}

/// The colours as the layout takes them; `None` where their number does not fit.
fn fitted(layout: &Layout, colours: &[Colour]) -> Option<Vec<Colour>> {
    let n = layout.places.len();
    let mut row = colours.to_vec();
    match layout.scheme {
        Scheme::BodyEndDot => {
            let &body = row.first()?;
            if row.len() < 2 || body == Colour::Absent {
                return None;
            }
            row.resize(row.len().max(n), Colour::Absent);
            // A missing end or dot is of the body's colour.
            for place in row.iter_mut().take(3).filter(|c| **c == Colour::Absent) {
                *place = body;
            }
        }
        Scheme::Bands | Scheme::ChokeBands => {
            while row.last() == Some(&Colour::Absent) {
                row.pop();
            }
            if row.contains(&Colour::Absent) {
                return None;
            }
        }
        _ => {}
    }
    (row.len() == n).then_some(row)
}

/// The colours as seen, in the order in which a reading took them.
fn taken(layout: &Layout, turn: Turn, colours: &[Colour]) -> Vec<Colour> {
    let mut row = fitted(layout, colours).unwrap_or_default();
    match turn {
        Turn::None => {}
        Turn::OtherEnd => row.reverse(),
        Turn::LowerRow => row.swap(3, 5),
    }
    row
}

impl Search<'_> {
    fn run(&mut self) {
        let mut pick = Pick {
            layout: self.layout,
            turn: self.turn,
            colours: [Colour::Absent; MOST],
            cells: [None; MOST],
            faded: false,
            number: 0.0,
            score: 0.0,
        };
        self.place(0, 1.0, 1.0, &mut pick);
    }

    /// Takes every colour that may stand in `place`, then goes on to the next. `cells` is the weight
    /// of the meanings chosen so far, `faded` the chance that the colours look so if colours of this
    /// part have changed.
    fn place(&mut self, place: usize, cells: f64, faded: f64, pick: &mut Pick) {
        let Some(&seen) = self.seen.get(place) else {
            self.leaf(cells, faded, pick);
            return;
        };
        for &(colour, chance) in fading::origins(seen) {
            let known = (0..place).any(|i| self.seen[i] == seen && pick.colours[i] == colour);
            let chance = if known { faded } else { faded * chance };
            // Too unlikely to be told, whatever the rest says.
            if chance < 2e-3 && (pick.faded || colour != seen) {
                continue;
            }
            let was = pick.faded;
            pick.faded |= colour != seen;
            for cell in self.layout.cells(place, colour) {
                pick.colours[place] = colour;
                pick.cells[place] = Some(cell);
                self.place(place + 1, cells * cell.weight, chance, pick);
            }
            pick.faded = was;
        }
    }

    fn leaf(&mut self, cells: f64, faded: f64, pick: &mut Pick) {
        let Some(number) = pick.value_number() else { return };
        let share = weight(Weight::Faded);
        let clean = if pick.faded { 0.0 } else { 1.0 - share };
        pick.number = number;
        pick.score = self.weight * cells * (clean + share * faded);
        let tolerance = pick.tolerance();
        pick.score *= weigh::prior(self.layout.part, number, tolerance, pick.digits());
        pick.score *= weigh::given(self.layout.part, number, self.hints);
        if pick.score > 0.0 {
            self.found.push(pick.clone());
        }
    }
}

impl Pick {
    fn roles(&self) -> impl Iterator<Item = (Role, &'static Cell)> + '_ {
        self.layout.places.iter().zip(&self.cells).filter_map(|(r, c)| c.map(|c| (*r, c)))
    }

    fn says_the_same(&self, other: &Self) -> bool {
        self.layout.part == other.layout.part
            && self.number == other.number
            && self.tolerance() == other.tolerance()
            && self.volts() == other.volts()
            && self.cell(Role::Temperature).map(|c| c.value) == other.cell(Role::Temperature).map(|c| c.value)
    }

    fn as_seen(&self) -> bool {
        !self.faded && self.turn == Turn::None
    }

    fn cell(&self, role: Role) -> Option<&'static Cell> {
        self.roles().find(|(r, _)| *r == role).map(|(_, c)| c)
    }

    fn digits(&self) -> usize {
        self.layout.places.iter().filter(|r| **r == Role::Digit).count()
    }

    /// The value in its base unit; `None` where these colours are no value.
    fn value_number(&self) -> Option<f64> {
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
    fn tolerance(&self) -> Option<f64> {
        match self.cell(Role::Tolerance) {
            Some(t) if t.unit == CellUnit::Percent => t.value.map(|v| v / 100.0),
            Some(_) => None,
            None => (self.layout.part != PartKind::Capacitor).then_some(0.2),
        }
    }

    fn volts(&self) -> Option<f64> {
        if let Some(cell) = self.cell(Role::Voltage) {
            return cell.value;
        }
        let digits: Vec<f64> =
            self.roles().filter(|(r, _)| *r == Role::VoltageDigit).filter_map(|(_, c)| c.value).collect();
        match digits[..] {
            [one] => Some(one * 100.0),
            [tens, ones] => Some((tens * 10.0 + ones) * 100.0),
            _ => None,
        }
    }

    fn value(&self) -> Value {
        // The number is finite and not negative: it was made from digits.
        match self.layout.part {
            PartKind::Capacitor => Value::Capacitance(Farad::new(self.number).unwrap_or(Farad::ZERO)),
            PartKind::Coil => Value::Inductance(Henry::new(self.number).unwrap_or(Henry::ZERO)),
            PartKind::Resistor | PartKind::Lamp | PartKind::Diode => {
                Value::Resistance(Ohm::new(self.number).unwrap_or(Ohm::ZERO))
            }
        }
    }

    /// The reading with its reasons.
    fn explain(&self, given: &[Colour], hints: &Hints) -> Meaning {
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
        m.rating = volts.and_then(|v| super::Rating::new(v, VoltsKind::Direct));
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

pub(super) fn spelled(colours: &[Colour]) -> String {
    colours.iter().map(|c| c.name()).collect::<Vec<_>>().join(" ")
}

/// Why this layout cannot be read from these colours; `None` where it can.
fn refusal(layout: &Layout, colours: &[Colour]) -> Option<String> {
    for (place, colour) in colours.iter().enumerate() {
        let role = layout.places.get(place)?;
        let first = ["first", "second", "third"]
            .get(layout.places[..place].iter().filter(|r| **r == Role::Digit).count());
        if layout.cells(place, *colour).is_empty() {
            return Some(match role {
                Role::Digit => format!("{colour} cannot be a {} digit", first.unwrap_or(&"further")),
                Role::Multiplier => format!("{colour} is no multiplier"),
                Role::Tolerance => format!("{colour} is no tolerance"),
                Role::Temperature => format!("{colour} is no temperature coefficient"),
                Role::FailureRate => format!("{colour} is no failure rate"),
                Role::Voltage => format!("{colour} stands for no voltage"),
                Role::Characteristic => format!("{colour} stands for no characteristic"),
                _ => format!("{colour} has no meaning as {role}"),
            });
        }
        if place == 0 && *colour == Colour::Black && layout.part == PartKind::Resistor && *role == Role::Digit
        {
            return Some("black cannot be the first digit: no value begins with 0".to_owned());
        }
    }
    None
}

/// Why nothing can be read from these colours, in words for whoever clicked them.
pub(super) fn refused(colours: &[Colour], hints: &Hints) -> MarkingError {
    // The code that is meant: the one that was named, or one of the part's own with as many colours.
    let of_part = |l: &&Layout| hints.part.is_some_and(|p| p == l.part);
    let likely = layouts()
        .iter()
        .find(|l| of_part(l) && fitted(l, colours).is_some())
        .or(layouts().iter().find(of_part));
    let scheme = hints.scheme.or(likely.map(|l| l.scheme)).unwrap_or(Scheme::Bands);
    // The link's single band is black or it is none.
    let of_scheme: Vec<&Layout> =
        layouts().iter().filter(|l| l.scheme == scheme && l.places[0] != Role::Link).collect();
    let fitting = of_scheme.iter().find(|l| fitted(l, colours).is_some());
    let Some(layout) = fitting else {
        let mut counts: Vec<usize> = of_scheme.iter().map(|l| l.places.len()).collect();
        counts.sort_unstable();
        counts.dedup();
        let known = counts.iter().map(ToString::to_string).collect::<Vec<_>>().join(", ");
        return MarkingError::ColourCount { given: colours.len(), scheme, known };
    };
    let ahead = refusal(layout, &taken(layout, Turn::None, colours));
    let back = layout.turns.then(|| refusal(layout, &taken(layout, Turn::OtherEnd, colours))).flatten();
    MarkingError::Order(match (ahead, back) {
        (Some(a), Some(b)) if a == b => format!("{a}, from either end"),
        (Some(a), Some(b)) => format!("{a}; perhaps you are reading from the wrong end, but there {b}"),
        (Some(a), None) => a,
        (None, _) => "these colours are no value that is made".to_owned(),
    })
}
