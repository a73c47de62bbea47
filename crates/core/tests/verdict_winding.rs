//! Verdicts on coils, diodes, pairs and groups, on what is seen, and the question why a part failed. Common practice,
//! no source, unless a test says otherwise.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::bench;

use crate::bench::{Bench, all_words, at_hertz, at_volts, in_circuit, overrange, read};
use owl_core::named::Named;
use owl_core::part::{
    CapacitorFamily, Coil, CoilFamily, Diode, DiodeFamily, Fact, Family, MadeOf, Part, PartKind, Position,
    Resistor, VisualSign,
};
use owl_core::quantity::{Fraction, Henry, Ohm};
use owl_core::reading::ReadQuantity::{
    ForwardVoltage, Inductance, LeakageResistance, Resistance, TurnsRatio,
};
use owl_core::reading::pitfall::{Pitfall, overdue, pitfalls};
use owl_core::reading::{Mode, Reading, State};
use owl_core::verdict::cause::{OnTray, suspects};
use owl_core::verdict::number::numbers;
use owl_core::verdict::{Outcome, Partner, Policy, PolicyNumber, Rule, School};

fn coil(family: CoilFamily, ohms: Option<f64>, henries: Option<f64>) -> Bench {
    Bench::with(Part::Coil(Coil {
        family: Some(family),
        resistance: ohms.map(|v| Ohm::new(v).unwrap()),
        inductance: henries.map(|v| Henry::new(v).unwrap()),
    }))
}

fn diode(family: DiodeFamily, plates: u16) -> Bench {
    Bench::with(Part::Diode(Diode { family: Some(family), plates }))
}

fn resistor(ohms: f64, tolerance: f64) -> Bench {
    Bench::with(Part::Resistor(Resistor {
        family: Family::CarbonComposition,
        value: Ohm::new(ohms).unwrap(),
        tolerance: Some(Fraction::new(tolerance).unwrap()),
        power: None,
    }))
}

fn lifted(r: Reading) -> Reading {
    Reading { state: State::Lifted, ..r }
}

// --------------------------------------------------------------------------------------- coils

#[test]
fn a_winding_by_its_copper() {
    let field =
        |r: Reading| coil(CoilFamily::FieldCoil, Some(1800.0), None).at(Position::Smoothing).reads(r).first();
    assert_eq!(field(lifted(read(Resistance, 1850.0))).call, Outcome::Keep);
    assert_eq!(field(lifted(read(Resistance, 1580.0))).call, Outcome::Watch);
    let low = field(lifted(read(Resistance, 1400.0)));
    assert_eq!((low.call, low.reasons[0].rule), (Outcome::Replace, Rule::Winding));
    assert!(low.reasons[0].text.contains("shorted turns"));
    assert_eq!(field(lifted(overrange(Resistance))).call, Outcome::Replace);
    // In circuit only too high or open says anything.
    assert_eq!(field(in_circuit(read(Resistance, 1790.0))).call, Outcome::MeasureAgain);
    assert_eq!(field(in_circuit(read(Resistance, 2400.0))).call, Outcome::Replace);
    assert_eq!(field(in_circuit(overrange(Resistance))).call, Outcome::Replace);
}

/// Law: |Z| = √(R² + (2πfL)²).
#[test]
fn alternating_current_on_a_coil_is_foreseen() {
    let ac = Reading { mode: Mode::Ac, ..at_hertz(lifted(read(Resistance, 7900.0)), 120.0) };
    let b = coil(CoilFamily::FieldCoil, Some(450.0), Some(10.0)).reads(ac);
    let v = b.first();
    assert_eq!(v.call, Outcome::MeasureAgain);
    // 2π × 120 Hz × 10 H = 7 540 Ω, with 450 Ω in it 7 553 Ω.
    assert!(all_words(&v).contains("7.553 kΩ"), "{}", all_words(&v));
    // An older reading with direct current decides.
    let both =
        coil(CoilFamily::FieldCoil, Some(450.0), Some(10.0)).reads(lifted(read(Resistance, 455.0))).reads(ac);
    assert_eq!((both.first().call, both.first().decided_by), (Outcome::Keep, Some(0)));
}

