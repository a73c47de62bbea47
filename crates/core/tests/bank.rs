//! Parts in series that share the volts (rule R20): what each gets, what goes, how a bank empties. Beside each check its
//! source; the sums are Ohm's and Kirchhoff's laws, and asked of a general-purpose simulator (ngspice 39).
#![allow(clippy::unwrap_used, clippy::indexing_slicing, missing_docs)]

use crate::ngspice;

use crate::bench::{at_volts, read};
use crate::drawer::policy;
use owl_core::bank::advice::Advice;
use owl_core::bank::judge::{Judged, judge};
use owl_core::bank::names::{NamesError, in_one_breath, named_parts};
use owl_core::bank::share::shares;
use owl_core::bank::{Across, BankKind, Health, Place, Span};
use owl_core::part::{CapacitorFamily, Circuit, DiodeFamily, Fact, Family, MadeOf, PartKind};
use owl_core::quantity::{Ampere, Farad, Ohm, Volt, Watt};
use owl_core::reading::{ReadQuantity, Reading};
use owl_core::set::{Heaters, SetFacts};
use owl_core::supply::rectifier::Arrangement;
use owl_core::tray::bank::{Bank, Member, judged_bank, volts_at, volts_of_the_set};
use owl_core::tray::installed::installed;
use owl_core::tray::{Id, Moment, TakenReading, Tray, TrayPart, stage};
use owl_core::verdict::Outcome;

fn resistor(name: &str, ohms: f64, marked: f64, watts: f64) -> Across {
    Across {
        name: name.to_owned(),
        ohms: Span::known(Ohm::computed(ohms)),
        marked: Some(Ohm::computed(marked)),
        rated: Some(Watt::computed(watts)),
        body: Some(Volt::computed(750.0)),
        measured: true,
        health: Health::Well,
    }
}

/// A can of 120 µF and 450 V that was measured, with so many ohms of a 68 kΩ across it.
fn can(n: usize, micro: f64, ohms: f64) -> Place {
    Place {
        name: format!("C{n}"),
        health: Health::Well,
        farads: Some(Span::known(Farad::computed(micro * 1e-6))),
        marked: Some(Farad::computed(120e-6)),
        across: Some(resistor(&format!("R{n}"), ohms, 68e3, 5.0)),
        leak: None,
        rated: Some(Volt::computed(450.0)),
        measured: true,
        electrolytic: true,
    }
}

fn diode(n: usize, health: Health) -> Place {
    Place {
        name: format!("D{n}"),
        health,
        farads: None,
        marked: None,
        across: Some(resistor(&format!("R{n}"), 470e3, 470e3, 2.0)),
        leak: None,
        rated: Some(Volt::computed(1000.0)),
        measured: true,
        electrolytic: false,
    }
}

fn volts(v: f64) -> Volt {
    Volt::computed(v)
}

fn near(got: f64, want: f64, within: f64) {
    assert!((got / want - 1.0).abs() < within, "{got} instead of {want}");
}

fn said(judged: &Judged, call: Outcome) -> String {
    judged.said.iter().filter(|s| s.call == call).map(|s| s.text.as_str()).collect::<Vec<_>>().join("; ")
}

// Ohm's law: 8 × 68 kΩ across 2.9 kV are 362.5 V, 5.33 mA and 1.93 W each.
#[test]
fn eight_good_cans_share_their_volts_and_the_sums_are_those_of_ohm() {
    let places: Vec<Place> = (1..=8).map(|n| can(n, 120.0, 68e3)).collect();
    let j = judge(BankKind::Capacitors, volts(2900.0), &places);
    assert_eq!((j.call, &j.advice), (Outcome::Keep, &Advice::Stays), "{:?}", j.said);
    assert!(j.shares.iter().all(|s| (s.volts.unwrap().volts() - 362.5).abs() < 1e-9));
    near(j.whole.value_si.unwrap(), 15e-6, 1e-9);
    near(j.whole.energy_joules.unwrap(), 0.5 * 15e-6 * 2900.0 * 2900.0, 1e-9);
    near(j.whole.current.unwrap().amperes(), 2900.0 / 544e3, 1e-9);
    // All alike: one time constant, ln(2900 / 5) of it.
    near(j.whole.empties_in.unwrap().seconds(), 68e3 * 120e-6 * (2900.0_f64 / 5.0).ln(), 1e-6);
    assert!(
        j.cautions[0].contains("can kill") && j.cautions.iter().any(|c| c.contains("51.9 s")),
        "{:?}",
        j.cautions
    );
}

