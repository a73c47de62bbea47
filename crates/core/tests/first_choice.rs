//! The order in which a good hand reaches for what fits (rule R7): one from the drawers that does; two from there, with the
//! one to buy beside them; no more parts than that while one is to be had; a string of electrolytics never beside a single
//! part. Common practice, no source.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::drawer;

use owl_core::drawers::Lot;
use owl_core::part::{CapacitorFamily, Fact, Family, Position};
use owl_core::substitute::Choices;

use crate::drawer::{ask, capacitor, old_capacitor, old_resistor, resistor};

const CAN: CapacitorFamily = CapacitorFamily::Electrolytic;

fn for_resistor(ohms: f64, watts: f64, at: Position, lots: &[Lot]) -> Choices {
    let old = old_resistor(ohms, Some(watts), Family::CarbonComposition);
    ask(&old, Some(ohms), Some(at), &[(Fact::Voltage, 20.0)], lots)
}

fn film(ohms: f64, watts: f64) -> Lot {
    resistor(ohms, watts, Family::MetalFilm)
}

/// Values, how many pieces, and whether they lie in the drawers, of the first choices.
fn firsts(c: &Choices, n: usize) -> Vec<(f64, usize, bool)> {
    let value = |v: Option<f64>| (v.unwrap_or(0.0) * 1e9).round() / 1e9;
    c.choices.iter().take(n).map(|c| (value(c.value_si), c.pieces.len(), c.from_drawers())).collect()
}

#[test]
fn one_from_the_drawers_that_does_comes_first() {
    // 220 k is 8 % from 240 k, within the old part's tenth: nothing is trimmed inside a tolerance.
    let c = for_resistor(
        240e3,
        0.5,
        Position::PlateLoad,
        &[film(120e3, 0.5), film(220e3, 1.0), film(270e3, 1.0)],
    );
    assert_eq!(firsts(&c, 1), [(220e3, 1, true)]);
    assert!(
        c.refused.iter().any(|r| r.description.contains("270 kΩ")),
        "outside, and findable: {:?}",
        c.refused
    );
    // 10 µF for 8 µF within what smoothing takes, and no string of larger ones.
    let old = old_capacitor(8e-6, Some(350.0), CAN);
    let lots = [capacitor(47e-6, 450.0, CAN), capacitor(10e-6, 450.0, CAN)];
    let c = ask(&old, Some(8e-6), Some(Position::Smoothing), &[], &lots);
    assert_eq!(c.choices[0].value_si, Some(10e-6), "{}", c.choices[0].description);
    assert!(c.choices.iter().all(|x| !x.description.contains("in series")));
    // The same where the one that does must be bought.
    let c = ask(&old, Some(8e-6), Some(Position::Smoothing), &[], &[capacitor(47e-6, 450.0, CAN)]);
    assert!(!c.choices.is_empty() && c.choices.iter().all(|x| !x.description.contains("in series")));
    // Film for film: a drawer's 33 nF of the right volts before any pair.
    let paper = old_capacitor(30e-9, Some(400.0), CapacitorFamily::WaxPaper);
    let lots = [15e-9, 33e-9].map(|v| capacitor(v, 630.0, CapacitorFamily::Polypropylene));
    let c = ask(&paper, Some(30e-9), Some(Position::Coupling), &[], &lots);
    assert_eq!(c.choices[0].pieces.len(), 1, "{}", c.choices[0].description);
}

#[test]
fn two_from_the_drawers_stand_beside_the_one_to_buy() {
    let c =
        for_resistor(200e3, 0.5, Position::GridLeak, &[film(100e3, 0.5), film(390e3, 0.5), film(22e3, 0.5)]);
    let [two, buy] = [firsts(&c, 2)[0], firsts(&c, 2)[1]];
    assert_eq!((two.1, two.2), (2, true), "{:?}", firsts(&c, 4));
    assert_eq!(buy, (200e3, 1, false), "{:?}", firsts(&c, 4));
}