#[test]
fn shorted_turns_show_in_halves_in_inductance_and_in_ratio() {
    let half = |own: f64, other: f64| {
        let mut b = coil(CoilFamily::TransformerWinding, Some(118.0), None)
            .at(Position::Secondary)
            .reads(lifted(read(Resistance, own)));
        b.partners.push(Partner {
            name: "L2".to_owned(),
            measured_si: other,
            marked_si: 118.0,
            base_volts: None,
        });
        b.first()
    };
    // Halves agree within 3 %.
    assert_eq!(half(117.0, 119.0).call, Outcome::Keep);
    let apart = half(110.0, 118.5);
    assert_eq!((apart.call, apart.reasons[0].rule), (Outcome::Replace, Rule::Pair));
    assert!(all_words(&apart).contains("shorted turns"));
    let choke = |h: f64| coil(CoilFamily::Choke, None, Some(8.0)).reads(read(Inductance, h)).first().call;
    assert_eq!((choke(7.0), choke(5.0), choke(2.0)), (Outcome::Keep, Outcome::Watch, Outcome::Replace));
    let ratio = |n: f64| {
        coil(CoilFamily::TransformerWinding, None, None)
            .reads(read(TurnsRatio, n))
            .fact(Fact::TurnsRatio, 28.0)
            .first()
    };
    assert_eq!((ratio(27.2).call, ratio(24.0).call), (Outcome::Keep, Outcome::Replace));
    let unknown = coil(CoilFamily::TransformerWinding, None, None).reads(read(TurnsRatio, 27.0)).first();
    assert_eq!(unknown.asks, [Fact::TurnsRatio]);
}

// -------------------------------------------------------------------------------------- diodes

#[test]
fn a_junction_by_its_drop_and_its_way_back() {
    let d = |family, v: f64| diode(family, 1).reads(read(ForwardVoltage, v)).first().call;
    assert_eq!(d(DiodeFamily::Silicon, 0.61), Outcome::Keep);
    assert_eq!(d(DiodeFamily::Silicon, 0.8), Outcome::Watch);
    assert_eq!(d(DiodeFamily::Silicon, 0.3), Outcome::Replace);
    assert_eq!(d(DiodeFamily::Silicon, 0.01), Outcome::Replace);
    assert_eq!(d(DiodeFamily::Germanium, 0.28), Outcome::Keep);
    assert_eq!(d(DiodeFamily::Germanium, 0.62), Outcome::Replace);
    assert_eq!(
        diode(DiodeFamily::Silicon, 1).reads(overrange(ForwardVoltage)).first().call,
        Outcome::Replace
    );
    let back = |ohms: f64| {
        diode(DiodeFamily::Germanium, 1)
            .reads(read(ForwardVoltage, 0.28))
            .reads(at_volts(read(LeakageResistance, ohms), 10.0))
            .first()
    };
    assert_eq!((back(400e3).call, back(20e3).call), (Outcome::Keep, Outcome::Replace));
    assert!(all_words(&back(8.0)).contains("both ways"), "{}", all_words(&back(8.0)));
    // In circuit a low drop is what lies across; an open one is proven.
    assert_eq!(
        diode(DiodeFamily::Silicon, 1).reads(in_circuit(read(ForwardVoltage, 0.2))).first().call,
        Outcome::MeasureAgain
    );
}

#[test]
fn selenium_by_the_drop_of_its_plates_at_work() {
    let stack = |v: f64| {
        diode(DiodeFamily::Selenium, 6)
            .at(Position::Rectifier)
            .reads(in_circuit(read(ForwardVoltage, v)))
            .first()
    };
    assert_eq!(stack(5.0).call, Outcome::Keep);
    assert!(stack(9.0).reasons[0].text.contains("its drop has risen"));
    assert_eq!(stack(9.0).call, Outcome::Replace);
    // A meter's two volts do not open six plates.
    let on_a_meter = diode(DiodeFamily::Selenium, 6).reads(overrange(ForwardVoltage)).first();
    assert_eq!(on_a_meter.call, Outcome::MeasureAgain);
    assert_eq!(diode(DiodeFamily::Selenium, 6).under(School::ReplaceOnSight).call, Outcome::Replace);
}

