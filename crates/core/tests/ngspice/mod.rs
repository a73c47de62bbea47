//! A general-purpose circuit simulator, asked whether the sums are right: ngspice 39. Skipped with a word where it is
//! not installed, unless OWL_NEEDS_NGSPICE is set, as `make test` does.
#![allow(clippy::unwrap_used, missing_docs)]

use std::path::PathBuf;
use std::process::Command;

/// The operating point of a network: what ngspice says of each `wanted` expression.
pub fn operating_point(name: &str, netlist: &str, wanted: &[&str]) -> Vec<f64> {
    let prints: String = wanted.iter().map(|w| format!("print {w}\n")).collect();
    answers(name, netlist, &format!("op\n{prints}"), wanted)
}

/// The steady state of a network: `measures` of a transient analysis, as ngspice writes them, by name.
pub fn transient(name: &str, netlist: &str, step: f64, end: f64, measures: &[(&str, &str)]) -> Vec<f64> {
    let meas: String = measures.iter().map(|(n, m)| format!("meas tran {n} {m}\n")).collect();
    let names: Vec<&str> = measures.iter().map(|m| m.0).collect();
    answers(name, netlist, &format!("tran {step} {end} 0 {step} uic\n{meas}"), &names)
}

fn answers(name: &str, netlist: &str, control: &str, wanted: &[&str]) -> Vec<f64> {
    let text = format!("{name}\n{netlist}\n.control\nset numdgt=12\n{control}quit\n.endc\n.end\n");
    let file = PathBuf::from(env!("CARGO_TARGET_TMPDIR")).join(format!("{name}.cir"));
    std::fs::write(&file, text).unwrap();
    let out = Command::new("ngspice").arg("-b").arg(&file).output().unwrap();
    let said = String::from_utf8_lossy(&out.stdout).into_owned();
    wanted
        .iter()
        .map(|w| {
            let line = said.lines().find(|l| {
                l.trim_start().split('=').next().is_some_and(|n| n.trim().eq_ignore_ascii_case(w))
                    && l.contains('=')
            });
            line.and_then(|l| l.split('=').nth(1)?.split_whitespace().next()?.parse().ok())
                .unwrap_or_else(|| panic!("{name}: no {w} in {said}{}", String::from_utf8_lossy(&out.stderr)))
        })
        .collect()
}

pub fn installed() -> bool {
    let there = Command::new("ngspice").arg("--version").output().is_ok();
    assert!(
        there || std::env::var_os("OWL_NEEDS_NGSPICE").is_none(),
        "ngspice is missing: scripts/setup.sh test installs it"
    );
    if !there {
        eprintln!("skipped: ngspice is not installed, so nobody was asked whether the sums are right");
    }
    there
}
