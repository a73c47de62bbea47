//! Three leads against a table of simulated good and faulty devices, in every order of their leads.
//!
//! The readings come from a small nodal solver of diodes (Shockley's law) and resistors with a meter of one milliampere
//! and three volts; it shares nothing with what is tested.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use owl_core::transistor::device::{Material, Polarity};
use owl_core::transistor::diode_kind::{DiodeHealth, DiodeKind, diode};
use owl_core::transistor::gain::{corrected, leak_cold, leak_limit};
use owl_core::transistor::identify::{
    Conditions, Further, GainTry, Health, Identified, SixReadings, ToldBy, What, identify, with_parallel,
};

/// A diode of saturation current `.2` from node `.0` to node `.1`, or a resistor.
#[derive(Clone, Copy)]
enum El {
    D(usize, usize, f64),
    R(usize, usize, f64),
}

const THERMAL: f64 = 0.0257;

/// Node voltages when the meter feeds 1 mA, at most 3 V, from `red` to `black`; what it shows.
fn meter(elements: &[El], nodes: usize, red: usize, black: usize) -> Option<f64> {
    // The meter: 3 V behind 2 kΩ with 1 mA wanted, so an open circuit shows 3 V.
    let (source, inside) = (3.0, 2000.0);
    let mut v = vec![0.0f64; nodes];
    for step in 0..3000 {
        let mut g = nalgebra::DMatrix::<f64>::zeros(nodes, nodes);
        let mut i = nalgebra::DVector::<f64>::zeros(nodes);
        let mut add = |a: usize, b: usize, conductance: f64, current: f64| {
            g[(a, a)] += conductance;
            g[(b, b)] += conductance;
            g[(a, b)] -= conductance;
            g[(b, a)] -= conductance;
            i[a] -= current;
            i[b] += current;
        };
        for e in elements {
            match *e {
                El::R(a, b, r) => add(a, b, 1.0 / r, 0.0),
                El::D(a, b, is) => {
                    let x = (v[a] - v[b]).min(1.2);
                    let e = (x / THERMAL).exp();
                    let slope = is * e / THERMAL + 1e-12;
                    add(a, b, slope, is * (e - 1.0) - slope * x);
                }
            }
        }
        add(red, black, 1.0 / inside, -source / inside);
        for n in 0..nodes {
            g[(n, n)] += 1e-12;
        }
        // The black lead is the reference.
        for n in 0..nodes {
            g[(black, n)] = 0.0;
        }
        g[(black, black)] = 1.0;
        i[black] = 0.0;
        let new = g.lu().solve(&i).expect("a node hangs on something");
        let mut far = 0.0f64;
        for n in 0..nodes {
            let change = (new[n] - v[n]).clamp(-0.05, 0.05);
            far = far.max(change.abs());
            v[n] += change;
        }
        if far < 1e-9 && step > 3 {
            break;
        }
    }
    let shown = v[red] - v[black];
    (shown < 2.5).then_some((shown.max(0.0) * 1000.0).round() / 1000.0)
}

const ORDERS: [[usize; 3]; 6] = [[0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]];

/// Emitter, base, collector are nodes 0, 1, 2. Returns what is said with the leads in each order, leads led back.
fn all_orders(elements: &[El], how: Conditions<'_>) -> Vec<Identified> {
    let nodes = 1 + elements
        .iter()
        .map(|e| match *e {
            El::D(a, b, _) | El::R(a, b, _) => a.max(b),
        })
        .max()
        .unwrap_or(2);
    let nodes = nodes.max(3);
    let mut out = Vec::new();
    for order in ORDERS {
        // Lead k of the part is node order[k].
        let mut readings = Vec::new();
        for red in 0..3 {
            for black in 0..3 {
                if red != black {
                    readings.push((red, black, meter(elements, nodes, order[red], order[black])));
                }
            }
        }
        let six = SixReadings::new(&readings).expect("six readings");
        let gains: Vec<GainTry> = how
            .gains
            .iter()
            .map(|g| GainTry {
                collector: order.iter().position(|n| *n == g.collector).expect("a lead"),
                emitter: order.iter().position(|n| *n == g.emitter).expect("a lead"),
                gain: g.gain,
            })
            .collect();
        let mut f = identify(&six, ["a", "b", "c"], Conditions { gains: &gains, ..how });
        let back = |l: Option<usize>| l.map(|l| order[l]);
        (f.base, f.collector, f.emitter) = (back(f.base), back(f.collector), back(f.emitter));
        out.push(f);
    }
    out
}

