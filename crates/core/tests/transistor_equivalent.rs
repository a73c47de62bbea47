//! Equivalents: properties that must hold for every type, and worked examples.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use owl_core::named::Named;
use owl_core::network::Stock;
use owl_core::preferred::{Series, between};
use owl_core::transistor::bias::{made_of, new_divider, shift};
use owl_core::transistor::circuit::{CircuitNeed, Stage};
use owl_core::transistor::device::{Device, DeviceKind, Polarity, device, devices};
use owl_core::transistor::equivalent::{Candidate, Fitness, LimitName, LimitState, compare, equivalents};
use owl_core::transistor::gain::{NotComparable, at};
use owl_core::transistor::package::Lead;
use owl_core::transistor::pin_map::{LeadMatch, pin_map};
use proptest::prelude::*;

fn of(name: &str) -> &'static Device {
    device(name).unwrap_or_else(|| panic!("{name} is missing"))
}

#[test]
fn every_type_is_an_equivalent_of_itself() {
    let need = CircuitNeed::default();
    for d in devices() {
        let c = compare(d, &need, d, 0);
        assert!(c.passes(), "{}: {:?}", d.type_number, c.cells);
        assert!((c.score - 1.0).abs() < 1e-12);
        assert!(!c.cells.iter().any(|c| c.state == LimitState::Short), "{}: {:?}", d.type_number, c.cells);
        let list = equivalents(d, &need, devices(), |_| 0, 50);
        assert_eq!(list.first().map(|c| c.device.type_number.as_str()), Some(d.type_number.as_str()));
    }
}

fn need() -> impl Strategy<Value = CircuitNeed> {
    let some = |low: f64, high: f64| prop::option::of(low..high);
    (
        some(3.0, 120.0),
        some(2.0, 5000.0),
        some(1e-3, 10.0),
        some(0.05, 60.0),
        some(20.0, 110.0),
        some(1e3, 3e7),
        any::<bool>(),
        prop::option::of(0usize..Stage::ALL.len()),
    )
        .prop_map(|(v, r, i, p, t, f, other, stage)| CircuitNeed {
            stage: stage.map(|s| Stage::ALL[s]),
            supply_volts: v,
            load_ohms: r,
            peak_amperes: i,
            dissipated_watts: p,
            case_celsius: t,
            hertz: f,
            other_material: other,
            ..CircuitNeed::default()
        })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// The limits are read off the device again, not off the cells.
    #[test]
    fn nothing_with_a_hard_limit_short_is_listed_as_passing(which in 0usize..300, need in need(), blank in any::<[bool; 4]>()) {
        let mut wanted = devices()[which % devices().len()].clone();
        if blank[0] { wanted.vcbo_volts = None; }
        if blank[1] { wanted.ic_amperes = None; }
        if blank[2] { wanted.power_watts = None; wanted.power_reference = None; }
        if blank[3] { wanted.material = None; }
        let list = equivalents(&wanted, &need, devices(), |t| u32::from(t.len() % 2 == 0), 80);
        let mut seen_short = false;
        for c in &list {
            let d = c.device;
            prop_assert!(d.kind == wanted.kind && d.polarity == wanted.polarity);
            if d.is_called(&wanted.type_number) {
                prop_assert!(c.passes(), "the original fits its own place");
                continue;
            }
            if !c.passes() {
                seen_short = true;
                continue;
            }
            prop_assert!(!seen_short, "what passes comes first");
            let least = |asked: Option<f64>, own: Option<f64>, has: Option<f64>| {
                match (asked.or(own), has) {
                    (Some(n), Some(h)) => h >= n * (1.0 - 1e-6),
                    // What decides where radio frequency flows is never passed unknown.
                    _ => c.fitness == Fitness::AsFarAsKnown,
                }
            };
            let returned = need.stage.is_some_and(Stage::is_radio_power);
            let volts = need.volts().map(|a| a.si);
            prop_assert!(least(volts, wanted.collector_volts(), d.vceo_volts.or(d.vcer_volts.filter(|_| wanted.vceo_volts.is_none() || returned))), "{} for {}", d.type_number, wanted.type_number);
            prop_assert!(least(volts, wanted.vcbo_volts, d.vcbo_volts));
            prop_assert!(least(need.amperes().map(|a| a.si), wanted.ic_amperes, d.ic_amperes));
            if let (Some(w), Some(h)) = (need.watts(), d.power_at(need.celsius())) {
                prop_assert!(h >= w.si * (1.0 - 1e-6));
            }
            if let (Some(a), Some(h)) = (need.transition(), d.ft_hertz) {
                prop_assert!(h >= a.si * (1.0 - 1e-6));
            }
            if !need.other_material && wanted.material.is_some() && d.material.is_some() {
                prop_assert_eq!(d.material, wanted.material);
            }
        }
        // What lies in the drawers comes first among those that pass, those meant for audio apart where radio frequency
        // flows.
        let radio = need.stage.is_some_and(Stage::is_radio);
        let apart = |c: &&Candidate<'_>| radio && c.device.is_for_audio();
        let stocked: Vec<bool> = list.iter().filter(|c| c.passes() && !apart(c)).map(|c| c.in_drawers > 0).collect();
        prop_assert!(stocked.windows(2).all(|w| w[0] || !w[1]));
    }
}