#[test]
fn a_resistor_that_rose_gives_its_can_more_than_it_stands() {
    let places: Vec<Place> = (1..=8).map(|n| can(n, 120.0, if n == 3 { 99e3 } else { 68e3 })).collect();
    let j = judge(BankKind::Capacitors, volts(2900.0), &places);
    near(j.shares[2].volts.unwrap().volts(), 2900.0 * 99.0 / (99.0 + 7.0 * 68.0), 1e-9);
    assert_eq!(j.call, Outcome::Replace);
    assert_eq!(said(&j, Outcome::Replace), "C3 gets 499 V, and stands 450 V: R3 across it has 99 kΩ");
}

// Charge is equal in a string: the small one takes more of it (circuit theory), whatever lies across.
#[test]
fn as_it_charges_the_smallest_can_takes_the_most() {
    let places: Vec<Place> = (1..=4).map(|n| can(n, if n == 2 { 76.0 } else { 120.0 }, 68e3)).collect();
    let j = judge(BankKind::Capacitors, volts(1600.0), &places);
    near(j.shares[1].charging.unwrap().volts(), 1600.0 * (1.0 / 76.0) / (1.0 / 76.0 + 3.0 / 120.0), 1e-9);
    assert!(
        said(&j, Outcome::Replace).contains("as it charges: at 76 µF it is the smallest"),
        "{:?}",
        j.said
    );
}

#[test]
fn what_is_not_measured_is_reckoned_at_its_worst_and_asked_for() {
    let mut places: Vec<Place> = (1..=6).map(|n| can(n, 120.0, 68e3)).collect();
    places[4].across.as_mut().unwrap().ohms = Span::marked(Ohm::computed(68e3), 0.2, 0.2);
    places[4].across.as_mut().unwrap().measured = false;
    let j = judge(BankKind::Capacitors, volts(2400.0), &places);
    near(j.shares[4].worst.unwrap().volts(), 2400.0 * 81.6 / (81.6 + 5.0 * 68.0), 1e-9);
    assert_eq!(j.call, Outcome::MeasureAgain);
    assert!(said(&j, Outcome::MeasureAgain).contains("C5 may get 465 V of its 450 V"), "{:?}", j.said);
    assert!(said(&j, Outcome::MeasureAgain).contains("not measured: R5; they share"));
}

#[test]
fn nothing_across_a_can_leaves_it_charged() {
    let mut places: Vec<Place> = (1..=3).map(|n| can(n, 47.0, 100e3)).collect();
    places[1].across = None;
    let j = judge(BankKind::Capacitors, volts(900.0), &places);
    assert_eq!(j.whole.empties_in, None);
    assert!(j.cautions.iter().any(|c| c.contains("Nothing empties C2")), "{:?}", j.cautions);
    let across = j.proposed.unwrap();
    assert!(
        across.ohms <= Ohm::computed(300.0 / (10.0 * 0.01 * 47e-6 * 300.0)),
        "ten times the leak of a new one"
    );
}

// Common practice, no source: one bad can of a good bank goes alone; from half of them on, all.
#[test]
fn one_goes_alone_and_half_of_them_take_the_rest_with_them() {
    let bank = |out: usize| -> Vec<Place> {
        let health = |n| if n <= out { Health::Goes } else { Health::Well };
        (1..=8).map(|n| Place { health: health(n), ..can(n, 120.0, 68e3) }).collect()
    };
    let advice = |out| judge(BankKind::Capacitors, volts(2900.0), &bank(out)).advice;
    let Advice::Singly { parts, why } = advice(1) else { panic!("{:?}", advice(1)) };
    assert_eq!((parts, why.as_str()), (vec!["C1".to_owned()], "with a new C1 none gets more than 362 V"));
    let Advice::Whole { why } = advice(4) else { panic!("{:?}", advice(4)) };
    assert!(why.contains("4 of 8"), "{why}");
    // A new one of the full value beside what dried out takes too little, and gives the others too much.
    let mut dry = bank(1);
    dry.iter_mut().skip(1).for_each(|p| p.farads = Some(Span::known(Farad::computed(90e-6))));
    dry[5].farads = Some(Span::known(Farad::computed(64e-6)));
    assert!(matches!(judge(BankKind::Capacitors, volts(2900.0), &dry).advice, Advice::Whole { .. }));
}

