//! What is left, in rounds. Common bench practice, no source.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::plan::{Item, Left, Pace, RoundKind, rounds, valve_of};
use owl_core::quantity::Second;

fn measure<'a>(name: &'a str, place: &'a str, by_valve: bool) -> Item<'a> {
    Item { name, place, left: Left::Measure { warm: false, by_valve } }
}

#[test]
fn what_wants_the_same_valve_pulled_is_done_together() {
    let items = [
        measure("R4", "V2 plate, pin 6", true),
        measure("C9", "V2 plate to V3 grid, pin 5", true),
        measure("R8", "V3 cathode, pin 8", true),
        measure("C2", "V2 screen", false),
        Item { name: "C5", place: "V3 grid", left: Left::Measure { warm: true, by_valve: true } },
        Item { name: "R1", place: "", left: Left::Fit { to_buy: false } },
        Item { name: "C1", place: "", left: Left::Fit { to_buy: true } },
        Item { name: "R2", place: "", left: Left::Prove },
    ];
    let pace = Pace { reading: Second::new(40.0).ok(), ..Pace::default() };
    let found = rounds(&items, &["V1 pin 3"], pace);
    let said: Vec<(RoundKind, Option<&str>, String)> =
        found.iter().map(|s| (s.kind, s.valve.as_deref(), s.names.join(" "))).collect();
    assert_eq!(
        said,
        [
            (RoundKind::Prove, None, "R2".to_owned()),
            (RoundKind::ValvePulled, Some("V2"), "R4".to_owned()),
            (RoundKind::ValvePulled, Some("V3"), "C9 R8".to_owned()),
            (RoundKind::Lifted, None, "C2".to_owned()),
            (RoundKind::Warm, None, "C5".to_owned()),
            (RoundKind::Fit, None, "R1".to_owned()),
            (RoundKind::Voltages, None, "V1 pin 3".to_owned()),
            (RoundKind::Waiting, None, "C1".to_owned()),
        ]
    );
    let times: Vec<Option<f64>> = found.iter().map(|s| s.expected.map(Second::seconds)).collect();
    assert_eq!(times, [None, Some(40.0), Some(80.0), Some(40.0), Some(40.0), None, Some(40.0), None]);
}

#[test]
fn a_valve_is_found_in_words() {
    for (place, valve) in [
        ("at V12, pin 3", Some("V12")),
        ("VHF strip", None),
        ("V", None),
        ("AV3", None),
        ("V2/V4", Some("V4")),
    ] {
        assert_eq!(valve_of(place), valve, "{place}");
    }
}
