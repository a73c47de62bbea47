//! The colour codes as data: in what order the colours of each code stand (`layout.csv`) and what
//! each colour means in each place (`colour.csv` for digits and resistors, `colour_*.csv` for the
//! rest). One row of colours is read by one layout here; [`super::colours`] tries them all.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Colour};
use crate::named::{Named, named};
use crate::part::{MadeOf, PartKind};
use crate::source::Source;
use crate::table::rows;

named! {
    /// How a row of colours is to be read.
    "scheme" Scheme {
        /// Rings round a resistor.
        Bands = "bands",
        /// Body, end, dot and other end of a resistor.
        BodyEndDot = "body-end-dot",
        /// Six dots on a moulded mica capacitor.
        MicaSixDot = "mica-six-dot",
        /// Five dots on a moulded mica capacitor.
        MicaFiveDot = "mica-five-dot",
        /// Three dots on a moulded mica capacitor.
        MicaThreeDot = "mica-three-dot",
        /// Dots or bands on a ceramic tube or disc.
        TubularCeramic = "tubular-ceramic",
        /// Bands on a moulded paper tube.
        TubularPaper = "tubular-paper",
        /// Stripes on a dipped film capacitor.
        FilmStripes = "film-stripes",
        /// Dots on a dipped tantalum capacitor.
        Tantalum = "tantalum",
        /// Bands or dots on a choke.
        ChokeBands = "choke-bands",
        /// Bands on a diode.
        DiodeBands = "diode-bands",
    }
}

named! {
    /// Which columns of meanings a scheme is read by.
    "colour table" Table {
        /// Resistors.
        Resistor = "resistor",
        /// Mica by RETMA, EIA, JAN and MIL.
        Mica = "mica",
        /// Mica by the older RMA code.
        MicaRma = "mica-rma",
        /// Ceramic.
        Ceramic = "ceramic",
        /// Moulded paper.
        Paper = "paper",
        /// Polyester stripes.
        Film = "film",
        /// Tantalum dots.
        Tantalum = "tantalum",
        /// Chokes.
        Choke = "choke",
    }
}

named! {
    /// What a colour stands for in its place.
    "place" Role {
        /// A digit.
        Digit = "digit",
        /// A power of ten.
        Multiplier = "multiplier",
        /// A tolerance.
        Tolerance = "tolerance",
        /// A temperature coefficient.
        Temperature = "temperature",
        /// The figure of a temperature coefficient.
        TemperatureFigure = "temperature-figure",
        /// The factor of a temperature coefficient.
        TemperatureFactor = "temperature-factor",
        /// Failures in 1000 hours.
        FailureRate = "failure-rate",
        /// Rated volts.
        Voltage = "voltage",
        /// A digit of the rated volts, in hundreds.
        VoltageDigit = "voltage-digit",
        /// A letter for drift and temperature coefficient.
        Characteristic = "characteristic",
        /// Which code it is.
        Identifier = "identifier",
        /// The decimal point.
        Point = "point",
        /// No resistance at all.
        Link = "link",
    }
}

named! {
    /// What the number in a cell counts.
    "unit of a cell" CellUnit {
        /// Percent.
        Percent = "%",
        /// Picofarad.
        Picofarad = "pF",
        /// Parts per million per kelvin.
        Ppm = "ppm",
        /// Volts.
        Volts = "V",
        /// Nothing.
        None = "",
    }
}

/// What a colour means in a place.
#[derive(Debug, Clone, Deserialize)]
pub struct Cell {
    /// The place.
    pub role: Role,
    /// The colour.
    pub colour: Colour,
    /// The number; `None` where it is only a word.
    pub value: Option<f64>,
    /// The number upwards, where it is another than downwards.
    pub plus: Option<f64>,
    /// What the number counts.
    pub unit: CellUnit,
    /// How usual this meaning is among those of the colour, 0 to 1.
    pub weight: f64,
    /// What it says in words.
    pub note: String,
    /// Where the row comes from.
    pub source: Source,
}

/// An order in which colours stand.
#[derive(Debug, Clone)]
pub struct Layout {
    /// The scheme that it belongs to.
    pub scheme: Scheme,
    /// The columns of meanings.
    pub table: Table,
    /// The code, as it is told.
    pub code: Code,
    /// What the part is.
    pub part: PartKind,
    /// How it is made, where the code tells.
    pub made: Option<MadeOf>,
    /// The places, first to last.
    pub places: Vec<Role>,
    /// The power of ten of the unit in which the digits count.
    pub unit: i32,
    /// Whether the row of colours could be seen from its other end.
    pub turns: bool,
    /// How usual the code is on a bench, 0 to 1.
    pub weight: f64,
    /// Where the row comes from.
    pub source: Source,
}

#[derive(Deserialize)]
struct LayoutRow {
    scheme: Scheme,
    table: Table,
    code: Code,
    part: PartKind,
    family: Option<MadeOf>,
    places: String,
    unit: i32,
    turns: String,
    weight: f64,
    source: Source,
}

static LAYOUTS: LazyLock<Vec<Layout>> = LazyLock::new(|| {
    rows("marking/layout.csv", include_str!("../../data/marking/layout.csv"))
        .into_iter()
        .map(|r: LayoutRow| Layout {
            scheme: r.scheme,
            table: r.table,
            code: r.code,
            part: r.part,
            made: r.family,
            places: r.places.split(' ').filter_map(|p| Role::from_name(p).ok()).collect(),
            unit: r.unit,
            turns: r.turns == "yes",
            weight: r.weight,
            source: r.source,
        })
        .collect()
});

