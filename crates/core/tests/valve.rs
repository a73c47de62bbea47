//! Valves (rule R23): what is judged of them, what takes their place, and the laws that their tables keep. The source of each
//! worked case stands beside it in `cases/valve.csv`; the tables are from memory, row by row.
#![allow(clippy::unwrap_used, clippy::indexing_slicing, missing_docs)]

use std::collections::BTreeSet;

use crate::bench::lot;
use crate::drawer::policy;
use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, Part, PartKind, Position, Valve, VisualSign};
use owl_core::quantity::{Ampere, Watt};
use owl_core::reading::{ReadQuantity, Reading, Shown, State};
use owl_core::say::{ChartValve, Known, Measured, Tray, understand};
use owl_core::socket;
use owl_core::socket::names::{groups, is_same};
use owl_core::substitute::{Choices, Need, OldPart, choose};
use owl_core::valve::alike::{Likeness, adapter, alike, between, others};
use owl_core::valve::limit::{limit, limits};
use owl_core::valve::{types, valve_type};
use owl_core::verdict::{Case, Outcome, Partner, Verdict, judge};

#[derive(serde::Deserialize)]
struct Worked {
    #[serde(rename = "type")]
    valve: String,
    position: String,
    said: String,
    outcome: Outcome,
    why: String,
    source: String,
}

fn valve(type_number: &str) -> Part {
    Part::Valve(Valve { of: valve_type(type_number), in_chain: false })
}

fn reading(m: &Measured) -> Reading {
    let shown = m.value_si.map_or(Shown::Overrange { ceiling_si: None }, |si| Shown::Value { si });
    Reading { pin: m.pin, hot: m.hot, ..Reading::of(m.quantity, shown) }
}

fn verdict(part: &Part, position: Option<Position>, readings: &[Reading], looks: &[VisualSign]) -> Verdict {
    let circuit = Circuit::default();
    judge(Case { part, position, readings, partners: &[], circuit: &circuit, looks }, policy())
}

fn says(v: &Verdict) -> String {
    let reasons = v.reasons.iter().map(|r| r.text.as_str());
    reasons.chain(v.next.iter().map(String::as_str)).collect::<Vec<_>>().join("; ")
}

/// Each is said as at the bench, so that the sentence is tried as well.
#[test]
fn worked_cases_come_out_as_a_good_hand_judges_them() {
    let known = Known { name: "V1".to_owned(), has_mark: true, ..Known::default() };
    let tray = Tray { parts: vec![known], selected: None, ..Tray::default() };
    let cases: Vec<Worked> = csv::Reader::from_reader(include_str!("cases/valve.csv").as_bytes())
        .deserialize()
        .map(Result::unwrap)
        .collect();
    assert!(cases.len() >= 40);
    for c in cases {
        let said = understand(&format!("V1 {}", c.said), &tray).unwrap_or_else(|e| panic!("{}: {e}", c.said));
        let readings: Vec<Reading> =
            said.measured.iter().map(|m| Reading { state: State::OutOfCircuit, ..reading(m) }).collect();
        let position = (!c.position.is_empty()).then(|| Position::from_name(&c.position).unwrap());
        let v = verdict(&valve(&c.valve), position, &readings, &said.said.looks);
        let what = format!("{} {} as {}: {}", c.valve, c.said, c.position, says(&v));
        assert_eq!(v.call, c.outcome, "{what}");
        assert!(says(&v).contains(&c.why), "{what}, without '{}' ({})", c.why, c.source);
    }
}

fn at_pin(pin: u8, volts: f64, state: State) -> Reading {
    Reading { pin: Some(pin), state, ..Reading::of(ReadQuantity::PinVoltage, Shown::Value { si: volts }) }
}

/// Common practice, no source.
#[test]
fn a_grid_that_stands_up_is_told_from_a_leaking_capacitor() {
    // The control grid of a 6V6 is pin 5, of an EL84 pin 2.
    for (of, pin) in [("6V6", 5), ("EL84", 2)] {
        let judged = |readings: &[Reading]| verdict(&valve(of), None, readings, &[]);
        let up = at_pin(pin, 2.4, State::InCircuit);
        let first = judged(&[up]);
        assert_eq!(first.call, Outcome::MeasureAgain);
        assert!(says(&first).contains("coupling capacitor's grid end"), "{}", says(&first));
        let gas = judged(&[up, at_pin(pin, 2.1, State::Lifted)]);
        assert_eq!(gas.call, Outcome::Replace, "{}", says(&gas));
        let leak = judged(&[up, at_pin(pin, 0.05, State::Lifted)]);
        assert!(leak.call != Outcome::Replace && says(&leak).contains("not to blame"), "{}", says(&leak));
        assert_eq!(judged(&[at_pin(pin, -12.5, State::InCircuit)]).call, Outcome::MeasureAgain);
    }
}

