//! Sixty places and parts with what a good technician takes (`cases/good_choice.txt`; common practice, no source): 57 come
//! first, and all within the first three.
#![allow(clippy::unwrap_used, clippy::expect_used, missing_docs)]

use owl_core::drawers::Lot;
use owl_core::named::Named;
use owl_core::part::{CapacitorFamily, Fact, Family, MadeOf, PartKind, Position};
use owl_core::quantity::{Quantity, parse};
use owl_core::substitute::{Choice, Need, OldPart, first};

use crate::drawer::{ask, capacitor, circuit, old_capacitor, old_resistor, policy, resistor};

/// `22 1W metal film ×6`: value, rating, making, how many.
struct Read {
    value: f64,
    rating: f64,
    family: MadeOf,
    tolerance: Option<f64>,
    count: u32,
}

fn read(kind: PartKind, text: &str) -> Read {
    let number = |q, t: &str| parse::best(q, t).unwrap_or_else(|e| panic!("{text}: {e}"));
    let mut out = Read {
        value: 0.0,
        rating: 0.0,
        family: MadeOf::Resistor(Family::MetalFilm),
        tolerance: None,
        count: 3,
    };
    let mut family = String::new();
    for (i, word) in text.split_whitespace().enumerate() {
        if i == 0 {
            out.value = number(kind.quantity().unwrap(), word);
        } else if let Some(n) = word.strip_prefix('×') {
            out.count = n.parse().unwrap();
        } else if let Some(w) = word.strip_suffix('W').filter(|w| w.parse::<f64>().is_ok()) {
            out.rating = number(Quantity::Power, w);
        } else if let Some(v) = word.strip_suffix('V').filter(|v| v.parse::<f64>().is_ok()) {
            out.rating = number(Quantity::Voltage, v);
        } else if let Some(t) = word.strip_suffix('%') {
            out.tolerance = Some(t.parse::<f64>().unwrap() / 100.0);
        } else {
            family = format!("{family} {word}").trim().to_owned();
        }
    }
    out.family = MadeOf::from_name(&family).unwrap_or_else(|e| panic!("{text}: {e}"));
    out
}

fn old(kind: PartKind, r: &Read) -> OldPart {
    match r.family {
        MadeOf::Resistor(f) => {
            let OldPart::Part(owl_core::part::Part::Resistor(mut old)) =
                old_resistor(r.value, Some(r.rating), f)
            else {
                panic!("{kind}")
            };
            old.tolerance = r.tolerance.map(owl_core::quantity::Fraction::computed);
            OldPart::Part(owl_core::part::Part::Resistor(old))
        }
        MadeOf::Capacitor(f) => old_capacitor(r.value, Some(r.rating), f),
        other => panic!("{other:?}"),
    }
}

fn lot(r: &Read) -> Lot {
    let made = match r.family {
        MadeOf::Resistor(f) => resistor(r.value, r.rating, f),
        MadeOf::Capacitor(f) => capacitor(r.value, r.rating, f),
        other => panic!("{other:?}"),
    };
    Lot { count: r.count, ..made }
}

/// Whether a choice is what is taken: the letters of its drawers, or one to buy of a value.
fn is_taken(choice: &Choice, taken: &str, letters: &[String], kind: PartKind) -> bool {
    if let Some(value) = taken.strip_prefix("buy ") {
        let value = parse::best(kind.quantity().unwrap(), value).unwrap();
        let near = choice.value_si.is_some_and(|v| (v / value - 1.0).abs() < 1e-6);
        return near && choice.pieces.len() == 1 && choice.pieces[0].lot.is_none();
    }
    let mut from: Vec<&str> = choice.pieces.iter().filter_map(|p| Some(letters[p.lot?].as_str())).collect();
    from.sort_unstable();
    from.len() == choice.pieces.len() && from.join("+") == taken
}

/// The first choice where nothing else is looked for.
fn first_of(gone: &OldPart, value: f64, at: Position, facts: &[(Fact, f64)], lots: &[Lot]) -> Option<Choice> {
    let circuit = circuit(facts);
    let need = Need {
        gone,
        type_number: "",
        value_si: Some(value),
        position: Some(at),
        circuit: &circuit,
        paired: true,
    };
    first(&need, policy(), lots).unwrap().choices.into_iter().next()
}

#[test]
fn a_good_hands_choice_comes_first() {
    let table = include_str!("cases/good_choice.txt");
    let (mut all, mut first, mut wrong) = (0, 0, Vec::new());
    for line in table.lines().filter(|l| !l.starts_with('#') && !l.trim().is_empty()) {
        let cells: Vec<&str> = line.split('|').map(str::trim).collect();
        let [part, place, known, drawers, taken, why] = cells[..] else { panic!("{line}") };
        let (letter, part) = part.split_once(' ').unwrap();
        let kind = if letter == "R" { PartKind::Resistor } else { PartKind::Capacitor };
        let gone = read(kind, part);
        let facts: Vec<(Fact, f64)> = known
            .split_whitespace()
            .map(|f| f.split_once('=').unwrap())
            .map(|(f, v)| (Fact::from_name(f).unwrap(), v.parse().unwrap()))
            .collect();
        let (mut letters, mut lots) = (Vec::new(), Vec::new());
        for d in drawers.split(';').map(str::trim).filter(|d| !d.is_empty()) {
            let (letter, piece) = d.split_once(' ').unwrap();
            letters.push(letter.to_owned());
            lots.push(lot(&read(kind, piece)));
        }
        let at = Position::from_name(place).unwrap();
        let found = ask(&old(kind, &gone), Some(gone.value), Some(at), &facts, &lots);
        let at_once = first_of(&old(kind, &gone), gone.value, at, &facts, &lots);
        assert_eq!(at_once, found.choices.first().cloned(), "{line}: looked for less, and found another");
        let stands = found.choices.iter().position(|c| is_taken(c, taken, &letters, kind));
        all += 1;
        first += usize::from(stands == Some(0));
        if stands != Some(0) {
            let names: Vec<&str> = found.choices.iter().take(4).map(|c| c.description.as_str()).collect();
            let refused: Vec<String> = found
                .refused
                .iter()
                .filter(|r| r.lot.is_some())
                .map(|r| format!("{}: {}", r.description, r.because))
                .collect();
            wrong.push((
                stands.is_none_or(|n| n > 2),
                format!("{line}\n  stands at {stands:?}: {names:?}\n  refused {refused:?} ({why})"),
            ));
        }
    }
    assert!(all >= 60, "{all}");
    let list: Vec<&str> = wrong.iter().map(|(_, w)| w.as_str()).collect();
    assert!(
        first * 60 >= 57 * all && wrong.iter().all(|(far, _)| !far),
        "{first} of {all} first\n{}",
        list.join("\n")
    );
    // The makings of the table are those of both kinds.
    assert!(table.contains(CapacitorFamily::Polystyrene.name()) && table.contains(Family::Fusible.name()));
}
