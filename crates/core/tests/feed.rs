//! The guilty part in a direct-current feed.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use crate::feeds::{capacitor, feed, load, measured, resistor, volts};
use owl_core::feed::search::{Findings, Question, diagnose};
use owl_core::feed::{Fault, Feed, FeedError, FeedPart, loads, says, sentence};
use owl_core::quantity::{Ohm, Volt};
use proptest::prelude::*;

fn ask(feed: &Feed, read: &[(&str, f64)]) -> Findings {
    diagnose(&Question { feed, measured: &measured(read), meter: None }).unwrap()
}

/// The names of the suspects that explain the readings as well as the best one.
fn even<'a>(feed: &'a Feed, f: &Findings) -> Vec<&'a str> {
    let best = f.suspects.first().map(|s| s.explains);
    f.suspects
        .iter()
        .filter(|s| Some(s.explains) == best)
        .map(|s| feed.parts()[s.part].name.as_str())
        .collect()
}

/// A rail through two resistors to two stages: names as on no sheet of the demo.
fn two_stages() -> Feed {
    feed(
        240.0,
        vec![
            resistor("R1", "rail", "a", 4700.0),
            capacitor("C1", "a", "ground"),
            load("V1", "a", "ground", 6e-3),
            resistor("R2", "a", "b", 33e3),
            capacitor("C2", "b", "ground"),
            load("V2", "b", "ground", 1.5e-3),
        ],
    )
}

/// Common practice, no source: full volts on one side and none on the other is an open resistor.
#[test]
fn full_on_one_side_and_nothing_on_the_other_is_an_open_resistor() {
    let f = two_stages();
    let found = ask(&f, &[("a", 211.8), ("b", 0.0)]);
    assert_eq!(f.parts()[found.suspects[0].part].name, "R2");
    assert_eq!(found.suspects[0].fault, Fault::Open);
    assert_eq!(even(&f, &found), ["R2"]);
    assert!(found.suspects[0].explains.fraction() > 0.9, "{found:?}");
}

/// Common practice, no source: a resistor that cooks twice has a leaking decoupler behind it.
#[test]
fn a_low_node_behind_a_hot_resistor_is_a_leak_and_says_what_it_cooks() {
    let f = two_stages();
    // 15 kΩ across C2, by hand: b sits between 33 kΩ from a and 15 kΩ with 1.5 mA.
    let truth = f_with_leak(15e3);
    let (a, b) = (volts(&truth, "a"), volts(&truth, "b"));
    let found = ask(&f, &[("a", a), ("b", b)]);
    let c2 = found.suspects.iter().find(|s| f.parts()[s.part].name == "C2").unwrap();
    let Fault::Leaking(r) = c2.fault else { panic!("{c2:?}") };
    assert!((r.ohms() / 15e3 - 1.0).abs() < 0.02, "{r}");
    assert!(even(&f, &found).contains(&"C2"), "{found:?}");
    assert!(
        c2.overloads
            .iter()
            .any(|o| f.parts()[o.part].name == "R2" && o.power.watts() > 2.0 * o.healthy.watts())
    );
}

fn f_with_leak(ohms: f64) -> Feed {
    let mut parts: Vec<FeedPart> = two_stages().parts().to_vec();
    parts.push(resistor("leak", "b", "ground", ohms));
    feed(240.0, parts)
}

/// Rules.md, R10: behind a stiff rail these cannot be told apart, and both are named.
#[test]
fn what_the_volts_cannot_tell_is_said_and_both_are_named() {
    let f = feed(
        180.0,
        vec![
            resistor("R1", "rail", "a", 2200.0),
            capacitor("C1", "a", "ground"),
            load("V1", "a", "ground", 8e-3),
        ],
    );
    let dead = ask(&f, &[("a", 0.0)]);
    assert_eq!(dead.suspects[0].explains, dead.suspects[1].explains);
    let mut named = even(&f, &dead);
    named.sort_unstable();
    assert_eq!(named, ["C1", "R1"], "{dead:?}");
    assert_eq!(dead.cannot_separate.len(), 1);
    assert!(dead.separate_by.unwrap().contains("volts cannot tell"));
    let low = ask(&f, &[("a", 95.0)]);
    let mut named = even(&f, &low);
    named.sort_unstable();
    assert_eq!(named, ["C1", "R1"], "{low:?}");
    let drifted = low.suspects.iter().find(|s| matches!(s.fault, Fault::Drifted(_))).unwrap();
    let Fault::Drifted(k) = drifted.fault else { panic!() };
    assert!((k.fraction() - 85.0 / (8e-3 * 2200.0)).abs() < 0.01, "{k}: by Ohm's law, 85 V at 8 mA");
}

