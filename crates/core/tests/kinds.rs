//! Fuses, contacts and loudspeakers (rules R24 to R26), each said as at the bench. Common practice, no source; the letters of
//! fuses are IEC 60127-1, from memory.
#![allow(clippy::unwrap_used, clippy::indexing_slicing, missing_docs)]

use crate::bench::lot;
use crate::drawer::policy;
use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::marking::{Hints, read_text};
use owl_core::part::{Circuit, Fuse, FuseSpeed, Loudspeaker, Part, PartKind, Position};
use owl_core::quantity::{Ampere, Ohm, Volt, Watt};
use owl_core::reading::{Reading, Shown};
use owl_core::say::{Known, Tray, understand};
use owl_core::substitute::{Choices, Need, OldPart, choose};
use owl_core::verdict::{Case, Outcome, judge};

const FUSE: Part = Part::Fuse(Fuse {
    rated: Ampere::computed(0.5),
    speed: Some(FuseSpeed::TimeLag),
    volts: Some(Volt::computed(250.0)),
});
const SPEAKER: Part =
    Part::Loudspeaker(Loudspeaker { impedance: Ohm::computed(4.0), power: Some(Watt::computed(5.0)) });

fn tray() -> Tray {
    let known = |name: &str| Known { name: name.to_owned(), has_mark: true, ..Known::default() };
    Tray { parts: vec![known("F1"), known("S1"), known("LS1")], selected: None, ..Tray::default() }
}

/// What is judged of a part after these sentences, one reading each.
fn judged(part: &Part, said: &[&str]) -> (Outcome, String) {
    let mut readings = Vec::new();
    let mut looks = Vec::new();
    for text in said {
        let u = understand(text, &tray()).unwrap_or_else(|e| panic!("{text}: {e}"));
        looks.extend(u.said.looks);
        readings.extend(u.measured.iter().map(|m| Reading {
            state: m.state,
            ..Reading::of(
                m.quantity,
                m.value_si.map_or(Shown::Overrange { ceiling_si: None }, |si| Shown::Value { si }),
            )
        }));
    }
    let circuit = Circuit::default();
    let v = judge(
        Case {
            part,
            position: None::<Position>,
            readings: &readings,
            partners: &[],
            circuit: &circuit,
            looks: &looks,
        },
        policy(),
    );
    let reasons = v.reasons.iter().map(|r| r.text.as_str());
    (v.call, reasons.chain(v.next.iter().map(String::as_str)).collect::<Vec<_>>().join("; "))
}

#[test]
fn each_kind_is_judged_by_what_is_read_of_it() {
    use Outcome::{Keep, MeasureAgain, Replace, Watch};
    let cases: &[(&Part, &[&str], Outcome, &str)] = &[
        (&FUSE, &["F1 blown"], Replace, "a fine break"),
        (&FUSE, &["F1 open black inside"], Replace, "a dead short"),
        (&FUSE, &["F1 0.4 ohm lifted"], Keep, "200 mV at its 500 mA"),
        (&FUSE, &["F1 9 ohm lifted"], Watch, "4.5 V"),
        (&Part::Switch, &["S1 .03 ohm"], Keep, "closed"),
        (&Part::Switch, &["S1 .4 ohm"], Watch, "crackles"),
        (&Part::Switch, &["S1 4 ohm"], MeasureAgain, "twenty times"),
        (&Part::Switch, &["S1 4 ohm", "S1 3 ohm"], Replace, "worn"),
        (&Part::Switch, &["S1 open", "S1 .05 ohm"], Keep, "closed"),
        (&Part::Switch, &["S1 .05 ohm crackles"], Watch, "cleaner"),
        (&SPEAKER, &["LS1 3.3 ohm lifted"], Keep, "82.5 %"),
        (&SPEAKER, &["LS1 3.3 ohm lifted", "LS1 rubs"], Watch, "scrapes"),
        (&SPEAKER, &["LS1 .4 ohm"], MeasureAgain, "one lead off"),
        (&SPEAKER, &["LS1 1.2 ohm lifted"], Watch, "shorted turns"),
        (&SPEAKER, &["LS1 open lifted"], Replace, "braids"),
    ];
    for (part, said, outcome, why) in cases {
        let (call, says) = judged(part, said);
        assert_eq!(call, *outcome, "{said:?}: {says}");
        assert!(says.contains(why), "{said:?}: {says}");
    }
}