// ---------------------------------------------------------------------------- pairs and groups

/// Common practice: cathode resistors of 150 and 185 Ω, marked 170 Ω 10 %: the one is out, the other inside by a
/// hair, and as a pair they are 21 % apart, so both go.
#[test]
fn a_pair_of_which_one_is_out_and_one_at_the_edge_goes_together() {
    let pair = |own: f64, other: f64| {
        let mut b = resistor(170.0, 0.1).at(Position::Cathode).reads(lifted(read(Resistance, own)));
        b.partners.push(Partner {
            name: "R9".to_owned(),
            measured_si: other,
            marked_si: 170.0,
            base_volts: None,
        });
        b.first()
    };
    assert_eq!(pair(150.0, 185.0).call, Outcome::Replace);
    let edge = pair(185.0, 150.0);
    assert_eq!(edge.call, Outcome::Replace);
    assert!(edge.reasons[0].text.contains("20.9 % apart"), "{}", edge.reasons[0].text);
    assert_eq!(resistor(170.0, 0.1).reads(lifted(read(Resistance, 185.0))).first().call, Outcome::Watch);
}

#[test]
fn a_group_is_judged_by_its_worst_pair() {
    let mut b = resistor(470.0, 0.1).at(Position::Cathode).reads(lifted(read(Resistance, 471.0)));
    for (name, v) in [("R2", 468.0), ("R3", 474.0), ("R4", 492.0)] {
        b.partners.push(Partner {
            name: name.to_owned(),
            measured_si: v,
            marked_si: 470.0,
            base_volts: None,
        });
    }
    let v = b.first();
    assert_eq!(v.call, Outcome::Keep);
    assert!(
        all_words(&v).contains("group with R4") && all_words(&v).contains("R4 is further off"),
        "{}",
        all_words(&v)
    );
}

// ------------------------------------------------------------------------- what the outside says

/// Common practice: 22 Ω reading 27 to 28 Ω goes; 10 kΩ at 18 kΩ goes; 1,500 Ω reading 9,000 in circuit is condemned
/// there; 10 kΩ at 10.8 kΩ with 20 % marking stays under wide limits, and is watched or goes under tight ones.
#[test]
fn resistors_as_practitioners_judge_them() {
    let free = |ohms: f64, t: f64, v: f64| resistor(ohms, t).reads(lifted(read(Resistance, v)));
    assert_eq!(free(22.0, 0.1, 27.0).first().call, Outcome::Replace);
    assert_eq!(free(22.0, 0.2, 28.0).first().call, Outcome::Replace);
    assert_eq!(free(10e3, 0.2, 18e3).under(School::KeepOriginal).call, Outcome::Replace);
    assert_eq!(
        resistor(1500.0, 0.2).reads(in_circuit(read(Resistance, 9000.0))).first().call,
        Outcome::Replace
    );
    let drifted = free(10e3, 0.2, 10.8e3);
    assert_eq!(drifted.under(School::KeepOriginal).call, Outcome::Keep);
    let tight = Policy::of(School::TestFirst, true).unwrap();
    assert!(matches!(drifted.by(tight).call, Outcome::Watch | Outcome::Replace));
}

// ---------------------------------------------------------------------- looks, causes, pitfalls

#[test]
fn a_scorched_resistor_inside_its_tolerance_is_watched_and_asks_why() {
    let v = resistor(10e3, 0.1)
        .at(Position::ScreenFeed)
        .reads(lifted(read(Resistance, 10.1e3)))
        .looks(VisualSign::Scorched)
        .first();
    assert_eq!((v.call, v.overloaded), (Outcome::Watch, true));
    assert!(all_words(&v).contains("why it cooked"), "{}", all_words(&v));
    let high = resistor(10e3, 0.1).at(Position::Feed).reads(lifted(read(Resistance, 19e3))).first();
    assert!(high.overloaded && high.call == Outcome::Replace);
    let grid = resistor(10e3, 0.1).at(Position::GridLeak).reads(lifted(read(Resistance, 19e3))).first();
    assert!(!grid.overloaded, "nothing flows through a grid leak");
}

