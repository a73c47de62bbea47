//! Searches as they are asked at a bench.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::search::{Found, sought};

#[test]
fn searches_are_understood_as_they_are_asked() {
    for (asked, position, family, value, found, words) in [
        (
            "all 22 Ω screen feeds that were high",
            Some("screen feed"),
            None,
            Some(22.0),
            Some(Found::High),
            "",
        ),
        ("leaking wax paper .05", None, Some("wax paper"), Some(0.05e-6), Some(Found::Leaking), ""),
        ("470k plate loads", Some("plate load"), None, Some(470e3), None, ""),
        ("open wirewound", None, Some("wirewound"), None, Some(Found::Open), ""),
        ("what was replaced in the Tern", None, None, None, Some(Found::Replaced), "in tern"),
        ("2.2M grid leak", Some("grid leak"), None, Some(2.2e6), None, ""),
        ("pilchard oil", None, None, None, None, "pilchard oil"),
        ("", None, None, None, None, ""),
    ] {
        let s = sought(asked);
        assert_eq!(s.position.map(|p| p.name()), position, "{asked}");
        assert_eq!(s.family.map(|f| f.name()), family, "{asked}");
        assert_eq!(
            (s.value_si.map(|v| (v * 1e9).round()), s.found),
            (value.map(|v| (v * 1e9_f64).round()), found),
            "{asked}"
        );
        assert_eq!(s.words, words, "{asked}");
    }
    assert_eq!(sought("shorted capacitors").kind, Some(PartKind::Capacitor));
}