#[test]
fn what_a_plate_takes_up_is_reckoned_with_the_volts_across_it() {
    let mut circuit = Circuit::default();
    circuit.set_si(Fact::Voltage, 265.0).unwrap();
    let part = valve("6V6");
    let judged = |milliamps: f64| {
        let r = [Reading::of(ReadQuantity::CathodeCurrent, Shown::Value { si: milliamps / 1e3 })];
        judge(
            Case { part: &part, position: None, readings: &r, partners: &[], circuit: &circuit, looks: &[] },
            policy(),
        )
    };
    // 265 V · 55 mA = 14.6 W at a plate made for 12 W; at 40 mA it is 10.6 W.
    let hot = judged(55.0);
    assert!(hot.overloaded && hot.call == Outcome::Watch && says(&hot).contains("14.57 W"), "{}", says(&hot));
    assert!(!judged(40.0).overloaded);
}

#[test]
fn halves_of_a_pair_are_held_against_each_other() {
    let (part, circuit) = (valve("6V6"), Circuit::default());
    let judged = |other: f64| {
        let partners =
            [Partner { name: "V6".to_owned(), measured_si: other, marked_si: 1.0, base_volts: None }];
        let r = [Reading::of(ReadQuantity::Emission, Shown::Value { si: 0.9 })];
        let position = Some(Position::PushPull);
        judge(
            Case { part: &part, position, readings: &r, partners: &partners, circuit: &circuit, looks: &[] },
            policy(),
        )
        .call
    };
    assert_eq!((judged(0.85), judged(0.6)), (Outcome::Keep, Outcome::Watch));
}

fn choices(of: &str, in_chain: bool, lots: &[Lot]) -> Choices {
    let gone = OldPart::Part(Part::Valve(Valve { of: valve_type(of), in_chain }));
    let circuit = Circuit::default();
    let need = Need {
        paired: false,
        gone: &gone,
        type_number: of,
        value_si: None,
        position: None,
        circuit: &circuit,
    };
    choose(&need, policy(), lots).unwrap()
}

fn drawer(types: &[&str]) -> Vec<Lot> {
    let piece = |t: &&str| Piece { type_number: (*t).to_owned(), ..Piece::new(PartKind::Valve) };
    types.iter().map(|t| lot(piece(t), 2, Condition::OldTested)).collect()
}

fn offered(c: &Choices) -> Vec<(String, String)> {
    let text = |c: &owl_core::substitute::Choice| {
        let all = c.passes.iter().chain(&c.cautions).map(|r| r.text.clone());
        all.chain(c.effects.iter().map(|e| e.text.clone())).collect::<Vec<_>>().join("; ")
    };
    c.choices.iter().map(|c| (c.pieces[0].piece.type_number.clone(), text(c))).collect()
}

#[test]
fn what_takes_its_place_says_what_becomes_different() {
    let c = choices("6V6GT", false, &drawer(&["6K6GT", "6AQ5", "6L6", "EL84", "12SK7", "6V6"]));
    let all = offered(&c);
    assert_eq!(all[0].0, "6V6", "the same valve in another bulb comes first: {all:?}");
    let of =
        |t: &str| &all.iter().find(|(n, _)| n == t).unwrap_or_else(|| panic!("{t} is missing: {all:?}")).1;
    assert!(of("6AQ5").contains("adapter") && of("6AQ5").contains("cathode 8 → 2"), "{}", of("6AQ5"));
    // 0.9 A in the place of 0.45 A.
    assert!(of("6L6").contains("450 mA more"), "{}", of("6L6"));
    let refused: Vec<String> = c.refused.iter().map(|r| format!("{r:?}")).collect();
    assert!(refused.iter().any(|r| r.contains("EL84")) && refused.iter().any(|r| r.contains("12SK7")));
    // A number that no table has is replaced by itself alone.
    assert_eq!(offered(&choices("9Z99", false, &drawer(&["9Z99", "6V6"])))[0].0, "9Z99");
}

