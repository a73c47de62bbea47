//! What two of a pair differ by, and what that means in their stage; shares of a current asked of ngspice.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use crate::ngspice::{installed, operating_point};
use owl_core::part::{Circuit, Fact, Material, Part, PartKind, Position};
use owl_core::quantity::Volt;
use owl_core::reading::{ReadQuantity, Reading, Shown, State};
use owl_core::transistor::circuit::Stage;
use owl_core::transistor::device::{by_sheet, device};
use owl_core::transistor::fellows::{Fellowship, Shared, compare, times_the_current};
use owl_core::transistor::inspect::{Answer, InspectionItem, Seen, inspect};
use owl_core::transistor::pairs::{Piece, idle_share};
use owl_core::tray::{Id, Tray, TrayPart};
use owl_core::verdict::{Case, Outcome, Partner, Policy, School, judge};

fn piece(gain: f64, base_volts: f64) -> Piece {
    Piece { gain, base_volts }
}

#[test]
fn two_on_one_bias_share_the_current_as_the_simulator_says() {
    if !installed() {
        return;
    }
    for (i, (a, b, test, ohms, idle)) in [
        (0.612, 0.589, 1e-3, 0.001, 0.010),
        (0.640, 0.655, 5e-3, 1.0, 0.030),
        (0.180, 0.203, 2e-3, 3.3, 0.006),
    ]
    .into_iter()
    .enumerate()
    {
        // Saturation currents that give each its base volts at the current of the test; what both draw is drawn below.
        let is = |v: f64| test / (v / 0.025_692_6_f64).exp();
        let netlist = format!(
            ".temp 25\n.options tnom=25\nvcc c 0 5\nq1 c 0 e1 m1\nq2 c 0 e2 m2\nvm1 e1 r1 0\nvm2 e2 r2 0\nr1 r1 e {ohms}\nr2 r2 e \
             {ohms}\ni1 e 0 {}\n.model m1 npn(is={:e} bf=1e6)\n.model m2 npn(is={:e} bf=1e6)",
            2.0 * idle,
            is(a),
            is(b)
        );
        let spice = operating_point(&format!("pair{i}"), &netlist, &["i(vm1)", "i(vm2)"]);
        let ours = idle_share(a, b, test, ohms, idle);
        for (mine, theirs) in [(ours.a_amperes, spice[0]), (ours.b_amperes, spice[1])] {
            assert!((mine / theirs - 1.0).abs() < 2e-3, "{i}: {mine} and by ngspice {theirs}");
        }
    }
}

#[test]
fn what_counts_of_the_volts_is_the_stages() {
    let (a, b) = (piece(80.0, 0.623), piece(84.0, 0.585));
    let at = |stage, ohms, idle: Option<f64>| {
        let shared = Shared {
            stage,
            emitter_ohms: ohms,
            idle_amperes: idle,
            test_amperes: Some(0.01),
            material: None,
        };
        compare(a, b, true, &shared)
    };
    // R11 by hand: ln(84/80)/0.1 + 38/10 = 0.49 + 3.8.
    let plain = at(None, None, None);
    assert!((plain.distance - 4.288).abs() < 1e-3 && plain.call == Fellowship::Watched, "{plain:?}");
    // 38 mV are e^(38/25.7) = 4.4 times the current, and as much as 19 K at 2 mV for each (diode law; memory).
    assert!(plain.means[0].contains("4.4 times") && plain.means[0].contains("19 K"), "{:?}", plain.means);
    // In a row one current flows through both; on one bias a resistor under each evens it.
    let row = at(Some(Stage::QuasiComplementary), None, Some(0.02));
    assert!((row.distance - 0.488).abs() < 1e-3 && row.call == Fellowship::Passes && row.idle.is_none());
    assert!(row.means[0].contains("one current flows through both"));
    let bare = at(Some(Stage::TransformerPushPull), Some(0.0), Some(0.02));
    let evened = at(Some(Stage::TransformerPushPull), Some(4.7), Some(0.02));
    assert!((bare.distance - plain.distance).abs() < 1e-6, "nothing evens it");
    assert!(evened.distance < bare.distance && evened.call == Fellowship::Passes, "{evened:?}");
    let (mine, theirs) = (evened.idle.unwrap(), bare.idle.unwrap());
    assert!(mine.mismatch() < theirs.mismatch());
    // What would even it is named, of a usual value, and does even it.
    let named = bare.means.iter().find(|m| m.contains("under each brings")).expect("a resistor is named");
    let ohms: f64 = named.split(' ').next().unwrap().parse().unwrap();
    assert!(idle_share(a.base_volts, b.base_volts, 0.01, ohms, 0.02).mismatch() <= 0.3, "{named}");
    assert!(idle_share(a.base_volts, b.base_volts, 0.01, ohms / 1.25, 0.02).mismatch() > 0.3, "{named}");
    assert!(!evened.means.iter().any(|m| m.contains("brings")) || evened.idle.unwrap().mismatch() > 0.3);
}

