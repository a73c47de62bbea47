//! What a capacitor's leak does where it sits: R4 of the rules. What a leak does is Ohm's law; what is made of it is common
//! practice, no source, unless a test says otherwise.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::bench::{all_words, at_volts, of, read, wax};
use owl_core::part::{CapacitorFamily, Fact, Position};
use owl_core::reading::ReadQuantity::{LeakageCurrent, LeakageResistance};
use owl_core::reading::{Reading, Shown};
use owl_core::verdict::{Outcome, Rule};

fn warm(reading: Reading) -> Reading {
    Reading { hot: true, ..reading }
}

#[test]
fn a_coupling_leak_is_judged_by_what_it_does_to_the_grid() {
    // Ohm's law: 0.9 µA at 220 V is 244 MΩ; with 560 kΩ the grid is lifted by 0.5 V.
    let coupling = |amperes: f64, rg: f64, bias: f64| {
        wax(22e-9, 400.0)
            .at(Position::Coupling)
            .reads(warm(at_volts(read(LeakageCurrent, amperes), 220.0)))
            .fact(Fact::Voltage, 220.0)
            .fact(Fact::GridResistor, rg)
            .fact(Fact::Bias, bias)
            .first()
    };
    let bad = coupling(0.9e-6, 560e3, -8.0);
    assert_eq!((bad.call, bad.reasons[0].rule), (Outcome::Replace, Rule::Leakage));
    assert!(
        bad.reasons[0]
            .text
            .contains("900 nA × 560 kΩ = 0.503 V on a grid biased at −8 V: too much, 0.25 V allowed"),
        "{}",
        bad.reasons[0].text
    );
    // The same leak on a small grid resistor does nothing.
    assert_eq!(coupling(0.9e-6, 47e3, -8.0).call, Outcome::Keep);
    // A tenth of a small bias counts before the quarter volt: 0.17 V on −1.5 V is too much, on −8 V watched.
    assert_eq!(coupling(0.3e-6, 560e3, -1.5).call, Outcome::Replace);
    assert_eq!(coupling(0.3e-6, 560e3, -8.0).call, Outcome::Watch);
    // Watched from a third of the limit.
    assert_eq!(coupling(0.14e-6, 560e3, -8.0).call, Outcome::Keep);
    assert_eq!(coupling(0.16e-6, 560e3, -8.0).call, Outcome::Watch);
}

/// Paper leaks about ten times more when warm: what a cold test finds harmless on a grid or an AVC line is watched, what
/// it finds across a feed is not (common practice, no source).
#[test]
fn cold_paper_with_a_leak_is_no_certain_keep_on_a_grid() {
    let leak = at_volts(read(LeakageResistance, 3e9), 300.0);
    let at = |position, reading| {
        let b = wax(10e-9, 400.0).at(position).reads(reading).fact(Fact::Voltage, 120.0);
        b.fact(Fact::GridResistor, 330e3)
            .fact(Fact::SourceResistance, 1e6)
            .fact(Fact::FeedResistor, 100e3)
            .first()
    };
    for position in [Position::Coupling, Position::Avc] {
        let cold = at(position, leak);
        assert_eq!(cold.call, Outcome::Watch, "{}", all_words(&cold));
        assert!(all_words(&cold).contains("warm it and test its leakage again"), "{}", all_words(&cold));
        assert_eq!(at(position, warm(leak)).call, Outcome::Keep);
        // No leak at all on the insulation range is as good as it gets.
        let none = Reading { shown: Shown::Overrange { ceiling_si: Some(2e9) }, ..leak };
        assert_eq!(at(position, none).call, Outcome::Keep);
    }
    assert_eq!(at(Position::ScreenBypass, leak).call, Outcome::Keep);
    let film = of(CapacitorFamily::Polyester, 10e-9, 400.0).at(Position::Coupling).reads(leak);
    assert_eq!(film.fact(Fact::Voltage, 120.0).fact(Fact::GridResistor, 330e3).first().call, Outcome::Keep);
}

/// Insulation times capacitance says nothing of a few picofarad: those are judged by their ohms, as one of 1 nF (common
/// practice, no source).
#[test]
fn a_small_paper_part_is_not_finished_by_its_smallness() {
    let finished = |farads, ohms| {
        let v = wax(farads, 400.0).reads(at_volts(read(LeakageResistance, ohms), 400.0)).first();
        all_words(&v).contains("finished")
    };
    assert!(!finished(150e-12, 2.5e9) && !finished(470e-12, 1.2e9));
    assert!(finished(150e-12, 0.8e9) && finished(10e-9, 90e6) && !finished(10e-9, 120e6));
}

/// A test at the rail that feeds the place is one at the working volts, whatever the rating (common practice, no source).
#[test]
fn a_leak_test_at_the_rail_counts() {
    let tested = |at: f64, rail: Option<f64>| {
        let b = of(CapacitorFamily::Polyester, 47e-9, 630.0)
            .at(Position::Coupling)
            .reads(at_volts(read(LeakageResistance, 40e9), at))
            .fact(Fact::GridResistor, 470e3);
        let b = if let Some(v) = rail { b.fact(Fact::Rail, v) } else { b };
        b.first().call
    };
    assert_eq!(tested(250.0, None), Outcome::MeasureAgain);
    assert_eq!(tested(250.0, Some(245.0)), Outcome::Keep);
    assert_eq!(tested(200.0, Some(245.0)), Outcome::MeasureAgain);
}