#[test]
fn a_shorted_diode_leaves_its_volts_to_the_others() {
    let leg = |v: f64| {
        let health = |n| if n == 2 { Health::Shorted } else { Health::Well };
        let places: Vec<Place> = (1..=3).map(|n| diode(n, health(n))).collect();
        judge(BankKind::Diodes, volts(v), &places)
    };
    let j = leg(1800.0);
    assert_eq!(j.shares.iter().map(|s| s.volts.unwrap().volts()).collect::<Vec<_>>(), [900.0, 0.0, 900.0]);
    assert!(matches!(j.advice, Advice::Singly { .. }));
    let j = leg(2400.0);
    let Advice::Whole { why } = &j.advice else { panic!("{:?}", j.advice) };
    assert_eq!(why, "while D2 was shorted the others had 1.2 kV each of their 1 kV");
    let two = said(&j, Outcome::Replace);
    assert!(two.contains("2 in series stand 1.9 kV"), "{two}");
}

#[test]
fn bare_diodes_are_shared_by_nobody_knows_what() {
    let places: Vec<Place> = (1..=4).map(|n| Place { across: None, ..diode(n, Health::Well) }).collect();
    let j = judge(BankKind::Diodes, volts(2000.0), &places);
    assert!(j.shares.iter().all(|s| s.volts.is_none()) && j.call == Outcome::Watch, "{:?}", j.said);
    assert_eq!(
        j.proposed.unwrap().ohms,
        Ohm::computed(470e3),
        "500 Ω for each volt of its rating (handbooks, from memory)"
    );
    let over = judge(BankKind::Diodes, volts(4000.0), &places);
    assert!(said(&over, Outcome::Replace).contains("4 in series stand 3.71 kV"), "{:?}", over.said);
}

// Ohm's law: a multiplier that rose by a twentieth lets a twentieth less through.
#[test]
fn a_multiplier_says_what_the_meter_reads() {
    let ten = |ohms: f64| -> Vec<Place> {
        let of = |n: usize| {
            let across = Across { body: Some(volts(350.0)), ..resistor(&format!("R{n}"), ohms, 470e3, 0.5) };
            Place {
                name: format!("R{n}"),
                across: Some(across),
                rated: Some(volts(350.0)),
                ..diode(n, Health::Well)
            }
        };
        (1..=10).map(of).collect()
    };
    let good = judge(BankKind::Resistors, volts(3000.0), &ten(472e3));
    assert_eq!(good.call, Outcome::Keep, "{:?}", good.said);
    let drifted = judge(BankKind::Resistors, volts(3000.0), &ten(493.5e3));
    assert!(
        said(&drifted, Outcome::Replace)
            .contains("4.94 MΩ instead of 4.7 MΩ: a meter behind it reads −4.8 %"),
        "{:?}",
        drifted.said
    );
    let over = judge(BankKind::Resistors, volts(3800.0), &ten(470e3));
    assert!(said(&over, Outcome::Replace).contains("R1 gets 380 V, and stands 350 V"), "{:?}", over.said);
}

#[test]
fn names_are_read_in_one_breath_and_said_so_again() {
    let caps = |t: &str| named_parts(t, PartKind::Capacitor);
    for t in ["C11-C14", "c11-14", "C11 to C14", "C11, C12 C13;C14", "C11 – C14"] {
        assert_eq!(caps(t).unwrap(), ["C11", "C12", "C13", "C14"], "{t}");
    }
    assert_eq!(named_parts("TR1-TR3", PartKind::Transistor).unwrap().len(), 3);
    assert_eq!(in_one_breath(&["C11", "C12", "C13", "C20", "C30", "C31"]), "C11-C13, C20, C30, C31");
    assert_eq!(caps("C14-C11"), Err(NamesError::Row("C14-C11".to_owned())));
    assert_eq!(caps("C1 R2"), Err(NamesError::Kind("R2".to_owned(), PartKind::Capacitor)));
    assert_eq!(caps("C1 C1"), Err(NamesError::Twice("C1".to_owned())));
    assert!(matches!(caps("eight"), Err(NamesError::NoName(..))));
    assert!(matches!(caps("C1-C900"), Err(NamesError::Row(_))));
}