fn cell(wanted: &str, need: &CircuitNeed, candidate: &str, name: LimitName) -> (LimitState, String) {
    let c = compare(of(wanted), need, of(candidate), 0);
    let cell = c.cells.iter().find(|c| c.name == name).expect("every cell is there");
    (cell.state, cell.why.clone())
}

#[test]
fn every_cell_says_by_how_much_it_is_short() {
    let none = CircuitNeed::default();
    // Published limits: 45 V and 20 V, 0.1 A and 0.8 A.
    assert_eq!(
        cell("BC107", &none, "BC108", LimitName::Vceo),
        (LimitState::Short, "short by 25 V".to_owned())
    );
    assert_eq!(
        cell("BC337", &none, "BC547", LimitName::Ic),
        (LimitState::Short, "short by 700 mA".to_owned())
    );
    assert_eq!(cell("BC107", &none, "BC547", LimitName::Vceo).0, LimitState::Pass);
    assert_eq!(cell("BC107", &none, "BC547", LimitName::Package).0, LimitState::Short);
    assert_eq!(cell("BC107", &none, "BC177", LimitName::Polarity).0, LimitState::Short);
    assert_eq!(cell("OC44", &none, "2N3906", LimitName::Material).0, LimitState::Short);
    // What is not known neither passes nor is short.
    assert_eq!(cell("AF118", &none, "AF117", LimitName::Vceo).0, LimitState::Unknown);
}

#[test]
fn one_too_slow_is_not_called_fitting_before_the_stage_is_said() {
    // An audio power type holds every limit of an intermediate frequency type and is a hundredth as fast.
    let slow = compare(of("AF127"), &CircuitNeed::default(), of("AD149"), 0);
    assert_eq!(slow.fitness, Fitness::LimitsHold);
    let radio = CircuitNeed { stage: Some(Stage::RadioFrequency), ..CircuitNeed::default() };
    assert_eq!(compare(of("AF127"), &radio, of("AD149"), 0).fitness, Fitness::Short);
    assert_eq!(compare(of("AF127"), &radio, of("AF126"), 0).fitness, Fitness::Fits);
}