#[test]
fn the_heater_decides() {
    let refused = |of: &str, new: &str, chain: bool| {
        choices(of, chain, &drawer(&[new])).refused.iter().any(|r| format!("{r:?}").contains(new))
    };
    // From a winding the volts count, in a chain the current.
    assert!(refused("6SK7", "12SK7", false) && refused("6SK7", "12SK7", true));
    assert!(!refused("12BA6", "12BA6", true) && refused("12AV6", "6AV6", true));
    assert!(refused("ECL82", "UCL82", false));
    // A tapped heater runs on 6.3 V and on 12.6 V.
    let (ecc83, ecc85) =
        (valve_type("ECC83").unwrap().heater.unwrap(), valve_type("ECC85").unwrap().heater.unwrap());
    assert_eq!(ecc83.in_place_of(ecc85), Some(Ampere::computed(0.3)));
    assert_eq!(ecc85.in_place_of(ecc83), Some(Ampere::computed(0.435)));
    assert_eq!(valve_type("UY85").unwrap().heater.unwrap().in_place_of(ecc85), None);
}

#[test]
fn what_must_not_go_in_is_refused_with_its_reason() {
    for (old, new, why) in [("6SK7", "6SJ7", "AVC"), ("EL34", "KT88", "bias"), ("807", "6146", "base")] {
        let c = choices(old, false, &drawer(&[new]));
        let reason = c.refused.iter().map(|r| format!("{r:?}")).find(|r| r.contains(new)).unwrap();
        assert!(reason.contains(why), "{reason}");
    }
}

/// A valve that is worn out says it under each of its names.
#[test]
fn a_valve_is_known_under_all_of_its_names() {
    for (a, b) in
        [("6V6-GT/G", "6v6"), ("7025", "ECC83"), ("6005", "6AQ5"), ("OA2", "0A2"), ("CV4004", "12AX7")]
    {
        assert!(is_same(a, b), "{a} and {b}");
    }
    for (a, b) in [("12AX7", "12AU7"), ("6SK7", "12SK7"), ("6L6", "6V6"), ("QQE06/40", "QQE06")] {
        assert!(!is_same(a, b), "{a} and {b}");
    }
    assert_eq!(valve_type("EL90").map(|t| t.name.as_str()), Some("6AQ5"));
    assert_eq!(valve_type("6L6GC").and_then(|t| t.dissipation_most), Some(Watt::computed(30.0)));
    assert!(others("6V6").contains(&"6AQ5") && others("EL84")[0] == "6BQ5");
}

#[test]
fn the_tables_keep_their_laws() {
    let mut names = BTreeSet::new();
    for t in types() {
        let n = &t.name;
        assert!(names.insert(n.clone()), "{n} stands twice");
        // Half a watt of a battery's filament to the hundred of a large transmitting valve.
        if let Some(h) = t.heater {
            let watts = (h.volts * h.current).watts();
            assert!((0.03..=80.0).contains(&watts), "{n}: a heater of {watts} W");
        } else {
            assert_eq!(t.usual, Position::Regulator, "{n} has no heater");
        }
        if let (Some(at), Some(most)) = (t.at, t.dissipation_most) {
            let watts = at.plate_current.map_or(0.0, |i| (at.plate * i).watts());
            assert!(watts <= most.watts() * 1.25, "{n}: {watts} W at its published point, made for {most}");
        }
        assert!(t.at.is_none_or(|a| t.plate_most.is_none_or(|m| a.plate <= m)), "{n}: more than it stands");
        assert!(
            limits().iter().any(|l| l.position == t.usual) || t.usual == Position::Regulator,
            "{n}: no limit"
        );
        assert!(t.usual == Position::Regulator || Position::of(PartKind::Valve).any(|p| p == t.usual), "{n}");
        // The first number of an American type is about its heater's volts (memory: RETMA's numbers).
        let digits: String = n.chars().take_while(char::is_ascii_digit).collect();
        if let (Ok(volts), Some(h)) = (digits.parse::<f64>(), t.heater)
            && n.len() > digits.len()
            && n[digits.len()..].starts_with(|c: char| c.is_ascii_alphabetic())
            && t.usual != Position::RfPower
            // The two outputs for batteries have two halves; loctals say 7 for 6.3 and 14 for 12.6; older numbers say nothing.
            && !["3S4", "3V4", "24A", "866A"].contains(&n.as_str())
        {
            assert!((volts - h.volts.volts()).abs() <= 1.5 || volts <= 1.0, "{n}: {}", h.volts);
        }
    }
    let mut pairs = BTreeSet::new();
    for a in alike() {
        assert!(
            a.old != a.other && pairs.insert((&a.old, &a.other)),
            "{} and {} stand twice",
            a.old,
            a.other
        );
    }
    let mut named = BTreeSet::new();
    for group in groups() {
        let of = |n: &String| types().iter().find(|t| t.name == *n);
        let pins = |n: &String| {
            let v = socket::valves().iter().find(|v| v.name == *n)?;
            let mut all: Vec<(u8, String)> = v.pins.iter().map(|(n, r)| (*n, r.code.clone())).collect();
            all.sort();
            Some((v.base.base.clone(), all))
        };
        for pair in group.windows(2) {
            // The same valve has the same data and the same pins, wherever both are known.
            if let (Some(x), Some(y)) = (of(&pair[0]), of(&pair[1])) {
                assert_eq!((x.heater, x.at, x.usual), (y.heater, y.at, y.usual), "{pair:?}");
            }
            if let (Some(x), Some(y)) = (pins(&pair[0]), pins(&pair[1])) {
                assert_eq!(x, y, "{pair:?}");
            }
        }
        assert!(group.len() > 1 && group.iter().all(|n| named.insert(n)), "{group:?} has a name of another");
    }
    for l in limits() {
        assert!(l.gone_below < l.weak_below && l.gas_watch <= l.gas_gone && !l.consequence.is_empty());
        assert_eq!(limit(Some(l.position)), Some(l));
    }
}

