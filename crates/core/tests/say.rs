//! The owl line through the public interface. Common practice, no source: the sentences are ours.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::Colour;
use owl_core::part::{Fact, Family, MadeOf, Position, VisualSign};
use owl_core::quantity::Ohm;
use owl_core::reading::{Mode, ReadQuantity, State};
use owl_core::say::{ChipSlot, Known, SayError, Tray, Understood, understand};
use proptest::prelude::*;

fn tray() -> Tray {
    let known = |name: &str, marked: f64, state| Known {
        name: name.to_owned(),
        marked_si: Some(marked),
        has_mark: true,
        state,
        ..Known::default()
    };
    Tray {
        parts: vec![known("R8", 390.0, None), known("R12", 8200.0, Some(State::Lifted))],
        selected: Some("R12".to_owned()),
        ..Tray::default()
    }
}

fn said(text: &str) -> Understood {
    understand(text, &tray()).unwrap_or_else(|e| panic!("{text}: {e}"))
}

fn value(u: &Understood) -> Option<f64> {
    u.measured.first().and_then(|m| m.value_si)
}

#[test]
fn a_new_part_with_mark_and_place() {
    let u = said("r21 56k 10% 1W screen feed carbon comp");
    assert_eq!((u.name.as_str(), u.fresh), ("R21", true));
    assert_eq!(u.mark.value.map(Ohm::ohms), Some(56e3));
    assert_eq!(u.mark.tolerance.map(|t| t.fraction()), Some(0.1));
    assert_eq!(u.mark.power.map(|p| p.watts()), Some(1.0));
    assert_eq!(
        (u.said.position, u.said.family),
        (Some(Position::ScreenFeed), Some(MadeOf::Resistor(Family::CarbonComposition)))
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
        assert_eq!(u.measured[0].state, State::Lifted, "the state of the last reading is kept");
    }
}

#[test]
fn a_reading_of_a_named_part() {
    let u = said("R8 = 402 hot");
    let m = u.measured[0].clone();
    assert_eq!((value(&u), m.hot, m.state), (Some(402.0), true, State::InCircuit));
    assert_eq!(said("R8=402 valve pulled").measured[0].state, State::ValvePulled);
    assert_eq!(said("R8 402 out of circuit").measured[0].state, State::OutOfCircuit);
    assert_eq!(said("R8 402 lifted ac").measured[0].mode, Some(Mode::Ac));
    for beyond in ["R8 OL", "R8 = OL", "R8 open", "R8 overrange lifted"] {
        assert_eq!(said(beyond).measured[0].value_si, None, "{beyond}");
    }
}

#[test]
fn a_mark_a_sheet_value_a_pair_a_selection() {
    let u = said("R8 orange white brown silver");
    assert_eq!(u.mark.colours, [Colour::Orange, Colour::White, Colour::Brown, Colour::Silver]);
    assert!(u.measured.is_empty());
    assert_eq!(said("R8 marked 390").mark.value.map(Ohm::ohms), Some(390.0));
    assert_eq!(said("R8 390 5%").mark.value.map(Ohm::ohms), Some(390.0));
    assert_eq!(said("R8 sheet 400").sheet_si, Some(400.0));
    assert_eq!(said("sheet 8k").name, "R12");
    assert_eq!(said("½W cathode").mark.power.map(|p| p.watts()), Some(0.5));
    assert_eq!(said("R8 pair R12").said.pair.as_deref(), Some("R12"));
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
    let other = &said("=8,310").could_also_be[0];
    assert_eq!((other.label.as_str(), other.sentence.as_str()), ("8.31 Ω", "=8.31Ω"));
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
        assert!(u.mark.is_empty() && u.measured.is_empty());
    }
}