#[test]
fn what_could_have_overloaded_it() {
    let wax = Some(MadeOf::Capacitor(CapacitorFamily::WaxPaper));
    let mica = Some(MadeOf::Capacitor(CapacitorFamily::Mica));
    let on = |name, family, position, fed_by| OnTray {
        name,
        kind: PartKind::Capacitor,
        family,
        position: Some(position),
        fed_by,
    };
    let tray = [
        on("C1", mica, Position::RfBypass, None),
        on("C2", wax, Position::PlateDecoupling, None),
        on("C3", mica, Position::ScreenBypass, Some("R7")),
        on("C4", wax, Position::ScreenBypass, Some("R8")),
        on("C5", wax, Position::Coupling, None),
    ];
    let found = suspects("R7", &tray);
    let names: Vec<&str> = found.iter().map(|s| s.name.as_str()).collect();
    assert_eq!(
        names,
        ["C3", "C2", "C1"],
        "known first, then known-bad families; what hangs elsewhere is left out"
    );
    assert!(found[0].known && !found[1].known);
    assert!(found[1].because.contains("wax paper leaks"), "{}", found[1].because);
}

#[test]
fn the_traps_are_told_with_their_numbers() {
    let found = |part: &Part, r: Reading| -> Vec<Pitfall> {
        pitfalls(part, None, &r, 10.0, 10.0).into_iter().map(|w| w.pitfall).collect()
    };
    let r22 = resistor(2.2, 0.1).part;
    assert_eq!(found(&r22, lifted(read(Resistance, 2.4))), [Pitfall::LeadResistance]);
    assert!(found(&r22, lifted(read(Resistance, 22.0))).is_empty());
    assert_eq!(found(&r22, lifted(overrange(Resistance))), [Pitfall::Overrange]);
    let can = Part::Capacitor(bench::capacitor(CapacitorFamily::Electrolytic, 32e-6, Some(350.0)));
    assert_eq!(
        found(&can, at_hertz(lifted(read(owl_core::reading::ReadQuantity::Esr, 0.0),), 100e3)),
        [Pitfall::EsrAtHighFrequency, Pitfall::NotDischarged]
    );
    // A volt is enough for the value of a low-voltage can, and not for one that works at hundreds.
    let c = |rated: f64| {
        let can = bench::capacitor(CapacitorFamily::Electrolytic, 32e-6, Some(rated));
        found(&Part::Capacitor(can), read(owl_core::reading::ReadQuantity::Capacitance, 33e-6))
    };
    assert_eq!((c(25.0), c(350.0)), (vec![], vec![Pitfall::LowTestVoltage]));
    assert!(overdue(200).is_none() && overdue(500).is_some_and(|w| w.pitfall == Pitfall::CheckOverdue));
}

#[test]
fn every_number_of_a_school_has_a_range_that_holds_it() {
    assert_eq!(numbers().len(), PolicyNumber::ALL.len());
    for row in numbers() {
        for school in School::ALL {
            let v = row.of(*school, false);
            assert!(
                v == 0.0 && row.setting == PolicyNumber::LimitFraction || (row.least..=row.most).contains(&v),
                "{}",
                row.setting
            );
        }
        assert!(!row.label.is_empty() && !row.source.clause.is_empty());
        assert_eq!(
            Policy::of(School::TestFirst, false).unwrap().number_si(row.setting),
            row.of(School::TestFirst, false)
        );
    }
    for fact in Fact::ALL {
        assert_eq!(fact.label().map(|l| l.quantity), Some(fact.quantity()), "{fact}");
    }
    for look in VisualSign::ALL {
        assert!(PartKind::ALL.iter().any(|k| look.on(*k).is_some()), "{look}");
    }
}
