//! The tables of the codes as a bench card shows them: a title, columns, rows, and where each row comes
//! from.

use super::scheme::{Role, Scheme, Table, cells, layouts};
use super::{
    Colour, chip_code, date, digit_code, diode, fading, lamp, letter_code, mil_style, temperature, volts,
};
use crate::named::{Named, named};
use crate::part::body;
use crate::preferred::{Series, numbers};
use crate::source::Source;

named! {
    /// A bench card.
    "bench card" Card {
        /// Resistor colours.
        ResistorColours = "resistor colours",
        /// Mica dots, RETMA, EIA, JAN, MIL.
        MicaDots = "mica dots, EIA and MIL",
        /// Mica dots, RMA.
        MicaRma = "mica dots, RMA",
        /// Ceramic dots and bands.
        Ceramic = "ceramic dots and bands",
        /// Moulded paper bands.
        Paper = "moulded paper bands",
        /// Polyester stripes.
        Film = "film stripes",
        /// Tantalum dots.
        Tantalum = "tantalum dots",
        /// Choke bands.
        Choke = "choke bands",
        /// Diode bands.
        Diode = "diode bands",
        /// Letters of resistors.
        Letters = "letters on resistors",
        /// EIA-96.
        Eia96 = "EIA-96 chips",
        /// MIL part numbers.
        Mil = "MIL part numbers",
        /// Letters of capacitors.
        CapacitorLetters = "letters on capacitors",
        /// Voltage letters.
        VoltageLetters = "voltage letters",
        /// Temperature codes.
        Temperature = "temperature codes",
        /// Body sizes.
        Bodies = "composition bodies",
        /// Dial lamps.
        Lamps = "dial lamps",
        /// Date letters.
        Dates = "date letters",
        /// Faded colours.
        Fading = "faded colours",
    }
}

/// A card: its columns, and its rows with the colour that opens them, where one does.
#[derive(Debug, Clone, PartialEq)]
pub struct Printed {
    /// Which card.
    pub card: Card,
    /// In what order the colours or characters stand; one line each.
    pub order: Vec<String>,
    /// What stands over the columns.
    pub columns: Vec<&'static str>,
    /// The rows.
    pub rows: Vec<PrintedRow>,
}

/// A row of a card.
#[derive(Debug, Clone, PartialEq)]
pub struct PrintedRow {
    /// The colour that it is about.
    pub colour: Option<Colour>,
    /// One text for each column; empty where there is none.
    pub cells: Vec<String>,
    /// Where it comes from; several tables may meet in one row.
    pub sources: Vec<Source>,
}

impl PrintedRow {
    fn new(cells: Vec<String>, source: &Source) -> Self {
        Self { colour: None, cells, sources: vec![source.clone()] }
    }
}

