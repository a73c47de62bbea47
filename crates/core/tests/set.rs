//! What is known of a set as a whole: which part takes over what, and what cannot both hold. Common practice, no source,
//! where nothing else is said.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::part::{Circuit, Fact, PartKind, Position};
use owl_core::quantity::{Ampere, Ohm, Volt, Watt};
use owl_core::set::contradiction::{KnownSet, contradictions};
use owl_core::set::{Devices, Heaters, PowerSource, Rail, SetClass, SetFacts};
use owl_core::stored::Stored;
use owl_core::supply::barretter::Barretter;
use owl_core::supply::heater::{Ballast, Member, settled};
use owl_core::tray::installed::installed;
use owl_core::tray::{Id, Tray, TrayPart};

fn volt(v: f64) -> Volt {
    Volt::new(v).unwrap()
}

fn facts(shared: &[(Fact, f64)], rails: &[(&str, f64)]) -> SetFacts {
    with_heaters(shared, rails, Heaters::default())
}

fn with_heaters(shared: &[(Fact, f64)], rails: &[(&str, f64)], heaters: Heaters) -> SetFacts {
    let mut circuit = Circuit::default();
    for (fact, v) in shared {
        circuit.set_si(*fact, *v).unwrap();
    }
    let rails = rails.iter().map(|(name, v)| Rail { name: (*name).to_owned(), volts: volt(*v) }).collect();
    SetFacts::new(&circuit, None, rails, heaters)
}

fn heater(name: &str, volts: f64, amperes: f64) -> Member {
    Member { name: name.to_owned(), volts: volt(volts), current: Ampere::new(amperes).unwrap(), lamp: false }
}

fn in_place(set: &SetFacts, kind: PartKind, position: Option<Position>, own: &[(Fact, f64)]) -> Circuit {
    let mut part = TrayPart { position, ..TrayPart::new(Id(1), "X1", kind) };
    for (fact, v) in own {
        part.said.set_si(*fact, *v).unwrap();
    }
    let tray = Tray::new(vec![part], vec![]).in_set(set.clone(), Volt::new(225.0).ok());
    installed(&tray, &tray.parts()[0]).circuit
}

#[test]
fn a_part_takes_over_what_counts_for_it() {
    let set = facts(
        &[(Fact::Secondary, 245.0), (Fact::LoadCurrent, 0.061), (Fact::Voltage, 90.0)],
        &[("HT", 255.0)],
    );
    assert_eq!(set.shared().get_si(Fact::Voltage), None, "volts across one part are no fact of the set");
    let reservoir = in_place(&set, PartKind::Capacitor, Some(Position::Reservoir), &[]);
    let of = |c: &Circuit, f| c.get_si(f);
    assert_eq!(of(&reservoir, Fact::Secondary), Some(245.0));
    assert_eq!(of(&reservoir, Fact::LoadCurrent), Some(0.061));
    assert_eq!(of(&reservoir, Fact::Rail), Some(255.0));
    assert_eq!(
        of(&reservoir, Fact::Line),
        Some(225.0),
        "for which it is made, while nobody has said the line now"
    );
    // What a stage draws is its own, and no rail stands at a cathode, on the line's side or in a place nobody named.
    let stage = in_place(&set, PartKind::Transistor, Some(Position::Driver), &[]);
    assert_eq!((of(&stage, Fact::LoadCurrent), of(&stage, Fact::Rail)), (None, Some(255.0)));
    for at in [Some(Position::CathodeBypass), Some(Position::AcrossTheLine), Some(Position::Avc), None] {
        assert_eq!(of(&in_place(&set, PartKind::Capacitor, at, &[]), Fact::Rail), None, "{at:?}");
    }
    // What is said of the part itself wins.
    let bias = in_place(&set, PartKind::Diode, Some(Position::Rectifier), &[(Fact::Secondary, 48.0)]);
    assert_eq!(of(&bias, Fact::Secondary), Some(48.0));
    // Which of two rails a part hangs on is its own to say; the line now stands before the one it is made for.
    let two = facts(&[(Fact::Line, 238.0)], &[("HT 1", 255.0), ("HT 2", 190.0)]);
    let load = in_place(&two, PartKind::Resistor, Some(Position::PlateLoad), &[]);
    assert_eq!((of(&load, Fact::Rail), of(&load, Fact::Line)), (None, Some(238.0)));
    // Volts of a battery are no line: nothing is called safe to touch by them.
    assert_eq!(of(&two.around(PartKind::Capacitor, None, Volt::new(9.0).ok()), Fact::Line), Some(238.0));
    let portable =
        facts(&[], &[]).around(PartKind::Capacitor, Some(Position::LineToChassis), Volt::new(9.0).ok());
    assert_eq!(of(&portable, Fact::Line), None);
    // None behind the reservoir has more than it.
    let first = in_place(&two, PartKind::Capacitor, Some(Position::Reservoir), &[]);
    assert_eq!(of(&first, Fact::Rail), Some(255.0));
}

