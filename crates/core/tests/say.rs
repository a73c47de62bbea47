//! The owl line through the public interface. Common practice, no source: the sentences are ours.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::Colour;
use owl_core::part::{Family, Position};
use owl_core::quantity::Ohm;
use owl_core::reading::{Mode, State};
use owl_core::say::{Known, SayError, Tray, Understood, understand};
use proptest::prelude::*;

fn tray() -> Tray {
    let known = |name: &str, marked: f64, state| Known {
        name: name.to_owned(),
        marked: Ohm::new(marked).ok(),
        sheet: None,
        state,
    };
    Tray {
        parts: vec![known("R8", 390.0, None), known("R12", 8200.0, Some(State::Lifted))],
        selected: Some("R12".to_owned()),
    }
}

fn said(text: &str) -> Understood {
    understand(text, &tray()).unwrap_or_else(|e| panic!("{text}: {e}"))
}

fn value(u: &Understood) -> Option<f64> {
    u.measured.as_ref().and_then(|m| m.value).map(Ohm::ohms)
}

#[test]
fn a_new_part_with_mark_and_place() {
    let u = said("r21 56k 10% 1W screen feed carbon comp");
    assert_eq!((u.name.as_str(), u.fresh), ("R21", true));
    assert_eq!(u.mark.value.map(Ohm::ohms), Some(56e3));
    assert_eq!(u.mark.tolerance.map(|t| t.fraction()), Some(0.1));
    assert_eq!(u.mark.power.map(|p| p.watts()), Some(1.0));
    assert_eq!(
        (u.mark.position, u.mark.family),
        (Some(Position::ScreenFeed), Some(Family::CarbonComposition))
    );
    assert_eq!(u.in_words, "new on the tray: marked 56 kΩ ±10 %, 1 W, carbon composition, screen feed");
    // R33 is a part's name at the head and a value behind it.
    let u = said("R33 R33 5%");
    assert_eq!((u.name.as_str(), u.mark.value.map(Ohm::ohms)), ("R33", Some(0.33)));
    assert_eq!(said("R40 470RK").mark.tolerance.map(|t| t.fraction()), Some(0.1));
    let both = said("R41 2k7 5% emitter = 2.69k out");
    assert!(both.fresh && value(&both) == Some(2690.0));
}

#[test]
fn a_reading_of_the_selected_part() {
    for (text, ohms) in
        [("=8310", 8310.0), ("= 8.31k", 8310.0), ("= 8.31 k", 8310.0), ("8310", 8310.0), ("=8,31k", 8310.0)]
    {
        let u = said(text);
        assert_eq!((u.name.as_str(), value(&u)), ("R12", Some(ohms)), "{text}");
        assert_eq!(u.measured.unwrap().state, State::Lifted, "the state of the last reading is kept");
    }
}

#[test]
fn a_reading_of_a_named_part() {
    let u = said("R8 = 402 hot");
    let m = u.measured.clone().unwrap();
    assert_eq!((value(&u), m.hot, m.state), (Some(402.0), true, State::InCircuit));
    assert_eq!(said("R8=402 valve pulled").measured.unwrap().state, State::Lifted);
    assert_eq!(said("R8 402 out of circuit").measured.unwrap().state, State::OutOfCircuit);
    assert_eq!(said("R8 402 lifted ac").measured.unwrap().mode, Some(Mode::Ac));
    for beyond in ["R8 OL", "R8 = OL", "R8 open", "R8 overrange lifted"] {
        assert_eq!(said(beyond).measured.unwrap().value, None, "{beyond}");
    }
}

#[test]
fn a_mark_a_sheet_value_a_pair_a_selection() {
    let u = said("R8 orange white brown silver");
    assert_eq!(u.mark.colours, [Colour::Orange, Colour::White, Colour::Brown, Colour::Silver]);
    assert!(u.measured.is_none());
    assert_eq!(said("R8 marked 390").mark.value.map(Ohm::ohms), Some(390.0));
    assert_eq!(said("R8 390 5%").mark.value.map(Ohm::ohms), Some(390.0));
    assert_eq!(said("R8 sheet 400").sheet.map(Ohm::ohms), Some(400.0));
    assert_eq!(said("sheet 8k").name, "R12");
    assert_eq!(said("½W cathode").mark.power.map(|p| p.watts()), Some(0.5));
    assert_eq!(said("R8 pair R12").pair.as_deref(), Some("R12"));
    assert!(said("R8").only_selects());
}