#[test]
fn what_is_not_understood_is_said_in_words() {
    for (text, part) in [
        ("", "say a part"),
        ("R99", "not on the tray yet"),
        ("R99 cathode", "not on the tray yet"),
        ("V4 2N3904", "no type number of a valve"),
        ("V4 emission 60%", "say what is printed on the valve"),
        ("C4", "say what is printed on the capacitor"),
        ("C4 = 3n3", "say what is printed"),
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

fn with_others() -> Tray {
    let known = |name: &str, marked_si: Option<f64>| Known {
        name: name.to_owned(),
        marked_si,
        has_mark: marked_si.is_some(),
        state: Some(State::Lifted),
        ..Known::default()
    };
    Tray {
        parts: vec![
            known("R3", Some(47e3)),
            known("C21", Some(33e-9)),
            known("C22", Some(16e-6)),
            known("C23", None),
            known("L4", Some(2.0)),
            known("D2", None),
            known("Q7", None),
        ],
        selected: Some("C21".to_owned()),
        ..Tray::default()
    }
}

/// Common practice, no source: readings of other parts, in the words of the bench.
#[test]
fn readings_of_other_parts() {
    use ReadQuantity::{
        Capacitance, CutOffCurrent, DissipationFactor, Esr, ForwardVoltage, Inductance, LeakageCurrent,
        LeakagePercent, LeakageResistance, Resistance, TurnsRatio,
    };
    for (text, of, value) in [
        ("C21 .036u @1k", Capacitance, 36e-9),
        ("=.035", Capacitance, 35e-9),
        ("34n", Capacitance, 34e-9),
        ("C21 leak 2.2uA @400", LeakageCurrent, 2.2e-6),
        ("C21 leak 2.2u @400V", LeakageCurrent, 2.2e-6),
        ("C21 leak .4mA", LeakageCurrent, 0.4e-3),
        ("C21 leak 85M @200", LeakageResistance, 85e6),
        ("C22 leak 2.5%", LeakagePercent, 0.025),
        ("C22 esr 1.4 @100k", Esr, 1.4),
        ("C22 d .09", DissipationFactor, 0.09),
        ("Q7 icbo 4", CutOffCurrent, 4e-6),
        ("Q7 iceo .3mA", LeakageCurrent, 0.3e-3),
        ("C22 ohms 0.3 in", Resistance, 0.3),
        ("L4 118", Resistance, 118.0),
        ("L4 1.8H", Inductance, 1.8),
        ("L4 ratio 27.5", TurnsRatio, 27.5),
        ("D2 = .61", ForwardVoltage, 0.61),
    ] {
        let u = understand(text, &with_others()).unwrap_or_else(|e| panic!("{text}: {e}"));
        let m = u.measured.first().cloned().unwrap_or_else(|| panic!("{text}: {}", u.in_words));
        assert_eq!(m.quantity, of, "{text}");
        let got = m.value_si.unwrap();
        assert!((got / value - 1.0).abs() < 1e-9, "{text}: {got}");
        assert!(!u.describes(), "{text}");
    }
    let m = understand("C21 leak 2.2uA @400 hot", &with_others()).unwrap().measured.remove(0);
    assert_eq!((m.test_voltage.map(|v| v.volts()), m.test_frequency, m.hot), (Some(400.0), None, true));
    let m = understand("C21 .036u @1k", &with_others()).unwrap().measured.remove(0);
    assert_eq!((m.test_voltage, m.test_frequency.map(|f| f.hertz())), (None, Some(1000.0)));
    assert_eq!(m.state, State::Lifted, "as it was the last time");
    assert_eq!(understand("C21 OL", &with_others()).unwrap().measured[0].value_si, None);
    assert!(understand("C21 36u", &with_others()).unwrap().doubt.is_some());
    let u = understand("C23 .05 MFD 600 volts 20%", &with_others()).unwrap();
    assert!(u.other.is_some() && u.said.facts.is_empty(), "{}", u.in_words);
    // Volts and a tolerance make it a marking, and a part without a mark is not measured by a bare value.
    for text in ["C21 .033 MFD 400V", "C23 .022", "C21 marked .033"] {
        let u = understand(text, &with_others()).unwrap();
        assert!(u.other.is_some() && u.measured.is_empty(), "{text}: {}", u.in_words);
    }
}

#[test]
fn what_is_seen_and_what_is_known_of_the_circuit() {
    let u = understand("C22 electrolytic smoothing vented domed made 1952", &with_others()).unwrap();
    assert_eq!(u.said.looks, [VisualSign::Vented, VisualSign::Domed]);
    assert_eq!((u.said.position, u.said.made), (Some(Position::Smoothing), Some(1952)));
    let u =
        understand("C21 coupling grid 330k bias -4 volts 180 fed by r3 warm test", &with_others()).unwrap();
    assert_eq!(u.said.facts, [(Fact::GridResistor, 330e3), (Fact::Bias, -4.0), (Fact::Voltage, 180.0)]);
    assert_eq!((u.said.fed_by.as_deref(), u.said.test_warm), (Some("R3"), Some(true)));
    assert!(u.in_words.contains("grid resistor 330 kΩ, bias −4 V"), "{}", u.in_words);
    let u = understand("L9 field coil sheet 1.3k smoothing", &with_others()).unwrap();
    assert_eq!((u.fresh, u.said.winding.map(Ohm::ohms)), (true, Some(1300.0)));
    assert_eq!(understand("D5 selenium rectifier plates 6", &with_others()).unwrap().said.plates, Some(6));
    assert_eq!(understand("C22 group C21", &with_others()).unwrap().said.group.as_deref(), Some("C21"));
    for (text, part) in [
        ("C21 leak", "wants a value"),
        ("C21 leak 3", "has no unit"),
        ("C21 @", "wants the volts"),
        ("C21 fed by R9", "no resistor R9"),
        ("C21 fed by C22", "no resistor C22"),
        ("C21 grid 0k", "wants a value above zero"),
        ("C21 hot", "what does C21 measure"),
        ("C21 = plenty", "not a number"),
        ("D2 plates", "wants how many plates"),
        ("C21 pair", "wants another part"),
    ] {
        let e = understand(text, &with_others()).unwrap_err().to_string();
        assert!(e.contains(part), "{text}: {e}");
    }
}

/// What is done with a part is said as a hand would say it. Common practice, no source.
#[test]
fn deeds_are_told_in_a_sentence() {
    use owl_core::proof::ProofOutcome;
    use owl_core::say::{Deed, of_deed, of_proof};
    use owl_core::verdict::Outcome;
    let tray = Tray { selected: Some("R7".to_owned()), ..Tray::default() };
    let decide = |decided, why: &str| Deed::Decide { decided, why: why.to_owned() };
    let fit = |d: &str, m: &str, w: &str| Deed::Fit {
        description: d.to_owned(),
        measured: m.to_owned(),
        why: w.to_owned(),
    };
    let told: [(&str, &str, Deed); 9] = [
        ("R3 replace", "R3", decide(Outcome::Replace, "")),
        ("c4 has to go because it is of a bad kind", "C4", decide(Outcome::Replace, "it is of a bad kind")),
        ("keep it", "R7", decide(Outcome::Keep, "")),
        ("R3 measure again", "R3", decide(Outcome::MeasureAgain, "")),
        ("R3 fitted 22k 5% 1 W metal film, measured 22.1k", "R3", fit("22k 5% 1 W metal film", "22.1k", "")),
        (
            "R3 replaced by 24k 2W although the right one is on order",
            "R3",
            fit("24k 2W", "", "the right one is on order"),
        ),
        ("R3 fit", "R3", fit("", "", "")),
        (
            "R3 proven: plays, hum gone, 255 V at pin 6",
            "R3",
            Deed::Prove {
                seen: "plays, hum gone, 255 V at pin 6".to_owned(),
                outcome: Some(ProofOutcome::Better),
            },
        ),
        ("R3 prove", "R3", Deed::Prove { seen: String::new(), outcome: None }),
    ];
    for (text, name, deed) in told {
        let said = of_deed(text, &tray).unwrap_or_else(|| panic!("{text}"));
        assert_eq!((said.name.as_str(), &said.deed), (name, &deed), "{text}");
        assert!(said.chips.iter().any(|c| c.slot == ChipSlot::Deed), "{text}");
    }
    for none in ["R3 22k", "R3 = 15k lifted", "R3", "R3 R4 replace", "R3 keep 22k", "V2 sheet 255", ""] {
        assert_eq!(of_deed(none, &tray), None, "{none}");
    }
    let proof = |text: &str| of_proof(text, &tray).map(|d| d.name);
    assert_eq!(proof("C5 plays, crackle gone").as_deref(), Some("C5"));
    assert_eq!(proof("C5 22n 400V"), None);
}