fn said(class: SetClass, rated: f64, watts: f64, facts: &SetFacts) -> Vec<String> {
    let (rated, watts) = (Volt::new(rated).ok(), Watt::new(watts).ok());
    contradictions(&KnownSet { class, rated, watts, facts })
}

#[test]
fn what_cannot_both_hold_is_named() {
    let valves = SetClass::of(PowerSource::Transformer, Devices::Valves);
    let live = SetClass { source: PowerSource::LiveChassis, ..valves };
    let battery = SetClass { source: PowerSource::Battery, ..valves };
    let good = facts(
        &[(Fact::Line, 228.0), (Fact::Frequency, 50.0), (Fact::Secondary, 245.0), (Fact::LoadCurrent, 0.061)],
        &[("HT 1", 268.0), ("HT 2", 231.0), ("bias", -14.0)],
    );
    assert_eq!(said(valves, 220.0, 48.0, &good), Vec::<String>::new());
    for (class, rated, watts, set, wanted) in [
        (valves, 127.0, 40.0, facts(&[(Fact::Line, 231.0)], &[]), "never straight in"),
        (valves, 220.0, 40.0, facts(&[(Fact::Line, 150.0)], &[]), "it will be weak"),
        (valves, 220.0, 40.0, facts(&[(Fact::Frequency, 5.0)], &[]), "no mains has 5 Hz"),
        (battery, 90.0, 2.0, facts(&[(Fact::Frequency, 50.0)], &[]), "runs on batteries only"),
        (
            valves,
            220.0,
            40.0,
            facts(&[(Fact::Secondary, 245.0)], &[("HT", 410.0)]),
            "cannot come out of 245 V AC",
        ),
        (live, 220.0, 40.0, facts(&[(Fact::Secondary, 280.0)], &[]), "has the line of 220 V itself"),
        (
            valves,
            220.0,
            14.0,
            facts(&[(Fact::LoadCurrent, 0.07)], &[("HT", 240.0)]),
            "the whole set draws 14 W",
        ),
        (valves, 220.0, 40.0, facts(&[], &[("HT", 240.0), ("ht", 190.0)]), "two rails are called ht"),
        (
            SetClass { highest: Volt::new(300.0).ok(), ..valves },
            220.0,
            40.0,
            facts(&[], &[("HT", 340.0)]),
            "more than the highest volts",
        ),
    ] {
        let all = said(class, rated, watts, &set);
        assert!(all.len() == 1 && all[0].contains(wanted), "{wanted}: {all:?}");
    }
}

