//! What a leak does in its place, asked of a general-purpose circuit simulator: ngspice 39, operating point of ten
//! networks.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::quantity::{Ohm, Volt};
use owl_core::verdict::leakage::{avc_loss, feed_drop, feed_power, grid_shift};

use crate::ngspice::{installed, operating_point};

fn ohm(v: f64) -> Ohm {
    Ohm::new(v).unwrap()
}

fn volt(v: f64) -> Volt {
    Volt::new(v).unwrap()
}

fn near(what: &str, ours: f64, theirs: f64) {
    assert!((ours - theirs).abs() <= 1e-6 * theirs.abs().max(1e-6), "{what}: {ours} and by ngspice {theirs}");
}

/// A plate through its coupling capacitor's leak on a grid that returns to its bias.
#[test]
fn four_grids_are_lifted_as_the_simulator_says() {
    if !installed() {
        return;
    }
    for (i, (plate, rg, leak, bias)) in [
        (180.0, 330e3, 60e6, -4.5),
        (235.0, 1e6, 25e6, -12.0),
        (95.0, 220e3, 4e6, -2.0),
        (310.0, 2.2e6, 900e6, -18.0),
    ]
    .into_iter()
    .enumerate()
    {
        // What stands across the leak is the plate against the bias.
        let netlist = format!(
            "vp plate 0 {plate}\nvb bias 0 {bias}\nc1 plate grid 22n\nrl plate grid {leak}\nrg grid bias {rg}"
        );
        let v = operating_point(&format!("grid{i}"), &netlist, &["v(grid)"])[0];
        near("shift", grid_shift(volt(plate - bias), ohm(rg), ohm(leak)).volts(), v - bias);
    }
}

/// A rail through a feed resistor to a screen that draws a constant current, with a leaking bypass.
#[test]
fn four_feeds_are_pulled_down_and_heated_as_the_simulator_says() {
    if !installed() {
        return;
    }
    for (i, (rail, rf, load, leak)) in [
        (250.0, 47e3, 1.6e-3, 900e3),
        (210.0, 100e3, 0.7e-3, 330e3),
        (320.0, 8.2e3, 9e-3, 60e3),
        (140.0, 22e3, 2e-3, 5e6),
    ]
    .into_iter()
    .enumerate()
    {
        let netlist = format!(
            "vr rail 0 {rail}\nrf rail screen {rf}\ni1 screen 0 {load}\nrl screen 0 {leak}\nc1 screen 0 100n"
        );
        let v = operating_point(&format!("feed{i}"), &netlist, &["v(screen)"])[0];
        let healthy = volt(rail - load * rf);
        let drop = feed_drop(healthy, ohm(rf), ohm(leak));
        near("drop", drop.volts(), healthy.volts() - v);
        let power = feed_power(volt(rail), healthy, ohm(rf), ohm(leak)).watts();
        near("watts of the feed", power, (rail - v) * (rail - v) / rf);
    }
}

/// A detector's voltage through its filter resistor on a leaking AVC line.
#[test]
fn two_avc_lines_lose_what_the_simulator_says() {
    if !installed() {
        return;
    }
    for (i, (detected, source, leak)) in [(-9.0, 1e6, 12e6), (-22.0, 2.2e6, 6.8e6)].into_iter().enumerate() {
        let netlist = format!("vd det 0 {detected}\nrs det line {source}\nrl line 0 {leak}\nc1 line 0 50n");
        let v = operating_point(&format!("avc{i}"), &netlist, &["v(line)"])[0];
        near("loss", avc_loss(ohm(source), ohm(leak)).fraction(), 1.0 - v / detected);
    }
}