const E: usize = 0;
const B: usize = 1;
const C: usize = 2;

/// A diode the way that the polarity has it: from the base in NPN.
fn d(npn: bool, base: usize, other: usize, is: f64) -> El {
    if npn { El::D(base, other, is) } else { El::D(other, base, is) }
}

/// Saturation currents of emitter and collector junction: the collector's is the larger.
const CRYSTALS: [(Material, f64, f64); 2] =
    [(Material::Silicon, 1e-14, 2e-14), (Material::Germanium, 1.5e-6, 2.5e-6)];

fn each(mut check: impl FnMut(Material, bool, El, El)) {
    for (material, is_e, is_c) in CRYSTALS {
        for npn in [true, false] {
            check(material, npn, d(npn, B, E, is_e), d(npn, B, C, is_c));
        }
    }
}

fn polarity(npn: bool) -> Polarity {
    if npn { Polarity::Npn } else { Polarity::Pnp }
}

#[test]
fn a_good_one_is_found_in_every_order_of_its_leads() {
    each(|material, npn, be, bc| {
        for f in all_orders(&[be, bc], Conditions::default()) {
            assert_eq!((f.what, f.health), (What::Bipolar, Health::Good), "{material} {npn} {f:?}");
            assert_eq!((f.base, f.polarity, f.material), (Some(B), Some(polarity(npn)), Some(material)));
            assert_eq!((f.emitter, f.collector, f.told_by), (Some(E), Some(C), Some(ToldBy::Drop)));
            assert!(f.next.iter().any(|n| n.contains("gain")), "{f:?}");
        }
    });
}

#[test]
fn gain_decides_over_the_drop_and_no_gain_is_two_diodes() {
    let gains =
        [GainTry { collector: E, emitter: C, gain: 90.0 }, GainTry { collector: C, emitter: E, gain: 4.0 }];
    each(|_, _, be, bc| {
        for f in all_orders(&[be, bc], Conditions { gains: &gains, ..Conditions::default() }) {
            assert_eq!((f.emitter, f.collector, f.told_by), (Some(C), Some(E), Some(ToldBy::Gain)));
        }
    });
    let none =
        [GainTry { collector: E, emitter: C, gain: 0.0 }, GainTry { collector: C, emitter: E, gain: 0.2 }];
    each(|_, _, be, bc| {
        for f in all_orders(&[be, bc], Conditions { gains: &none, ..Conditions::default() }) {
            assert_eq!(f.collector, None);
            assert!(f.or.iter().any(|o| o.contains("no gain")), "{f:?}");
        }
    });
    // Equal drops leave it open, and it says what would settle it.
    let same = [d(true, B, E, 1e-14), d(true, B, C, 1e-14)];
    for f in all_orders(&same, Conditions::default()) {
        assert_eq!((f.base, f.collector, f.emitter), (Some(B), None, None));
        assert!(f.next[0].contains("gain both ways round"), "{f:?}");
    }
}

#[test]
fn every_short_is_found() {
    each(|material, npn, be, bc| {
        for (a, b) in [(C, E), (B, C), (B, E)] {
            for f in all_orders(&[be, bc, El::R(a, b, 0.5)], Conditions::default()) {
                assert_eq!(f.health, Health::Shorted, "{material} {npn} {a}{b} {f:?}");
                let (x, y) = f.shorted.expect("which two");
                assert_ne!(x, y);
            }
        }
        for f in all_orders(&[be, bc, El::R(C, E, 0.5)], Conditions::default()) {
            assert_eq!(
                (f.base, f.polarity, f.material),
                (Some(B), Some(polarity(npn)), Some(material)),
                "{f:?}"
            );
        }
        let all = [be, bc, El::R(C, E, 0.5), El::R(B, E, 0.5)];
        for f in all_orders(&all, Conditions::default()) {
            assert_eq!(f.health, Health::Shorted);
        }
    });
}

#[test]
fn what_is_open_is_found() {
    each(|_, _, be, bc| {
        for one in [be, bc] {
            for f in all_orders(&[one], Conditions::default()) {
                assert_eq!((f.what, f.health, f.base), (What::Bipolar, Health::Open, None));
                assert!(f.or.iter().any(|o| o.contains("body diode")) && !f.next.is_empty());
            }
        }
    });
    for f in all_orders(&[], Conditions::default()) {
        assert_eq!((f.what, f.health), (What::Unknown, Health::Open));
    }
}

