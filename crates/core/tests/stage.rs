//! A stage is one change (rule R14): what may have died with an output transistor, what holds its fitting and its power, and
//! what goes into all of it together. Common practice, no source.
#![allow(clippy::expect_used, clippy::unwrap_used, missing_docs)]

use owl_core::drawers::{Lot, Piece};
use owl_core::named::Named;
use owl_core::part::{Family, PartKind, Position};
use owl_core::proof::ProofOutcome;
use owl_core::set::{Devices, PowerSource, SetClass};
use owl_core::transistor::suspect::{Role, suspects};
use owl_core::tray::stage::{NotIt, may_be};
use owl_core::tray::together::{choose, places};
use owl_core::tray::{Decision, Fitting, Id, Moment, NewPart, Tray, TrayPart, left, question, stage};
use owl_core::verdict::Outcome;

use crate::drawer::{lot, policy, resistor};

fn decision(at: i64, decided: Outcome) -> Decision {
    Decision { decided, decided_at: Moment(at) }
}

fn fitting(n: u128, at: i64) -> Fitting {
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
    Fitting { id: Id(n), piece, fitted_at: Moment(at), proof: None, withdrawn_at: None }
}

/// Suspects of a stage: `Q5` is the first, the others died with it or killed it.
fn stage(first: TrayPart, others: Vec<(u128, &str, Vec<Decision>)>) -> Tray {
    let suspect = |(n, name, decisions): (u128, &str, Vec<Decision>)| {
        let kind = PartKind::called(name).unwrap();
        TrayPart { suspect_of: Some(Id(1)), decisions, ..TrayPart::new(Id(n), name, kind) }
    };
    Tray::new([first].into_iter().chain(others.into_iter().map(suspect)).collect(), vec![])
}

fn q5(fittings: Vec<Fitting>) -> TrayPart {
    TrayPart { fittings, ..TrayPart::new(Id(1), "Q5", PartKind::Transistor) }
}

#[test]
fn suspects_are_open_until_each_is_decided_on_and_shorts_until_they_are_out() {
    let kept = || (3, "Q6", vec![decision(1, Outcome::Keep)]);
    let goes = || (4, "Q7", vec![decision(1, Outcome::Replace)]);
    let tray = stage(q5(vec![]), vec![(2, "R5A", vec![]), kept(), goes()]);
    assert_eq!(stage::suspects_open(&tray, Id(1)), ["R5A"]);
    assert_eq!(tray.neighbours(&tray.parts()[0]), [Id(2), Id(3), Id(4)]);
    let names = |parts: Vec<&TrayPart>| parts.iter().map(|p| p.name.as_str()).collect::<Vec<_>>().join(" ");
    assert_eq!(names(stage::stage(&tray, &tray.parts()[2]).collect()), "Q5 R5A Q6 Q7");
    assert_eq!(names(stage::to_fit(&tray, &tray.parts()[1])), "Q7", "only what goes");
    assert_eq!(stage::key(&tray, &tray.parts()[3]), Some(Id(1)), "one stage from all sides");
    let asked =
        |tray: &Tray, at: usize| question::first_asked(tray, &tray.parts()[at]).map(|a| a.parts.join(" "));
    assert_eq!(asked(&tray, 0).as_deref(), Some("R5A"), "before the first is fitted");
    // Fitted, its stage is proven as one: what goes is still there, shorted, until another is in.
    let fitted = || q5(vec![fitting(9, 5)]);
    let tray = stage(fitted(), vec![kept(), goes()]);
    assert_eq!(asked(&tray, 0).as_deref(), Some("Q7"));
    assert!(left::holds_power(&tray, policy()).is_some_and(|why| why.starts_with("Q7 is bad")));
    let tray = stage(fitted(), vec![kept()]);
    assert_eq!((asked(&tray, 0), left::holds_power(&tray, policy())), (None, None));
    // The same from the other side: a fellow that was fitted is not proven beside a first that is still shorted.
    let first = TrayPart { decisions: vec![decision(1, Outcome::Replace)], ..q5(vec![]) };
    let mut fellow = TrayPart { suspect_of: Some(Id(1)), ..TrayPart::new(Id(3), "Q6", PartKind::Transistor) };
    fellow.fittings = vec![fitting(9, 5)];
    assert_eq!(asked(&Tray::new(vec![first, fellow], vec![]), 1).as_deref(), Some("Q5"));
    // Once the first was proven to work nobody is a suspect any more.
    let mut works = fitting(9, 5);
    works.proof = Some(ProofOutcome::Better);
    assert_eq!(left::holds_power(&stage(q5(vec![works]), vec![(2, "R5A", vec![])]), policy()), None);
}