#[test]
fn what_is_printed_on_a_fuse_is_read() {
    for (text, amperes, words) in [
        ("T500mA", 0.5, "T"),
        ("F1A 250V", 1.0, "F"),
        ("2A slow", 2.0, "T"),
        ("fuse T 1.6 A", 1.6, "T"),
        ("TT 4A", 4.0, "TT"),
        ("800mA", 0.8, ""),
    ] {
        let m = &read_text(text, Hints::of(PartKind::Fuse)).unwrap()[0];
        let (_, value) = m.value.number().unwrap();
        assert!((value - amperes).abs() < 1e-9, "{text}: {value}");
        assert_eq!(
            m.notes.concat(),
            if words.is_empty() { String::new() } else { format!("speed {words}") },
            "{text}"
        );
    }
    for text in ["purple 5A", "5 V", "slow"] {
        assert!(read_text(text, Hints::of(PartKind::Fuse)).is_err(), "{text}");
    }
    let m = &read_text("3.2 ohm 5W", Hints::of(PartKind::Loudspeaker)).unwrap()[0];
    assert_eq!((m.value.number().map(|n| n.1), m.power), (Some(3.2), Some(Watt::computed(5.0))));
}

fn choices(part: Part, lots: &[Lot]) -> Choices {
    let (gone, circuit) = (OldPart::Part(part), Circuit::default());
    let need = Need {
        paired: false,
        gone: &gone,
        type_number: "",
        value_si: None,
        position: None,
        circuit: &circuit,
    };
    choose(&need, policy(), lots).unwrap()
}

#[test]
fn a_fuse_is_replaced_by_its_like_and_never_by_more() {
    let fuse = |amps: f64, speed: &str, volts: f64| {
        let piece = Piece {
            value_si: Some(amps),
            type_number: speed.to_owned(),
            volts: Some(Volt::computed(volts)),
            ..Piece::new(PartKind::Fuse)
        };
        lot(piece, 10, Condition::New)
    };
    let lots = [
        fuse(0.63, "T", 250.0),
        fuse(0.5, "T", 250.0),
        fuse(0.5, "TT", 250.0),
        fuse(0.5, "F", 250.0),
        fuse(0.4, "T", 250.0),
        fuse(0.5, "T", 32.0),
    ];
    let c = choices(FUSE, &lots);
    let in_drawer: Vec<usize> = c.choices.iter().filter_map(|c| c.pieces[0].lot).collect();
    assert_eq!(in_drawer.first(), Some(&1), "{in_drawer:?}");
    let refused: Vec<usize> = c.refused.iter().filter_map(|r| r.lot).collect();
    for bad in [0, 2, 4, 5] {
        assert!(refused.contains(&bad) && !in_drawer.contains(&bad), "{bad}: {refused:?}");
    }
    // Where nobody knows what the old one interrupted, one for 32 V is not said to fit.
    let Part::Fuse(known) = FUSE else { unreachable!() };
    let c = choices(Part::Fuse(Fuse { volts: None, ..known }), &lots);
    let said = |lot: usize| {
        let c = c.choices.iter().find(|c| c.pieces[0].lot == Some(lot)).unwrap();
        format!("{c:?}")
    };
    assert!(said(5).contains("on the line 250 V") && !said(1).contains("on the line 250 V"));
}

#[test]
fn another_loudspeaker_is_another_load() {
    let speaker = |ohms: f64| {
        let piece = Piece {
            value_si: Some(ohms),
            watts: Some(Watt::computed(6.0)),
            ..Piece::new(PartKind::Loudspeaker)
        };
        lot(piece, 1, Condition::New)
    };
    let c = choices(SPEAKER, &[speaker(8.0), speaker(3.2), speaker(16.0), speaker(4.0)]);
    let in_drawer: Vec<usize> = c.choices.iter().filter_map(|c| c.pieces[0].lot).collect();
    assert_eq!(in_drawer, [3, 1, 0], "the nearest load first");
    assert!(c.refused.iter().any(|r| r.lot == Some(2)));
}
