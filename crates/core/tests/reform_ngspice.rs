//! The model of an aged electrolytic on its supply, asked of a general-purpose circuit simulator: ngspice 39, transient
//! analysis with the same equations as behavioural sources. Nothing of the stepping is shared.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::ngspice::{installed, transient};
use owl_core::quantity::{Ampere, Farad, Ohm, Second, Volt};
use owl_core::reform::aged::Aged;
use owl_core::reform::circuit::{Condition, Connected};

/// Volts across the part, formed voltage and warmth after `end` seconds, by the simulator.
fn simulated(name: &str, part: &Aged, volts: f64, series: f64, limit: Option<f64>, end: f64) -> Vec<f64> {
    let k = 25.0;
    let (c, esr) = (part.capacitance.farads(), part.esr.ohms());
    let (iw, q) = (part.weak_current.amperes(), part.coulombs_per_volt);
    let (formed, made) = (part.formed.volts(), part.formed_when_made.volts());
    let path = series + esr;
    let source = limit.map_or(format!("max(0,({volts}-v(ox))/{path})"), |i| {
        format!("min({i},max(0,({volts}-v(ox))/{path}))")
    });
    // Leakage, growth and warmth as the module's header has them; volts and kelvin are volts here.
    let weak = format!("{iw}*max(0,exp(min(40,{k}*(max(0,v(ox))/v(vf)-1)))-exp(-{k}))*2**(v(th)/10)");
    let parallel = format!("v(ox)/{}*2**(v(th)/10)", part.parallel.ohms());
    let netlist = format!(
        "bsup 0 ox i={source}\nbleak ox 0 i={weak}+{parallel}\ncox ox 0 {c} ic=0\n\
         bgrow 0 vf i=({weak})/{q}*max(0,1-v(vf)/{made})\ncvf vf 0 1 ic={formed}\nrvf vf 0 1e15\n\
         bheat 0 th i=v(ox)*({weak}+{parallel})+({source})**2*{esr}\ncth th 0 60 ic=0\nrth th 0 20"
    );
    let at = |node: &str| format!("find v({node}) at={end}");
    let (ox, vf, th) = (at("ox"), at("vf"), at("th"));
    transient(name, &netlist, end / 4000.0, end, &[("ox", &ox), ("vf", &vf), ("th", &th)])
}

#[test]
fn the_simulator_agrees_with_charging_leaking_growing_and_warming() {
    if !installed() {
        return;
    }
    let old = Aged::assumed(Farad::new(20e-6).unwrap(), Volt::new(300.0).unwrap(), 18.0);
    let leaky = Aged { parallel: Ohm::new(180e3).unwrap(), ..old };
    for (name, part, volts, series, limit, end) in [
        ("reform_charges", old, 90.0, 27e3, None, 1.5),
        ("reform_forms", old, 190.0, 27e3, None, 1500.0),
        ("reform_forms_long", old, 260.0, 18e3, None, 6000.0),
        ("reform_limited", old, 240.0, 1e3, Some(3e-3), 900.0),
        ("reform_leaks", leaky, 220.0, 22e3, None, 1200.0),
    ] {
        let supply = Connected::Supply {
            volts: Volt::new(volts).unwrap(),
            series: Ohm::new(series).unwrap(),
            limit: limit.map(|i| Ampere::new(i).unwrap()),
        };
        let ours = Condition::rested(&part, Volt::ZERO).after(&part, supply, Second::new(end).unwrap());
        let theirs = simulated(name, &part, volts, series, limit, end);
        for (what, ours, theirs, slack) in [
            ("volts", ours.volts, theirs[0], 0.05),
            ("formed", ours.formed_volts, theirs[1], 0.05),
            ("warmth", ours.kelvin, theirs[2], 0.01),
        ] {
            assert!(
                (ours - theirs).abs() < 2e-3 * theirs.abs() + slack,
                "{name}, {what}: {ours} against {theirs}"
            );
        }
    }
}