#[test]
fn a_leak_is_found_and_the_base_still_named() {
    each(|material, npn, be, bc| {
        // So much that the meter sees it, so little that the junction still shows. The base is then still base.
        for (a, b) in [(B, C), (B, E)] {
            for f in all_orders(&[be, bc, El::R(a, b, 2200.0)], Conditions::default()) {
                assert_eq!(f.health, Health::Leaky, "{material} {npn} {a}{b} {f:?}");
                assert_eq!((f.base, f.polarity), (Some(B), Some(polarity(npn))), "{f:?}");
            }
        }
        for f in all_orders(&[be, bc, El::R(C, E, 2200.0)], Conditions::default()) {
            assert_eq!(
                (f.health, f.base, f.polarity),
                (Health::Leaky, Some(B), Some(polarity(npn))),
                "{f:?}"
            );
        }
    });
}

#[test]
fn a_darlington_a_damper_and_built_in_resistors_are_told() {
    for npn in [true, false] {
        // Two emitter junctions after each other by way of node 3, resistors over each.
        let darlington = [
            d(npn, B, 3, 1e-14),
            d(npn, 3, E, 1e-14),
            d(npn, B, C, 2e-14),
            El::R(B, 3, 8000.0),
            El::R(3, E, 8000.0),
        ];
        for f in all_orders(&darlington, Conditions::default()) {
            assert_eq!((f.what, f.health), (What::Darlington, Health::Good), "{npn} {f:?}");
            assert_eq!((f.base, f.polarity), (Some(B), Some(polarity(npn))));
            assert_eq!((f.emitter, f.collector), (Some(E), Some(C)));
        }
        let damper = [d(npn, B, E, 1e-14), d(npn, B, C, 2e-14), d(npn, E, C, 1e-12)];
        for f in all_orders(&damper, Conditions::default()) {
            assert_eq!((f.what, f.health), (What::WithDamper, Health::Good), "{npn} {f:?}");
            assert_eq!((f.base, f.emitter, f.collector), (Some(B), Some(E), Some(C)), "{npn} {f:?}");
            assert_eq!(f.polarity, Some(polarity(npn)));
        }
        let resistor = [d(npn, B, E, 1e-14), d(npn, B, C, 2e-14), El::R(B, E, 220.0)];
        for f in all_orders(&resistor, Conditions::default()) {
            assert_eq!((f.what, f.base), (What::WithResistors, Some(B)), "{npn} {f:?}");
            assert_eq!((f.emitter, f.collector, f.polarity), (Some(E), Some(C), Some(polarity(npn))));
        }
    }
}

#[test]
fn what_is_no_bipolar_is_told_or_said_to_look_alike() {
    for n in [true, false] {
        // A junction field-effect transistor: a channel of 250 Ω, the gate's junction to both ends.
        let jfet = [d(n, B, 3, 1e-14), El::R(E, 3, 125.0), El::R(3, C, 125.0)];
        for f in all_orders(&jfet, Conditions::default()) {
            assert_eq!((f.what, f.base), (What::Jfet, Some(B)), "{n} {f:?}");
            let channel = if n { Polarity::NChannel } else { Polarity::PChannel };
            assert_eq!(f.polarity, Some(channel));
            assert!(f.or.iter().any(|o| o.contains("leaks from collector to emitter")));
        }
        for f in
            all_orders(&jfet, Conditions { further: Some(Further::ChannelStays), ..Conditions::default() })
        {
            assert_eq!((f.what, f.health), (What::Bipolar, Health::Leaky));
        }
        // Source and drain with a body diode, the gate leads nowhere.
        let mosfet = [d(n, E, C, 1e-13)];
        let touched = if n { Further::OnAfterPlus } else { Further::OnAfterMinus };
        for f in all_orders(&mosfet, Conditions { further: Some(touched), ..Conditions::default() }) {
            assert_eq!(
                (f.what, f.base, f.emitter, f.collector),
                (What::Mosfet, Some(B), Some(E), Some(C)),
                "{f:?}"
            );
        }
    }
    // A thyristor: gate (node B) to cathode (node E).
    for f in all_orders(
        &[d(true, B, E, 1e-14)],
        Conditions { further: Some(Further::Latches), ..Conditions::default() },
    ) {
        assert_eq!((f.what, f.base, f.emitter, f.collector), (What::Scr, Some(B), Some(E), Some(C)));
    }
    // Two diodes after each other.
    for f in all_orders(&[El::D(E, B, 1e-14), El::D(B, C, 1e-14)], Conditions::default()) {
        assert_eq!(f.what, What::DiodePair, "{f:?}");
    }
}

