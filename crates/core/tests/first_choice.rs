//! The order in which a good hand reaches for what fits (rule R7): one from the drawers that does; two from there, with the
//! one to buy beside them; no more parts than that while one is to be had; a string of electrolytics never beside a single
//! part. Common practice, no source.
#![allow(clippy::unwrap_used, missing_docs)]

mod bench;
mod drawer;

use owl_core::drawers::Lot;
use owl_core::part::{CapacitorFamily, Fact, Family, Position};
use owl_core::substitute::Choices;

use drawer::{ask, capacitor, old_capacitor, old_resistor, resistor};

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
