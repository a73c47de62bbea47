//! How readings are weighed: fading, direction, era, measurement, sheet. The order of likelihoods is
//! checked, not their numbers: common practice, no source, unless a line says otherwise.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::fading::{origins, table};
use owl_core::marking::{Code, Hints, Meaning, Scheme, read_text};
use owl_core::named::Named;
use owl_core::part::{MadeOf, PartKind};
use proptest::prelude::*;

const RESISTOR: Hints = Hints {
    part: Some(PartKind::Resistor),
    scheme: None,
    wide_first: false,
    measured_si: None,
    expected_si: None,
};

fn read(text: &str, hints: Hints) -> Vec<Meaning> {
    read_text(text, hints).unwrap_or_else(|e| panic!("{text}: {e}"))
}

fn ohms(m: &Meaning) -> f64 {
    m.resistance().unwrap().ohms()
}

fn share(all: &[Meaning], value: f64) -> f64 {
    all.iter().filter(|m| (ohms(m) - value).abs() < 1e-6 * value).map(|m| m.likelihood).sum()
}

#[test]
fn what_is_seen_comes_before_what_may_have_changed() {
    for row in [
        "red violet orange silver",
        "orange white brown gold",
        "yellow violet red silver",
        "white brown green silver",
    ] {
        let all = read(row, RESISTOR);
        assert!(all[0].as_seen && all[0].likelihood > 0.8, "{row}: {}", all[0].likelihood);
    }
}

/// One part, one history: two bands of the same colour change together.
#[test]
fn bands_of_one_colour_change_together() {
    // Brown grey brown: both browns from orange is likelier than only the last from red.
    let all = read("brown white brown silver", Hints { measured_si: Some(41e3), ..RESISTOR });
    assert!(share(&all, 39e3) > share(&all, 19e3), "{all:?}");
    let told = all.iter().find(|m| (ohms(m) - 39e3).abs() < 1.0).unwrap();
    let times = told.because.iter().filter(|b| b.contains("taking the brown for orange")).count();
    assert_eq!(times, 1, "said once, however many bands: {:?}", told.because);
}

#[test]
fn a_changed_colour_is_said_with_its_reason() {
    let all = read("grey red brown silver", Hints { measured_si: Some(86e3), ..RESISTOR });
    assert_eq!(ohms(&all[0]), 82e3, "{:?}", all[0]);
    let because = &all[0].because;
    assert!(
        because.iter().any(|b| b == "taking the brown for orange: orange browns with heat"),
        "{because:?}"
    );
    assert!(because.iter().any(|b| b == "the measurement is 5 % above it"), "{because:?}");
    assert!(!all[0].as_seen && all.iter().any(|m| m.as_seen && ohms(m) == 820.0));
}

/// A bad part does not drag the marking to itself: a value that is only drifted stays as it is marked.
#[test]
fn a_drifted_part_keeps_its_mark() {
    for (row, measured) in [
        ("green blue yellow silver", 810e3),
        ("blue grey orange gold", 99e3),
        ("grey red red silver", 12.6e3),
    ] {
        let all = read(row, Hints { measured_si: Some(measured), ..RESISTOR });
        assert!(all[0].as_seen, "{row} at {measured}: {:?}", all[0]);
    }
}

/// The end: the first band is nearer its end, but a measurement may turn it.
#[test]
fn the_other_end_waits_for_a_reason() {
    let row = "brown black black red brown";
    let alone = read(row, RESISTOR);
    assert_eq!(ohms(&alone[0]), 10e3);
    let sheet = read(row, Hints { expected_si: Some(120.0), ..RESISTOR });
    assert_eq!(ohms(&sheet[0]), 120.0);
    assert!(sheet[0].because.iter().any(|b| b.contains("other end")));
    assert!(sheet[0].because.iter().any(|b| b == "the sheet agrees"));
}

/// From before the preferred series, and not preferred at all.
#[test]
fn older_values_are_believed_before_odd_ones() {
    let older = read("250k 20%", RESISTOR);
    assert!(older[0].because.iter().any(|b| b.contains("before the preferred series")));
    let odd = read("345k 20%", RESISTOR);
    assert!(odd[0].because.iter().any(|b| b == "not a preferred value"));
    // Where two bands decide between them, the older value wins over the odd one.
    let all = read("red green yellow", RESISTOR);
    assert_eq!(ohms(&all[0]), 250e3);
}

