//! Equivalents: properties that must hold for every type, and worked examples.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use owl_core::network::Stock;
use owl_core::preferred::{Series, between};
use owl_core::transistor::bias::{made_of, new_divider, shift};
use owl_core::transistor::circuit::{CircuitNeed, Stage};
use owl_core::transistor::device::{Device, DeviceKind, Polarity, device, devices};
use owl_core::transistor::equivalent::{Fitness, LimitName, LimitState, compare, equivalents};
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
        prop::option::of(0usize..10),
    )
        .prop_map(|(v, r, i, p, t, f, other, stage)| CircuitNeed {
            stage: stage.map(|s| <Stage as owl_core::named::Named>::ALL[s]),
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
            if !c.passes() {
                seen_short = true;
                continue;
            }
            prop_assert!(!seen_short, "what passes comes first");
            let least = |asked: Option<f64>, own: Option<f64>, has: Option<f64>| {
                match (asked.or(own), has) {
                    (Some(n), Some(h)) => h >= n * (1.0 - 1e-6),
                    _ => c.fitness == Fitness::AsFarAsKnown,
                }
            };
            let volts = need.volts().map(|a| a.si);
            prop_assert!(least(volts, wanted.vceo_volts, d.vceo_volts), "{} for {}", d.type_number, wanted.type_number);
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
        // What lies in the drawers comes first among those that pass.
        let stocked: Vec<bool> = list.iter().filter(|c| c.passes()).map(|c| c.in_drawers > 0).collect();
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
    assert_eq!(need.amperes().map(|a| a.si), Some(0.25));
    let humble = compare(of("2N3055"), &need, of("BD139"), 0);
    // Its limits hold; it is much faster, which may oscillate.
    assert_eq!((humble.fitness, humble.by_sheet), (Fitness::LimitsHold, Fitness::Short));
    assert!(humble.is_humbler());
    // In the other stage the halves swing only to the middle: (6 V)² / (π² × 8 Ω).
    let split = CircuitNeed { stage: Some(Stage::Complementary), load_ohms: Some(8.0), ..need };
    assert!(split.watts().is_some_and(|a| (a.si - 36.0 / (std::f64::consts::PI.powi(2) * 8.0)).abs() < 1e-9));
    assert_eq!(split.volts().map(|a| a.si), Some(12.0));
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
