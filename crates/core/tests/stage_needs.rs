//! What a stage really asks of a transistor: Fit and the transistor desk ask the same and answer the same.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use owl_core::marking::{Hints, read_text};
use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, JunctionTest, Material, Part, PartKind, Polarity, Position};
use owl_core::quantity::Quantity;
use owl_core::set::{Devices, PowerSource, SetClass};
use owl_core::substitute::{Need, OldPart, choose_transistor};
use owl_core::transistor::circuit::Stage;
use owl_core::transistor::device::{by_sheet, device, devices};
use owl_core::transistor::equivalent::{Fitness, equivalents};
use owl_core::transistor::identify::SixReadings;
use owl_core::transistor::place::{asks, need, position_of, stage_at};
use owl_core::tray::goes_in::wanted;
use owl_core::tray::{Id, Moment, TestedJunctions, Tray, TrayPart};
use owl_core::verdict::Policy;

fn facts(all: &[(Fact, f64)]) -> Circuit {
    let mut c = Circuit::default();
    for (f, v) in all {
        c.set_si(*f, *v).expect("a fact");
    }
    c
}

#[test]
fn every_stage_is_a_place_of_the_tray_and_asks_for_its_rail_first() {
    for stage in Stage::ALL.iter().copied() {
        assert_eq!(stage_at(position_of(stage)), Some(stage));
        let asks = asks(Some(stage));
        assert_eq!(asks.first(), Some(&Fact::Rail), "{stage}");
        // What decides at radio frequency is asked for, and where there is a heat sink, how warm it is.
        assert_eq!(asks.contains(&Fact::WorkingFrequency), stage.is_radio(), "{stage}");
        let hot = stage.is_radio_power() || stage == Stage::Regulator || position_of(stage).is_output();
        assert_eq!(asks.contains(&Fact::CaseTemperature), hot, "{stage}");
    }
}

/// A full circuit, with numbers of a table radio for what each stage asks.
fn known(stage: Stage, celsius: f64) -> Circuit {
    let value = |f: &Fact| match f {
        Fact::Rail => 9.0,
        Fact::Voltage => 4.0,
        Fact::LoadResistance => 24.0,
        Fact::PeakCurrent => 0.3,
        Fact::RestCurrent => 0.002,
        Fact::CaseTemperature => celsius,
        Fact::WorkingFrequency => 470e3,
        Fact::BaseUpper => 4700.0,
        Fact::BaseLower => 10e3,
        other => panic!("{other} is not asked of a stage"),
    };
    facts(&asks(Some(stage)).iter().map(|f| (*f, value(f))).collect::<Vec<_>>())
}

#[test]
fn fit_and_the_desk_give_one_answer() {
    for name in ["AC128", "AC126", "BC107", "2N3055", "AF127", "2N2219A"] {
        let wanted = device(name).unwrap_or_else(|| panic!("{name} is in the table"));
        for stage in Stage::ALL.iter().copied() {
            for circuit in [Circuit::default(), known(stage, 40.0), known(stage, 85.0)] {
                let asked = need(Some(stage), &circuit);
                let desk: Vec<&str> = equivalents(wanted, &asked, devices(), |_| 0, 30)
                    .iter()
                    .filter(|c| c.fitness < Fitness::Undecided)
                    .map(|c| c.device.type_number.as_str())
                    .collect();
                let old = by_sheet(Some(wanted), None);
                let gone = OldPart::Part(Part::Transistor(old));
                let position = Some(position_of(stage));
                let need = Need {
                    paired: false,
                    gone: &gone,
                    type_number: name,
                    value_si: None,
                    position,
                    circuit: &circuit,
                };
                let fit = choose_transistor(&need, &old, devices(), &[]);
                let fit: Vec<&str> =
                    fit.choices.iter().filter_map(|c| c.description.split(' ').next()).collect();
                assert_eq!(fit, desk, "{name} as {stage}");
            }
        }
    }
}