/// Cans of which two leak: ngspice's operating point, and its transient as the bank empties.
#[test]
fn the_simulator_shares_the_volts_alike() {
    if !ngspice::installed() {
        return;
    }
    let ohms = [68e3, 71e3, 64e3, 68e3, 90e3];
    let leaks = [0.0, 1.5e-3, 0.0, 0.4e-3, 0.0];
    let micro = [120.0, 110.0, 131.0, 96.0, 120.0];
    let v = 1900.0;
    let equal = v / 5.0;
    let places: Vec<Place> = (0..5)
        .map(|i| Place {
            leak: Some(Span::known(Ampere::computed(leaks[i]))),
            ..can(i + 1, micro[i], ohms[i])
        })
        .collect();
    let leak = |i: usize| {
        if leaks[i] > 0.0 { format!("rl{i} n{i} n{} {}\n", i + 1, equal / leaks[i]) } else { String::new() }
    };
    let net: String = (0..5).map(|i| format!("r{i} n{i} n{} {}\n{}", i + 1, ohms[i], leak(i))).collect();
    let wanted: Vec<String> = (0..5).map(|i| format!("v(n{i})-v(n{})", i + 1)).collect();
    let wanted: Vec<&str> = wanted.iter().map(String::as_str).collect();
    let circuit = format!("v1 n0 0 {v}\n{net}rg n5 0 1e-6");
    let theirs = ngspice::operating_point("bank_shares", &circuit, &wanted);
    for (ours, theirs) in shares(volts(v), &places).iter().zip(&theirs) {
        near(ours.volts.unwrap().volts(), *theirs, 1e-6);
    }
    let bare: Vec<Place> = places.iter().map(|p| Place { leak: None, ..p.clone() }).collect();
    let j = judge(BankKind::Capacitors, volts(v), &bare);
    let start: Vec<f64> = j.shares.iter().map(|s| s.volts.unwrap().volts()).collect();
    let net: String = (0..5)
        .map(|i| {
            format!("r{i} n{i} n{n} {}\nc{i} n{i} n{n} {}u ic={}\n", ohms[i], micro[i], start[i], n = i + 1)
        })
        .collect();
    let circuit = format!("{net}rg n5 0 1e-6\nrx n0 0 1e12");
    let end = j.whole.empties_in.unwrap().seconds();
    let left =
        ngspice::transient("bank_empties", &circuit, 0.02, end * 1.2, &[("t5", "when v(n0)=5 fall=1")]);
    near(end, left[0], 0.005);
}

/// A ticket's cans and their resistors, one reading each.
fn tray(read_of: impl Fn(usize) -> Option<Reading>) -> Tray {
    let taken =
        |n: u128, r: Reading| TakenReading { id: Id(n), reading: r, taken_at: Moment(1), voided_at: None };
    let cap = |n: usize| TrayPart {
        family: Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic)),
        sheet_si: Some(120e-6),
        readings: read_of(n).map(|r| taken(n as u128, r)).into_iter().collect(),
        ..TrayPart::new(Id(n as u128), &format!("C{n}"), PartKind::Capacitor)
    };
    let across = |n: usize| TrayPart {
        family: Some(MadeOf::Resistor(Family::MetalFilm)),
        sheet_si: Some(68e3),
        power: Some(Watt::computed(5.0)),
        readings: vec![taken(50, read(ReadQuantity::Resistance, 68e3))],
        ..TrayPart::new(Id(20 + n as u128), &format!("R{n}"), PartKind::Resistor)
    };
    let members = (1..=4).map(|n| Member { part: Id(n), across: Some(Id(20 + n)) }).collect();
    let bank =
        Bank { id: Id(99), name: "HT".to_owned(), kind: BankKind::Capacitors, volts: volts(1500.0), members };
    let lone = TrayPart::new(Id(70), "C70", PartKind::Capacitor);
    let parts = (1..=4).map(cap).chain((1..=4).map(across)).chain([lone]).collect();
    Tray::new(parts, vec![]).with_banks(vec![bank])
}

