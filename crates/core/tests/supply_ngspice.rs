//! Rectifiers with capacitor input, asked of a general-purpose circuit simulator: ngspice 39, transient analysis until
//! the rail is steady. Bounds: the average within 1 %, the ripple within 3 %.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::ngspice::{installed, operating_point, transient};
use owl_core::quantity::{Ampere, Farad, Hertz, Ohm, Volt};
use owl_core::supply::heater::{Ballast, Member, settled};
use owl_core::supply::rectifier::{Arrangement, Load, Supply};

/// A diode that follows the model's own law: blocks, or drops a fixed voltage; the drop is a source in series.
const IDEAL: &str = ".model d D(Is=1e-9 N=0.02)";
/// A silicon rectifier for one ampere as simulators model it (general-purpose parameters of 1N4004).
const SILICON: &str = ".model d D(Is=14.11n N=1.984 Rs=0.034)";

struct Case {
    name: &'static str,
    supply: Supply,
    model: &'static str,
    /// The volts in series with the simulator's diode: none where its model has them.
    in_series: f64,
}

fn supply(arrangement: Arrangement, line: f64, series: f64, micro: f64, load: Load) -> Supply {
    Supply {
        arrangement,
        line: Volt::new(line).unwrap(),
        frequency: Hertz::new(50.0).unwrap(),
        drop: Volt::new(0.8).unwrap(),
        resistance: Ohm::ZERO,
        source: Ohm::new(6.0).unwrap(),
        series: Ohm::new(series).unwrap(),
        capacitance: Farad::new(micro * 1e-6).unwrap(),
        load,
    }
}

fn netlist(case: &Case) -> String {
    let s = &case.supply;
    let crest = s.line.volts() * std::f64::consts::SQRT_2;
    let (f, drop, r) = (s.frequency.hertz(), case.in_series, s.resistance.ohms() + 1e-3);
    let path = s.source.ohms() + s.series.ohms();
    let load = match s.load {
        // Below a volt a real load draws nothing; the simulator's is faded out there.
        Load::Current(i) => format!("b1 out 0 i={}*min(1,max(0,v(out)))", i.amperes()),
        Load::Resistance(ohm) => format!("rl out 0 {}", ohm.ohms()),
    };
    let rectifier = match s.arrangement {
        Arrangement::HalfWave => {
            format!("v1 a 0 sin(0 {crest} {f})\nd1 a b d\nvd1 b b2 {drop}\nrd1 b2 k {r}")
        }
        Arrangement::FullWave => format!(
            "v1 a 0 sin(0 {crest} {f})\nv2 0 c sin(0 {crest} {f})\nd1 a b d\nvd1 b b2 {drop}\nrd1 b2 k {r}\n\
             d2 c e d\nvd2 e e2 {drop}\nrd2 e2 k {r}"
        ),
        Arrangement::Bridge => format!(
            "v1 a c sin(0 {crest} {f})\nra a 0 1e6\nrc c 0 1e6\nd1 a b d\nvd1 b b2 {drop}\nrd1 b2 k {r}\nd2 c e d\nvd2 e e2 {drop}\n\
             rd2 e2 k {r}\nd3 0 g d\nvd3 g g2 {drop}\nrd3 g2 a {r}\nd4 0 h d\nvd4 h h2 {drop}\nrd4 h2 c {r}"
        ),
    };
    format!(
        "{}\n{rectifier}\nrs k s {path}\nvm s out 0\nc1 out 0 {}\n{load}\n.options reltol=1e-4",
        case.model,
        s.capacitance.farads()
    )
}