/// A card as it is printed.
#[must_use]
pub fn card(card: Card) -> Printed {
    match card {
        Card::ResistorColours => colours(card, Table::Resistor, &[Scheme::Bands, Scheme::BodyEndDot]),
        Card::MicaDots => colours(card, Table::Mica, &[Scheme::MicaSixDot]),
        Card::MicaRma => {
            colours(card, Table::MicaRma, &[Scheme::MicaThreeDot, Scheme::MicaFiveDot, Scheme::MicaSixDot])
        }
        Card::Ceramic => colours(card, Table::Ceramic, &[Scheme::TubularCeramic]),
        Card::Paper => colours(card, Table::Paper, &[Scheme::TubularPaper]),
        Card::Film => colours(card, Table::Film, &[Scheme::FilmStripes]),
        Card::Tantalum => colours(card, Table::Tantalum, &[Scheme::Tantalum]),
        Card::Choke => colours(card, Table::Choke, &[Scheme::ChokeBands]),
        Card::Diode => diodes(),
        Card::Letters => plain(
            card,
            &["letter", "as the point", "as the tolerance"],
            letter_code::multipliers()
                .iter()
                .map(|m| {
                    PrintedRow::new(
                        vec![m.letter.to_string(), format!("× 10^{}", m.exponent), String::new()],
                        &m.source,
                    )
                })
                .chain(letter_code::tolerances().iter().map(|t| {
                    PrintedRow::new(
                        vec![t.letter.to_string(), String::new(), format!("±{} %", t.percent)],
                        &t.source,
                    )
                })),
        ),
        Card::Eia96 => eia96(),
        Card::Mil => mil(),
        Card::CapacitorLetters => plain(
            card,
            &["letter", "tolerance", "used"],
            digit_code::tolerances().iter().map(|t| {
                let value = if t.minus == t.plus {
                    format!("±{} {}", t.plus, t.unit)
                } else {
                    format!("−{} +{} %", t.minus, t.plus)
                };
                let small = if t.unit == super::scheme::CellUnit::Picofarad { "below 10 pF" } else { "" };
                PrintedRow::new(vec![t.letter.to_string(), value, small.to_owned()], &t.source)
            }),
        ),
        Card::VoltageLetters => plain(
            card,
            &["letter", "0", "1", "2", "3"],
            volts::letters().iter().map(|l| {
                let volts =
                    |power: i32| format!("{}", (l.figure * 10f64.powi(power) * 100.0).round() / 100.0);
                PrintedRow::new(vec![l.letter.to_string(), volts(0), volts(1), volts(2), volts(3)], &l.source)
            }),
        ),
        Card::Temperature => temperatures(),
        Card::Bodies => plain(
            card,
            &["watts", "length mm", "diameter mm"],
            body::bodies().iter().map(|b| {
                PrintedRow::new(
                    vec![b.watts.to_string(), b.length_mm.to_string(), b.diameter_mm.to_string()],
                    &b.source,
                )
            }),
        ),
        Card::Lamps => plain(
            card,
            &["number", "volts", "ampere", "base", "bead"],
            lamp::lamps().iter().map(|l| {
                PrintedRow::new(
                    vec![
                        l.number.clone(),
                        l.volts.to_string(),
                        l.amperes.to_string(),
                        l.base.clone(),
                        l.bead.clone(),
                    ],
                    &l.source,
                )
            }),
        ),
        Card::Dates => plain(
            card,
            &["place", "character", "meaning"],
            date::characters().iter().map(|c| {
                PrintedRow::new(
                    vec![c.place.to_string(), c.character.to_string(), c.number.to_string()],
                    &c.source,
                )
            }),
        ),
        Card::Fading => {
            let mut printed = plain(
                card,
                &["seen", "may be", "on how many faded parts", "because"],
                fading::table().iter().map(|f| {
                    let percent = crate::quantity::format::percent(f.chance);
                    PrintedRow::new(
                        vec![f.seen.to_string(), f.truly.to_string(), percent, f.because.clone()],
                        &f.source,
                    )
                }),
            );
            for (row, f) in printed.rows.iter_mut().zip(fading::table()) {
                row.colour = Some(f.seen);
            }
            printed
        }
    }
}

