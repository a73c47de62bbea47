//! Substitutes for resistors, diodes, lamps and field coils: the usual answers of practice.
//! Every check here is common practice, no source, where nothing else stands beside it.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::drawers::{Lot, Piece};
use owl_core::part::size::{at_least, one_up, sizes};
use owl_core::part::{Coil, CoilFamily, Diode, DiodeFamily, Fact, Family, MadeOf, Part, PartKind, Position};
use owl_core::quantity::{Ampere, Henry, Ohm, Volt, Watt};
use owl_core::substitute::{Choice, LampFeed, Need, OldPart, SubstituteError, choose};
use owl_core::supply::barretter::Barretter;
use owl_core::supply::heater::{AroundALamp, Ballast, Member};

use crate::drawer::{ask, circuit, lot, old_resistor, policy, reason, resistor, takes};

/// Common practice, no source: 50 kΩ becomes 47 or 51 kΩ, one watt where half a watt was.
#[test]
fn the_nearest_value_one_size_up_is_first() {
    let c = ask(&old_resistor(240e3, Some(0.5), Family::CarbonComposition), Some(240e3), None, &[], &[]);
    assert_eq!(c.choices[0].description, "1 W metal film, 240 kΩ");
    let c = ask(&old_resistor(50e3, Some(0.5), Family::CarbonComposition), Some(50e3), None, &[], &[]);
    assert!(c.choices.iter().any(|x| x.description == "1 W metal film, 51 kΩ"));
    assert!(
        c.refused.iter().any(|r| r.because.contains("0.5 W at least") || r.description.contains("0.25 W"))
    );
}

/// Common practice, no source: two resistors of twice the value and half the watts are the usual answer for a missing
/// one; two 33 kΩ 1 W make 16.5 kΩ 2 W.
#[test]
fn two_of_twice_the_value_make_a_missing_one() {
    let gone = old_resistor(16e3, Some(2.0), Family::CarbonComposition);
    let c = ask(&gone, Some(16.5e3), None, &[], &[resistor(33e3, 1.0, Family::MetalFilm)]);
    let pair = &c.choices[0];
    assert!(pair.description.starts_with("33k ∥ 33k in parallel") && pair.from_drawers());
    assert!((pair.watts.unwrap().watts() - 2.0).abs() < 1e-9);
    assert_eq!(pair.pieces.iter().map(|p| p.lot).collect::<Vec<_>>(), [Some(0), Some(0)]);
    // Half-watts would burn: they are not proposed.
    let c = ask(&gone, Some(16.5e3), None, &[], &[resistor(33e3, 0.5, Family::MetalFilm)]);
    assert!(c.choices.iter().all(|x| !x.from_drawers()));
    // One piece is no pair.
    let mut one = resistor(33e3, 1.0, Family::MetalFilm);
    one.count = 1;
    assert!(ask(&gone, Some(16.5e3), None, &[], &[one]).choices.iter().all(|x| !x.from_drawers()));
    // To buy: equal ones of half the watts.
    let c = ask(&old_resistor(5e3, Some(1.0), Family::CarbonComposition), Some(5e3), None, &[], &[]);
    assert!(c.choices.iter().any(|x| x.description.starts_with("10k ∥ 10k")), "{:?}", names(&c.choices));
}

fn names(c: &[Choice]) -> Vec<&str> {
    c.iter().map(|x| x.description.as_str()).collect()
}