#[test]
fn good_parts_within_their_tolerance_are_not_suspected() {
    let f = two_stages();
    let (a, b) = (volts(&f, "a"), volts(&f, "b"));
    assert!(ask(&f, &[("a", a), ("b", b)]).agrees);
    let near = ask(&f, &[("a", a - 2.0), ("b", b - 6.0)]);
    assert!(near.agrees && near.suspects.is_empty(), "{near:?}");
    assert!(!ask(&f, &[("a", a), ("b", b - 45.0)]).agrees);
}

#[test]
fn two_faults_are_named_where_no_single_one_explains() {
    let mut parts = two_stages().parts().to_vec();
    parts.extend([
        resistor("R3", "a", "c", 22e3),
        capacitor("C3", "c", "ground"),
        load("V3", "c", "ground", 2e-3),
    ]);
    let f = feed(240.0, parts.clone());
    // R2 open and C3 leaking 12 kΩ at once.
    parts.push(resistor("leak", "c", "ground", 12e3));
    parts.retain(|p| p.name != "R2");
    let truth = feed(240.0, parts);
    let read = [("a", volts(&truth, "a")), ("b", 0.0), ("c", volts(&truth, "c"))];
    let found = ask(&f, &read);
    let best = found.doubles.first().expect("no single fault gives this");
    let mut names: Vec<&str> = best.faults.iter().map(|x| f.parts()[x.0].name.as_str()).collect();
    names.sort_unstable();
    assert_eq!(names, ["C3", "R2"], "{:?}", found.doubles);
}

#[test]
fn a_load_never_pulls_its_node_below_nothing_on_either_side_of_zero() {
    for rail in [150.0, -150.0] {
        let f = feed(rail, vec![resistor("R1", "rail", "a", 1e6), load("V1", "a", "ground", 5e-3)]);
        let v = volts(&f, "a");
        assert!(v.abs() < 0.01, "{rail}: {v}");
        let small = feed(rail, vec![resistor("R1", "rail", "a", 1e4), load("V1", "a", "ground", 5e-3)]);
        assert!((volts(&small, "a") - rail * (1.0 - 50.0 / 150.0)).abs() < 1e-6, "{rail}");
    }
}

#[test]
fn the_meter_that_loads_is_reckoned_with() {
    // 2.2 MΩ behind 10 MΩ of the meter: 100 V look like 82 V, and that is no fault.
    let f = feed(100.0, vec![resistor("R1", "rail", "a", 2.2e6), capacitor("C1", "a", "ground")]);
    let read = measured(&[("a", 100.0 * 10.0 / 12.2)]);
    let by = |meter| diagnose(&Question { feed: &f, measured: &read, meter }).unwrap();
    assert!(by(Ohm::new(1e7).ok()).agrees);
    assert!(!by(None).agrees);
}

#[test]
fn a_feed_that_is_none_is_refused_in_words() {
    let new = |parts| Feed::new(Volt::new(200.0).unwrap(), "ground", parts);
    assert_eq!(new(vec![]), Err(FeedError::Empty));
    assert_eq!(
        Feed::new(Volt::ZERO, "ground", vec![resistor("R1", "rail", "a", 1.0)]),
        Err(FeedError::NoRail)
    );
    let looped = new(vec![resistor("R1", "a", "a", 1.0)]).unwrap_err();
    assert_eq!(looped.part(), Some(0));
    let twice = new(vec![resistor("R1", "rail", "a", 1.0), resistor("R1", "a", "b", 1.0)]).unwrap_err();
    assert_eq!(twice.part(), Some(1));
    assert_eq!(new(vec![resistor("R1", "a", "ground", 1.0)]), Err(FeedError::NothingOnRail));
    let f = two_stages();
    let q = |read: &[(&str, f64)]| diagnose(&Question { feed: &f, measured: &measured(read), meter: None });
    assert_eq!(q(&[]), Err(FeedError::NothingMeasured));
    assert!(q(&[("x", 3.0)]).unwrap_err().to_string().contains("'x'; there are 'a', 'b'"));
}