#[test]
fn a_humbler_part_does_where_the_circuit_asks_for_less() {
    // By hand: 12 V on a transformer swing to 24 V; 12 V / 8 Ω class B with a transformer: 144 / (π² × 48) = 0.30 W.
    let need = CircuitNeed {
        stage: Some(Stage::TransformerPushPull),
        supply_volts: Some(12.0),
        load_ohms: Some(48.0),
        case_celsius: Some(50.0),
        ..CircuitNeed::default()
    };
    assert_eq!(need.volts().map(|a| a.si), Some(24.0));
    assert!(need.watts().is_some_and(|a| (a.si - 0.304).abs() < 1e-3));
    // 12 V / 48 Ω, and 1.3 times for a loudspeaker, which is no resistor (common practice, no source).
    assert_eq!(need.amperes().map(|a| a.si), Some(0.325));
    let humble = compare(of("2N3055"), &need, of("BD139"), 0);
    // Its limits hold; it is much faster, which may oscillate.
    assert_eq!((humble.fitness, humble.by_sheet), (Fitness::LimitsHold, Fitness::Short));
    assert!(humble.is_humbler());
    // In the other stage the halves swing only to the middle: (6 V)² / (π² × 8 Ω).
    let split = CircuitNeed { stage: Some(Stage::Complementary), load_ohms: Some(8.0), ..need };
    assert!(split.watts().is_some_and(|a| (a.si - 36.0 / (std::f64::consts::PI.powi(2) * 8.0)).abs() < 1e-9));
    assert!(split.volts().is_some_and(|a| (a.si - 15.6).abs() < 1e-9));
    // Ten times the working frequency.
    let radio = CircuitNeed { hertz: Some(27e6), ..CircuitNeed::default() };
    assert_eq!(cell("BF185", &radio, "BC140", LimitName::Transition).0, LimitState::Short);
    // At the heat sink's temperature a power rating is less: 12.5 W at 25 °C are 6 W at 90 °C.
    let hot = CircuitNeed { dissipated_watts: Some(8.0), case_celsius: Some(90.0), ..CircuitNeed::default() };
    assert_eq!(cell("BD139", &hot, "BD139", LimitName::Power).0, LimitState::Short);
}

#[test]
fn gain_is_compared_at_one_current_or_not_at_all() {
    let d = of("BC547");
    assert_eq!(at(d, 2e-3).map(|s| (s.min, s.max)), Ok((Some(110.0), Some(800.0))));
    // Common practice: gain falls on both sides of the middle, and the doubt grows.
    let near_rating = at(d, 60e-3).expect("within reach");
    assert!(near_rating.min.is_some_and(|g| g < 80.0));
    assert_eq!(at(d, 0.5), Err(NotComparable::AboveRating));
    assert_eq!(at(d, 1e-6), Err(NotComparable::TooFar));
    let none = Device { gain_at_amperes: None, ..d.clone() };
    assert_eq!(at(&none, 1e-3), Err(NotComparable::NoCurrent));
    let (state, why) = cell("2SC372", &CircuitNeed::default(), "BC547", LimitName::Gain);
    assert_eq!(state, LimitState::Unknown);
    assert!(why.starts_with("not comparable"), "{why}");
}

#[test]
fn silicon_for_germanium_changes_the_bias() {
    let (by, text) = shift(of("AC126"), of("2N3906")).expect("another material");
    assert!((by - 0.4).abs() < 1e-12 && text.contains("raise"));
    assert!(shift(of("BC107"), of("BC547")).is_none());
    assert!(shift(of("2N3906"), of("AC126")).is_some_and(|(by, t)| by < 0.0 && t.contains("lower")));
    // By hand: 6 V, 22 kΩ over 4.7 kΩ is 1.056 V; 1.456 V want 22 k × 1.456 / 4.544 = 7.05 kΩ.
    let d = new_divider(6.0, 22e3, 4.7e3, by).expect("it reaches");
    assert!((d.before_volts - 1.0562).abs() < 1e-3 && (d.lower_ohms - 7050.0).abs() < 5.0, "{d:?}");
    let e24: Vec<Stock> = between(Series::E24, 100.0, 1e6).into_iter().map(Stock::plenty).collect();
    let found = made_of(d.lower_ohms, &e24).expect("a search");
    assert!(found.networks.first().is_some_and(|n| n.error.abs() < 0.01));
    let need = CircuitNeed {
        supply_volts: Some(6.0),
        upper_ohms: Some(22e3),
        lower_ohms: Some(4.7e3),
        other_material: true,
        ..CircuitNeed::default()
    };
    let c = compare(of("AC126"), &need, of("2N3906"), 0);
    assert!(c.notes.iter().any(|n| n.contains("7.05 kΩ")), "{:?}", c.notes);
}

