//! Verdicts on capacitors: R2, R5, R6 of the rules. Limits of insulation, tan δ and leakage current are those of
//! IEC 60384-2, -16 and -4 as remembered (memory); what a leak does is Ohm's law; what is made of it is common
//! practice, no source, unless a test says otherwise.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::bench::{Bench, all_words, at_volts, can, capacitor, in_circuit, of, read, wax};
use owl_core::part::{Capacitor, CapacitorFamily, Fact, Part, Position, SafetyClass, VisualSign};
use owl_core::quantity::Volt;
use owl_core::reading::ReadQuantity::{
    Capacitance, DissipationFactor, Esr, LeakageCurrent, LeakagePercent, LeakageResistance, Resistance,
};
use owl_core::reading::{Reading, Setting, State};
use owl_core::verdict::{Outcome, Policy, PolicyNumber, Rule, School};
use proptest::prelude::*;

fn warm(reading: Reading) -> Reading {
    Reading { hot: true, ..reading }
}

/// Old metallised paper of a safety class is a known-bad family: right in its class, and it goes (common practice, no
/// source).
#[test]
fn old_metallised_paper_of_a_class_goes_as_well() {
    let mut c = capacitor(CapacitorFamily::MetallisedPaper, 100e-9, Some(275.0));
    c.safety = Some(SafetyClass::X2);
    let of = |c: Capacitor| {
        let b = Bench::with(Part::Capacitor(c)).at(Position::AcrossTheLine);
        b.reads(at_volts(read(LeakageResistance, 60e9), 300.0)).first()
    };
    let v = of(c);
    assert_eq!((v.call, v.reasons[0].rule), (Outcome::Replace, Rule::Protects), "{}", all_words(&v));
    assert!(all_words(&v).contains("whatever it reads"), "{}", all_words(&v));
    assert_eq!(of(Capacitor { family: Some(CapacitorFamily::Polypropylene), ..c }).call, Outcome::Keep);
}

#[test]
fn what_protects_people_goes_whatever_it_reads() {
    for position in [Position::AcrossTheLine, Position::LineToChassis, Position::AntennaIsolation] {
        let b = of(CapacitorFamily::Polypropylene, 10e-9, 630.0)
            .at(position)
            .reads(at_volts(read(LeakageResistance, 100e9), 630.0));
        for school in [School::TestFirst, School::ReplaceOnSight, School::KeepOriginal] {
            let v = b.under(school);
            assert_eq!(
                (v.call, v.reasons[0].rule),
                (Outcome::Replace, Rule::Protects),
                "{position} {school}"
            );
            assert!(v.next[0].contains("class"), "{:?}", v.next);
        }
        // A part of the right class stays while it is as new, and goes with any leak; one of the wrong class goes.
        let film = capacitor(CapacitorFamily::Polypropylene, 10e-9, Some(630.0));
        let (right, wrong) = match position {
            Position::AcrossTheLine => (SafetyClass::X2, SafetyClass::Y2),
            _ => (SafetyClass::Y2, SafetyClass::X2),
        };
        let b = |class, ohms: f64| {
            let safety = Capacitor { safety: Some(class), ..film };
            Bench::with(Part::Capacitor(safety))
                .at(position)
                .reads(at_volts(read(LeakageResistance, ohms), 630.0))
                .first()
        };
        assert_eq!(
            (b(right, 100e9).call, b(right, 1e9).call),
            (Outcome::Keep, Outcome::Replace),
            "{position}"
        );
        let misfit = b(wrong, 100e9);
        assert_eq!(misfit.call, Outcome::Replace, "{position}");
        assert!(misfit.reasons[0].text.contains("wrong class"), "{:?}", misfit.reasons);
    }
}

/// IEC 60384-2 and -16 (memory): new film has R × C of 5 000 s, or 15 GΩ up to 0.33 µF.
#[test]
fn film_as_new_and_paper_that_is_finished() {
    let film = |farads: f64, ohms: f64| {
        of(CapacitorFamily::Polyester, farads, 400.0)
            .reads(at_volts(read(LeakageResistance, ohms), 400.0))
            .first()
    };
    assert_eq!(film(0.1e-6, 16e9).call, Outcome::Keep);
    assert_eq!(film(1e-6, 5.1e9).call, Outcome::Keep);
    let unknown_place = film(0.1e-6, 100e6);
    assert_eq!(unknown_place.call, Outcome::Watch);
    assert!(unknown_place.reasons[0].text.contains("without its place"), "{}", all_words(&unknown_place));
    // Old paper at one second or less is finished even where nothing hangs on it.
    let paper = |ohms: f64| {
        wax(0.5e-6, 400.0)
            .at(Position::Tone)
            .reads(at_volts(read(LeakageResistance, ohms), 400.0))
            .fact(Fact::FeedResistor, 1e3)
            .first()
    };
    assert_eq!(paper(1.9e6).call, Outcome::Replace);
    assert!(paper(1.9e6).reasons[0].text.contains("finished whatever the place"));
    assert_eq!(paper(2.5e6).call, Outcome::Keep);
}