#[test]
fn heat_is_taken_care_of_and_of_germanium_more() {
    let two = |off: f64, material| {
        let shared = Shared { material, ..Shared::default() };
        compare(piece(60.0, 0.2), piece(60.0, 0.2 + off), true, &shared).cares.join("; ")
    };
    assert!(two(0.015, Some(Material::Silicon)).contains("one heat sink"));
    assert!(!two(0.015, Some(Material::Silicon)).contains("germanium"));
    assert!(two(0.015, Some(Material::Germanium)).contains("doubles with every 10 K"));
    assert_eq!(two(0.001, None), "", "a millivolt is no cause to speak");
    // Without base volts nothing is said of them.
    let blind = compare(piece(60.0, 0.0), piece(75.0, 0.0), false, &Shared::default());
    assert!(blind.means.is_empty() && blind.call == Fellowship::Passes, "{blind:?}");
}

/// The three who speak of 23 mV say the same: the tray's verdict, a lot that is paired, a bought part beside a known one.
#[test]
fn the_verdict_the_lot_and_the_inspection_speak_with_one_voice() {
    assert!((times_the_current(0.023) - 2.45).abs() < 0.01);
    let says = "on one bias 23 mV are 2.4 times the current";
    let lot = compare(piece(38.0, 0.593), piece(39.0, 0.570), true, &Shared::default());
    assert_eq!(lot.call, Fellowship::Passes);
    assert!(lot.means[0].starts_with(says), "{:?}", lot.means);

    let answer = |known| Answer {
        look: InspectionItem::BaseVolts,
        seen: None,
        bought_si: Some(0.593),
        known_si: Some(known),
    };
    let bought = inspect(None, &[answer(0.570)]);
    assert!(bought.signs[0].text.contains(says) && bought.signs[0].seen == Seen::True, "{:?}", bought.signs);
    // What is no pair by its base volts alone is another chip, and the other way round.
    for known in [0.564, 0.562, 0.540] {
        let alike = inspect(None, &[answer(known)]).signs[0].seen == Seen::True;
        let pair = compare(piece(50.0, 0.593), piece(50.0, known), true, &Shared::default());
        assert_eq!(alike, pair.call == Fellowship::Passes, "{known}");
    }

    let circuit = Circuit::default();
    let part = Part::Transistor(by_sheet(device("BC140"), None));
    let read = |q, si| Reading { state: State::OutOfCircuit, ..Reading::of(q, Shown::Value { si }) };
    let readings = [read(ReadQuantity::Gain, 38.0), read(ReadQuantity::ForwardVoltage, 0.593)];
    let partner = Partner {
        name: "Q6".to_owned(),
        measured_si: 39.0,
        marked_si: 39.0,
        base_volts: Some(Volt::computed(0.570)),
    };
    let of = |position, circuit: &Circuit| {
        let partners = [partner.clone()];
        let case =
            Case { part: &part, position, readings: &readings, partners: &partners, circuit, looks: &[] };
        judge(case, Policy::of(School::TestFirst, false).unwrap())
    };
    let v = of(Some(Position::RfPower), &circuit);
    assert_eq!(v.call, Outcome::Keep);
    assert!(v.reasons.iter().any(|r| r.text.contains(says)), "{:?}", v.reasons);
    assert!(v.asks.contains(&Fact::RestCurrent), "what they draw at rest is asked for: {:?}", v.asks);
    assert!(of(Some(Position::HalfBridge), &circuit).asks.is_empty(), "in a row it does not matter");
}

#[test]
fn what_is_said_of_one_half_holds_for_the_other() {
    let half = |n, name: &str| TrayPart {
        group: Some(Id(90)),
        position: Some(Position::PushPull),
        ..TrayPart::new(Id(n), name, PartKind::Transistor)
    };
    let mut q5 = half(1, "Q5");
    q5.said.set_si(Fact::RestCurrent, 0.004).unwrap();
    q5.said.set_si(Fact::CaseTemperature, 45.0).unwrap();
    let mut q6 = half(2, "Q6");
    q6.said.set_si(Fact::CaseTemperature, 50.0).unwrap();
    let alone =
        TrayPart { position: Some(Position::PushPull), ..TrayPart::new(Id(3), "Q7", PartKind::Transistor) };
    let tray = Tray::new(vec![q5, q6, alone], vec![]);
    let of = |name, fact| {
        let part = tray.called(name).unwrap();
        owl_core::tray::installed::installed(&tray, part).circuit.get_si(fact)
    };
    assert_eq!(of("Q6", Fact::RestCurrent), Some(0.004));
    assert_eq!(of("Q6", Fact::CaseTemperature), Some(50.0), "its own goes before");
    assert_eq!(of("Q7", Fact::RestCurrent), None);
}
