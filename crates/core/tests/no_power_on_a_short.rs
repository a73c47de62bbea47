//! No lit button leads to power with a known short: random stages of an amplifier, part by part decided, fitted, proven or
//! not, against a checker that knows nothing of the code (common practice, no source). The seed is fixed.
#![allow(clippy::unwrap_used, clippy::expect_used, missing_docs)]

use crate::dice::Dice;
use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::proof::ProofOutcome;
use owl_core::transistor::suspect::Role;
use owl_core::tray::question::{FirstAsked, first_asked};
use owl_core::tray::stage::Roles;
use owl_core::tray::{Decision, Fitting, Id, Moment, NewPart, Tray, TrayPart, left};
use owl_core::verdict::{Outcome, Policy, School};

/// What was done with a part so far.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Done {
    Nothing,
    Stays,
    Goes,
    Fitted,
    Proven,
}

const ALL: [Done; 5] = [Done::Nothing, Done::Stays, Done::Goes, Done::Fitted, Done::Proven];

/// What may have died with it is asked about, and named but for the last: or all of it.
fn roles(all: bool) -> Roles {
    let named = if all { Role::ALL } else { &Role::ALL[1..] };
    named.iter().map(|r| (*r, "found".to_owned())).collect()
}

fn part(n: u128, done: Done, suspect_of: Option<Id>) -> TrayPart {
    let mut p = TrayPart::new(Id(n), &format!("Q{n}"), PartKind::Transistor);
    p.suspect_of = suspect_of;
    let decide = |decided| Decision { decided, decided_at: Moment(1) };
    match done {
        Done::Nothing => {}
        Done::Stays => p.decisions.push(decide(Outcome::Keep)),
        Done::Goes => p.decisions.push(decide(Outcome::Replace)),
        Done::Fitted | Done::Proven => {
            p.decisions.push(decide(Outcome::Replace));
            let proof = (done == Done::Proven).then_some(ProofOutcome::Better);
            let piece = NewPart {
                kind: PartKind::Transistor,
                family: None,
                value_si: None,
                tolerance: None,
                power: None,
                volts: None,
                type_number: "BD139".to_owned(),
                safety: None,
                measured_si: None,
            };
            p.fittings.push(Fitting {
                id: Id(100 + n),
                piece,
                fitted_at: Moment(2),
                proof,
                withdrawn_at: None,
            });
        }
    }
    p
}

#[test]
fn no_power_is_proposed_while_a_stage_may_be_short() {
    let school = Policy::of(School::TestFirst, false).unwrap();
    let mut dice = Dice::of_seed(2_236_067_977);
    let (mut held, mut free) = (0, 0);
    for _ in 0..10_000 {
        let first = dice.of(&ALL);
        let others: Vec<Done> = (0..1 + (dice.next() * 4.0) as usize).map(|_| dice.of(&ALL)).collect();
        let named = dice.of(&[true, true, false]);
        let mut parts = vec![part(1, first, None)];
        parts[0].roles = Some(roles(named));
        parts.extend(others.iter().enumerate().map(|(i, d)| part(2 + i as u128, *d, Some(Id(1)))));
        let tray = Tray::new(parts, vec![]);
        // By hand: what goes and has not gone, and a suspect of which nobody has said that it stays, unless the stage works.
        let short = |d: Done, suspect: bool| match d {
            Done::Goes => true,
            Done::Nothing => suspect && first != Done::Proven,
            Done::Stays | Done::Fitted | Done::Proven => false,
        };
        // Nor while nobody has said what else is there to be shorted, unless the stage works.
        let unknown = !named && first != Done::Proven;
        let any = unknown || short(first, false) || others.iter().any(|d| short(*d, true));
        assert_eq!(left::holds_power(&tray, school).is_some(), any, "{first:?} {others:?}");
        // What was fitted is not put to the proof beside a short of its stage.
        for (i, p) in tray.parts().iter().enumerate() {
            let done = if i == 0 { first } else { others[i - 1] };
            if done == Done::Fitted && any {
                let asked = first_asked(&tray, p).map(|a| a.question);
                assert_eq!(asked, Some(FirstAsked::Suspects), "{} of {first:?} {others:?}", p.name);
            }
        }
        if any { held += 1 } else { free += 1 }
    }
    assert!(held > 1000 && free > 500, "{held} {free}");
}