#[test]
fn a_test_below_the_working_voltage_proves_only_failure() {
    let coupling = |amperes: f64| {
        wax(22e-9, 400.0)
            .at(Position::Coupling)
            .reads(at_volts(read(LeakageCurrent, amperes), 50.0))
            .fact(Fact::Voltage, 220.0)
            .fact(Fact::GridResistor, 470e3)
            .fact(Fact::Bias, -8.0)
            .first()
    };
    let passed = coupling(1e-9);
    assert_eq!(passed.call, Outcome::MeasureAgain);
    assert!(all_words(&passed).contains("50 V and not 220 V"), "{}", all_words(&passed));
    assert_eq!(coupling(3e-6).call, Outcome::Replace);
    let unsaid = wax(22e-9, 400.0).at(Position::Coupling).reads(read(LeakageCurrent, 1e-9)).first();
    assert_eq!(unsaid.call, Outcome::MeasureAgain);
    assert!(all_words(&unsaid).contains("without the voltage"), "{}", all_words(&unsaid));
}

// ------------------------------------------------------------------------------ pitfalls and R2

#[test]
fn a_volt_on_a_paper_part_proves_nothing() {
    let v = wax(0.1e-6, 400.0).reads(read(Capacitance, 0.104e-6)).first();
    assert_eq!(v.call, Outcome::MeasureAgain);
    assert!(all_words(&v).contains("1 V across a part that works at 400 V"), "{}", all_words(&v));
    // Measured at its voltage as well, it stays.
    let v = wax(0.1e-6, 400.0)
        .at(Position::Coupling)
        .reads(read(Capacitance, 0.104e-6))
        .reads(warm(at_volts(read(LeakageCurrent, 4e-9), 400.0)))
        .fact(Fact::GridResistor, 220e3)
        .first();
    assert_eq!(v.call, Outcome::Keep);
}

#[test]
fn the_electrolytic_setting_passes_no_paper() {
    let with = |setting| {
        let r = Reading { setting, hot: true, ..at_volts(read(LeakageCurrent, 10e-9), 400.0) };
        wax(22e-9, 400.0).at(Position::Coupling).reads(r).fact(Fact::GridResistor, 220e3).first()
    };
    assert_eq!(with(Some(Setting::Paper)).call, Outcome::Keep);
    let v = with(Some(Setting::Electrolytic));
    assert_eq!(v.call, Outcome::MeasureAgain);
    assert!(all_words(&v).contains("put the switch on paper"), "{}", all_words(&v));
}

#[test]
fn in_circuit_only_a_short_and_a_clearly_bad_esr_decide() {
    let c = |r: Reading| can(47e-6, 160.0).at(Position::Smoothing).reads(in_circuit(r)).first();
    assert_eq!(c(read(Capacitance, 20e-6)).call, Outcome::MeasureAgain);
    assert_eq!(c(read(Capacitance, 47e-6)).call, Outcome::MeasureAgain);
    // 2 × 0.20 / (2π × 120 Hz × 47 µF) is 11.3 Ω: 20 Ω proves nothing, 40 Ω does.
    assert_eq!(c(read(Esr, 20.0)).call, Outcome::MeasureAgain);
    assert_eq!(
        (c(read(Esr, 40.0)).call, c(read(Esr, 40.0)).reasons[0].rule),
        (Outcome::Replace, Rule::InCircuit)
    );
    assert_eq!(c(read(Resistance, 0.2)).call, Outcome::Replace);
    assert_eq!(c(read(LeakageResistance, 0.2)).call, Outcome::Replace);
    assert_eq!(c(read(Resistance, 800.0)).call, Outcome::MeasureAgain);
    // A coil across it reads short too.
    let tuned = of(CapacitorFamily::Mica, 150e-12, 500.0)
        .at(Position::Tuned)
        .reads(in_circuit(read(Resistance, 0.8)));
    assert_eq!(tuned.first().call, Outcome::MeasureAgain);
    // A pulled valve frees a resistor's end, and not a capacitor's.
    let pulled = Reading { state: State::ValvePulled, ..read(Capacitance, 47e-6) };
    assert_eq!(can(47e-6, 160.0).reads(pulled).first().call, Outcome::MeasureAgain);
    // An older reading with an end free counts where the newer one is in circuit.
    let v = of(CapacitorFamily::Mica, 150e-12, 500.0)
        .reads(read(Capacitance, 152e-12))
        .reads(in_circuit(read(Capacitance, 400e-12)));
    assert_eq!((v.first().call, v.first().decided_by), (Outcome::Keep, Some(0)));
}