/// What differs in the heater alone has the same pins; what needs another base has another.
#[test]
fn likeness_and_sockets_agree() {
    for a in alike() {
        let (Some(x), Some(y)) = (socket::valve(&a.old), socket::valve(&a.other)) else { continue };
        let same = x.base.base == y.base.base;
        match a.how {
            Likeness::Base => assert!(!same, "{} and {} have one base", a.old, a.other),
            Likeness::Never => {}
            Likeness::Heater | Likeness::Characteristics => {
                assert!(same, "{} and {} have two bases", a.old, a.other);
            }
        }
    }
    let wires = adapter("6V6", "6AQ5").unwrap();
    let of = |role: &str| wires.iter().filter(|w| w.role.contains(role)).count();
    assert!(of("plate") >= 1 && of("cathode") >= 1 && of("heater") == 2);
    assert_eq!(adapter("6V6", "12AX7"), None, "a pentode's screen has nowhere to go");
    assert!(between("6V6GT", "EL90").is_some(), "under any of their names");
}

/// A valve's own sentences, and those that are about what hangs on it.
#[test]
fn a_valve_is_meant_where_nothing_else_is() {
    let tray = Tray {
        parts: vec![Known { name: "R5".to_owned(), has_mark: true, ..Known::default() }],
        selected: Some("R5".to_owned()),
        ..Tray::default()
    };
    let of = |said: &str| understand(said, &tray).map(|u| (u.name, u.kind)).unwrap();
    assert_eq!(of("V2 6K7 emission 80%"), ("V2".to_owned(), PartKind::Valve));
    assert_eq!(of("V2 6K7 heater open"), ("V2".to_owned(), PartKind::Valve));
    assert_eq!(of("V2 cathode").0, "R5", "where the selected part sits");
    let said = understand("V3 EF89 IF amp gm 2.1 hk 400k gas .5uA", &tray).unwrap();
    assert_eq!(said.said.position, Some(Position::IfStage));
    let read: Vec<(ReadQuantity, Option<f64>)> =
        said.measured.iter().map(|m| (m.quantity, m.value_si)).collect();
    assert_eq!(read.len(), 3, "{read:?}");
    assert!(read.contains(&(ReadQuantity::HeaterCathode, Some(400e3))), "{read:?}");
    // What the chart knows need not be said again.
    let chart = ChartValve { at: "V4".to_owned(), type_number: "ECC83".to_owned() };
    let told = understand("V4 emission 80%", &Tray { valves: vec![chart], ..tray.clone() }).unwrap();
    assert!(told.in_words.contains("ECC83") && told.measured.len() == 1, "{}", told.in_words);
    assert!(understand("V4 emission 80%", &tray).unwrap_err().to_string().contains("valve"));
}
