//! Verdicts on electrolytics: tan δ, leakage current, value, reforming (R5 of the rules). The limits are those of IEC 60384-4
//! as remembered (memory); what is made of them is common practice, no source, unless a test says otherwise.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::bench;

use crate::bench::{Bench, all_words, at_hertz, at_volts, can, capacitor, overrange, read, wax};
use owl_core::part::{Capacitor, CapacitorFamily, Fact, Part, Position};
use owl_core::quantity::{Farad, Hertz, Volt};
use owl_core::reading::ReadQuantity::{
    Capacitance, DissipationFactor, Esr, LeakageCurrent, LeakagePercent, LeakageResistance,
};
use owl_core::reading::{ReadQuantity, Reading};
use owl_core::say::read_entry;
use owl_core::verdict::electrolytic::{esr_limit, leakage_limits, tan_delta};
use owl_core::verdict::{LeakageRule, Outcome, School};

// ------------------------------------------------------------------------------------------ R4

/// General-purpose series (memory): tan δ at 120 Hz by rated voltage.
#[test]
fn tan_delta_by_rated_voltage() {
    for (volts, tan) in [
        (6.3, 0.26),
        (10.0, 0.22),
        (16.0, 0.18),
        (25.0, 0.16),
        (35.0, 0.14),
        (50.0, 0.12),
        (63.0, 0.10),
        (100.0, 0.09),
        (160.0, 0.20),
        (250.0, 0.20),
        (350.0, 0.25),
        (450.0, 0.25),
    ] {
        let small = Farad::new(100e-6).unwrap();
        assert_eq!(tan_delta(small, Volt::new(volts).unwrap()).map(|t| t.fraction()), Some(tan), "{volts}");
    }
    // tan δ = ωRC: the limit put back gives twice the tan δ (law, not a worked number).
    let (c, v, f) = (Farad::new(33e-6).unwrap(), Volt::new(25.0).unwrap(), Hertz::new(100.0).unwrap());
    let r = esr_limit(c, v, f, 2.0).unwrap();
    assert_eq!(esr_limit(c, v, Hertz::ZERO, 2.0), None, "no frequency, no reactance");
    let back = 2.0 * std::f64::consts::PI * 100.0 * 33e-6 * r.ohms();
    assert!((back - 0.32).abs() < 1e-12);
}

/// IEC 60384-4 (memory) for new parts, the older military formula (memory), the bench figure (practice).
#[test]
fn the_three_leakage_limits() {
    let limits = |uf: f64, v: f64| {
        let l = leakage_limits(Farad::new(uf * 1e-6).unwrap(), Volt::new(v).unwrap(), 0.125).unwrap();
        [l.modern.amperes() * 1e6, l.military.amperes() * 1e3, l.bench.amperes() * 1e3]
    };
    let close = |a: [f64; 3], b: [f64; 3]| a.iter().zip(b).all(|(x, y)| (x / y - 1.0).abs() < 1e-9);
    assert!(close(limits(8.0, 450.0), [36.0, 0.62, 1.0]));
    assert!(close(limits(16.0, 350.0), [56.0, 0.7, 2.0]));
    assert!(close(limits(25.0, 50.0), [12.5, 0.55, 3.125]));
    assert!(close(limits(10.0, 200.0), [20.0, 0.5, 1.25]));
    assert!(close(limits(1.0, 50.0), [3.0, 0.31, 0.125]), "not below 3 µA");
}

#[test]
fn the_school_picks_the_leakage_limit_that_decides() {
    // 8 µF 450 V: older military 0.62 mA, bench figure 1 mA, new part 36 µA.
    let v = |ma: f64, school| {
        can(8e-6, 450.0)
            .reads(read(Capacitance, 8.5e-6))
            .reads(at_hertz(read(Esr, 20.0), 120.0))
            .reads(at_volts(read(LeakageCurrent, ma * 1e-3), 450.0))
            .under(school)
            .call
    };
    assert_eq!(v(0.3, School::TestFirst), Outcome::Keep);
    assert_eq!(v(0.55, School::TestFirst), Outcome::Watch);
    assert_eq!(v(0.8, School::TestFirst), Outcome::Replace);
    assert_eq!(v(0.65, School::KeepOriginal), Outcome::Keep);
    assert_eq!(v(1.1, School::KeepOriginal), Outcome::Replace);
    assert_eq!(v(0.01, School::ReplaceOnSight), Outcome::Replace);
    let new = Capacitor { new: true, ..capacitor(CapacitorFamily::Electrolytic, 8e-6, Some(450.0)) };
    let leaks = |ua: f64| {
        Bench::with(Part::Capacitor(new))
            .reads(read(Capacitance, 8.5e-6))
            .reads(at_hertz(read(Esr, 20.0), 120.0))
            .reads(at_volts(read(LeakageCurrent, ua * 1e-6), 450.0))
            .under(School::ReplaceOnSight)
            .call
    };
    assert_eq!(
        (leaks(20.0), leaks(40.0)),
        (Outcome::Keep, Outcome::Replace),
        "a new part by the limit of new parts"
    );
}