#[test]
fn no_three_from_the_drawers_while_one_is_to_be_had() {
    let lots = [film(10e3, 1.0), film(18e3, 1.0), film(27e3, 1.0)];
    let c = for_resistor(56e3, 1.0, Position::ScreenFeed, &lots);
    let first = firsts(&c, 1)[0];
    assert!(first.1 == 1 || first.1 == 2, "{:?}", firsts(&c, 3));
    let buy = c.choices.iter().position(|x| !x.from_drawers() && x.pieces.len() == 1).unwrap();
    let three = c.choices.iter().position(|x| x.pieces.len() > 2);
    assert!(buy < 2 && three.is_none_or(|t| t > buy), "{:?}", firsts(&c, 8));
}

/// What each does to the set stands beside it in numbers (Ohm's law and the divider's; the tubes' own answer left out).
#[test]
fn what_another_resistor_does_to_the_set_is_said_in_numbers() {
    let old = |at, facts: &[(Fact, f64)]| {
        let gone = old_resistor(240e3, Some(0.5), Family::CarbonComposition);
        let c = ask(&gone, Some(240e3), Some(at), facts, &[film(220e3, 1.0)]);
        c.choices[0].effects.iter().map(|e| (e.better, e.text.clone())).collect::<Vec<_>>()
    };
    let volts = [(Fact::Rail, 210.0), (Fact::Voltage, 90.0)];
    // 90 V at 240 kΩ are 0.375 mA; at 220 kΩ they drop 82.5 V.
    assert_eq!(
        old(Position::PlateLoad, &volts),
        [(true, "120 V behind it before, 128 V after, at the same current".into())]
    );
    // 90 of 210 V: its fellow has 320 kΩ, so 220 kΩ get 85.6 V.
    assert_eq!(old(Position::Divider, &volts), [(true, "90 V across it before, 85.6 V after".into())]);
    let [(_, corner)] = &old(Position::GridLeak, &[])[..] else { panic!("one line") };
    assert!(corner.contains("corner becomes 109"), "{corner}");
    let [(better, current)] = &old(Position::Cathode, &[(Fact::Voltage, 2.4)])[..] else {
        panic!("one line")
    };
    assert!(!better && current.contains("10 µA before, at most 10.9 µA after"), "{current}");
    // Of two together as of one: 120 k and 100 k are 220 k.
    let two = ask(
        &old_resistor(240e3, Some(0.5), Family::CarbonComposition),
        Some(240e3),
        Some(Position::PlateLoad),
        &volts,
        &[film(120e3, 1.0), film(110e3, 1.0)],
    );
    let said =
        |c: &owl_core::substitute::Choice| c.effects.iter().any(|e| e.text.contains("behind it before"));
    let off = |c: &&owl_core::substitute::Choice| {
        c.network.is_some() && c.deviation.is_some_and(|d| d.fraction().abs() > 1e-3)
    };
    assert!(two.choices.iter().filter(off).count() > 0 && two.choices.iter().filter(off).all(said));
    // The value itself changes nothing, and says nothing.
    let same = ask(
        &old_resistor(220e3, Some(0.5), Family::CarbonComposition),
        Some(220e3),
        Some(Position::PlateLoad),
        &volts,
        &[film(220e3, 1.0)],
    );
    assert!(same.choices[0].effects.is_empty(), "{:?}", same.choices[0].effects);
}

#[test]
fn what_was_looked_at_and_refused_is_found_and_networks_of_three_stand_behind_a_line() {
    let old = old_capacitor(8e-6, Some(350.0), CAN);
    let lots = [capacitor(10e-6, 450.0, CAN), capacitor(68e-6, 450.0, CAN), capacitor(1e-6, 450.0, CAN)];
    let c = ask(&old, Some(8e-6), Some(Position::Smoothing), &[], &lots);
    let why = |lot| c.refused.iter().find(|r| r.lot == Some(lot)).map(|r| r.because.as_str());
    assert!(why(1).is_some_and(|w| w.contains("+750 %")) && why(2).is_some(), "{:?}", c.refused);
    let c = for_resistor(56e3, 1.0, Position::ScreenFeed, &[film(10e3, 1.0), film(18e3, 1.0)]);
    let folded: Vec<bool> = c.choices.iter().map(|x| c.is_folded(x)).collect();
    assert!(!folded[0] && folded.contains(&true), "{folded:?}");
    assert!(c.choices.iter().zip(&folded).all(|(x, f)| *f == (x.pieces.len() > 2)));
}