#[test]
fn a_load_is_taken_from_the_sheets_volts() {
    let parts = two_stages().parts().to_vec();
    let sheet = measured(&[("a", 200.0), ("b", 150.0)]);
    let of = |i, unknown: &[usize]| {
        loads::from_sheet(&parts, unknown, i, Volt::new(240.0).unwrap(), "ground", &sheet)
    };
    // 50 V over 33 kΩ go to V2; 40 V over 4.7 kΩ less that to V1. Kirchhoff's current law.
    assert!((of(5, &[2, 5]).unwrap().amperes() - 50.0 / 33e3).abs() < 1e-12);
    assert!((of(2, &[2, 5]).unwrap().amperes() - (40.0 / 4700.0 - 50.0 / 33e3)).abs() < 1e-12);
    let feeding = measured(&[("a", 200.0), ("b", 260.0)]);
    let wrong = loads::from_sheet(&parts, &[5], 5, Volt::new(240.0).unwrap(), "ground", &feeding);
    assert!(matches!(wrong, Err(FeedError::LoadFeeds { .. })));
    let missing =
        loads::from_sheet(&parts, &[5], 5, Volt::new(240.0).unwrap(), "ground", &measured(&[("b", 9.0)]));
    assert!(missing.unwrap_err().to_string().contains("a is missing"));
}

/// Three digits, as a meter that sets its own range.
fn shown(volts: f64) -> f64 {
    format!("{volts:.2e}").parse().unwrap()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Whatever single fault a ladder of good parts has, it stands among those that explain the readings best.
    #[test]
    fn the_fault_that_is_there_is_never_ranked_below_one_that_is_not(
        r in proptest::collection::vec(1e3..1e5f64, 2..6),
        draw in 0.1..0.6f64,
        which in 0usize..100, how in 0usize..3, size in 1.8..8.0f64,
    ) {
        let mut parts = Vec::new();
        let rail = 250.0;
        let total: f64 = r.iter().sum();
        for (i, ohms) in r.iter().enumerate() {
            let from = if i == 0 { "rail".to_owned() } else { format!("n{}", i - 1) };
            let to = format!("n{i}");
            parts.push(resistor(&format!("R{i}"), &from, &to, *ohms));
            parts.push(capacitor(&format!("C{i}"), &to, "ground"));
            // Together the loads take a share of the rail, so that no node is starved while all is well.
            parts.push(load(&format!("V{i}"), &to, "ground", draw * rail / total / r.len() as f64));
        }
        let good = feed(rail, parts.clone());
        let at = which % r.len();
        let (name, broken) = match how {
            0 => (format!("R{at}"), None),
            1 => (format!("R{at}"), Some(size)),
            _ => (format!("C{at}"), Some(r[at] / size)),
        };
        let mut bad = parts;
        match (how, broken) {
            (0, _) => bad.retain(|p| p.name != name),
            (1, Some(k)) => { let i = at * 3; bad[i] = resistor(&name, &bad[i].a.clone(), &bad[i].b.clone(), k * r[at]); }
            (_, Some(leak)) => bad.push(resistor("leak", &format!("n{at}"), "ground", leak)),
            (_, None) => unreachable!(),
        }
        if at == 0 && how == 0 { bad.push(resistor("far", "rail", "nowhere", 1.0)); }
        let truth = feed(rail, bad);
        let read: Vec<(String, Volt)> = (0..r.len())
            .map(|i| format!("n{i}"))
            .map(|n| { let v = truth.healthy().volts(&n).map_or(0.0, Volt::volts); (n, Volt::new(shown(v)).unwrap()) })
            .collect();
        // A load on its last tenths of a volt draws as the model has it, and no valve knows the model.
        prop_assume!(read.iter().all(|(_, v)| v.volts() == 0.0 || v.volts() > 0.002 * rail));
        let found = diagnose(&Question { feed: &good, measured: &read, meter: None }).unwrap();
        prop_assert!(found.agrees || even(&good, &found).contains(&name.as_str()),
            "{name} {broken:?} {read:?}: {:?}", found.suspects.iter().map(|s| (good.parts()[s.part].name.clone(), s.fault, s.explains.fraction())).collect::<Vec<_>>());
    }
}

