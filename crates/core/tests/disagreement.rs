//! When sheet, mark and meter disagree by more than 2 : 1 (common practice, no source).
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::disagreement::{Between, Disagreement, Explanation, Values, all};
use owl_core::named::Named;
use owl_core::part::PartKind;
use proptest::prelude::*;

/// The first of those that hold up what is fitted.
fn find(values: &Values) -> Option<Disagreement> {
    all(values, f64::INFINITY).into_iter().next()
}

fn resistor(sheet: f64, marked: f64, measured: f64, in_circuit: bool) -> Option<Disagreement> {
    let some = |v: f64| (v > 0.0).then_some(v);
    find(&Values {
        part: PartKind::Resistor,
        sheet_si: some(sheet),
        marked_si: some(marked),
        measured_si: some(measured),
        in_circuit,
    })
}

#[test]
fn three_values_and_what_they_say_of_each_other() {
    for (sheet, marked, measured, in_circuit, want) in [
        // agreeing, or nothing to compare
        (270e3, 270e3, 281e3, false, None),
        (270e3, 0.0, 0.0, false, None),
        (0.0, 270e3, 0.0, false, None),
        (0.0, 0.0, 5e3, false, None),
        // exactly 2 : 1 is not more than 2 : 1
        (10e3, 20e3, 0.0, false, None),
        (10e3, 20.1e3, 0.0, false, Some(Between::SheetAndMark)),
        // the sheet against the mark comes first
        (27e3, 270e3, 5e3, false, Some(Between::SheetAndMark)),
        (27e3, 27e3, 90e3, false, Some(Between::MarkAndMeter)),
        (27e3, 27e3, 9e3, false, Some(Between::MarkAndMeter)),
        (27e3, 0.0, 90e3, false, Some(Between::SheetAndMeter)),
        // in circuit a resistor can only read low: low proves nothing, high does (rule R2)
        (27e3, 27e3, 9e3, true, None),
        (27e3, 27e3, 90e3, true, Some(Between::MarkAndMeter)),
    ] {
        let got = resistor(sheet, marked, measured, in_circuit).map(|d| d.between);
        assert_eq!(got, want, "{sheet} {marked} {measured} {in_circuit}");
    }
}

#[test]
fn a_capacitor_in_circuit_reads_high_for_reasons_of_its_neighbours() {
    let of = |measured, in_circuit| {
        find(&Values {
            part: PartKind::Capacitor,
            sheet_si: Some(33e-9),
            marked_si: Some(33e-9),
            measured_si: Some(measured),
            in_circuit,
        })
    };
    assert!(of(99e-9, true).is_none());
    assert_eq!(of(99e-9, false).unwrap().between, Between::MarkAndMeter);
    assert_eq!(of(9e-9, true).unwrap().between, Between::MarkAndMeter);
}

#[test]
fn the_question_names_both_values_and_the_ratio() {
    let d = resistor(3.3e3, 33e3, 0.0, false).unwrap();
    assert_eq!(
        d.question,
        "Marked 33 kΩ, 10 times the sheet (3.3 kΩ): misprint, misread, or a wrong part fitted before?"
    );
    assert!(resistor(33e3, 3.3e3, 0.0, false).unwrap().question.contains("1/10 of the sheet"));
    assert!(
        resistor(0.0, 33e3, 82.5e3, false).unwrap().question.contains("Measures 82.5 kΩ, 2.5 times the mark")
    );
    assert!(resistor(12e3, 0.0, 500e3, false).unwrap().question.contains("42 times the sheet"));
    let diode = Values {
        part: PartKind::Diode,
        sheet_si: Some(1.0),
        marked_si: Some(9.0),
        measured_si: None,
        in_circuit: false,
    };
    assert!(find(&diode).is_none(), "a diode has no value to disagree about");
}

/// Every explanation belongs to some question, and every question has at least three answers.
#[test]
fn the_answers_fit_their_questions() {
    let near = Values {
        part: PartKind::Resistor,
        sheet_si: Some(3.3e3),
        marked_si: Some(3.9e3),
        measured_si: None,
        in_circuit: false,
    };
    let questions = [
        resistor(3.3e3, 33e3, 0.0, false).unwrap(),
        resistor(0.0, 33e3, 99e3, false).unwrap(),
        resistor(12e3, 0.0, 99e3, false).unwrap(),
        all(&near, 1.09).remove(0),
    ];
    for answer in Explanation::ALL {
        assert!(questions.iter().any(|q| q.takes(*answer)), "{answer}");
    }
    for q in &questions {
        assert!(q.answers.len() >= 3 && q.answer_names().len() == q.answers.len());
        assert!(!q.source.clause.is_empty());
    }
    assert!(!questions[0].takes(Explanation::Failed), "a mark against a sheet is no failed part");
}

proptest! {
    /// The same question whichever of the two is greater, and none within 2 : 1.
    #[test]
    fn the_rule_is_even_handed(a in 0.1f64..1e7, ratio in 1.0f64..1000.0) {
        let up = resistor(a, a * ratio, 0.0, false);
        let down = resistor(a * ratio, a, 0.0, false);
        prop_assert_eq!(up.is_some(), down.is_some());
        if ratio < 1.999 { prop_assert!(up.is_none()); }
        if ratio > 2.001 { prop_assert!((up.unwrap().ratio - ratio).abs() < 1e-6 * ratio); }
    }
}

/// A lesser difference of sheet and mark is named, holds nothing up, and never stands before what does.
#[test]
fn what_differs_from_the_sheet_is_named_after_what_holds() {
    let values = |marked, measured| Values {
        part: PartKind::Resistor,
        sheet_si: Some(330e3),
        marked_si: Some(marked),
        measured_si: Some(measured),
        in_circuit: false,
    };
    let named = all(&values(470e3, 475e3), 1.09);
    assert_eq!(named.len(), 1);
    assert!(!named[0].holds && named[0].question.contains("Marked 470 kΩ, +42.4 %"), "{named:?}");
    assert!(named[0].takes(Explanation::WrongPlace) && named[0].takes(Explanation::Changed));
    // A neighbour in E24 is named too; the same value read through a tolerance is not.
    assert_eq!(all(&values(300e3, 300e3), 1.09).len(), 1);
    assert!(all(&values(330e3, 345e3), 1.09).is_empty());
    let both: Vec<bool> = all(&values(470e3, 2e6), 1.09).iter().map(|d| d.holds).collect();
    assert_eq!(both, [true, false], "the meter against the mark is asked first");
}