#[test]
fn leads_are_mapped_and_crossings_told() {
    let fit = |a: &str, b: &str| {
        let m = pin_map(of(a), of(b));
        (m.leads, m.crossed)
    };
    // From the published pinouts: EBC against CBE in a row is the other way round; ECB crosses.
    assert_eq!(fit("BC547", "BC557"), (LeadMatch::Straight, None));
    assert_eq!(fit("BC547", "2N3904"), (LeadMatch::Turned, None));
    assert_eq!(fit("2N3904", "2SC1815").0, LeadMatch::Crossed);
    assert_eq!(fit("2N3904", "2SC1815").1, Some((Lead::Base, Lead::Collector)));
    assert_eq!(fit("BC107", "BC547"), (LeadMatch::Bent, None));
    assert_eq!(fit("BC107", "2N2222A"), (LeadMatch::Straight, None));
    assert_eq!(fit("AD149", "2N3055"), (LeadMatch::Straight, None));
    assert_eq!(fit("AD161", "BD131").0, LeadMatch::Wired);
    assert_eq!(fit("2N5589", "2N3866").0, LeadMatch::Unknown);
    let map = pin_map(of("BC547"), of("2N3904"));
    let emitter = map.joined.iter().find(|j| j.electrode == Lead::Emitter).expect("an emitter");
    assert_eq!((emitter.old, emitter.new), (Some(3), Some(1)));
    // A live case where there was none is told.
    let c =
        compare(of("AC128"), &CircuitNeed { other_material: true, ..CircuitNeed::default() }, of("BD136"), 0);
    assert!(c.notes.iter().any(|n| n.contains("mica")), "{:?}", c.notes);
    let quasi = CircuitNeed { stage: Some(Stage::QuasiComplementary), ..CircuitNeed::default() };
    assert!(
        compare(of("2N3055"), &quasi, of("2N3055"), 0)
            .notes
            .iter()
            .any(|n| n.contains("both output transistors are npn"))
    );
}

#[test]
fn field_effect_types_have_equivalents_too() {
    let list = equivalents(
        of("2N3819"),
        &CircuitNeed { supply_volts: Some(12.0), dissipated_watts: Some(0.05), ..CircuitNeed::default() },
        devices(),
        |_| 0,
        20,
    );
    assert!(list.iter().filter(|c| c.passes()).count() > 5);
    assert!(
        list.iter().all(|c| c.device.kind == DeviceKind::Jfet && c.device.polarity == Polarity::NChannel)
    );
}

/// What an output stage asks by its class, and radio frequency power by its modulation (common practice, no source).
#[test]
fn each_stage_asks_what_its_class_asks() {
    let at = |stage, supply| CircuitNeed {
        stage: Some(stage),
        supply_volts: Some(supply),
        ..CircuitNeed::default()
    };
    let volts = |stage, supply| at(stage, supply).volts().map_or(0.0, |a| (a.si * 100.0).round() / 100.0);
    for (stage, supply, wanted) in [
        (Stage::SmallSignal, 9.0, 9.0),
        (Stage::ClassA, 14.0, 28.0),
        (Stage::TransformerPushPull, 6.0, 12.0),
        (Stage::Complementary, 40.0, 52.0),
        (Stage::QuasiComplementary, 40.0, 52.0),
        (Stage::RadioPower, 12.5, 25.0),
        (Stage::ModulatedFinal, 12.5, 50.0),
        (Stage::Switch, 24.0, 24.0),
    ] {
        assert_eq!(volts(stage, supply), wanted, "{stage}");
    }
    // Power takes twice the working frequency, a small signal ten times.
    let fast = |stage| CircuitNeed { hertz: Some(14e6), ..at(stage, 12.0) }.transition().map(|a| a.si);
    assert_eq!((fast(Stage::RadioPower), fast(Stage::RadioFrequency)), (Some(28e6), Some(140e6)));
}