#[test]
fn watts_follow_from_the_volts_across() {
    let half = old_resistor(10e3, Some(0.5), Family::CarbonComposition);
    let c =
        ask(&half, Some(10e3), None, &[(Fact::Voltage, 120.0)], &[resistor(10e3, 2.0, Family::MetalFilm)]);
    // 120² / 10 k = 1.44 W, twice that is 2.88 W: 3 W.
    let bought = c.choices.iter().find(|x| x.network.is_none()).unwrap();
    assert_eq!(bought.watts.unwrap().watts(), 3.0);
    assert!(reason(&c, "10 kΩ").contains("2.88 W are needed"));
    let bar = bought.margins.iter().find(|m| m.of == "watts").unwrap();
    assert!((bar.ratio - 3.0 / 2.88).abs() < 1e-9 && bar.has == "3 W");
    let gone = old_resistor(1e3, Some(0.5), Family::CarbonComposition);
    let circuit = circuit(&[(Fact::Voltage, 2000.0)]);
    let need = Need {
        paired: false,
        gone: &gone,
        type_number: "",
        value_si: Some(1e3),
        position: None,
        circuit: &circuit,
    };
    assert!(matches!(choose(&need, policy(), &[]), Err(SubstituteError::TooManyWatts(_))));
    let nothing = Need { value_si: None, ..need };
    assert_eq!(choose(&nothing, policy(), &[]), Err(SubstituteError::NoValue));
}

#[test]
fn more_volts_than_one_body_stands_needs_a_string() {
    let gone = old_resistor(2.2e6, Some(0.5), Family::CarbonComposition);
    for (volts, parts) in [(600.0, 2), (1400.0, 3)] {
        let c = ask(&gone, Some(2.2e6), None, &[(Fact::Voltage, volts)], &[]);
        assert!(
            !c.choices.is_empty() && c.choices.iter().all(|x| x.pieces.len() >= parts),
            "{:?}",
            names(&c.choices)
        );
        assert!(c.refused.iter().any(|r| r.because.contains("put several in series")));
    }
}

/// A multiplier of a kilovolt meter has the whole scale across it: several in series, each within its body, drawn as a
/// network; and it sets the scale, so 5 % of it is no neighbour (common practice, no source).
#[test]
fn a_meter_multiplier_is_a_string_that_keeps_the_scale() {
    let gone = old_resistor(8.2e6, Some(1.0), Family::CarbonComposition);
    let mut lots = [resistor(8.7e6, 2.0, Family::MetalFilm), resistor(2.05e6, 1.0, Family::MetalFilm)];
    lots[1].count = 6;
    let at = Some(Position::MeterMultiplier);
    let c = ask(&gone, Some(8.2e6), at, &[(Fact::Rail, 1800.0)], &lots);
    let first = &c.choices[0];
    assert!(
        first.from_drawers() && first.pieces.len() == 4 && first.network.is_some(),
        "{:?}",
        names(&c.choices)
    );
    assert!(c.choices.iter().any(|x| x.description.starts_with("2.7M + 2.7M + 2.7M in series")), "to buy");
    assert!(c.choices.iter().all(|x| x.deviation.unwrap().fraction().abs() <= 0.02));
    // Three are too few to share as many volts; and a bleeder's rail counts the same.
    lots[1].count = 3;
    for at in [Position::MeterMultiplier, Position::Bleeder] {
        let c = ask(&gone, Some(8.2e6), Some(at), &[(Fact::Rail, 1800.0)], &lots);
        assert!(!takes(&c, 1) && !c.choices.is_empty(), "{:?}", names(&c.choices));
    }
    // On a low range one does, but not the one 6 % off.
    let c = ask(&gone, Some(8.2e6), at, &[(Fact::Rail, 120.0)], &lots);
    assert!(c.choices[0].network.is_none() && !takes(&c, 0), "{:?}", names(&c.choices));
}