/// A chain of 0.15 A: the dropper by Ohm's law carries it again, a wrong one does not.
#[test]
fn a_chain_with_its_ballast_settles_where_the_line_is_used_up() {
    let lamp = Member { lamp: true, ..heater("lamp", 6.3, 0.15) };
    let chain = [
        heater("V1", 12.6, 0.15),
        heater("V2", 12.6, 0.15),
        heater("V3", 35.0, 0.15),
        heater("V4", 45.0, 0.15),
        lamp,
    ];
    let all: f64 = chain.iter().map(|m| m.volts.volts()).sum();
    let ohms = |line: f64| Ohm::new((line - all) / 0.15).unwrap();
    let at = |line: f64, r| settled(volt(line), &chain, Ballast::Resistor(r)).unwrap();
    let right = at(220.0, ohms(220.0));
    assert!((right.current.amperes() - 0.15).abs() < 1e-6 && right.off().abs() < 1e-5);
    assert!((right.ballast_volts.volts() - (220.0 - all)).abs() < 1e-3);
    assert!(right.says(&chain).starts_with("the heaters are within 10 %"), "{}", right.says(&chain));
    // Whatever the ballast, the volts add up to the line.
    for (line, r) in [(110.0, 690.0), (220.0, 100.0), (240.0, 900.0), (125.0, 0.0)] {
        let s = at(line, Ohm::new(r).unwrap());
        let sum: f64 = s.volts.iter().map(|v| v.volts()).sum::<f64>() + s.current.amperes() * r;
        assert!((sum - line).abs() < 1e-3, "{line} {r}: {sum}");
    }
    // The switch at 220 on a line of 110: all glow dim, and that is said with the light of the lamp.
    let dim = at(110.0, ohms(220.0));
    assert!(dim.off() < -0.3 && dim.says(&chain).contains("all glow dim"), "{}", dim.says(&chain));
    assert!(dim.says(&chain).contains("lamp gives"));
    // The other way round something dies.
    let hot = at(220.0, ohms(120.0));
    assert!(hot.says(&chain).contains("does not last"), "{}", hot.says(&chain));
    // A barretter holds the current over its range, and no further.
    let holds: Barretter = "150 mA 60-140 V".parse().unwrap();
    let barretter = Ballast::Barretter(holds);
    for line in [180.0, 215.0, 245.0] {
        let s = settled(volt(line), &chain, barretter).unwrap();
        assert!((s.current.amperes() - 0.15).abs() < 1e-9, "{line}");
    }
    let dim = settled(volt(140.0), &chain, barretter).unwrap();
    assert!(dim.off() < -0.05 && dim.says(&chain).contains("below its range"), "{}", dim.says(&chain));
    assert!(settled(volt(320.0), &chain, barretter).unwrap().says(&chain).contains("above its range"));
    let wrong = settled(volt(215.0), &chain, Ballast::Barretter("0.2 10 215".parse().unwrap())).unwrap();
    assert!(wrong.says(&chain).contains("holds more than the chain wants"), "{}", wrong.says(&chain));
    // As data has it, and as it is typed.
    for text in ["0.15A 60-140V", "150mA, 60 to 140", "150 mA 60 V – 140 V", ".15 60…140", &holds.to_string()]
    {
        assert_eq!(text.parse(), Ok(holds), "{text}");
    }
    for text in ["", "0.15 A", "0.15 140-60", "lots 60-140", "0 60-140", "0.15 60-140 9"] {
        assert!(text.parse::<Barretter>().is_err(), "{text}");
    }

    let live = SetClass::of(PowerSource::LiveChassis, Devices::Valves);
    let with = |ballast, ballast_high| {
        with_heaters(
            &[(Fact::Line, 220.0)],
            &[],
            Heaters { members: chain.to_vec(), ballast, ballast_high, barretter: None },
        )
    };
    let wrong = said(live, 220.0, 40.0, &with(Some(ohms(127.0)), None));
    assert!(wrong.len() == 1 && wrong[0].contains("too much"), "{wrong:?}");
    assert!(
        said(live, 220.0, 40.0, &with(Some(ohms(127.0)), Some(ohms(220.0)))).is_empty(),
        "one position is right"
    );
}

#[test]
fn what_was_kept_of_a_set_is_read_again() {
    let heaters = Heaters {
        members: vec![heater("V3", 35.0, 0.15)],
        ballast: Ohm::new(390.0).ok(),
        ballast_high: None,
        barretter: "0.15 40-80".parse().ok(),
    };
    let set = with_heaters(&[(Fact::Line, 228.0)], &[("HT 1", 268.0)], heaters);
    let text = serde_json::to_string(&Stored(set.clone())).unwrap();
    assert_eq!(serde_json::from_str::<Stored<SetFacts>>(&text).unwrap().0, set);
    assert!(serde_json::from_str::<Stored<SetFacts>>("{}").unwrap().0 == SetFacts::default());
    assert!(serde_json::from_str::<SetFacts>(r#"{"shared": {"line": -5}}"#).is_err(), "no such line");
}