/// What dies with an output transistor is looked for on the tray; what is not found there is asked for and not made up
/// (common practice, no source).
#[test]
fn what_may_have_died_is_recognised_and_the_rest_is_named_by_somebody() {
    let at = |n: u128, name: &str, position: Option<Position>| {
        let kind = PartKind::called(name).unwrap();
        TrayPart { position, ..TrayPart::new(Id(n), name, kind) }
    };
    let q8 = TrayPart { group: Some(Id(50)), ..at(1, "Q8", Some(Position::HalfBridge)) };
    let q9 = TrayPart { group: Some(Id(50)), ..at(2, "Q9", None) };
    let taken = TrayPart { suspect_of: Some(Id(9)), ..at(5, "Q3", Some(Position::Driver)) };
    let parts =
        vec![q8, q9, at(3, "R41", Some(Position::Emitter)), at(4, "R42", Some(Position::Cathode)), taken];
    let mut tray = Tray::new(parts.clone(), vec![]);
    let known: Vec<(Role, &str)> =
        stage::recognised(&tray, &tray.parts()[0]).into_iter().map(|(r, p)| (r, p.name.as_str())).collect();
    assert_eq!(known, [(Role::Fellow, "Q9"), (Role::EmitterResistor, "R41")]);
    let all = stage::recognised(&tray, &tray.parts()[0]);
    let twice: Vec<(Role, &TrayPart)> = all.iter().chain(&all[..1]).copied().collect();
    assert_eq!(stage::roles_of(&twice)[&Role::Fellow], "Q9, Q9", "two of a role are both named");
    // Asked of an output transistor, once, and not of one that died with another.
    let asked_of = |p: &TrayPart| stage::is_to_be_asked(p);
    let [q8, q9, .., q3] = &parts[..] else { panic!("five parts") };
    assert!(asked_of(q8) && !asked_of(q9) && !asked_of(q3));
    assert!(!asked_of(&TrayPart { roles: Some(stage::Roles::new()), ..q8.clone() }));
    assert!(!asked_of(&TrayPart { suspect_of: Some(Id(2)), ..q8.clone() }));
    // Nobody asks before it is known that it shorted; then each that is not named keeps the question and the power.
    let asked =
        |tray: &Tray| question::first_asked(tray, &tray.parts()[0]).map(|a| (a.question, a.parts.join(" ")));
    assert!(stage::unnamed(&parts[0]).is_empty() && asked(&tray).is_none());
    let roles = |n: usize| Role::ALL.iter().take(n).map(|r| (*r, "R1".to_owned())).collect();
    let mut first = parts[0].clone();
    first.roles = Some(roles(6));
    tray = Tray::new(vec![first.clone()], vec![]);
    assert_eq!(stage::unnamed(&first)[0].role, Role::AcrossTheOutput);
    assert_eq!(asked(&tray), Some((question::FirstAsked::Suspects, String::new())));
    assert!(left::holds_power(&tray, policy()).is_some_and(|why| why.contains("resistor across the output")));
    first.roles = Some(roles(7));
    tray = Tray::new(vec![first], vec![]);
    assert_eq!((asked(&tray), left::holds_power(&tray, policy())), (None, None));
}

/// Which part may be named for a role: of its kind, not the transistor itself, and not what died with another.
#[test]
fn what_is_named_can_be_what_died() {
    let tray = stage(q5(vec![]), vec![(2, "R5", vec![])]);
    let mut parts = tray.parts().to_vec();
    let other = TrayPart::new(Id(8), "Q8", PartKind::Transistor);
    parts.push(TrayPart { suspect_of: Some(Id(8)), ..TrayPart::new(Id(9), "R9", PartKind::Resistor) });
    parts.push(other);
    let tray = Tray::new(parts, vec![]);
    let of = |role| suspects().iter().find(|s| s.role == role).unwrap();
    let named = |role, name: &str| may_be(&tray, &tray.parts()[0], of(role), name);
    assert_eq!(named(Role::EmitterResistor, "R5"), Ok(()), "it is one already");
    assert_eq!(named(Role::EmitterResistor, "R77"), Ok(()), "not on the tray yet");
    assert_eq!(named(Role::Driver, "Q5"), Err(NotIt::Itself("Q5".to_owned())));
    for (role, name) in [(Role::Driver, "R5"), (Role::BiasDiode, "C4"), (Role::EmitterResistor, "17")] {
        assert!(matches!(named(role, name), Err(NotIt::Kind { .. })), "{name}");
    }
    assert_eq!(
        named(Role::EmitterResistor, "R9").unwrap_err().to_string(),
        "R9 is a suspect with Q8 already: take it off there first"
    );
}

/// Both halves of a pair out of the drawer that has two, and what one place takes is not there for the next.
#[test]
fn a_stage_is_chosen_together() {
    let goes = |n: u128, name: &str, ohms: f64| TrayPart {
        group: Some(Id(70)),
        position: Some(Position::Emitter),
        marked_si: Some(ohms),
        decisions: vec![decision(1, Outcome::Replace)],
        ..TrayPart::new(Id(n), name, PartKind::Resistor)
    };
    let tray = Tray::new(
        vec![goes(1, "R1", 47.0), goes(2, "R2", 47.0), goes(3, "R3", 10.0), goes(4, "R4", 47.0)],
        vec![],
    );
    let of = |ohms, count| Lot { count, ..resistor(ohms, 0.5, Family::MetalFilm) };
    let taken = |lots: &[Lot]| -> Vec<Option<usize>> {
        let all =
            places(&tray, &tray.parts()[0], SetClass::of(PowerSource::Transformer, Devices::Transistors));
        choose(&all, policy(), lots, &[])
            .into_iter()
            .map(|found| found.unwrap().unwrap().choices[0].pieces[0].lot)
            .collect()
    };
    assert_eq!(taken(&[of(47.0, 2), of(47.0, 3), of(10.0, 1)]), [Some(1), Some(1), Some(2), Some(1)]);
    // Where no drawer has three alike they are bought, and the other place is served as it can be.
    assert_eq!(taken(&[of(47.0, 2), of(10.0, 1)]), [None, None, Some(1), None]);
    // A part of which nothing is known has nothing to choose from; one that stays is no place.
    let unread = TrayPart { marked_si: None, ..goes(5, "R5", 1.0) };
    let stays = TrayPart { decisions: vec![decision(1, Outcome::Keep)], ..goes(6, "R6", 47.0) };
    let tray = Tray::new(vec![unread, stays], vec![]);
    let all = places(&tray, &tray.parts()[1], SetClass::of(PowerSource::Transformer, Devices::Transistors));
    let parts = [lot(Piece::new(PartKind::Resistor))];
    assert_eq!((all.len(), choose(&all, policy(), &parts, &[]) == vec![None]), (1, true));
}