/// Stopper and other places of radio frequency, fusible parts, drifting composition, the other half of a pair.
#[test]
fn a_place_says_how_a_resistor_is_made() {
    let stopper = old_resistor(47.0, Some(0.5), Family::CarbonComposition);
    let lots = [
        resistor(47.0, 3.0, Family::Wirewound),
        resistor(47.0, 1.0, Family::CarbonFilm),
        resistor(47.0, 1.0, Family::CarbonComposition),
    ];
    let c = ask(&stopper, Some(47.0), Some(Position::Stopper), &[], &lots);
    assert!(!takes(&c, 0) && takes(&c, 1) && takes(&c, 2));
    assert!(reason(&c, "wirewound").contains("inductance"));
    let c = ask(&stopper, Some(47.0), Some(Position::Cathode), &[], &lots);
    assert!(takes(&c, 0) && !takes(&c, 2) && reason(&c, "composition").contains("drifts"));
    assert!(c.choices[0].cautions.iter().any(|l| l.text.contains("other half")));
    let fuse = old_resistor(10.0, Some(0.5), Family::Fusible);
    let lots = [resistor(10.0, 1.0, Family::MetalFilm), resistor(10.0, 1.0, Family::Fusible)];
    let c = ask(&fuse, Some(10.0), None, &[], &lots);
    assert!(!takes(&c, 0) && takes(&c, 1) && reason(&c, "metal film").contains("open safely"));
    let snubber = old_resistor(100.0, Some(1.0), Family::CarbonComposition);
    let c = ask(
        &snubber,
        Some(100.0),
        Some(Position::Snubber),
        &[],
        &[resistor(100.0, 2.0, Family::CarbonComposition)],
    );
    assert!(takes(&c, 0), "pulses call for composition");
}

#[test]
fn an_unknown_size_is_said_to_be_assumed() {
    let c = ask(&old_resistor(1e3, None, Family::CarbonComposition), Some(1e3), None, &[], &[]);
    assert!(c.choices[0].cautions[0].text.contains("not known"));
    assert_eq!(c.choices[0].watts.unwrap().watts(), 1.0);
}

#[test]
fn the_table_of_sizes_rises() {
    // In an aluminium case on metal a body stands less than a free one.
    let free: Vec<_> = sizes().iter().filter(|s| s.power.watts() <= 10.0).collect();
    assert!(sizes().windows(2).all(|w| w[0].power < w[1].power));
    assert!(free.len() > 6 && free.windows(2).all(|w| w[0].volts <= w[1].volts));
    let w = |x| Watt::new(x).unwrap();
    assert_eq!(at_least(w(0.5)).unwrap().power, w(0.5));
    assert_eq!(one_up(w(0.5)).unwrap().power, w(1.0));
    assert!(one_up(w(50.0)).is_none() && at_least(w(50.1)).is_none());
}

fn diode(type_number: &str, family: DiodeFamily, volts: f64, amperes: f64) -> Lot {
    lot(Piece {
        family: Some(MadeOf::Diode(family)),
        type_number: type_number.to_owned(),
        volts: Volt::new(volts).ok(),
        amperes: Ampere::new(amperes).ok(),
        ..Piece::new(PartKind::Diode)
    })
}

#[test]
fn a_rectifier_stands_twice_the_crest_and_half_as_much_again() {
    let stack = OldPart::Part(Part::Diode(Diode { family: Some(DiodeFamily::Selenium), plates: 6 }));
    let lots = [
        diode("1N4004", DiodeFamily::Silicon, 400.0, 1.0),
        diode("1N4007", DiodeFamily::Silicon, 1000.0, 1.0),
        diode("stack", DiodeFamily::Selenium, 400.0, 0.1),
    ];
    let facts = [(Fact::Secondary, 117.0), (Fact::LoadCurrent, 0.07)];
    let c = ask(&stack, None, Some(Position::Rectifier), &facts, &lots);
    // 2√2 · 117 V = 331 V the wrong way; half as much again is 496 V.
    assert!(!takes(&c, 0) && takes(&c, 1));
    assert!(reason(&c, "1N4004").contains("needed") && reason(&c, "stack").contains("smoke"));
    assert!(c.advice.iter().any(|l| l.text.contains("series resistor")));
    // √2 · 117 V over 4 Ω is 41 A into an empty filter: more than the 30 A of the small ones.
    let surge = [facts[0], facts[1], (Fact::ChargingPath, 4.0)];
    let stiff = ask(&stack, None, Some(Position::Rectifier), &surge, &lots);
    assert!(
        !takes(&stiff, 1) && reason(&stiff, "1N4007").contains("41.37 A are needed"),
        "{:?}",
        stiff.refused
    );
    assert!(stiff.choices[0].margins.iter().any(|m| m.of == "surge" && m.ratio > 1.0));
    // To buy: the humblest that does.
    assert!(c.choices.iter().find(|x| !x.from_drawers()).unwrap().description.starts_with("1N4005"));
}