// ------------------------------------------------------------------------------------------ R5

#[test]
fn mica_and_class_1_are_left_alone_without_evidence() {
    for family in [CapacitorFamily::Mica, CapacitorFamily::SilverMica, CapacitorFamily::CeramicClass1] {
        let b = of(family, 220e-12, 500.0).at(Position::Tuned);
        for school in [School::TestFirst, School::ReplaceOnSight, School::KeepOriginal] {
            assert_eq!(b.under(school).call, Outcome::Keep, "{family:?} {school}");
        }
        assert!(all_words(&b.first()).contains("left alone without evidence"));
        // Evidence: far off its mark, or a leak.
        assert_eq!(
            of(family, 220e-12, 500.0).at(Position::Tuned).reads(read(Capacitance, 300e-12)).first().call,
            Outcome::Replace
        );
        let leaks = of(family, 220e-12, 500.0)
            .at(Position::Tuned)
            .reads(at_volts(read(LeakageResistance, 4e6), 500.0));
        assert_eq!(leaks.first().call, Outcome::Replace);
    }
}

#[test]
fn on_sight_the_known_bad_families_go_unmeasured() {
    for family in [
        CapacitorFamily::WaxPaper,
        CapacitorFamily::BitumenPaper,
        CapacitorFamily::MouldedPaper,
        CapacitorFamily::Electrolytic,
    ] {
        let b = of(family, 0.1e-6, 400.0);
        assert_eq!(b.under(School::ReplaceOnSight).call, Outcome::Replace, "{family:?}");
        assert_eq!(b.first().call, Outcome::MeasureAgain, "{family:?}");
    }
    for family in [CapacitorFamily::Polyester, CapacitorFamily::CeramicClass2, CapacitorFamily::Tantalum] {
        assert_eq!(
            of(family, 0.1e-6, 400.0).under(School::ReplaceOnSight).call,
            Outcome::MeasureAgain,
            "{family:?}"
        );
    }
    let young = Capacitor { years: Some(6), ..capacitor(CapacitorFamily::Electrolytic, 33e-6, Some(25.0)) };
    let v = Bench::with(Part::Capacitor(young)).reads(read(Capacitance, 34e-6)).reads(read(Esr, 1.0));
    assert_eq!(v.under(School::ReplaceOnSight).call, Outcome::Keep, "not past its age");
}

#[test]
fn leakage_inflates_capacitance() {
    let v = wax(0.1e-6, 400.0).reads(read(Capacitance, 0.17e-6)).first();
    assert_eq!(v.call, Outcome::MeasureAgain);
    assert!(all_words(&v).contains("a part that leaks reads high"));
    // It does not leak, and its place takes up to half as much again.
    let v = wax(0.1e-6, 400.0)
        .at(Position::Coupling)
        .reads(read(Capacitance, 0.13e-6))
        .reads(at_volts(read(LeakageCurrent, 2e-9), 400.0))
        .fact(Fact::GridResistor, 220e3)
        .first();
    assert_eq!(v.call, Outcome::Watch);
}

#[test]
fn a_part_that_leaks_only_when_warm_is_tested_warm() {
    let suspect =
        Capacitor { test_warm: true, ..capacitor(CapacitorFamily::MouldedPaper, 22e-9, Some(400.0)) };
    let b = |hot| {
        Bench::with(Part::Capacitor(suspect))
            .at(Position::Coupling)
            .reads(Reading { hot, ..at_volts(read(LeakageCurrent, 3e-9), 400.0) })
            .fact(Fact::GridResistor, 220e3)
            .first()
    };
    assert_eq!(b(false).call, Outcome::MeasureAgain);
    assert!(all_words(&b(false)).contains("400 V, warm"), "{}", all_words(&b(false)));
    assert_eq!(b(true).call, Outcome::Keep);
}