/// Yellow and grey as tolerances: today's meaning, the older ones and the high-voltage ones, all told.
#[test]
fn colours_that_meant_something_else_are_told_with_both() {
    let percents = |row: &str| -> Vec<f64> {
        let all = read(row, RESISTOR);
        all.iter()
            .filter(|m| m.as_seen && m.code == Code::ColourBands)
            .filter_map(|m| m.tolerance_fraction())
            .map(|t| t.fraction() * 100.0)
            .collect()
    };
    let near = |all: &[f64], p: f64| all.iter().any(|x| (x - p).abs() < 1e-9);
    let yellow = percents("brown black green yellow");
    for p in [0.02, 4.0, 5.0] {
        assert!(near(&yellow, p), "{p} in {yellow:?}");
    }
    assert!((yellow[0] - 5.0).abs() < 1e-9, "with two digits yellow is gold's stand-in first: {yellow:?}");
    let grey = percents("yellow violet violet grey");
    for p in [0.01, 0.05, 10.0] {
        assert!(near(&grey, p), "{p} in {grey:?}");
    }
    let five = percents("brown black black red yellow");
    assert!(near(&five, 0.02) && near(&five, 5.0), "{five:?}");
}

#[test]
fn a_wide_first_band_is_wirewound() {
    let wide = read("red red brown silver", Hints { wide_first: true, ..RESISTOR });
    assert!(matches!(wide[0].made, Some(MadeOf::Resistor(f)) if f.name() == "wirewound"));
    assert_eq!(read("broad red red brown silver", RESISTOR)[0].made, wide[0].made);
    assert_eq!(read("red red brown silver", RESISTOR)[0].made, None);
}

/// Body-end-dot: what is missing has the body's colour; no tolerance end means 20 %.
#[test]
fn what_is_missing_on_a_body_end_dot_has_the_bodys_colour() {
    let of = |row: &str| read(row, Hints { scheme: Some(Scheme::BodyEndDot), ..RESISTOR }).swap_remove(0);
    for (row, value, percent) in [
        ("green black orange gold", 50e3, 5.0),
        ("green black orange none", 50e3, 20.0),
        ("green black orange", 50e3, 20.0),
        // no dot: the multiplier is green
        ("green black none silver", 5e6, 10.0),
        // no end, no dot: all is red
        ("red none none none", 2200.0, 20.0),
    ] {
        let m = of(row);
        assert!((ohms(&m) - value).abs() < 1e-6 * value, "{row}: {}", m.value);
        assert!((m.tolerance_fraction().unwrap().fraction() * 100.0 - percent).abs() < 1e-9, "{row}");
    }
}

/// The lower row of a mica block, read from its other side, is kept in mind.
#[test]
fn a_mica_block_may_be_read_from_the_other_side_below() {
    let hints = Hints { scheme: Some(Scheme::MicaSixDot), ..Hints::default() };
    let all = read("white blue grey red silver brown", hints);
    let farads = |m: &Meaning| m.value.number().unwrap().1;
    assert!((farads(&all[0]) - 6.8e-9).abs() < 1e-15);
    let turned = all.iter().find(|m| m.because.iter().any(|b| b.contains("lower row"))).unwrap();
    assert!((farads(turned) - 680e-12).abs() < 1e-18, "{}", turned.value);
    let sheet = read("white blue grey red silver brown", Hints { expected_si: Some(680e-12), ..hints });
    assert!((farads(&sheet[0]) - 680e-12).abs() < 1e-18);
}

#[test]
fn every_row_of_the_fading_table_has_its_reason() {
    for row in table() {
        assert!(row.truly != row.seen && row.chance > 0.0 && row.chance < 0.5);
        assert!(!row.because.is_empty() && !row.source.clause.is_empty());
        assert!(origins(row.seen).iter().any(|(c, _)| *c == row.truly));
    }
}

proptest! {
    /// More knowledge never makes what it agrees with less believed.
    #[test]
    fn a_measurement_at_the_mark_speaks_for_the_mark(which in 0usize..4, drift in 0.97f64..1.06) {
        let (row, value) = [("red red orange silver", 22e3), ("grey red brown gold", 820.0), ("brown green green silver", 1.5e6), ("blue red yellow gold", 620e3)][which];
        let alone = share(&read(row, RESISTOR), value);
        let known = share(&read(row, Hints { measured_si: Some(value * drift), ..RESISTOR }), value);
        prop_assert!(known >= alone - 1e-9, "{} {} {}", row, alone, known);
    }

    /// The sheet's value, if any reading gives it, is not pushed down the list by knowing it.
    #[test]
    fn the_sheet_lifts_the_reading_that_it_agrees_with(which in 0usize..12) {
        let all = read("brown grey brown silver", RESISTOR);
        let Some(m) = all.get(which) else { return Ok(()) };
        let known = read("brown grey brown silver", Hints { expected_si: Some(ohms(m)), ..RESISTOR });
        prop_assert!(share(&known, ohms(m)) >= m.likelihood - 1e-9);
    }
}