#[test]
fn a_feed_is_told_a_part_a_line() {
    let known = ["V3 pin 5".to_owned(), "screen".to_owned()];
    let said = |line: &str| sentence::told(line, &known).map(|t| sentence::written(&t.part, t.valued));
    for (typed, means) in [
        ("R9 rail screen 3k3", "R9 from rail to screen 3.3kΩ"),
        ("R9 from B+ to Screen 3k3 10% 1W", "R9 from rail to screen 3.3kΩ 10% 1W"),
        ("C21 screen .1", "C21 from screen to ground 100nF"),
        ("C21 screen gnd", "C21 from screen to ground"),
        ("V3 V3 pin 5 4mA", "V3 from V3 pin 5 to ground 4mA"),
        ("V3 v3 pin 5", "V3 from V3 pin 5 to ground"),
        ("R4 screen V3 pin 5 22k", "R4 from screen to V3 pin 5 22kΩ"),
        ("X1 screen 47k", "X1 from screen to ground 47kΩ"),
        ("L2 rail - output plate 190", "L2 from rail to output plate 190Ω"),
    ] {
        assert_eq!(said(typed).as_deref(), Ok(means), "{typed}");
        assert_eq!(said(means).as_deref(), Ok(means), "as it is written");
    }
    for (typed, words) in [
        ("", "begin with"),
        ("R9", "say where R9 goes"),
        ("R9 rail screen", "say the value"),
        ("Z9 rail screen 5k", "does not say what it is"),
        ("R9 out of the blue 5k", "from … to …"),
        ("R9 rail screen 0", "above zero"),
    ] {
        assert!(said(typed).unwrap_err().to_string().contains(words), "{typed}: {:?}", said(typed));
    }
}

/// Common practice, no source: a corroded joint is a suspect like any part, by whatever resistance it has; two points of one
/// net must agree.
#[test]
fn a_corroded_joint_is_found_by_the_volts_on_its_two_sides() {
    let told = |line: &str| sentence::told(line, &[]).unwrap().part;
    let lines = [
        "R11 from rail to collector 1k2 5%",
        "J3 from collector to behind",
        "C8 from behind to ground 10u",
        "Q2 from behind to ground 1.8mA",
        "S1 from behind to far",
        "R12 from far to ground 22k 5%",
    ];
    let f = Feed::new(Volt::new(9.2).unwrap(), "ground", lines.map(told).to_vec()).unwrap();
    // Good contacts make one net of their two sides.
    let good = f.healthy();
    let at = |s: &owl_core::feed::Solved<'_>, n: &str| s.volts(n).unwrap().volts();
    assert!((at(&good, "collector") - at(&good, "behind")).abs() < 1e-3);
    assert!(
        ask(&f, &[("collector", at(&good, "collector")), ("behind", at(&good, "behind"))])
            .suspects
            .is_empty()
    );
    for (ohms, name) in [(2200.0, "J3"), (700.0, "J3"), (9000.0, "S1")] {
        let sick = lines.map(|l| {
            if l.starts_with(name) {
                l.replacen(name, "R99", 1) + &format!(" {ohms}ohm")
            } else {
                l.to_owned()
            }
        });
        let truth = Feed::new(Volt::new(9.2).unwrap(), "ground", sick.map(|l| told(&l)).to_vec()).unwrap();
        let read: Vec<(&str, f64)> =
            ["collector", "behind", "far"].map(|n| (n, at(&truth.healthy(), n))).to_vec();
        let found = ask(&f, &read);
        let first = &found.suspects[0];
        assert_eq!(f.parts()[first.part].name, name, "{ohms}: {found:?}");
        let Fault::Risen(r) = first.fault else { panic!("{:?}", first.fault) };
        assert!((r.ohms() / ohms - 1.0).abs() < 0.1, "{r} for {ohms}");
    }
    // Open it is open, and a contact has no value.
    let open = ask(&f, &[("collector", 9.2), ("behind", 0.0), ("far", 0.0)]);
    assert_eq!((f.parts()[open.suspects[0].part].name.as_str(), open.suspects[0].fault), ("J3", Fault::Open));
    assert_eq!(sentence::written(&told("W2 from a to b"), false), "W2 from a to b");
    assert!(sentence::told("W2 from a", &[]).is_ok(), "to ground");
}