/// What a coefficient held is carried, or its loss said; what is made now for an older value is none of a tuned part.
#[test]
fn a_tuned_part_carries_its_drift_and_its_value() {
    let mut gone = old_capacitor(47e-12, Some(500.0), CapacitorFamily::CeramicClass1);
    if let owl_core::substitute::OldPart::Part(owl_core::part::Part::Capacitor(old)) = &mut gone {
        old.ppm_per_kelvin = Some(-470.0);
    }
    let mut same = capacitor(47e-12, 500.0, CapacitorFamily::CeramicClass1);
    same.piece.type_number = "N470".to_owned();
    let mut other = same.clone();
    other.piece.type_number = "NP0".to_owned();
    let c = ask(&gone, Some(47e-12), Some(Position::Tuned), &[], &[same, other]);
    let says = |lot| {
        let x = c.choices.iter().find(|x| x.pieces[0].lot == Some(lot)).unwrap();
        format!("{:?} {:?}", x.passes, x.effects)
    };
    assert!(says(0).contains("−470 ppm/K as the old one"), "{}", says(0));
    assert!(says(1).contains("it drifts as the set warms"), "{}", says(1));
    let bought = c.choices.iter().find(|x| !x.from_drawers()).unwrap();
    assert!(bought.effects.iter().any(|e| e.text.contains("are lost")), "{:?}", bought.effects);
    let mica = old_capacitor(360e-12, Some(500.0), CapacitorFamily::SilverMica);
    let c = ask(
        &mica,
        Some(360e-12),
        Some(Position::Padder),
        &[],
        &[capacitor(330e-12, 500.0, CapacitorFamily::SilverMica)],
    );
    assert!(c.choices.iter().all(|x| x.pieces[0].lot.is_none()), "330 is no 360 where a dial hangs on it");
}

#[test]
fn no_false_alarms() {
    use owl_core::substitute::worth::{all, worth};
    // One that stands alone has no other half.
    let gone = old_resistor(330.0, Some(1.0), Family::CarbonComposition);
    let circuit = drawer::circuit(&[]);
    let at = |paired| {
        let need = owl_core::substitute::Need {
            paired,
            gone: &gone,
            type_number: "",
            value_si: Some(330.0),
            position: Some(Position::Cathode),
            circuit: &circuit,
        };
        let c = owl_core::substitute::choose(&need, drawer::policy(), &[film(330.0, 2.0)]).unwrap();
        c.choices[0].cautions.iter().any(|x| x.text.contains("other half"))
    };
    assert!(at(true) && !at(false));
    // Before and after that are the same number are not worse.
    let paper = old_capacitor(47e-9, Some(400.0), CapacitorFamily::WaxPaper);
    let c = ask(
        &paper,
        Some(47e-9),
        Some(Position::Coupling),
        &[(Fact::GridResistor, 1e6)],
        &[capacitor(47e-9, 630.0, CapacitorFamily::Polyester)],
    );
    assert!(c.choices[0].effects.is_empty(), "{:?}", c.choices[0].effects);
    // What a dearer kind buys is said where it is offered, and of places where such parts sit.
    let film = Some(owl_core::part::MadeOf::Capacitor(CapacitorFamily::Polypropylene));
    assert!(worth(Some(Position::Coupling), film).is_some_and(|w| w.buys.contains("nothing")));
    assert!(
        worth(Some(Position::Snubber), film).is_some_and(|w| w.buys.contains("everything"))
            && worth(None, film).is_none()
    );
    assert!(all().iter().all(|w| w.position.facts(w.family.kind()).is_some()));
}
