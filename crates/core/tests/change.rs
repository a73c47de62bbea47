//! One change at a time. Common bench practice, no source.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::change::{Begun, ChangeKind, open, proven_alone, since_last_good};
use owl_core::proof::ProofOutcome::{AsBefore, Better, Worse};

fn fitted(key: char, at: i64) -> Begun<char> {
    Begun { key, kind: ChangeKind::Part, at, proven: None, undone: None, stage: None }
}

fn keys(found: &[&Begun<char>]) -> String {
    found.iter().map(|c| c.key).collect()
}

#[test]
fn the_last_one_begun_is_to_be_proven_first() {
    let mut all = vec![fitted('a', 1)];
    assert_eq!(open(&all).unwrap().key, 'a');
    all[0].proven = Some((2, Better));
    assert!(open(&all).is_none());
    all.push(fitted('b', 3));
    all.push(fitted('c', 4));
    assert_eq!(open(&all).unwrap().key, 'c');
    all[2].undone = Some(5);
    all.push(Begun { kind: ChangeKind::Undo, ..fitted('u', 5) });
    assert_eq!(open(&all).unwrap().key, 'b');
}

#[test]
fn what_was_proven_with_another_open_was_not_proven_alone() {
    let mut all = vec![fitted('a', 1), fitted('b', 3), fitted('c', 4)];
    all[0].proven = Some((2, Better));
    all[1].proven = Some((5, Better));
    all[2].proven = Some((6, Better));
    assert!(proven_alone(&all, &'a'));
    assert!(!proven_alone(&all, &'b') && !proven_alone(&all, &'c'));
    // Taken out again before the other was powered: alone after all.
    all[2] = Begun { undone: Some(4), proven: None, ..fitted('c', 4) };
    all[1].at = 5;
    all[1].proven = Some((6, Better));
    assert!(proven_alone(&all, &'b'));
    all[1].proven = Some((6, AsBefore));
    assert!(!proven_alone(&all, &'b'), "what did not work is not proven");
}

#[test]
fn a_new_fault_names_what_was_changed_since_the_set_was_last_good() {
    let mut all = vec![fitted('a', 1), fitted('b', 3), fitted('c', 5)];
    assert_eq!(keys(&since_last_good(&all)), "cba");
    all[0].proven = Some((2, Better));
    assert_eq!(keys(&since_last_good(&all)), "cb");
    all[1].proven = Some((4, Better));
    assert_eq!(keys(&since_last_good(&all)), "c");
    // An undo is a change as well.
    all[2].undone = Some(7);
    all.push(Begun { kind: ChangeKind::Undo, ..fitted('u', 7) });
    assert_eq!(keys(&since_last_good(&all)), "uc");
    // One that was left open while another was proven is not cleared by that.
    let mut pair = vec![fitted('a', 1), fitted('b', 2)];
    pair[1].proven = Some((3, Better));
    assert_eq!(keys(&since_last_good(&pair)), "a");
    // What left the set as it was is cleared by a later good one; what made it worse is not.
    for (outcome, suspect) in [(AsBefore, ""), (Worse, "a")] {
        pair[0].proven = Some((2, outcome));
        assert_eq!((keys(&since_last_good(&pair)).as_str(), open(&pair)), (suspect, None));
    }
}

#[test]
fn what_is_changed_of_one_stage_is_one_change() {
    let of = |key, stage| Begun { stage, proven: Some((9, Better)), ..fitted(key, 1) };
    let all = [of('a', Some('s')), of('b', Some('s')), of('c', Some('t'))];
    assert!(proven_alone(&all[..2], &'a') && proven_alone(&all[..2], &'b'));
    assert!(!proven_alone(&all, &'a'), "another stage was open beside it");
    assert!(!proven_alone(&[of('a', None), of('b', None)], &'a'), "parts of no stage stand alone");
}