fn plain(card: Card, columns: &[&'static str], rows: impl Iterator<Item = PrintedRow>) -> Printed {
    Printed { card, order: vec![], columns: columns.to_vec(), rows: rows.collect() }
}

/// A table of colours: a row for each colour, a column for each place.
fn colours(card: Card, table: Table, schemes: &[Scheme]) -> Printed {
    let of_table: Vec<_> =
        layouts().iter().filter(|l| l.table == table && schemes.contains(&l.scheme)).collect();
    let order = of_table
        .iter()
        .map(|l| {
            let places: Vec<&str> = l.places.iter().map(|p| p.name()).collect();
            format!("{}: {}", l.places.len(), places.join(", "))
        })
        .collect();
    let mut columns: Vec<&'static str> = vec!["colour"];
    let mut roles: Vec<Role> = Vec::new();
    for role in Role::ALL {
        if of_table.iter().any(|l| l.places.contains(role)) {
            roles.push(*role);
            columns.push(role.name());
        }
    }
    let rows = Colour::ALL
        .iter()
        .filter_map(|colour| {
            let mut sources: Vec<Source> = Vec::new();
            let mut row = vec![colour.name().to_owned()];
            for role in &roles {
                let all = cells(table, *role, *colour);
                for cell in all {
                    if !sources.contains(&cell.source) {
                        sources.push(cell.source.clone());
                    }
                }
                let words: Vec<String> = all
                    .iter()
                    .map(|c| match role {
                        Role::Characteristic | Role::Identifier | Role::Temperature if !c.note.is_empty() => {
                            c.note.clone()
                        }
                        _ => c.word(),
                    })
                    .collect();
                row.push(words.join(" or "));
            }
            let said = row[1..].iter().any(|c| !c.is_empty());
            said.then_some(PrintedRow { colour: Some(*colour), cells: row, sources })
        })
        .collect();
    Printed { card, order, columns, rows }
}

fn diodes() -> Printed {
    let rows = Colour::ALL.iter().filter_map(|colour| {
        let of = |place| diode::table().iter().find(move |r| r.place == place && r.colour == *colour);
        let digit = colour.row().digit.map(|d| d.to_string()).unwrap_or_default();
        let (family, serial, suffix) =
            (of(diode::Place::Family), of(diode::Place::Serial), of(diode::Place::Suffix));
        let mut sources: Vec<Source> = vec![colour.row().source.clone()];
        sources.extend([family, serial, suffix].into_iter().flatten().map(|r| r.source.clone()));
        sources.dedup();
        let text = |r: Option<&diode::Row>| r.map(|r| r.text.clone()).unwrap_or_default();
        let cells = vec![colour.to_string(), digit, text(suffix), text(family), text(serial)];
        cells[1..].iter().any(|c| !c.is_empty()).then_some(PrintedRow {
            colour: Some(*colour),
            cells,
            sources,
        })
    });
    let mut printed = plain(
        Card::Diode,
        &["colour", "digit", "letter behind 1N…", "first wide band", "second wide band"],
        rows,
    );
    printed.order = vec![
        "from the cathode: black and two digits, three digits, or four digits: 1N and these".to_owned(),
        "two wide bands and two digits: a Pro Electron number".to_owned(),
    ];
    printed
}

fn eia96() -> Printed {
    let letters = chip_code::multipliers().iter().map(|m| format!("{} {}", m.letter, 10f64.powi(m.exponent)));
    let source = Source::standard("IEC 60063:2015, E96; numbered in order");
    let all = numbers(Series::E96);
    // Ninety-six codes in four columns of twenty-four.
    let rows = (0..24).map(|i| {
        let cells =
            (0..4).flat_map(|c| [format!("{:02}", c * 24 + i + 1), all[c * 24 + i].to_string()]).collect();
        PrintedRow::new(cells, &source)
    });
    let mut printed =
        plain(Card::Eia96, &["code", "digits", "code", "digits", "code", "digits", "code", "digits"], rows);
    printed.order = vec![format!("multiplier: {}", letters.collect::<Vec<_>>().join(", "))];
    printed
}

fn mil() -> Printed {
    let styles = mil_style::styles().iter().map(|s| {
        PrintedRow::new(
            vec![
                format!("{}{}", s.style, s.size),
                format!("{} W", s.watts),
                s.family.to_string(),
                s.digits.to_string(),
            ],
            &s.source,
        )
    });
    let letters = mil_style::letters().iter().map(|l| {
        PrintedRow::new(
            vec![l.styles.clone(), l.letter.clone(), l.meaning.clone(), l.place.clone()],
            &l.source,
        )
    });
    let mut printed = plain(
        Card::Mil,
        &["style", "watts or letter", "family or meaning", "digits or place"],
        styles.chain(letters),
    );
    printed.order = vec!["style and size, characteristic, value, tolerance, failure rate".to_owned()];
    printed
}

fn temperatures() -> Printed {
    let rows = temperature::coefficients()
        .iter()
        .map(|c| {
            PrintedRow::new(vec!["name".to_owned(), c.name.clone(), format!("{} ppm/K", c.ppm)], &c.source)
        })
        .chain(temperature::class1().iter().map(|c| {
            let what = match c.place {
                temperature::Place1::Figure => format!("{:.1}", c.number),
                temperature::Place1::Factor => format!("× {}", c.number),
                temperature::Place1::Spread => format!("±{} ppm/K", c.number),
            };
            PrintedRow::new(vec![format!("class 1, {}", c.place), c.character.to_string(), what], &c.source)
        }))
        .chain(temperature::class2().iter().map(|c| {
            let what = match c.place {
                temperature::Place2::Coldest | temperature::Place2::Hottest => format!("{} °C", c.low),
                temperature::Place2::Change if c.low == c.high => format!("±{} %", c.low),
                temperature::Place2::Change => format!("+{} −{} %", c.high, c.low),
            };
            PrintedRow::new(vec![format!("class 2, {}", c.place), c.character.to_string(), what], &c.source)
        }));
    plain(Card::Temperature, &["place", "character", "meaning"], rows)
}