#[test]
fn an_electrolytic_by_its_value() {
    let low_volt = |uf: f64, reads: f64| can(uf * 1e-6, 25.0).reads(read(Capacitance, reads * 1e-6)).first();
    // Common practice: 1,000 µF at 471 goes; 470 at 435 may stay.
    assert_eq!(low_volt(1000.0, 471.0).call, Outcome::Replace);
    assert!(low_volt(1000.0, 471.0).reasons[0].text.contains("dried out"));
    assert!(matches!(low_volt(470.0, 435.0).call, Outcome::Keep | Outcome::Watch));
    // Common practice: 100 µF reading 376 is not a good one: a leak test comes before any verdict.
    let high = low_volt(100.0, 376.0);
    assert_eq!(high.call, Outcome::MeasureAgain);
    assert!(all_words(&high).contains("leak test at its voltage of 25 V"), "{}", all_words(&high));
    assert_eq!(low_volt(100.0, 79.0).call, Outcome::Replace);
    assert_eq!(low_volt(100.0, 140.0).call, Outcome::Watch);
    // An old wide-tolerance part may read double under 'keep original' (memory).
    let old = can(8e-6, 450.0)
        .reads(read(Capacitance, 13e-6))
        .reads(at_volts(read(LeakageCurrent, 0.2e-3), 450.0))
        .reads(at_hertz(read(Esr, 10.0), 120.0));
    assert_eq!(old.under(School::KeepOriginal).call, Outcome::Keep);
    assert_eq!(old.under(School::TestFirst).call, Outcome::Watch, "outside, but it does not leak");
}

/// Common practice: a filter section at 82 µF for 80, low ESR and under 3 % leakage is reused.
#[test]
fn a_good_section_stays_under_test_first_and_goes_on_sight() {
    let b = can(80e-6, 350.0)
        .at(Position::Reservoir)
        .reads(read(Capacitance, 82e-6))
        .reads(at_hertz(read(Esr, 0.9), 100e3))
        .reads(read(LeakagePercent, 0.02));
    let v = b.first();
    assert_eq!(v.call, Outcome::Keep, "{}", all_words(&v));
    assert!(all_words(&v).contains("100 kHz"), "the trap is told: {}", all_words(&v));
    assert!(!v.certain);
    assert_eq!(b.under(School::ReplaceOnSight).call, Outcome::Replace);
    let leaks = can(80e-6, 350.0).reads(read(Capacitance, 82e-6)).reads(read(LeakagePercent, 0.03));
    assert_eq!(leaks.first().call, Outcome::Replace, "3 % is not under 3 %");
    let dials: Vec<_> = v.dials.iter().map(|d| (d.of, d.call)).collect();
    assert!(
        dials.contains(&(Capacitance, Some(Outcome::Keep))) && dials.contains(&(Esr, Some(Outcome::Keep))),
        "{dials:?}"
    );
}

/// Common practice: what was reformed leaked before; the newest leakage test decides, in whichever unit.
#[test]
fn the_newest_leakage_test_decides() {
    let b = |first: Reading, then: Reading| {
        can(16e-6, 450.0)
            .reads(read(Capacitance, 17e-6))
            .reads(read(Esr, 3.0))
            .reads(first)
            .reads(then)
            .first()
            .call
    };
    let (percent, current) = (read(LeakagePercent, 0.06), at_volts(read(LeakageCurrent, 0.2e-3), 450.0));
    let insulation = at_volts(read(LeakageResistance, 100e3), 450.0);
    assert_eq!((b(percent, current), b(current, percent)), (Outcome::Keep, Outcome::Replace));
    assert_eq!((b(insulation, current), b(current, insulation)), (Outcome::Keep, Outcome::Replace));
    let paper = wax(22e-9, 400.0)
        .at(Position::Coupling)
        .fact(Fact::GridResistor, 100e3)
        .fact(Fact::Bias, -6.0)
        .reads(read(LeakagePercent, 0.01));
    assert_eq!(paper.first().call, Outcome::MeasureAgain, "percent says nothing of paper");
    let harmless = at_volts(read(LeakageCurrent, 1e-9), 400.0);
    assert_eq!(paper.reads(Reading { hot: true, ..harmless }).first().call, Outcome::Keep);
}

#[test]
fn losses_as_esr_or_as_dissipation() {
    let with = |r: Reading| can(33e-6, 25.0).reads(read(Capacitance, 34e-6)).reads(r).first();
    // 2 × 0.16 / (2π × 100 × 33e-6) = 15.4 Ω.
    assert_eq!(with(at_hertz(read(Esr, 15.5), 100.0)).call, Outcome::Replace);
    assert_eq!(with(at_hertz(read(Esr, 12.0), 100.0)).call, Outcome::Watch);
    assert_eq!(with(at_hertz(read(Esr, 4.0), 100.0)).call, Outcome::Keep);
    assert_eq!(with(read(DissipationFactor, 0.33)).call, Outcome::Replace);
    assert_eq!(with(read(DissipationFactor, 0.10)).call, Outcome::Keep);
    assert!(with(at_hertz(read(Esr, 4.0), 100.0)).certain, "leads would only have added to it");
    assert_eq!(with(overrange(Esr)).call, Outcome::Replace);
}