#[test]
fn a_detector_keeps_its_germanium() {
    let detector = OldPart::Part(Part::Diode(Diode { family: Some(DiodeFamily::Germanium), plates: 1 }));
    let lots = [
        diode("1N4148", DiodeFamily::Silicon, 100.0, 0.15),
        diode("OA91", DiodeFamily::Germanium, 115.0, 0.05),
    ];
    let c = ask(&detector, None, Some(Position::Detector), &[], &lots);
    assert!(takes(&c, 1) && reason(&c, "1N4148").contains("weak stations"));
}

fn lamp(volts: f64, amperes: f64) -> Lot {
    lot(Piece { value_si: Some(volts), amperes: Ampere::new(amperes).ok(), ..Piece::new(PartKind::Lamp) })
}

/// docs/rules.md, R9: lamps in a series heater chain must match in current.
#[test]
fn a_lamp_in_a_chain_matches_in_current() {
    let gone = |fed| OldPart::Lamp { volts: Volt::new(6.3).unwrap(), current: Ampere::new(0.15).ok(), fed };
    let lots = [lamp(6.3, 0.2), lamp(6.3, 0.15), lamp(12.0, 0.15)];
    let c = ask(&gone(LampFeed::Chain(None)), Some(6.3), None, &[], &lots);
    assert!(!takes(&c, 0) && takes(&c, 1) && !takes(&c, 2));
    assert!(c.refused.iter().any(|r| r.because.contains("dies at switch-on")));
    assert!(
        takes(&ask(&gone(LampFeed::Alone), Some(6.3), None, &[], &lots), 0),
        "fed alone it may draw a little more"
    );
    assert!(c.choices.iter().any(|x| x.description.contains("number 47")), "to buy by its number");
    // The chain's own numbers: Kirchhoff with the others cold and the lamp hot, common practice for what it bears.
    let heater = |volts: f64| Member {
        name: String::new(),
        volts: Volt::new(volts).unwrap(),
        current: Ampere::new(0.15).unwrap(),
        lamp: false,
    };
    let others = [heater(35.0), heater(50.0), heater(12.6), heater(12.6)];
    let line = Volt::new(225.0).unwrap();
    let around = AroundALamp::of(line, &others, None, Ohm::new(740.0).ok().map(Ballast::Resistor)).unwrap();
    let cold: f64 = 740.0 + others.iter().map(|m| m.volts.volts() / 0.15 / 7.0).sum::<f64>();
    let surge = 225.0 / (cold + 42.0) * 42.0;
    let at_first = around.surge(Volt::new(6.3).unwrap(), Ampere::new(0.15).unwrap());
    assert!((at_first.volts() / surge - 1.0).abs() < 1e-9, "{at_first} {surge}");
    let c = ask(&gone(LampFeed::Chain(Some(around))), Some(6.3), None, &[], &lots);
    let said = c.choices[0].cautions.iter().find(|r| r.text.contains("heaters are cold")).unwrap();
    assert!(said.text.contains("thermistor"), "{}", said.text);
    // A larger ballast spares it.
    let spared = AroundALamp { ballast: Ballast::Resistor(Ohm::new(3.0 * cold).unwrap()), ..around };
    let c = ask(&gone(LampFeed::Chain(Some(spared))), Some(6.3), None, &[], &lots);
    assert!(c.choices[0].passes.iter().any(|r| r.text.contains("heaters are cold")));
    // So does a barretter that holds: the lamp has its own current and no more. Beyond its range it is the resistance that it
    // has at that end.
    for (most, amperes) in [(210.0, 0.15), (90.0, 225.0 / (cold - 740.0 + 42.0 + 90.0 / 0.15))] {
        let held: Barretter = format!("0.15A 50-{most} V").parse().unwrap();
        let around = AroundALamp { ballast: Ballast::Barretter(held), ..around };
        let at_first = around.surge(Volt::new(6.3).unwrap(), Ampere::new(0.15).unwrap());
        assert!((at_first.volts() / (amperes * 42.0) - 1.0).abs() < 1e-9, "{at_first}");
    }
}