#[test]
fn what_would_change_a_coupling_verdict_is_the_current_at_the_limit() {
    let v = wax(22e-9, 400.0)
        .at(Position::Coupling)
        .reads(at_volts(read(LeakageCurrent, 0.9e-6), 220.0))
        .fact(Fact::Voltage, 220.0)
        .fact(Fact::GridResistor, 560e3)
        .fact(Fact::Bias, -8.0)
        .first();
    // 0.25 V on 560 kΩ leaves 219.75 V for the leak: 0.25 / 560e3 ampere flow.
    let flip = &v.thresholds[0];
    assert!((flip.at_si / (0.25 / 560e3) - 1.0).abs() < 0.01, "{}", flip.at_si);
    assert_eq!(flip.to, Outcome::Watch);
    assert!(flip.text.contains("446"), "{}", flip.text);
}

#[test]
fn a_missing_fact_gives_a_threshold_and_not_a_shrug() {
    let coupling = |amperes: f64| {
        wax(22e-9, 400.0).at(Position::Coupling).reads(warm(at_volts(read(LeakageCurrent, amperes), 400.0)))
    };
    let v = coupling(0.4e-6).first();
    assert_eq!((v.call, v.asks.as_slice()), (Outcome::Watch, [Fact::GridResistor].as_slice()));
    assert!(v.reasons[0].text.contains("keep if the grid resistor is under 625"), "{}", v.reasons[0].text);
    assert!(!v.certain);
    // So much that no grid resistor in use could make it harmless, and so little that none could make it bad.
    assert_eq!(coupling(80e-6).first().call, Outcome::Replace);
    let harmless = coupling(5e-9).first();
    assert_eq!((harmless.call, harmless.asks.len()), (Outcome::Keep, 0));
    // The bias is asked for only where it could tighten the limit enough.
    let no_bias =
        |amperes| coupling(amperes).fact(Fact::GridResistor, 470e3).fact(Fact::Voltage, 400.0).first();
    assert_eq!(no_bias(0.9e-6).asks.len(), 0, "too much whatever the bias");
    assert_eq!(no_bias(0.3e-6).asks, [Fact::Bias]);
    assert_eq!(no_bias(0.03e-6).asks.len(), 0, "harmless whatever the bias");
}

#[test]
fn a_decoupling_leak_is_judged_by_its_feed() {
    let screen = |megohms: f64| {
        of(CapacitorFamily::Polyester, 0.1e-6, 400.0)
            .at(Position::ScreenBypass)
            .reads(at_volts(read(LeakageResistance, megohms * 1e6), 250.0))
            .fact(Fact::Voltage, 100.0)
            .fact(Fact::Rail, 250.0)
            .fact(Fact::FeedResistor, 68e3)
    };
    // 100 V × 68 kΩ / (68 kΩ + 20 MΩ) = 0.34 V of 12.5 V allowed.
    assert_eq!(screen(20.0).first().call, Outcome::Keep);
    // 0.4 MΩ: 14.5 V; 0.6 MΩ: 10.2 V, which is 81 % of what is allowed.
    let bad = screen(0.4).first();
    assert_eq!(bad.call, Outcome::Replace);
    assert!(all_words(&bad).contains("measure its feed resistor"), "{}", all_words(&bad));
    assert_eq!(screen(0.6).first().call, Outcome::Watch);
    // A feed near its rating is overloaded long before 5 % are gone: 150 V across 68 kΩ are 0.33 W already.
    let weak = screen(5.0).fact(Fact::FeedPower, 0.5).first();
    assert_eq!(weak.call, Outcome::Replace);
    assert!(weak.reasons[0].text.contains("the feed then burns"), "{}", weak.reasons[0].text);
    assert_eq!(screen(5.0).fact(Fact::FeedPower, 2.0).first().call, Outcome::Keep);
    let unknown = of(CapacitorFamily::Polyester, 0.1e-6, 400.0)
        .at(Position::ScreenBypass)
        .reads(at_volts(read(LeakageResistance, 3e6), 400.0))
        .first();
    assert_eq!(unknown.asks, [Fact::FeedResistor]);
}

#[test]
fn an_avc_leak_is_judged_by_the_share_that_it_takes() {
    let line = |megohms: f64| {
        wax(0.05e-6, 200.0)
            .at(Position::Avc)
            .reads(warm(at_volts(read(LeakageResistance, megohms * 1e6), 200.0)))
            .fact(Fact::SourceResistance, 2.2e6)
            .first()
    };
    // 2.2 / (2.2 + 19.8) is a tenth.
    assert_eq!(line(19.0).call, Outcome::Replace);
    assert_eq!(line(21.0).call, Outcome::Watch);
    assert_eq!(line(100.0).call, Outcome::Keep);
}