#[test]
fn in_the_set_it_says_so() {
    each(|_, _, be, bc| {
        for f in
            all_orders(&[be, bc, El::R(C, E, 0.5)], Conditions { in_circuit: true, ..Conditions::default() })
        {
            assert!(f.next[0].contains("lift") && f.or.iter().any(|o| o.contains("winding")));
        }
    });
    // The closed sum against the nodal solver: a silicon junction with resistors across it, 1 mA.
    for r in [220.0, 470.0, 1000.0, 4700.0] {
        let alone = THERMAL * (1e-3f64 / 1e-14).ln();
        // The solver's meter feeds what is left of 3 V behind 2 kΩ.
        let v = meter(&[El::D(0, 1, 1e-14), El::R(0, 1, r)], 2, 0, 1).expect("it conducts");
        let fed = (3.0 - v) / 2000.0;
        let at_fed = alone + THERMAL * (fed / 1e-3).ln();
        let ours = with_parallel(at_fed, r, fed);
        assert!((ours - v).abs() < 0.012, "{r} Ω: {ours} against {v}");
    }
}

#[test]
fn wrong_readings_are_refused_in_words() {
    let five = [(0, 1, None), (0, 2, None), (1, 0, None), (1, 2, None), (2, 0, None)];
    assert!(SixReadings::new(&five).is_err_and(|e| e.to_string().contains("six readings")));
    for wrong in [(0, 0, None), (0, 3, None), (0, 1, None), (2, 1, Some(-0.1)), (2, 1, Some(f64::NAN))] {
        assert!(SixReadings::new(&[five.as_slice(), &[wrong]].concat()).is_err(), "{wrong:?}");
    }
}

#[test]
fn temperature_and_leakage_are_led_back() {
    // 2 mV for each kelvin: the handbook value; germanium 80 °C hot still reads as germanium.
    let hot =
        [(0, 1, Some(0.10)), (0, 2, Some(0.09)), (1, 0, None), (1, 2, None), (2, 0, None), (2, 1, None)];
    let six = SixReadings::new(&hot).expect("six");
    let f = identify(&six, ["1", "2", "3"], Conditions { celsius: 60.0, ..Conditions::default() });
    assert_eq!(f.material, Some(Material::Germanium));
    // R11: gain corrected for leakage.
    assert!(corrected(2.4e-3, 0.4e-3, 20e-6).is_ok_and(|g| (g - 100.0).abs() < 1e-9));
    assert!(corrected(1e-3, 0.0, 0.0).is_err() && corrected(1e-3, 2e-3, 1e-5).is_err());
    let at = |t| leak_limit(Material::Germanium, false, 99.0, t).expect("a row");
    assert!((at(35.0).cut_off_amperes / at(25.0).cut_off_amperes - 2.0).abs() < 1e-9);
    assert!((at(25.0).open_base_amperes / at(25.0).cut_off_amperes - 100.0).abs() < 1e-9);
    assert!(leak_cold(Material::Germanium, 40e-6, 45.0).is_some_and(|i| (i - 10e-6).abs() < 1e-12));
}

#[test]
fn two_leads_are_held_against_the_kinds_of_diode() {
    let may = |a, b| diode(a, b, 25.0).may_be.iter().map(|m| m.kind).collect::<Vec<_>>();
    assert!(may(Some(0.62), None).contains(&DiodeKind::Silicon));
    assert!(
        may(Some(0.25), None).contains(&DiodeKind::Germanium)
            && may(Some(0.25), None).contains(&DiodeKind::Schottky)
    );
    assert_eq!(may(Some(1.8), None), [DiodeKind::Led]);
    assert!(may(None, Some(0.7)).contains(&DiodeKind::Silicon));
    assert_eq!(diode(Some(0.7), Some(2.2), 25.0).may_be.first().map(|m| m.kind), Some(DiodeKind::Zener));
    assert_eq!(diode(Some(0.01), Some(0.02), 25.0).health, DiodeHealth::Shorted);
    assert_eq!(diode(None, None, 25.0).health, DiodeHealth::Open);
    assert_eq!(diode(Some(0.3), Some(0.4), 25.0).health, DiodeHealth::Leaky);
}