#[test]
fn a_vented_can_goes_whatever_it_reads() {
    let good = can(33e-6, 25.0).reads(read(Capacitance, 34e-6)).reads(read(Esr, 1.0));
    assert_eq!(good.first().call, Outcome::Keep);
    for look in [VisualSign::Vented, VisualSign::Domed, VisualSign::Cracked, VisualSign::LeadBroken] {
        let v = can(33e-6, 25.0).reads(read(Capacitance, 34e-6)).reads(read(Esr, 1.0)).looks(look).first();
        assert_eq!(
            (v.call, v.reasons[0].rule, v.thresholds.len()),
            (Outcome::Replace, Rule::VisualSign, 0),
            "{look}"
        );
    }
    // Unmeasured it goes too.
    assert_eq!(can(33e-6, 25.0).looks(VisualSign::Vented).first().call, Outcome::Replace);
    assert_eq!(good.looks(VisualSign::Taped).first().call, Outcome::Keep);
}

#[test]
fn a_workshop_s_own_numbers_judge() {
    let mut own = Policy::of(School::TestFirst, false).unwrap().clone();
    own.copy = Some("North bench".to_owned());
    let coupling = wax(22e-9, 400.0)
        .at(Position::Coupling)
        .reads(warm(at_volts(read(LeakageCurrent, 0.9e-6), 220.0)))
        .fact(Fact::Voltage, 220.0)
        .fact(Fact::GridResistor, 560e3)
        .fact(Fact::Bias, -20.0);
    assert_eq!(coupling.by(&own).call, Outcome::Replace);
    own.set_si(PolicyNumber::GridShiftVolts, 2.0).unwrap();
    assert_eq!(coupling.by(&own).call, Outcome::Keep);
    let refused = own.set_si(PolicyNumber::GridShiftVolts, 60.0).unwrap_err();
    assert!(refused.to_string().contains("0.01 to 5"), "{refused}");
    assert!(own.set_si(PolicyNumber::WattFactor, f64::NAN).is_err());
    assert_eq!(own.called(), "North bench");
}

proptest! {
    /// More leak never makes a better verdict, wherever the part sits and whatever is known of the circuit.
    #[test]
    fn more_leak_is_never_better(
        position in prop::sample::select(vec![Position::Coupling, Position::ScreenBypass, Position::Avc, Position::Tone, Position::Tuned]),
        log_ohms in 3.0f64..11.0, factor in 1.0f64..1000.0, resistor in 1e3f64..1e7, known in any::<bool>(),
    ) {
        let rank = |c: Outcome| match c { Outcome::Keep => 0, Outcome::Watch => 1, Outcome::MeasureAgain => 2, Outcome::Replace => 3 };
        let by = |ohms: f64| {
            let mut b = wax(22e-9, 400.0).at(position).reads(at_volts(read(LeakageResistance, ohms), 400.0)).fact(Fact::Voltage, 300.0);
            if known {
                b = b.fact(Fact::GridResistor, resistor).fact(Fact::FeedResistor, resistor).fact(Fact::SourceResistance, resistor);
            }
            b.first()
        };
        let (worse, better) = (by(10f64.powf(log_ohms)), by(10f64.powf(log_ohms) * factor));
        prop_assert!(rank(worse.call) >= rank(better.call), "{:?} {:?}", worse, better);
        prop_assert!(!worse.reasons.is_empty() && worse.reasons.iter().all(|r| !r.text.is_empty()));
    }

    /// Whatever is read of an electrolytic, in whatever state: an answer with a reason, and never a keep with a
    /// reading in circuit alone.
    #[test]
    fn any_readings_are_answered(
        quantity in prop::sample::select(vec![Capacitance, Esr, DissipationFactor, LeakageCurrent, LeakageResistance, LeakagePercent, Resistance]),
        log in -12.0f64..9.0, state in prop::sample::select(vec![State::InCircuit, State::ValvePulled, State::Lifted, State::OutOfCircuit]),
        volts in prop::option::of(0.0f64..1000.0), rated in prop::option::of(1.0f64..600.0),
    ) {
        let mut r = Reading { state, ..read(quantity, 10f64.powf(log)) };
        r.test_voltage = volts.and_then(|v| Volt::new(v).ok());
        for family in [CapacitorFamily::Electrolytic, CapacitorFamily::WaxPaper, CapacitorFamily::Mica] {
            let v = Bench::with(Part::Capacitor(capacitor(family, 10e-6, rated))).reads(r).first();
            prop_assert!(!v.reasons.is_empty());
            if state == State::InCircuit { prop_assert!(!matches!(v.call, Outcome::Keep | Outcome::Watch), "{:?}", v); }
        }
    }
}