type Cells = Vec<Vec<Vec<Cell>>>;

/// By table, then by place and colour.
static CELLS: LazyLock<Vec<Cells>> = LazyLock::new(|| {
    Table::ALL
        .iter()
        .map(|t| {
            let mut cells: Cells = vec![vec![vec![]; Colour::ALL.len()]; Role::ALL.len()];
            for cell in of_colours(*t).into_iter().chain(of_table(*t)) {
                cells[cell.role as usize][cell.colour as usize].push(cell);
            }
            cells
        })
        .collect()
});

/// What `colour.csv` says: digits for every table, the rest for resistors.
fn of_colours(table: Table) -> Vec<Cell> {
    let mut cells = Vec::new();
    for row in super::colour::table() {
        let mut add = |role, value: Option<f64>, unit| {
            cells.extend(value.map(|v| Cell {
                role,
                colour: row.colour,
                value: Some(v),
                plus: None,
                unit,
                weight: 1.0,
                note: String::new(),
                source: row.source.clone(),
            }));
        };
        add(Role::Digit, row.digit.map(f64::from), CellUnit::None);
        if table == Table::Resistor {
            add(Role::Multiplier, row.exponent.map(f64::from), CellUnit::None);
            add(Role::Tolerance, row.tolerance_percent, CellUnit::Percent);
            add(Role::Temperature, row.ppm, CellUnit::Ppm);
        }
    }
    cells
}

fn of_table(table: Table) -> Vec<Cell> {
    macro_rules! table {
        ($name:literal) => {
            rows(
                concat!("marking/colour_", $name, ".csv"),
                include_str!(concat!("../../data/marking/colour_", $name, ".csv")),
            )
        };
    }
    match table {
        Table::Resistor => table!("resistor"),
        Table::Mica => table!("mica"),
        Table::MicaRma => table!("mica-rma"),
        Table::Ceramic => table!("ceramic"),
        Table::Paper => table!("paper"),
        Table::Film => table!("film"),
        Table::Tantalum => table!("tantalum"),
        Table::Choke => table!("choke"),
    }
}

/// Every layout of every colour code.
#[must_use]
pub fn layouts() -> &'static [Layout] {
    &LAYOUTS
}

/// What `colour` can mean in a place; empty where it means nothing.
#[must_use]
pub fn cells(table: Table, role: Role, colour: Colour) -> &'static [Cell] {
    &CELLS[table as usize][role as usize][colour as usize]
}

impl Layout {
    /// What `colour` can mean in a place of this layout.
    #[must_use]
    pub fn cells(&self, place: usize, colour: Colour) -> &'static [Cell] {
        self.places.get(place).map_or(&[], |role| cells(self.table, *role, colour))
    }

    /// The colours that mean something in a place.
    #[must_use]
    pub fn colours(&self, place: usize) -> Vec<Colour> {
        Colour::ALL.iter().copied().filter(|c| !self.cells(place, *c).is_empty()).collect()
    }

    /// What a colour says in a place, as it is written below it: `4`, `× 1 k`, `±10 %`, `N750`.
    /// A question mark where it says nothing.
    #[must_use]
    pub fn word(&self, place: usize, colour: Colour) -> String {
        let Some(cell) = self.cells(place, colour).first() else { return "?".to_owned() };
        cell.word()
    }
}

impl Cell {
    /// What it says, as it is written below the colour.
    #[must_use]
    pub fn word(&self) -> String {
        let head = || self.note.split([':', ',']).next().unwrap_or("").to_owned();
        let value = self.value.unwrap_or(0.0);
        match (self.role, self.value) {
            (Role::Digit | Role::VoltageDigit, _) => format!("{value}"),
            (Role::Multiplier, _) => times(value as i32),
            (Role::Tolerance, _) => format!("±{value} {}", self.unit),
            (Role::Temperature, Some(_)) if self.note.is_empty() => format!("{value} ppm"),
            (Role::TemperatureFigure, _) => format!("{value:.1}"),
            (Role::TemperatureFactor, _) => format!("× {value}").replace('-', "−"),
            (Role::FailureRate, _) => format!("{value} %/kh"),
            (Role::Voltage, _) => format!("{value} V"),
            (Role::Point, _) => "point".to_owned(),
            (Role::Link, _) => "0 Ω".to_owned(),
            (Role::Characteristic, _) => head().replace("characteristic ", "char. "),
            (Role::Temperature | Role::Identifier, _) => head(),
        }
    }
}

/// A power of ten as a multiplier: `× 1`, `× 10 k`, `× 0.01`.
fn times(exponent: i32) -> String {
    match exponent {
        ..=0 => format!("× {}", 10f64.powi(exponent)),
        1..=2 => format!("× {}", 10i32.pow(exponent.unsigned_abs())),
        _ => {
            let letter = ["k", "M", "G"].get((exponent / 3 - 1) as usize).unwrap_or(&"?");
            format!("× {} {letter}", 10i32.pow((exponent % 3).unsigned_abs()))
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_layout_names_places_that_exist_and_every_place_has_colours() {
        for l in layouts() {
            assert!(!l.places.is_empty());
            for place in 0..l.places.len() {
                assert!(!l.colours(place).is_empty(), "{} {place}", l.code);
            }
        }
    }
}