#[test]
fn rails_ripple_and_currents_are_as_the_simulator_says() {
    if !installed() {
        return;
    }
    let ampere = |i: f64| Load::Current(Ampere::new(i).unwrap());
    let ohm = |r: f64| Load::Resistance(Ohm::new(r).unwrap());
    let ideal = |name, supply: Supply| Case { name, in_series: supply.drop.volts(), supply, model: IDEAL };
    use Arrangement::{Bridge, FullWave, HalfWave};
    let valve = Supply {
        drop: Volt::ZERO,
        resistance: Ohm::new(140.0).unwrap(),
        ..supply(FullWave, 260.0, 0.0, 16.0, ohm(4200.0))
    };
    let selenium = Supply {
        drop: Volt::new(7.0).unwrap(),
        resistance: Ohm::new(18.0).unwrap(),
        ..supply(HalfWave, 118.0, 25.0, 40.0, ampere(0.075))
    };
    let cases = [
        ideal("half_stiff", supply(HalfWave, 117.0, 0.0, 47.0, ampere(0.055))),
        ideal("half_soft", supply(HalfWave, 124.0, 82.0, 33.0, ohm(1900.0))),
        ideal("half_large", supply(HalfWave, 24.0, 1.0, 2200.0, ampere(0.4))),
        ideal("full", supply(FullWave, 230.0, 33.0, 32.0, ampere(0.09))),
        ideal("full_valve", valve),
        ideal("half_selenium", selenium),
        ideal("bridge", supply(Bridge, 18.0, 0.5, 1000.0, ohm(47.0))),
        Case {
            name: "half_silicon",
            supply: supply(HalfWave, 121.0, 39.0, 47.0, ampere(0.06)),
            model: SILICON,
            in_series: 0.0,
        },
        Case {
            name: "bridge_silicon",
            supply: supply(Bridge, 90.0, 10.0, 100.0, ohm(900.0)),
            model: SILICON,
            in_series: 0.0,
        },
    ];
    for case in cases {
        let measures = [
            ("average", "avg v(out) from=1.9 to=2"),
            ("most", "max v(out) from=1.9 to=2"),
            ("least", "min v(out) from=1.9 to=2"),
            ("peak", "max i(vm) from=1.9 to=2"),
            ("rms", "rms i(vm) from=1.9 to=2"),
        ];
        let theirs = transient(case.name, &netlist(&case), 2e-5, 2.0, &measures);
        let ours = case.supply.steady().unwrap();
        let near = |what: &str, a: f64, b: f64, within: f64| {
            assert!((a / b - 1.0).abs() <= within, "{}: {what} {a}, by ngspice {b}", case.name);
        };
        near("average", ours.average.volts(), theirs[0], 0.01);
        near("ripple", ours.ripple.volts(), theirs[1] - theirs[2], 0.03);
        near("peak current", ours.peak_current.amperes(), theirs[3], 0.03);
        near("rms current", ours.rms_current.amperes(), theirs[4], 0.03);
    }
}

/// A chain of heaters whose volts go with the 5/3rd power of their current, and its ballast: the element law is common
/// practice, no source; how it settles is the simulator's.
#[test]
fn three_chains_settle_with_their_ballast_as_the_simulator_says() {
    if !installed() {
        return;
    }
    let chains = [
        (225.0, 890.0, vec![(13.0, 0.15), (13.0, 0.15), (19.0, 0.15), (55.0, 0.15), (31.0, 0.15)]),
        (112.0, 430.0, vec![(19.0, 0.1), (15.0, 0.1), (45.0, 0.1)]),
        (238.0, 310.0, vec![(6.3, 0.3), (20.0, 0.3), (33.0, 0.3), (6.3, 0.25)]),
    ];
    for (n, (line, ballast, all)) in chains.into_iter().enumerate() {
        let member = |(i, (v, a)): (usize, &(f64, f64))| {
            format!("b{i} n{i} n{} i={a}*pwr(max(v(n{i})-v(n{}),1e-9)/{v},0.6)\n", i + 1, i + 1)
        };
        let members: String = all.iter().enumerate().map(member).collect();
        let netlist = format!("vl line 0 {line}\nrb line n0 {ballast}\n{members}vend n{} 0 0", all.len());
        let theirs = operating_point(&format!("chain{n}"), &netlist, &["i(vend)"])[0];
        let heaters: Vec<Member> = all
            .iter()
            .map(|(v, a)| Member {
                name: String::new(),
                volts: Volt::new(*v).unwrap(),
                current: Ampere::new(*a).unwrap(),
                lamp: false,
            })
            .collect();
        let ours = settled(Volt::new(line).unwrap(), &heaters, Ballast::Resistor(Ohm::new(ballast).unwrap()))
            .unwrap();
        let ours = ours.current.amperes();
        assert!((ours / theirs - 1.0).abs() < 1e-4, "chain {n}: {ours} and by ngspice {theirs}");
    }
}