#[test]
fn a_field_coil_becomes_a_choke_and_a_resistor() {
    let coil = |family| {
        OldPart::Part(Part::Coil(Coil {
            family: Some(family),
            resistance: Ohm::new(1800.0).ok(),
            inductance: Henry::new(10.0).ok(),
        }))
    };
    let choke = |henries: f64, amperes: f64| {
        lot(Piece {
            family: Some(MadeOf::Coil(CoilFamily::Choke)),
            type_number: "choke".to_owned(),
            value_si: Some(henries),
            amperes: Ampere::new(amperes).ok(),
            winding: Ohm::new(300.0).ok(),
            ..Piece::new(PartKind::Coil)
        })
    };
    let facts = [(Fact::LoadCurrent, 0.06)];
    let lots = [choke(10.0, 0.08), choke(10.0, 0.04), choke(4.0, 0.08)];
    let c = ask(&coil(CoilFamily::FieldCoil), None, Some(Position::Smoothing), &facts, &lots);
    assert!(takes(&c, 0) && !takes(&c, 1) && !takes(&c, 2), "{:?}", c.refused);
    // 1500 Ω are missing: 90 V, 5.4 W.
    assert!(
        c.choices[0].cautions.iter().any(|l| l.text.contains("1.5 kΩ in series") && l.text.contains("90 V"))
    );
    // A resistor alone: 108 V and 6.5 W, so 25 W; how warm it gets is said.
    let alone = c.choices.iter().find(|x| x.pieces[0].piece.kind == PartKind::Resistor).unwrap();
    assert_eq!(
        alone.watts.or(alone.pieces[0].piece.watts).map(Watt::watts),
        Some(25.0),
        "{}",
        alone.description
    );
    assert!(
        alone.cautions.iter().any(|l| l.text.contains("about 65 K over the air")),
        "{:?}",
        alone.cautions
    );
    // 0.25 A through it are more than any body: that is said.
    let far = ask(&coil(CoilFamily::FieldCoil), None, None, &[(Fact::LoadCurrent, 0.25)], &[]);
    assert!(far.refused.iter().any(|r| r.because.contains("share it")), "{:?}", far.refused);
    // From the drawers as any resistor: one of the right ohms and watts, and two that make them.
    let drawers = [
        resistor(1800.0, 25.0, Family::Wirewound),
        resistor(910.0, 10.0, Family::Wirewound),
        resistor(1800.0, 5.0, Family::Wirewound),
    ];
    let c = ask(&coil(CoilFamily::FieldCoil), None, Some(Position::Smoothing), &facts, &drawers);
    assert!(takes(&c, 0) && !takes(&c, 2), "{:?}", c.refused);
    // What becomes of the hum, where the ripple is known: 10 H at 100 Hz against 1.8 kΩ.
    let with = [facts[0], (Fact::RippleFrequency, 100.0)];
    let c = ask(&coil(CoilFamily::Choke), None, Some(Position::Smoothing), &with, &drawers);
    let hum = c.choices[0].effects.iter().find(|e| e.text.contains("choke is lost")).unwrap();
    assert!(!hum.better && hum.text.contains("3.5 times"), "{}", hum.text);
    let small = ask(&coil(CoilFamily::FieldCoil), None, None, &[(Fact::LoadCurrent, 0.03)], &[]);
    assert!(small.choices[0].effects.iter().any(|e| !e.better && e.text.contains("choke is lost")));
    let winding = ask(&coil(CoilFamily::TransformerWinding), None, None, &facts, &lots);
    assert!(winding.choices.is_empty() && winding.advice[0].text.contains("rewind"));
}