#[test]
fn a_reading_far_off_is_asked_about() {
    let u = said("=8.2G");
    assert!(u.doubt.unwrap().question.contains("8.2 kΩ"));
    assert!(said("=83k").doubt.is_none());
}

#[test]
fn an_entry_with_two_meanings_names_the_other() {
    assert_eq!(said("=8,310").could_also_be, ["8.31 Ω"]);
}

/// Common practice, no source: other parts are said with their marking.
#[test]
fn a_part_that_is_no_resistor_is_said_with_its_marking() {
    for (text, words) in [
        ("C31 .02 MFD 600 WVDC", "marked 20 nF, 600 V DC"),
        ("C7 333J sheet .03", "marked 33 nF ±5 %, the sheet says 30 nF"),
        ("C9 30-30-10/400", "marked 30 µF + 30 µF + 10 µF, 400 V"),
        ("C4 sheet 250mmf", "the sheet says 250 pF"),
        ("L2 680uH 10%", "marked 680 µH ±10 %"),
        ("D3 1N60", "marked 1N60"),
        ("PL1 #49", "marked 2 V, 60 mA"),
        ("C5 red red orange", "22 nF"),
    ] {
        let u = understand(text, &tray()).unwrap();
        assert!(u.fresh && u.in_words.contains(words), "{text}: {}", u.in_words);
        assert!(u.other.is_some() && u.mark.is_empty() && u.measured.is_none());
    }
}

#[test]
fn what_is_not_understood_is_said_in_words() {
    for (text, part) in [
        ("", "say a part"),
        ("R99", "not on the tray yet"),
        ("R99 cathode", "not on the tray yet"),
        ("Q4 2N3904", "cannot be put on the tray"),
        ("C4", "say what is printed on the capacitor"),
        ("C4 = 3n3", "cannot be measured yet"),
        ("C4 sheet", "what does the sheet say of C4"),
        ("C4 chipmunk", "'chipmunk'"),
        ("L3 5%", "no inductance"),
        ("hello", "'hello'"),
        ("R8 hullabaloo", "'hullabaloo'"),
        ("R8 🦉", "'🦉'"),
        ("R8 =", "what does R8 measure"),
        ("R8 hot", "what does R8 measure"),
        ("R8 = -5", "below zero"),
        ("R8 = inf", "not finite"),
        ("R8 = 1e400", "not finite"),
        ("R8 1k 2k", "two values"),
        ("R8 pair R77", "no R77"),
        ("R8 pair R8", "no R8"),
        ("R8 gold gold gold", "gold"),
        ("R8 red violet mauvish", "'mauvish'"),
    ] {
        let e = understand(text, &tray()).unwrap_err().to_string();
        assert!(e.contains(part), "{text}: {e}");
    }
    assert_eq!(understand(&"R8 ".repeat(2000), &tray()), Err(SayError::TooLong(6000)));
    let nobody = Tray { selected: None, ..tray() };
    assert!(matches!(understand("=12", &nobody), Err(SayError::NoPart(_))));
}

proptest! {
    #[test]
    fn any_sentence_is_answered(text in "\\PC{0,60}") {
        let _ = understand(&text, &tray());
    }

    #[test]
    fn any_words_of_the_grammar_are_answered(words in prop::collection::vec(prop::sample::select(vec![
        "R8", "R12", "R50", "=", "1k", "10%", "1W", "hot", "cool", "in", "out", "lifted", "sheet", "marked", "pair",
        "red", "gold", "OL", "cathode", "screen", "feed", "carbon", "comp", "ac", "½W", "4k7", "∥", "-3",
    ]), 0..9)) {
        let text = words.join(" ");
        if let Ok(u) = understand(&text, &tray()) {
            prop_assert!(u.name.starts_with('R') && !u.in_words.is_empty());
        }
    }
}