/// A switch gets its base current through its resistors: (24 − 0.7) V / 4.7 kΩ − 0.7 V / 10 kΩ = 4.89 mA; for 0.5 A that is
/// a gain of 102 (Ohm's law).
#[test]
fn a_switch_asks_for_the_gain_that_its_resistors_leave() {
    let need = CircuitNeed {
        stage: Some(Stage::Switch),
        supply_volts: Some(24.0),
        peak_amperes: Some(0.5),
        upper_ohms: Some(4.7e3),
        lower_ohms: Some(10e3),
        ..CircuitNeed::default()
    };
    let (gain, at) = need.gain_asked().expect("all is known");
    assert!((gain - 102.3).abs() < 0.2 && at == Some(0.5), "{gain}");
    assert_eq!(CircuitNeed { stage: Some(Stage::Regulator), ..need }.gain_asked(), None);
}

/// Where radio frequency flows, a type whose transition frequency or collector volts nobody knows is not passed, and one
/// meant for audio never stands before one meant for radio frequency; the original fits its own place (common practice).
#[test]
fn what_decides_at_radio_frequency_is_known_or_not_passed() {
    let need = CircuitNeed {
        stage: Some(Stage::RadioFrequency),
        supply_volts: Some(9.0),
        hertz: Some(10.7e6),
        ..CircuitNeed::default()
    };
    let wanted = of("BF195");
    let hidden: Vec<Device> = devices()
        .iter()
        .map(|d| if d.type_number == "BF194" { Device { ft_hertz: None, ..d.clone() } } else { d.clone() })
        .collect();
    let list = equivalents(wanted, &need, &hidden, |t| u32::from(t == "BC547"), 200);
    let blind = list.iter().find(|c| c.device.type_number == "BF194").expect("listed");
    assert_eq!((blind.fitness, blind.passes()), (Fitness::Undecided, false));
    let types: Vec<&str> =
        list.iter().filter(|c| c.passes()).map(|c| c.device.type_number.as_str()).collect();
    let at = |t: &str| types.iter().position(|x| *x == t);
    // One lies in the drawer and is fast enough: it is still an audio type.
    assert!(at("BC547") > at("BF494") && at("BF494").is_some(), "{types:?}");
    let audio: Vec<bool> = list.iter().filter(|c| c.passes()).map(|c| c.device.is_for_audio()).collect();
    assert!(audio.windows(2).all(|w| w[1] || !w[0]), "{audio:?}");
    // Its own place asks for more than its sheet has by that sum: the sum is looked at again.
    let hard = CircuitNeed { supply_volts: Some(60.0), ..need };
    let own = compare(wanted, &hard, wanted, 0);
    assert!(own.passes() && own.cells.iter().any(|c| c.why.contains("look again")), "{:?}", own.fitness);
}

/// V_CER holds with a resistor at the base: where the base is fed by a high resistance it proves nothing, at a radio
/// frequency final with a choke there it counts (data sheets' own condition, from memory).
#[test]
fn volts_registered_with_a_resistor_count_only_where_there_is_one() {
    let need = |stage, supply| CircuitNeed {
        stage: Some(stage),
        supply_volts: Some(supply),
        ..CircuitNeed::default()
    };
    let (audio, _) = cell("2N1613", &need(Stage::SmallSignal, 30.0), "2N1711", LimitName::Vceo);
    assert_eq!(audio, LimitState::Unknown);
    let (final_stage, _) = cell("2SC2166", &need(Stage::ModulatedFinal, 13.8), "2SC2078", LimitName::Vceo);
    assert_eq!(final_stage, LimitState::Pass);
    // Against the sheet of one that is registered alike, alike counts.
    assert_eq!(cell("2N1613", &CircuitNeed::default(), "2N1711", LimitName::Vceo).0, LimitState::Pass);
    assert_eq!(cell("BC140", &CircuitNeed::default(), "2N1711", LimitName::Vceo).0, LimitState::Unknown);
}

/// Types that makers have with their leads in another order say so (from memory).
#[test]
fn leads_that_vary_are_told() {
    let told = |t: &str| {
        compare(of("BC107"), &CircuitNeed::default(), of(t), 0)
            .notes
            .iter()
            .any(|n| n.contains("another order"))
    };
    assert!(told("BC147") && told("BF194") && !told("BC107"));
}