/// Ohm's law by hand: 1.5 mA through 33 kΩ and 7.5 mA through 4.7 kΩ should leave 155 V at `b`; at 4 mA 61 V are left.
#[test]
fn a_load_that_draws_too_much_is_a_suspect_with_its_current() {
    let mut parts = two_stages().parts().to_vec();
    parts.retain(|p| p.name != "V2" && p.name != "C2");
    parts.push(load("V2", "b", "ground", 1.5e-3));
    let f = feed(240.0, parts.clone());
    parts.retain(|p| p.name != "V2");
    parts.push(load("V2", "b", "ground", 4e-3));
    let truth = feed(240.0, parts);
    let (a, b) = (volts(&truth, "a"), volts(&truth, "b"));
    let found = ask(&f, &[("a", a), ("b", b)]);
    let v2 = found.suspects.iter().find(|s| f.parts()[s.part].name == "V2").expect("V2 is suspected");
    assert!(v2.says(&f).contains("V2 drawing 4 mA, 2.7 times what it should"), "{}", v2.says(&f));
    let (state, truth) = (v2.state(&f), truth.healthy());
    for n in ["a", "b"] {
        assert!(
            (state.volts(n).unwrap().volts() / truth.volts(n).unwrap().volts() - 1.0).abs() < 0.01,
            "{n}"
        );
    }
    // Beside a capacitor that may leak it stands behind.
    let beside = two_stages();
    let found = ask(&beside, &[("a", a), ("b", b)]);
    let at = |name: &str| found.suspects.iter().position(|s| beside.parts()[s.part].name == name);
    assert!(at("C2") < at("V2") && at("V2").is_some(), "{found:?}");
    // One that draws less is no such suspect.
    let less = ask(&f, &[("a", a + 8.0), ("b", 219.0)]);
    assert!(less.suspects.iter().all(|s| !matches!(s.fault, Fault::Overdrawing(_))), "{less:?}");
}

fn read(of: &[(&str, f64)]) -> Vec<(String, Ohm)> {
    of.iter().map(|(n, r)| ((*n).to_owned(), Ohm::computed(*r))).collect()
}