#[test]
fn a_member_of_a_bank_has_its_share_and_not_what_stands_across_all() {
    let mut rail = Circuit::default();
    rail.set_si(Fact::Secondary, 1000.0).unwrap();
    let set = SetFacts::new(&rail, Some(Arrangement::Bridge), vec![], Heaters::default());
    let tray = tray(|n| Some(read(ReadQuantity::Capacitance, if n == 2 { 100e-6 } else { 120e-6 })))
        .in_set(set, None);
    let c2 = tray.called("C2").unwrap();
    let share = 1500.0 * (1.0 / 100.0) / (1.0 / 100.0 + 3.0 / 120.0);
    near(volts_at(&tray, c2).unwrap().volts(), share, 1e-9);
    let around = installed(&tray, c2).circuit;
    near(around.get::<Volt>(Fact::Voltage).unwrap().volts(), share, 1e-9);
    assert_eq!(around.get::<Volt>(Fact::Secondary), None, "the whole winding is not its own");
    assert_eq!(volts_at(&tray, tray.called("C70").unwrap()), None);
    // They are changed together and judged anew together.
    assert_eq!(stage::stage(&tray, c2).count(), 8);
    assert_eq!(tray.neighbours(c2).len(), 7);
}

#[test]
fn a_bank_takes_what_its_members_read() {
    let leaky = |n| {
        Some(match n {
            3 => at_volts(read(ReadQuantity::LeakageCurrent, 2e-3), 375.0),
            _ => read(ReadQuantity::Capacitance, 118e-6),
        })
    };
    let tray = tray(leaky);
    let bank = tray.banks()[0].clone();
    let (_, j) = judged_bank(&tray, &bank, policy());
    // 375 V over 68 kΩ is 5.5 mA; 2 mA more pass in C3, so it gets less and the others more.
    let (c3, c1) = (j.shares[2].volts.unwrap(), j.shares[0].volts.unwrap());
    near(c1 / c3, (1.0 / 68e3 + 2e-3 / 375.0) * 68e3, 1e-9);
    assert!(said(&j, Outcome::MeasureAgain).contains("C1-C4: no volts are known"), "{:?}", j.said);
    let (_, none) = judged_bank(&self::tray(|_| None), &bank, policy());
    assert!(said(&none, Outcome::MeasureAgain).contains("not measured: C1-C4"), "{:?}", none.said);
}

// 2√2 against √2 of the winding (rectifier circuits, any handbook); a bridge sees once what the others see twice.
#[test]
fn the_set_says_what_stands_across_a_bank() {
    let of = |kind, arrangement| {
        let mut facts = Circuit::default();
        facts.set_si(Fact::Secondary, 900.0).unwrap();
        let set = SetFacts::new(&facts, Some(arrangement), vec![], Heaters::default());
        volts_of_the_set(kind, &set, policy()).map(Volt::volts)
    };
    let bank = of(BankKind::Capacitors, Arrangement::Bridge).unwrap();
    assert!(bank > 900.0 * std::f64::consts::SQRT_2);
    assert_eq!(of(BankKind::Diodes, Arrangement::Bridge), Some(bank));
    assert_eq!(of(BankKind::Diodes, Arrangement::FullWave), Some(2.0 * bank));
    assert_eq!(of(BankKind::Resistors, Arrangement::Bridge), None);
    let unknown = SetFacts::default();
    assert_eq!(volts_of_the_set(BankKind::Capacitors, &unknown, policy()), None);
}

#[test]
fn a_silicon_string_of_the_tray_knows_its_types_volts() {
    let taken = |r| vec![TakenReading { id: Id(9), reading: r, taken_at: Moment(1), voided_at: None }];
    let d = |n: u128, drop: f64| {
        let mut p = TrayPart {
            family: Some(MadeOf::Diode(DiodeFamily::Silicon)),
            readings: taken(read(ReadQuantity::ForwardVoltage, drop)),
            ..TrayPart::new(Id(n), &format!("D{n}"), PartKind::Diode)
        };
        p.mark = owl_core::marking::read_text("1N4007", owl_core::marking::Hints::of(PartKind::Diode))
            .unwrap()
            .into_iter()
            .next();
        p
    };
    let members = (1..=3).map(|n| Member { part: Id(n), across: None }).collect();
    let bank =
        Bank { id: Id(99), name: "leg".to_owned(), kind: BankKind::Diodes, volts: volts(2100.0), members };
    let tray = Tray::new(vec![d(1, 0.52), d(2, 0.53), d(3, 0.002)], vec![]).with_banks(vec![bank.clone()]);
    let (_, j) = judged_bank(&tray, &bank, policy());
    assert!(said(&j, Outcome::Replace).contains("D3 is shorted"), "{:?}", j.said);
    assert!(said(&j, Outcome::Replace).contains("2 in series stand 1.9 kV"), "{:?}", j.said);
    let Advice::Whole { .. } = j.advice else { panic!("{:?}", j.advice) };
}