#[test]
fn a_warm_heat_sink_a_real_load_and_a_regulators_volts_count() {
    let watts = |stage, all: &[(Fact, f64)]| need(Some(stage), &facts(all)).watts().map(|a| a.si);
    // Common practice, no source: a pass transistor turns into heat what it holds back, 6 V at half an ampere.
    let pass = [(Fact::Rail, 18.0), (Fact::Voltage, 6.0), (Fact::PeakCurrent, 0.5)];
    assert_eq!(watts(Stage::Regulator, &pass), Some(3.0));
    assert_eq!(watts(Stage::Regulator, &pass[..1]), None, "the rail alone says nothing of its heat");
    // A driver on its transformer always conducts: all of the rail at what it draws at rest.
    let driver = [(Fact::Rail, 9.0), (Fact::RestCurrent, 0.003)];
    assert!(watts(Stage::Driver, &driver).is_some_and(|w| (w - 0.027).abs() < 1e-12));
    // Each half of a class B stage at most V² / (π² R), handbook: 9 V on 24 ohm are 0.342 W.
    let half = [(Fact::Rail, 9.0), (Fact::LoadResistance, 24.0)];
    assert!(watts(Stage::TransformerPushPull, &half).is_some_and(|w| (w - 0.342).abs() < 1e-3));
    // What passes on a cool heat sink may not on a hot one.
    let fits = |celsius| {
        let circuit =
            facts(&[(Fact::Rail, 14.0), (Fact::LoadResistance, 8.0), (Fact::CaseTemperature, celsius)]);
        let need = need(Some(Stage::ClassA), &circuit);
        equivalents(device("2N3055").expect("it is in the table"), &need, devices(), |_| 0, 200)
            .iter()
            .filter(|c| c.passes())
            .count()
    };
    assert!(fits(45.0) > fits(110.0), "{} and {}", fits(45.0), fits(110.0));
}

#[test]
fn a_temperature_is_typed_as_it_is_said() {
    use owl_core::quantity::parse::best;
    for text in ["60", "60 °C", "60C", "60 deg"] {
        assert_eq!(best(Quantity::Temperature, text), Ok(60.0), "{text}");
    }
    let mut c = Circuit::default();
    assert!(c.set_si(Fact::CaseTemperature, -10.0).is_ok());
    assert_eq!(c.get_si(Fact::CaseTemperature), Some(-10.0), "with its sign");
    assert!(c.set_si(Fact::CaseTemperature, 640.0).is_err_and(|e| e.to_string().contains("200 °C")));
}

/// Of an output no rule knows the limits: its own sums do, from load, rail and heat sink (handbook formulas of class A).
#[test]
fn an_output_of_unknown_type_is_replaced_by_what_its_stage_comes_to() {
    let mut out = TrayPart {
        position: Some(Position::SingleEnded),
        ..TrayPart::new(Id(1), "Q6", PartKind::Transistor)
    };
    out.mark = Some(read_text("GT402B", Hints::of(PartKind::Transistor)).unwrap().remove(0));
    let six =
        [(0, 1, None), (0, 2, None), (1, 0, Some(0.19)), (2, 0, Some(0.18)), (1, 2, None), (2, 1, None)];
    let six = SixReadings::new(&six).unwrap();
    let test = JunctionTest { six, in_circuit: false, celsius: 25.0, further: None };
    out.junctions.push(TestedJunctions { test, taken_at: Moment(1) });
    let choices = |part: &TrayPart| {
        let tray = Tray::new(vec![part.clone()], vec![]);
        let class = SetClass::of(PowerSource::Battery, Devices::Transistors);
        wanted(&tray, &tray.parts()[0], class).unwrap().choose(Policy::unchosen(), &[], devices()).unwrap()
    };
    let asked = choices(&out);
    let advice = &asked.advice[0].text;
    assert!(
        asked.choices.is_empty() && advice.contains("its rail") && advice.contains("its load"),
        "{advice}"
    );
    out.said.set_si(Fact::Rail, 12.0).unwrap();
    out.said.set_si(Fact::LoadResistance, 60.0).unwrap();
    out.said.set_si(Fact::CaseTemperature, 45.0).unwrap();
    let found = choices(&out);
    assert!(!found.choices.is_empty(), "{:?}", found.refused.iter().take(5).collect::<Vec<_>>());
    for c in &found.choices {
        let d = device(&c.pieces[0].piece.type_number).unwrap();
        // Twice the rail, twice its current at rest with a loudspeaker's margin, rail squared over the load.
        // What is not known is said, and not counted as enough.
        let said = |known: bool| known || c.cautions.iter().any(|l| l.text.contains("look it up"));
        let at_least =
            |has: Option<f64>, least: f64| said(has.is_some()) && has.is_none_or(|v| v >= least * 0.999);
        assert!(at_least(d.collector_volts(), 24.0), "{}", d.type_number);
        assert!(at_least(d.ic_amperes, 2.0 * 12.0 / 60.0), "{}", d.type_number);
        assert!(at_least(d.power_at(45.0), 144.0 / 60.0), "{}", d.type_number);
        assert_eq!((d.material, d.polarity), (Some(Material::Germanium), Polarity::Pnp));
    }
    // Of a switch no sum gives the watts: that is what is asked for.
    out.position = Some(Position::Switch);
    for (fact, v) in [(Fact::PeakCurrent, 0.1), (Fact::BaseUpper, 4700.0), (Fact::BaseLower, 10e3)] {
        out.said.set_si(fact, v).unwrap();
    }
    let switch = choices(&out);
    assert!(switch.choices.is_empty() && switch.advice[0].text.contains("its watts by its sheet"));
}
