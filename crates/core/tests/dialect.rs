//! The workshop's own words. Which trade says which word: common practice, no source.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::dialect::{Dialect, HeaterWord};
use owl_core::named::Named;
use owl_core::part::{PartKind, Position};
use owl_core::quantity::Quantity;
use owl_core::quantity::format::{CapacitanceStyle, format_as};
use owl_core::say::{Tray, understand};
use owl_core::search::sought;
use proptest::prelude::*;

#[test]
fn sentences_follow_the_trade() {
    for (written, british, american) in [
        ("Valves out", "Valves out", "Tubes out"),
        ("the plate's volts", "the anode's volts", "the plate's volts"),
        ("A plate, and a ground lug", "An anode, and an earth lug", "A plate, and a ground lug"),
        ("an HT fuse", "an HT fuse", "a B+ fuse"),
        (
            "no grounded scope on the heaters",
            "no earthed scope on the heaters",
            "no grounded scope on the filaments",
        ),
        ("a stack of plates", "a stack of plates", "a stack of plates"),
        (
            "background, valveholder, heater_line",
            "background, valveholder, heater_line",
            "background, valveholder, heater_line",
        ),
        ("'my valve' is no valve", "'my valve' is no valve", "'my valve' is no tube"),
        (
            "its plate's and its valve's 'plate'",
            "its anode's and its valve's 'plate'",
            "its plate's and its tube's 'plate'",
        ),
    ] {
        assert_eq!(Dialect::BRITISH.say(written), british);
        assert_eq!(Dialect::AMERICAN.say(written), american);
        assert_eq!(Dialect::AS_WRITTEN.say(written), written);
    }
    let mixed = Dialect { heater: HeaterWord::Filament, ..Dialect::BRITISH };
    assert_eq!(mixed.say("a valve's heater to ground"), "a valve's filament to earth");
}

/// Every sentence of the tables, in either trade's words.
#[test]
fn no_table_says_the_other_trades_word() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/data");
    let mut heard = 0;
    for table in
        ["position", "power_sign", "power_step", "caution", "safety_check", "fact", "suspect", "pitfall"]
    {
        let mut rows = csv::Reader::from_path(format!("{folder}/{table}.csv")).unwrap();
        for cell in rows.records().flat_map(|r| r.unwrap().iter().map(str::to_owned).collect::<Vec<_>>()) {
            let words = |s: &str| -> Vec<String> {
                s.split(|c: char| !c.is_alphanumeric() && c != '+').map(str::to_lowercase).collect()
            };
            let holds = |s: &str, not: &[&str]| words(s).iter().any(|w| not.contains(&w.as_str()));
            let (british, american) = (Dialect::BRITISH.say(&cell), Dialect::AMERICAN.say(&cell));
            assert!(!holds(&british, &["tube", "plate", "ground", "b+"]), "{british}");
            assert!(
                !holds(&american, &["valve", "valves", "ht", "earth", "earthed", "heater", "heaters"]),
                "{american}"
            );
            heard += usize::from(british != american);
        }
    }
    assert!(heard > 25, "only {heard} sentences differ: they were looked for in the wrong place");
}

#[test]
fn the_owl_line_understands_both_trades() {
    let said = |text: &str| {
        let u = understand(text, &Tray::default()).unwrap();
        (u.said.position, u.measured.first().map(|m| m.state.name()))
    };
    let by_plate = said("R31 68k 5% plate load = 71k valve pulled");
    assert_eq!(by_plate, (Some(Position::PlateLoad), Some("valve pulled")));
    assert_eq!(said("R31 68k 5% anode load = 71k tube pulled"), by_plate);
    let refused = understand("C31 .01 anode", &Tray::default()).unwrap_err().to_string();
    assert!(refused.contains("'anode'"), "in the words that were typed: {refused}");
    for kind in PartKind::ALL {
        for p in Position::of(*kind) {
            for d in [Dialect::BRITISH, Dialect::AMERICAN] {
                assert_eq!(Dialect::written(&d.say(p.name())), p.name());
            }
        }
    }
}

/// What is left of a search is looked for as it was typed.
#[test]
fn past_work_is_asked_in_either_trade() {
    for text in ["open plate loads", "open anode loads"] {
        assert_eq!(sought(text).position, Some(Position::PlateLoad), "{text}");
    }
    assert_eq!(sought("all 10k anode loads, tube base brown").words, "tube base brown");
}

/// docs: a workshop of old sheets writes µF and pF only. What somebody typed stays.
#[test]
fn nanofarads_go_where_nobody_writes_them() {
    let old = Dialect { capacitance: CapacitanceStyle::MicroAndPico, ..Dialect::BRITISH };
    assert_eq!(old.say("22 nF ±10 %, 4.7 nF and 820 pF"), "0.022 µF ±10 %, 0.0047 µF and 820 pF");
    assert_eq!(
        old.say("'22 nF' is what was typed, 1 nF is not"),
        "'22 nF' is what was typed, 0.001 µF is not"
    );
    assert_eq!(old.say("with nF; in nF"), "with nF; in nF");
    assert_eq!(Dialect::BRITISH.say("22 nF"), "22 nF");
}

proptest! {
    #[test]
    fn a_value_is_said_as_the_style_writes_it(farads in 1e-13_f64..1e-2, digits in 1_usize..5) {
        let written = |style| format_as(Quantity::Capacitance, farads, digits, style).to_string();
        let said = Dialect { capacitance: CapacitanceStyle::MicroAndPico, ..Dialect::AS_WRITTEN };
        let nano = written(CapacitanceStyle::WithNano);
        prop_assert_eq!(said.say(&nano), written(CapacitanceStyle::MicroAndPico));
    }

    /// Whatever is said, only the words of the trade change, and it is still a sentence.
    #[test]
    fn anything_can_be_said(text in "\\PC{0,60}") {
        for d in [Dialect::BRITISH, Dialect::AMERICAN] {
            let said = d.say(&text);
            prop_assert_eq!(d.say(&said), said.clone(), "said twice is said once");
        }
        prop_assert_eq!(Dialect::AS_WRITTEN.say(&text), text.as_str());
    }
}
