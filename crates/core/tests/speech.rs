//! Bench speech: what is said at a bench, in four kinds of English, and what is meant by it. Common practice, no source: the
//! sentences are ours.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::named::Named;
use owl_core::part::{MadeOf, PartKind, Position, VisualSign};
use owl_core::quantity::{Fraction, Ohm, Watt};
use owl_core::say::guide::{examples, in_short, page};
use owl_core::say::line::Described;
use owl_core::say::{ChipSlot, Known, SayError, Tray, of_valve, understand, understand_each};

const PHRASES: &str = include_str!("speech/phrases.txt");

struct Phrase {
    line: usize,
    said: &'static str,
    meant: &'static str,
}

fn phrases() -> Vec<Phrase> {
    let lines = PHRASES.lines().enumerate().filter(|(_, l)| !l.starts_with('#') && !l.is_empty());
    let parts = |(n, l): (usize, &'static str)| {
        let [english, said, meant] = l.split(" ; ").collect::<Vec<_>>()[..] else {
            panic!("line {}: {l}", n + 1)
        };
        assert!(["us", "gb", "de", "dictated"].contains(&english), "line {}", n + 1);
        Phrase { line: n + 1, said, meant }
    };
    lines.map(parts).collect()
}

fn tray() -> Tray {
    let known = |name: &str, marked_si: Option<f64>| Known {
        name: name.to_owned(),
        marked_si,
        has_mark: true,
        ..Known::default()
    };
    Tray {
        parts: vec![
            known("R3", Some(56e3)),
            known("R8", Some(390.0)),
            known("R12", Some(8200.0)),
            known("C7", Some(25e-6)),
            known("C12", Some(50e-9)),
            known("L3", None),
            known("D2", None),
            known("Q4", None),
            known("P1", Some(6.3)),
            known("U1", None),
        ],
        selected: Some("R12".to_owned()),
        ..Tray::default()
    }
}

fn understood(said: &str) -> String {
    in_short(said, &tray())
}

/// Whether it is as meant; a refusal has to name its word. The order of the pieces is that of the sentence.
fn as_meant(said: &str, meant: &str) -> bool {
    let got = understood(said);
    let sorted = |t: &str| {
        let mut all: Vec<String> = t.split(" | ").map(str::to_owned).collect();
        all[1..].sort();
        all
    };
    match meant.strip_prefix("! ") {
        Some(word) => got.starts_with("! ") && got.contains(word),
        None => sorted(&got) == sorted(meant),
    }
}

#[test]
fn bench_speech_is_understood_as_meant() {
    let all = phrases();
    let wrong: Vec<&Phrase> = all.iter().filter(|p| !as_meant(p.said, p.meant)).collect();
    let list: Vec<String> = wrong
        .iter()
        .map(|p| format!("{}: {}\n    meant {}\n    got   {}", p.line, p.said, p.meant, understood(p.said)))
        .collect();
    let share = 1.0 - wrong.len() as f64 / all.len() as f64;
    println!("{} phrases, {} not as meant\n{}", all.len(), wrong.len(), list.join("\n"));
    assert!(share >= 0.97, "{} of {} wrong\n{}", wrong.len(), all.len(), list.join("\n"));
    // What is not understood is refused or asked, never taken for something else.
    let silently: Vec<&str> =
        wrong.iter().map(|p| p.said).filter(|s| !understood(s).starts_with(['!', '?'])).collect();
    assert!(silently.is_empty(), "{silently:#?}");
}

/// A piece can be pointed at in the line, and what has two meanings can be said with one.
#[test]
fn pieces_stand_where_they_were_typed_and_questions_can_be_answered() {
    let said = "R21  330 Ω 10%  cathode of V3 reads 349";
    let u = &understand_each(said, &tray()).unwrap()[0];
    let units: Vec<u16> = said.encode_utf16().collect();
    let at = |slot: ChipSlot| {
        let chip = u.chips.iter().find(|c| c.slot == slot).unwrap();
        String::from_utf16(&units[chip.at.clone()]).unwrap()
    };
    assert_eq!(
        [ChipSlot::Name, ChipSlot::Mark, ChipSlot::Place, ChipSlot::Reading].map(at),
        ["R21", "330 Ω 10%", "cathode of V3", "reads 349"]
    );
    for p in phrases().iter().filter(|p| p.meant.starts_with("? ")) {
        let Err(SayError::Which(all)) = understand_each(p.said, &tray()) else { continue };
        for m in all.iter().filter(|m| m.label != "leak") {
            let again = understand_each(&m.sentence, &tray());
            assert!(again.is_ok() || matches!(again, Err(SayError::Which(_))), "{}: {again:?}", m.sentence);
        }
    }
}

/// The page of examples is true, and the one in docs is it.
#[test]
fn the_grammar_is_documented_and_the_page_is_true() {
    for e in examples() {
        assert!(
            as_meant(&e.say, &e.meaning),
            "{}\n  meant {}\n  got   {}",
            e.say,
            e.meaning,
            understood(&e.say)
        );
    }
    let docs = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/bench-speech.md");
    if std::env::var_os("OWL_WRITE_DOCS").is_some() {
        std::fs::write(docs, page()).unwrap();
    }
    let written = std::fs::read_to_string(docs).unwrap();
    assert!(
        written == page(),
        "docs/bench-speech.md is not the page of the examples: write it with OWL_WRITE_DOCS=1"
    );
}