/// Common practice, no source: what was measured with an end free is known, and the rest is reckoned with it.
#[test]
fn what_was_read_by_itself_counts_as_read_and_is_no_suspect() {
    let f = two_stages();
    let mut parts = f.parts().to_vec();
    parts[3] = resistor("R2", "a", "b", 52e3);
    let truth = feed(240.0, parts.clone());
    let at = [("a", volts(&truth, "a")), ("b", volts(&truth, "b"))];
    let known = two_stages().with_read(&read(&[("R2", 51.8e3)]));
    let found = ask(&known, &at);
    assert!(found.agrees, "{found:?}");
    assert_eq!(known.read_off().len(), 1);
    let said = says(&known, &found, 2);
    assert!(said.starts_with("R2 reads 51.8 kΩ for 33 kΩ: with that these readings are explained"), "{said}");
    // What a healthy branch shows is still by the sheet.
    let b = found.expected.iter().find(|(n, _)| n == "b").unwrap().1;
    assert!((b.volts() - volts(&f, "b")).abs() < 1e-9);
    // Read right, it is out of the question, and what leaks beside it is left.
    let leak = f_with_leak(15e3);
    let at = [("a", volts(&leak, "a")), ("b", volts(&leak, "b"))];
    let found = ask(&two_stages().with_read(&read(&[("R2", 33.2e3), ("R1", 4710.0)])), &at);
    assert!(
        found.suspects.iter().all(|s| !["R1", "R2"].contains(&f.parts()[s.part].name.as_str())),
        "{found:?}"
    );
    assert_eq!(f.parts()[found.suspects[0].part].name, "C2");
    // A capacitor leaks more at work than at a meter: it is suspected whatever it read.
    let passed = ask(&two_stages().with_read(&read(&[("C2", 600e3)])), &at);
    assert_eq!(f.parts()[passed.suspects[0].part].name, "C2", "{passed:?}");
    // Two at once: what was read is said first.
    let both = two_stages().with_read(&read(&[("R1", 9e3)]));
    assert!(says(&both, &ask(&both, &at), 2).starts_with("R1 reads 9 kΩ for 4.7 kΩ, and that is not all."));
}

/// One valve under one name draws at its plate and at its screen; what stands twice on one node stays as it is.
#[test]
fn one_valve_is_a_load_at_each_of_its_nodes() {
    let lines =
        ["V5 plate 21mA", "V5 V5 screen 2mA", "V6 plate 9mA", "X1 bleed 1mA", "R1 from rail to plate 1k"];
    let known = ["plate", "V5 screen", "bleed"].map(str::to_owned);
    let mut all: Vec<_> = lines.iter().map(|l| sentence::told(l, &known).unwrap()).collect();
    sentence::named_apart(&mut all);
    let names: Vec<&str> = all.iter().map(|t| t.part.name.as_str()).collect();
    assert_eq!(names, ["V5-plate", "V5-screen", "V6", "X1", "R1"]);
    // Told again it stays what it is.
    let again: Vec<_> =
        all.iter().map(|t| sentence::told(&sentence::written(&t.part, t.valued), &known).unwrap()).collect();
    assert_eq!(again, all);
    let mut twice: Vec<_> =
        ["V5 plate 2mA", "V5 plate 3mA"].iter().map(|l| sentence::told(l, &known).unwrap()).collect();
    sentence::named_apart(&mut twice);
    assert!(twice.iter().all(|t| t.part.name == "V5"), "no meaning is guessed");
}

/// What hangs on another rail is found there: its feed open, the rail itself low.
#[test]
fn other_rails_reach_into_a_feed() {
    let parts = || {
        vec![
            resistor("R1", "rail", "plate", 22e3),
            load("V1-plate", "plate", "ground", 4e-3),
            resistor("R2", "HT 2", "screen", 68e3),
            load("V1-screen", "screen", "ground", 1e-3),
        ]
    };
    let others = [("HT 2".to_owned(), Volt::new(180.0).unwrap())];
    let f = Feed::on_rails(Volt::new(250.0).unwrap(), &others, "ground", parts()).unwrap();
    // Ohm's law: 250 − 22 k × 4 mA, 180 − 68 k × 1 mA.
    assert!((volts(&f, "plate") - 162.0).abs() < 1e-4 && (volts(&f, "screen") - 112.0).abs() < 1e-4);
    assert_eq!((volts(&f, "HT 2"), f.is_rail("HT 2"), f.is_rail("plate")), (180.0, true, false));
    let open = ask(&f, &[("plate", 162.0), ("screen", 0.0)]);
    assert_eq!((even(&f, &open), open.suspects[0].fault), (vec!["R2"], Fault::Open));
    // With the rail as it was read, nothing in the branch is guilty.
    let low = ask(&f, &[("HT 2", 140.0), ("plate", 162.0), ("screen", 72.0)]);
    assert!(low.agrees, "{low:?}");
    let only = diagnose(&Question { feed: &f, measured: &measured(&[("HT 2", 140.0)]), meter: None });
    assert!(matches!(only, Err(FeedError::NothingMeasured)), "a rail is no reading of the branch");
}
