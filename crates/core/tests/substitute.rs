//! Substitutes for resistors: preferred values of IEC 60063; watts, volts and places by common
//! practice, no source (R7).
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::part::size::{at_least, one_up, sizes};
use owl_core::part::{Family, Position, Resistor};
use owl_core::quantity::{Fraction, Ohm, Volt, Watt};
use owl_core::substitute::{Choices, Need, SubstituteError, choose};
use owl_core::verdict::{Policy, School};

fn need(value: f64, watts: Option<f64>) -> Need {
    let value = Ohm::new(value).unwrap();
    Need {
        part: Resistor {
            family: Family::CarbonComposition,
            value,
            tolerance: Some(Fraction::new(0.1).unwrap()),
            power: watts.map(|w| Watt::new(w).unwrap()),
        },
        value,
        position: None,
        volts: None,
    }
}

fn chosen(need: &Need) -> Choices {
    choose(need, Policy::of(School::TestFirst, false).unwrap()).unwrap()
}

#[test]
fn the_same_value_one_size_up_comes_first() {
    let c = chosen(&need(39e3, Some(0.5)));
    let best = &c.choices[0];
    assert_eq!((best.value.ohms(), best.power.watts(), best.family), (39e3, 1.0, Family::MetalFilm));
    assert_eq!(best.description, "1 W metal film, 39 kΩ");
    assert!(best.network.is_none() && best.deviation.fraction() == 0.0);
    assert!(best.passes.iter().all(|p| !p.source.clause.is_empty()));
}

/// Common practice: 240 k or two parts for an old 250 k.
#[test]
fn an_old_value_gets_its_modern_neighbour_and_a_pair() {
    let c = chosen(&need(250e3, Some(0.5)));
    assert!(c.choices.iter().any(|x| x.network.is_none() && x.value.ohms() == 240e3));
    let pair = c.choices.iter().find(|x| x.network.is_some()).unwrap();
    assert!(pair.deviation.fraction().abs() < 0.02 && pair.ratings.len() == 2);
}

/// Common practice: two of twice the value and half the watts are the usual answer.
#[test]
fn a_pair_of_equals_shares_the_watts() {
    let c = chosen(&need(16.5e3, Some(1.0)));
    let pair = c.choices.iter().find(|x| x.description.starts_with("33k ∥ 33k")).unwrap();
    assert_eq!(pair.ratings.iter().map(|w| w.watts()).collect::<Vec<_>>(), [1.0, 1.0]);
    assert_eq!(pair.power.watts(), 2.0);
}

#[test]
fn watts_follow_from_the_volts_across() {
    let hot = Need { volts: Some(Volt::new(120.0).unwrap()), ..need(10e3, Some(0.5)) };
    // 120² / 10 k = 1.44 W, twice that is 2.88 W: 3 W.
    assert_eq!(chosen(&hot).choices[0].power.watts(), 3.0);
    assert!(chosen(&hot).refused.iter().any(|r| r.because.contains("2.88 W at least")));
    let huge = Need { volts: Some(Volt::new(2000.0).unwrap()), ..need(1e3, Some(0.5)) };
    let refused = choose(&huge, Policy::of(School::TestFirst, false).unwrap());
    assert!(matches!(refused, Err(SubstituteError::TooManyWatts(_))));
}

#[test]
fn more_volts_than_one_body_stands_needs_two() {
    let high = Need { volts: Some(Volt::new(600.0).unwrap()), ..need(2.2e6, Some(0.5)) };
    let c = chosen(&high);
    assert!(c.choices.iter().all(|x| x.network.is_some()), "{:?}", c.choices);
    assert!(c.refused.iter().any(|r| r.because.contains("put several in series")));
}

#[test]
fn radio_frequency_refuses_a_wound_part() {
    let stopper = Need { position: Some(Position::Stopper), ..need(47.0, Some(0.5)) };
    let c = chosen(&stopper);
    assert!(c.choices.iter().all(|x| x.family != Family::Wirewound));
    assert!(c.refused.iter().any(|r| r.description.contains("wirewound")));
}

#[test]
fn an_unknown_size_is_said_to_be_assumed() {
    let c = chosen(&need(1e3, None));
    assert!(c.choices[0].cautions[0].text.contains("not known"));
    assert_eq!(c.choices[0].power.watts(), 1.0);
}

#[test]
fn the_table_of_sizes_rises() {
    assert!(sizes().windows(2).all(|w| w[0].power < w[1].power && w[0].volts <= w[1].volts));
    let w = |x| Watt::new(x).unwrap();
    assert_eq!(at_least(w(0.5)).unwrap().power, w(0.5));
    assert_eq!(one_up(w(0.5)).unwrap().power, w(1.0));
    assert!(one_up(w(10.0)).is_none() && at_least(w(10.1)).is_none());
}