#[test]
fn a_high_voltage_electrolytic_is_not_kept_without_a_leakage_test() {
    let v = can(32e-6, 350.0).reads(read(Capacitance, 33e-6)).reads(at_hertz(read(Esr, 2.0), 120.0)).first();
    assert_eq!(v.call, Outcome::MeasureAgain);
    assert!(all_words(&v).contains("leak test at its working voltage of 350 V"), "{}", all_words(&v));
    // The dial of what was not measured stands there too, and only a bad number would change the verdict.
    assert!(v.dials.iter().any(|d| d.of == LeakageCurrent && d.value_si.is_none() && d.others.len() == 3));
    assert!(v.thresholds.iter().all(|f| f.to == Outcome::Replace), "{:?}", v.thresholds);
    let leak_only = can(32e-6, 350.0).reads(at_volts(read(LeakageCurrent, 0.1e-3), 350.0)).first();
    assert_eq!(leak_only.call, Outcome::MeasureAgain);
    assert!(all_words(&leak_only).contains("measure its capacitance"));
}

// ------------------------------------------------------------------------------------------ R6

/// Limits at 100 kHz are a table of their own (from memory: general-purpose series); tan δ at 120 Hz says nothing there.
#[test]
fn losses_are_held_against_limits_of_their_own_frequency() {
    let can = || bench::can(47e-6, 25.0);
    let esr = |ohms: f64, hertz: f64| {
        can().reads(bench::at_hertz(bench::read(ReadQuantity::Esr, ohms), hertz)).first()
    };
    // 2 × 0.55 Ω at 100 kHz; at 120 Hz a new part may have 2 × 4.5 Ω.
    assert_eq!(esr(1.4, 100e3).call, Outcome::Replace);
    assert!(esr(1.4, 120.0).call != Outcome::Replace);
    assert!(bench::all_words(&esr(0.3, 100e3)).contains("100 kHz"));
    let odd = esr(1.4, 1e3);
    assert!(
        odd.call == Outcome::MeasureAgain && bench::all_words(&odd).contains("no limit is known"),
        "{odd:?}"
    );
    let d = bench::at_hertz(bench::read(ReadQuantity::DissipationFactor, 0.1), 100e3);
    assert_eq!(can().reads(d).first().call, Outcome::MeasureAgain);
}

/// No limit passes what heats a can by more than it may be heated (common practice, no source).
#[test]
fn no_good_leakage_heats_the_can_too_far() {
    for (uf, volts, watts) in [(47.0, 450.0, 1.0), (100.0, 400.0, 1.0), (10.0, 63.0, 0.2), (22.0, 160.0, 0.5)]
    {
        let limits =
            leakage_limits(Farad::new(uf * 1e-6).unwrap(), Volt::new(volts).unwrap(), 0.125).unwrap();
        for rule in [LeakageRule::Modern, LeakageRule::OlderMilitary, LeakageRule::BenchOrMilitary] {
            let (limit, _) = limits.deciding(rule, false);
            assert!(limit.amperes() * volts <= watts + 1e-9, "{uf} µF {volts} V: {limit}");
        }
    }
    let old = leakage_limits(Farad::new(8e-6).unwrap(), Volt::new(450.0).unwrap(), 0.125).unwrap();
    assert_eq!(
        old.deciding(LeakageRule::BenchOrMilitary, false).1,
        "bench figure",
        "a small one is not touched by it"
    );
}

/// Open once and a value another time is intermittent (common practice, no source).
#[test]
fn two_readings_that_contradict_are_intermittent() {
    let wax = |readings: &[f64]| {
        readings
            .iter()
            .fold(bench::wax(0.02e-6, 400.0), |b, v| b.reads(bench::read(ReadQuantity::Capacitance, *v)))
    };
    let v = wax(&[0.0, 20.5e-9]).first();
    assert!(v.call == Outcome::Replace && v.reasons[0].text.contains("intermittent"), "{v:?}");
    assert!(!bench::all_words(&wax(&[20.5e-9]).first()).contains("intermittent"));
    let open = wax(&[0.0]).first();
    assert!(open.call == Outcome::Replace && open.reasons[0].text.starts_with("open"), "{open:?}");
    let r = read_entry(ReadQuantity::Capacitance, "open").unwrap();
    assert_eq!(r.value_si, Some(0.0));
    assert_eq!(
        read_entry(ReadQuantity::Capacitance, "OL").unwrap().value_si,
        None,
        "over range of the meter"
    );
}
