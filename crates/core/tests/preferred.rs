//! Preferred numbers against IEC 60063 and against a general-purpose package.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::named::Named;
use owl_core::preferred::{Series, between, is_member, neighbours, numbers, series_of};
use serde::Deserialize;

/// Made by tests/cases/preferred/make.py from the PyPI package eseries 1.2.1.
#[derive(Deserialize)]
struct Case {
    series: String,
    kind: String,
    input: f64,
    below: Option<f64>,
    nearest: Option<f64>,
    above: Option<f64>,
}

fn cases() -> Vec<Case> {
    csv::Reader::from_reader(include_str!("cases/preferred/eseries.csv").as_bytes())
        .deserialize()
        .map(Result::unwrap)
        .collect()
}

#[test]
fn every_member_agrees_with_the_reference_package() {
    for &series in Series::ALL {
        let theirs: Vec<f64> = cases()
            .iter()
            .filter(|c| c.series == series.name() && c.kind == "member")
            .map(|c| c.input)
            .collect();
        // The package gives two digits for E3 to E24 and three beyond.
        let scale = if theirs[0] < 100.0 { 10.0 } else { 1.0 };
        let ours: Vec<f64> = numbers(series).iter().map(|n| f64::from(*n) / scale).collect();
        assert_eq!(ours, theirs, "{series}");
    }
}

#[test]
fn neighbours_agree_with_the_reference_package() {
    let searches = cases().into_iter().filter(|c| c.kind == "search");
    let mut seen = 0;
    for c in searches {
        let series: Series = c.series.parse().unwrap();
        let ours = neighbours(series, c.input).unwrap();
        for (got, want) in [(ours.below, c.below), (ours.nearest, c.nearest), (ours.above, c.above)] {
            let want = want.unwrap();
            assert!((got - want).abs() <= 1e-9 * want, "{series} {}: {got} for {want}", c.input);
        }
        seen += 1;
    }
    assert_eq!(seen, 56);
}

/// IEC 60063:2015, tables 1 and 3: the published numbers that the formula does not give.
#[test]
fn the_irregular_numbers_are_the_published_ones() {
    for n in [270, 300, 330, 360, 390, 430, 470, 820] {
        assert!(numbers(Series::E24).contains(&n), "{n}");
    }
    for n in [260, 320, 460, 830] {
        assert!(!numbers(Series::E24).contains(&n), "{n}");
    }
    assert!(numbers(Series::E192).contains(&920) && !numbers(Series::E192).contains(&919));
    let counts: Vec<usize> = Series::ALL.iter().map(|s| numbers(*s).len()).collect();
    assert_eq!(counts, [3, 6, 12, 24, 48, 96, 192]);
}

#[test]
fn a_range_has_both_its_ends() {
    assert_eq!(between(Series::E6, 1.0, 10.0), [1.0, 1.5, 2.2, 3.3, 4.7, 6.8, 10.0]);
    assert_eq!(between(Series::E12, 4.7e-8, 5e-8), [4.7e-8]);
    assert_eq!(between(Series::E24, 1.0, 1e7).len(), 24 * 7 + 1);
    assert!(between(Series::E24, 0.0, 10.0).is_empty());
    assert!(between(Series::E24, 10.0, 1.0).is_empty());
    assert!(neighbours(Series::E24, -3.0).is_none());
    assert!(neighbours(Series::E24, f64::NAN).is_none());
}

/// IEC 60063: the series beside its tolerance.
#[test]
fn a_tolerance_has_its_series() {
    for (t, s) in [
        (0.2, Series::E6),
        (0.1, Series::E12),
        (0.05, Series::E24),
        (0.02, Series::E48),
        (0.01, Series::E96),
        (0.005, Series::E192),
    ] {
        assert_eq!(series_of(t), s);
    }
    assert!(is_member(Series::E24, 240e3) && !is_member(Series::E24, 250e3));
}
