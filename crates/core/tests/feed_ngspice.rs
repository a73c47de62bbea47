//! The nodal solution of twelve feeds, asked of a general-purpose circuit simulator: ngspice 39, operating point.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::feeds::{capacitor, feed, load, resistor};
use crate::ngspice::{installed, operating_point};
use owl_core::feed::{Element, Feed, FeedPart, netlist};
use owl_core::quantity::{Ohm, Volt};

fn ladder(rail: f64, steps: &[(f64, f64)]) -> Feed {
    let mut parts = Vec::new();
    for (i, (ohms, amperes)) in steps.iter().enumerate() {
        let from = if i == 0 { "rail".to_owned() } else { format!("n{}", i - 1) };
        let to = format!("n{i}");
        parts.push(resistor(&format!("R{i}"), &from, &to, *ohms));
        parts.push(capacitor(&format!("C{i}"), &to, "ground"));
        parts.push(load(&format!("V{i}"), &to, "ground", *amperes));
    }
    feed(rail, parts)
}

fn star(rail: f64, common: f64, arms: &[(f64, f64)]) -> Feed {
    let mut parts = vec![resistor("RC", "rail", "hub", common)];
    for (i, (ohms, bleeder)) in arms.iter().enumerate() {
        let to = format!("arm {i}");
        parts.push(resistor(&format!("R{i}"), "hub", &to, *ohms));
        parts.push(FeedPart {
            element: Element::Resistance(Ohm::new(*bleeder).unwrap()),
            ..load(&format!("V{i}"), &to, "ground", 0.0)
        });
    }
    feed(rail, parts)
}

fn bridge(rail: f64, r: [f64; 5]) -> Feed {
    let [a, b, c, d, e] = r;
    feed(
        rail,
        vec![
            resistor("R1", "rail", "left", a),
            resistor("R2", "left", "ground", b),
            resistor("R3", "rail", "right", c),
            resistor("R4", "right", "ground", d),
            resistor("R5", "left", "right", e),
        ],
    )
}

/// A stage whose plate hangs on one rail and its screen on another, with a resistor between.
fn two_rails(rail: f64, other: f64) -> Feed {
    let parts = vec![
        resistor("R1", "rail", "plate", 22e3),
        load("V1-plate", "plate", "ground", 3e-3),
        resistor("R2", "HT 2", "screen", 68e3),
        resistor("R3", "plate", "screen", 220e3),
        capacitor("C1", "screen", "ground"),
    ];
    let others = [("HT 2".to_owned(), Volt::new(other).unwrap())];
    Feed::on_rails(Volt::new(rail).unwrap(), &others, "ground", parts).unwrap()
}

#[test]
fn twelve_feeds_are_solved_as_the_simulator_solves_them() {
    if !installed() {
        return;
    }
    let feeds = [
        ladder(260.0, &[(3900.0, 9e-3), (27e3, 1.1e-3)]),
        ladder(310.0, &[(1500.0, 22e-3), (10e3, 4e-3), (82e3, 0.6e-3)]),
        ladder(185.0, &[(680.0, 31e-3), (2200.0, 7e-3), (4700.0, 3e-3), (47e3, 0.8e-3)]),
        ladder(-42.0, &[(8200.0, 0.5e-3), (100e3, 40e-6)]),
        ladder(90.0, &[(1e6, 20e-6), (2.2e6, 5e-6)]),
        star(275.0, 2700.0, &[(33e3, 120e3), (56e3, 310e3), (15e3, 68e3)]),
        star(140.0, 390.0, &[(12e3, 47e3), (12e3, 51e3)]),
        star(-65.0, 1200.0, &[(22e3, 18e3), (3300.0, 9100.0), (150e3, 1e6), (68e3, 220e3)]),
        bridge(210.0, [12e3, 39e3, 18e3, 27e3, 100e3]),
        bridge(24.0, [470.0, 1800.0, 330.0, 5600.0, 91.0]),
        two_rails(265.0, 118.0),
        two_rails(140.0, -31.0),
    ];
    for (i, f) in feeds.iter().enumerate() {
        let said = netlist(f, "a feed");
        let body: String =
            said.text.lines().filter(|l| !l.starts_with(['*', '.'])).map(|l| format!("{l}\n")).collect();
        let wanted: Vec<String> = f.nodes().iter().map(|n| format!("v({})", said.node(n).unwrap())).collect();
        let wanted: Vec<&str> = wanted.iter().map(String::as_str).collect();
        let theirs = operating_point(&format!("feed{i}"), &body, &wanted);
        for (node, theirs) in f.nodes().iter().zip(theirs) {
            let ours = f.healthy().volts(node).unwrap().volts();
            assert!(
                (ours - theirs).abs() <= 1e-5 * theirs.abs() + 1e-6,
                "feed {i}, {node}: {ours} and {theirs}"
            );
        }
    }
}

/// What is written as it stands, title and `.end` among it, is read by ngspice without a word of ours.
#[test]
fn the_netlist_of_a_feed_runs_as_it_is_written() {
    if !installed() {
        return;
    }
    let f = feed(
        230.0,
        vec![
            resistor("R 4", "rail", "screen of V2", 27e3),
            capacitor("C*9", "screen of V2", "ground"),
            load("V2; .end", "screen of V2", "ground", 2e-3),
        ],
    );
    let said = netlist(&f, "Lamp room receiver\n.include /etc/passwd");
    assert_eq!(said.text.lines().filter(|l| l.starts_with('.')).collect::<Vec<_>>(), [".op", ".end"]);
    let file = std::path::PathBuf::from(env!("CARGO_TARGET_TMPDIR")).join("written.cir");
    std::fs::write(&file, &said.text).unwrap();
    let out = std::process::Command::new("ngspice").arg("-b").arg(&file).output().unwrap();
    let all = String::from_utf8_lossy(&out.stdout).into_owned();
    let node = said.node("screen of V2").unwrap();
    let line = all
        .lines()
        .find(|l| l.trim_start().to_lowercase().starts_with(node))
        .unwrap_or_else(|| panic!("{all}"));
    let volts: f64 = line.split_whitespace().last().unwrap().parse().unwrap();
    assert!((volts - (230.0 - 27e3 * 2e-3)).abs() < 1e-3, "{line}");
}