/// Whatever a part is, the line that would make it makes it.
#[test]
fn the_line_of_a_part_makes_it() {
    use proptest::prelude::*;
    let kinds = prop_oneof![
        Just((PartKind::Resistor, "R", "")),
        Just((PartKind::Capacitor, "C", ".047 MFD 400V")),
        Just((PartKind::Capacitor, "C", "16-16/450")),
        Just((PartKind::Coil, "L", "2.5mH")),
        Just((PartKind::Diode, "D", "1N34A")),
        Just((PartKind::Transistor, "Q", "AC128")),
        Just((PartKind::Lamp, "P", "6.3V 150mA")),
        Just((PartKind::Ic, "U", "TDA2003")),
        Just((PartKind::Valve, "V", "EF89")),
        Just((PartKind::Valve, "V", "80")),
        Just((PartKind::Fuse, "F", "T500mA 250V")),
        Just((PartKind::Switch, "S", "")),
        Just((PartKind::Loudspeaker, "LS", "3.2ohm 5W")),
    ];
    let any = (
        kinds,
        1..200_u32,
        (0..3_u32, 10..100_u32),
        prop::sample::select(vec![None, Some(0.05), Some(0.1), Some(0.2)]),
        prop::sample::select(vec![None, Some(0.5), Some(1.0), Some(10.0)]),
        any::<[prop::sample::Index; 3]>(),
        prop::sample::select(vec![
            "",
            "V3 grid",
            "V1 pin 4",
            "V2 screen to HT 2",
            "behind the tuner, left",
            "volume control",
        ]),
        (proptest::option::of(1930..1990_u16), any::<bool>()),
    );
    let mut runner = proptest::test_runner::TestRunner::new(ProptestConfig {
        cases: 2000,
        failure_persistence: None,
        ..ProptestConfig::default()
    });
    let holds = runner.run(
        &any,
        |(
            (kind, letter, marking),
            number,
            (decade, digits),
            tolerance,
            watts,
            pick,
            place,
            (made, sheet),
        )| {
            let name = format!("{letter}{number}");
            let value = f64::from(digits) * 10_f64.powi(decade as i32);
            let of = |fits: bool| fits.then_some(());
            let resistor = kind == PartKind::Resistor;
            let families: Vec<MadeOf> = MadeOf::ALL.iter().copied().filter(|f| f.suits(kind)).collect();
            let positions: Vec<Position> = Position::of(kind).collect();
            let looks: Vec<VisualSign> = VisualSign::of(kind).collect();
            let family = (!families.is_empty()).then(|| *pick[0].get(&families));
            let seen: Vec<VisualSign> =
                (!looks.is_empty()).then(|| *pick[2].get(&looks)).into_iter().collect();
            let part = Described {
                name: &name,
                kind,
                marking,
                marked_si: of(resistor).map(|()| value),
                tolerance: tolerance.filter(|_| resistor).and_then(|t| Fraction::new(t).ok()),
                power: watts.filter(|_| resistor).and_then(|w| Watt::new(w).ok()),
                family,
                position: (!positions.is_empty()).then(|| *pick[1].get(&positions)),
                place,
                looks: &seen,
                sheet_si: of(sheet && resistor).map(|()| value),
                winding: of(sheet && kind == PartKind::Coil).and_then(|()| Ohm::new(value).ok()),
                made,
                plates: None,
            };
            let line = part.sentence();
            prop_assert!(of_valve(&line).is_none(), "{} is of the chart", line);
            let u = understand(&line, &Tray::default())
                .map_err(|e| TestCaseError::fail(format!("{line}: {e}")))?;
            prop_assert_eq!((&u.name, u.kind), (&name, kind), "{}", line);
            prop_assert_eq!(u.mark.value.map(Ohm::ohms), part.marked_si, "{}", line);
            prop_assert_eq!((u.mark.tolerance, u.mark.power), (part.tolerance, part.power), "{}", line);
            prop_assert_eq!(u.other.map_or(String::new(), |o| o.marking), marking, "{}", line);
            prop_assert_eq!((u.said.family, u.said.position), (family, part.position), "{}", line);
            prop_assert_eq!(u.said.place.unwrap_or_default(), place, "{}", line);
            prop_assert_eq!((u.said.looks, u.said.made), (seen.clone(), made), "{}", line);
            prop_assert_eq!((u.sheet_si, u.said.winding), (part.sheet_si, part.winding), "{}", line);
            prop_assert!(u.measured.is_empty(), "{}", line);
            Ok(())
        },
    );
    holds.unwrap();
}

#[test]
fn a_slip_is_told_with_the_word_that_was_meant() {
    for (said, meant) in [
        ("R8 cathoed", "cathode?"),
        ("C12 lytc", "lytic?"),
        ("C7 buldging", "bulging?"),
        ("R8 zzz", "no value"),
    ] {
        let e = understand(said, &tray()).unwrap_err().to_string();
        assert!(e.contains(meant), "{said}: {e}");
    }
}
