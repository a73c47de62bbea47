//! A ticket's tray without a server: what is installed, how far it is, what is asked, what may go in and be undone.
//! Expectations are common practice, no source, unless a line says otherwise.
#![allow(clippy::expect_used, clippy::unwrap_used, missing_docs)]

use crate::bench;

use owl_core::caution::Step;
use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::marking::disagreement::Between;
use owl_core::marking::{Hints, read_text};
use owl_core::part::{CapacitorFamily, Fact, Family, MadeOf, Part, PartKind, Position, SafetyClass};
use owl_core::proof::ProofOutcome;
use owl_core::quantity::{Farad, Fraction, Quantity, Volt, Watt};
use owl_core::reading::{ReadQuantity, Reading, Shown, State};
use owl_core::set::{Devices, PowerSource, SetClass};
use owl_core::tray::goes_in::{Taken, check, class_of, far_off, wanted};
use owl_core::tray::installed::{Against, as_found, installed};
use owl_core::tray::left::{self, alignment_due, can_reform, is_needed, left, unfinished};
use owl_core::tray::status::{ToDo, decided, to_do};
use owl_core::tray::undo::{Held, may_prove, may_undo};
use owl_core::tray::verdict::{Judged, judged, latest, measured, overloaded};
use owl_core::tray::{
    Decision, Explained, Fitting, Id, Moment, NewPart, Status, TakenReading, Tray, TrayPart, branch, question,
};
use owl_core::verdict::{Outcome, Policy, School};

fn school() -> &'static Policy {
    Policy::of(School::TestFirst, false).expect("the school is there")
}

/// A part called `name`, marked with a value.
fn part(n: u128, name: &str, marked: f64) -> TrayPart {
    let kind = PartKind::called(name).expect("a name of the trade");
    let tolerance = Fraction::new(0.1).ok();
    TrayPart { marked_si: Some(marked), tolerance, ..TrayPart::new(Id(n), name, kind) }
}

fn read(at: i64, of: ReadQuantity, si: f64, state: State) -> TakenReading {
    let reading = Reading { state, ..Reading::of(of, Shown::Value { si }) };
    TakenReading { id: Id(9000 + at as u128), reading, taken_at: Moment(at), voided_at: None }
}

fn ohms(at: i64, si: f64) -> TakenReading {
    read(at, ReadQuantity::Resistance, si, State::Lifted)
}

fn decision(at: i64, decided: Outcome) -> Decision {
    Decision { decided, decided_at: Moment(at) }
}

fn fitting(n: u128, at: i64, kind: PartKind, value: f64) -> Fitting {
    let family = match kind {
        PartKind::Resistor => Some(MadeOf::Resistor(Family::MetalFilm)),
        PartKind::Capacitor => Some(MadeOf::Capacitor(CapacitorFamily::Polypropylene)),
        _ => None,
    };
    let piece = NewPart {
        kind,
        family,
        value_si: Some(value),
        tolerance: Fraction::new(0.01).ok(),
        volts: None,
        ..offer(None)
    };
    Fitting { id: Id(n), piece, fitted_at: Moment(at), proof: None, withdrawn_at: None }
}

fn one(p: TrayPart) -> Tray {
    Tray::new(vec![p], vec![])
}

fn of(tray: &Tray) -> Judged<'_> {
    judged(tray, &tray.parts()[0], school())
}

/// The story of one resistor, step by step: what it says, what is next, what the shelf counts.
#[test]
fn a_part_goes_from_its_name_to_its_proof() {
    let mut p = TrayPart::new(Id(1), "R9", PartKind::Resistor);
    let state = |p: &TrayPart| {
        let tray = one(p.clone());
        let j = of(&tray);
        (j.status.progress.status().0, j.status.step, to_do(p), j.says(), j.to_measure())
    };
    assert_eq!(state(&p), (Status::Unread, Step::Read, ToDo::Measure, None, false));
    p.marked_si = Some(27e3);
    p.tolerance = Fraction::new(0.1).ok();
    assert_eq!(state(&p), (Status::Unmeasured, Step::Measure, ToDo::Measure, None, true));
    p.readings.push(ohms(10, 41e3));
    assert_eq!(state(&p), (Status::Judged, Step::Judge, ToDo::Decide, Some(Outcome::Replace), false));
    p.decisions.push(decision(20, Outcome::Replace));
    assert_eq!(state(&p), (Status::Decided, Step::Fit, ToDo::Fit, Some(Outcome::Replace), false));
    assert!(is_needed(&of(&one(p.clone()))));
    p.fittings.push(fitting(7, 30, PartKind::Resistor, 27e3));
    assert_eq!(state(&p), (Status::Fitted, Step::Prove, ToDo::Prove, None, true));
    p.fittings[0].proof = Some(ProofOutcome::Better);
    assert_eq!(state(&p), (Status::Proven, Step::Prove, ToDo::Nothing, Some(Outcome::Keep), false));
    let done = of(&one(p.clone())).done();
    assert_eq!(done, [Step::Read, Step::Measure, Step::Judge, Step::Fit, Step::Prove]);
    p.fittings[0].proof = Some(ProofOutcome::Worse);
    assert_eq!(state(&p), (Status::Worse, Step::Measure, ToDo::Measure, Some(Outcome::Replace), true));
    p.fittings[0].proof = Some(ProofOutcome::AsBefore);
    assert_eq!(state(&p), (Status::AsBefore, Step::Prove, ToDo::Prove, None, true));
}

#[test]
fn a_lamp_and_a_circuit_are_fitted_without_being_measured() {
    for (name, kind) in [("P1", PartKind::Lamp), ("U2", PartKind::Ic)] {
        let p = TrayPart::new(Id(1), name, kind);
        assert_eq!(to_do(&p), ToDo::Nothing, "{name}");
        let tray = one(p);
        let j = of(&tray);
        // A circuit may be measured at its pins, and need not be.
        let steps = [Step::Read, Step::Measure, Step::Judge, Step::Fit, Step::Prove];
        let its: Vec<Step> = steps
            .into_iter()
            .filter(|s| kind == PartKind::Ic || !matches!(s, Step::Measure | Step::Judge))
            .collect();
        assert_eq!(j.status.steps, its, "{name}");
        assert!(
            !j.to_measure()
                && j.sits.part.is_none()
                && j.verdict.is_none()
                && left(&j, false, false).is_none(),
            "{name}"
        );
    }
}

/// A decision is about what was known when it was made.
#[test]
fn a_decision_holds_until_something_happens() {
    let mut p = part(1, "R2", 1e3);
    p.readings = vec![ohms(1, 1.01e3)];
    p.decisions = vec![decision(5, Outcome::Keep)];
    assert_eq!((decided(&p).map(|d| d.decided), to_do(&p)), (Some(Outcome::Keep), ToDo::Nothing));
    let mut measured = p.clone();
    measured.readings.push(ohms(6, 1.5e3));
    let mut voided = p.clone();
    voided.readings[0].voided_at = Some(Moment(7));
    let mut fitted = p.clone();
    fitted.fittings.push(fitting(3, 8, PartKind::Resistor, 1e3));
    for p in [&measured, &voided, &fitted] {
        assert!(decided(p).is_none());
    }
    // A fitting that was undone is as if it had not been.
    fitted.fittings[0].withdrawn_at = Some(Moment(9));
    assert!(decided(&fitted).is_some());
    assert_eq!((to_do(&measured), to_do(&voided)), (ToDo::Decide, ToDo::Measure));
}

#[test]
fn what_was_fitted_is_judged_by_its_own_mark_and_what_was_found_by_the_old() {
    let mut p = part(1, "R5", 220e3);
    p.readings = vec![ohms(1, 310e3)];
    let mut f = fitting(4, 10, PartKind::Resistor, 240e3);
    f.piece.measured_si = Some(239e3);
    assert!(f.piece.deviation().is_some_and(|d| (d + 1.0 / 240.0).abs() < 1e-12));
    p.fittings.push(f);
    assert_eq!(measured(&p), Some((Quantity::Resistance, Some(239e3))), "until it is read where it sits");
    p.readings.push(ohms(20, 239.6e3));
    assert_eq!(measured(&p), Some((Quantity::Resistance, Some(239.6e3))));
    let tray = one(p);
    let now = installed(&tray, &tray.parts()[0]);
    assert_eq!((now.against, now.readings.len(), now.taken.len()), (Some(Against::Fitted), 2, 2));
    assert!(now.taken[0].is_none() && matches!(now.part, Some(Part::Resistor(r)) if r.value.ohms() == 240e3));
    let then = as_found(&tray, &tray.parts()[0]);
    assert_eq!((then.against, then.readings.len()), (Some(Against::Mark), 1));
    assert_eq!(of(&tray).verdict.map(|v| v.call), Some(Outcome::Keep));
    assert_eq!(latest(&tray.parts()[0]).map(|r| r.taken_at), Some(Moment(20)));
}

/// Averages hide pairs (rule R1): 10 % apart, each inside its own tolerance.
#[test]
fn halves_of_a_pair_are_judged_beside_each_other() {
    let half = |n, name: &str, value| {
        let mut p = part(n, name, 390.0);
        p.position = Some(Position::Cathode);
        p.readings = vec![ohms(1, value)];
        p.group = Some(Id(77));
        p
    };
    let apart = Tray::new(vec![half(1, "R11", 392.0), half(2, "R12", 424.0)], vec![]);
    let together = Tray::new(vec![half(1, "R11", 392.0), half(2, "R12", 394.0)], vec![]);
    let call = |t: &Tray, i: usize| judged(t, &t.parts()[i], school()).verdict.map(|v| v.call);
    assert_eq!(call(&together, 0), Some(Outcome::Keep));
    assert_eq!(call(&apart, 1), Some(Outcome::Replace));
    assert_eq!(apart.neighbours(&apart.parts()[0]), [Id(2)]);
}

#[test]
fn a_feed_is_known_from_the_tray_as_it_stands_there() {
    let mut feed = part(1, "R3", 47e3);
    feed.power = Watt::new(1.0).ok();
    let mut fed = part(2, "C8", 0.1e-6);
    fed.fed_by = Some(Id(1));
    fed.said.set_si(Fact::Voltage, 92.0).unwrap();
    let volts = |t: &Tray| installed(t, &t.parts()[1]).circuit.get_si(Fact::FeedResistor);
    let tray = Tray::new(vec![feed.clone(), fed.clone()], vec![]);
    assert_eq!(volts(&tray), Some(47e3));
    assert_eq!(tray.neighbours(&tray.parts()[0]), [Id(2)]);
    let told = branch::branch(&tray);
    assert_eq!(told.lines[0], "R3 from rail to behind R3 47kΩ 1W");
    assert_eq!(told.nodes, [("behind R3".to_owned(), Volt::new(92.0).unwrap())]);
    feed.fittings.push(fitting(5, 1, PartKind::Resistor, 56e3));
    assert_eq!(volts(&Tray::new(vec![feed, fed], vec![])), Some(56e3));
}

#[test]
fn a_branch_takes_what_was_read_with_an_end_free() {
    let with = |n, name, readings| TrayPart { readings, ..part(n, name, 47e3) };
    let in_set = read(1, ReadQuantity::Resistance, 30e3, State::InCircuit);
    let mut fitted = with(5, "R5", vec![ohms(1, 50e3)]);
    fitted.fittings.push(fitting(9, 2, PartKind::Resistor, 47e3));
    let tray = Tray::new(
        vec![
            with(1, "R1", vec![ohms(1, 51e3), in_set]),
            with(2, "R2", vec![in_set]),
            with(3, "C3", vec![read(1, ReadQuantity::LeakageResistance, 30e3, State::Lifted)]),
            fitted,
        ],
        vec![],
    );
    let read: Vec<(String, f64)> = branch::as_read(&tray).into_iter().map(|(n, r)| (n, r.ohms())).collect();
    assert_eq!(
        read,
        [("R1".to_owned(), 51e3)],
        "in circuit, changed since, or a leak at a meter's volts: no"
    );
}

#[test]
fn values_that_disagree_are_asked_about_until_somebody_answers_for_these_values() {
    let mut p = part(1, "R7", 56e3);
    p.sheet_si = Some(5.6e3);
    let asked = question::disagreement(&p).expect("ten times the sheet");
    assert_eq!(asked.between, Between::SheetAndMark);
    p.explained = vec![Explained {
        between: Between::SheetAndMark,
        sheet_si: Some(5.6e3),
        marked_si: Some(56e3),
        measured_si: None,
    }];
    assert!(question::disagreement(&p).is_none());
    // Another sheet value, and the question comes again; another part, and it goes.
    p.sheet_si = Some(5.1e3);
    assert!(question::disagreement(&p).is_some());
    p.readings = vec![ohms(1, 57e3), ohms(2, 58e3)];
    p.readings[1].voided_at = Some(Moment(3));
    assert_eq!(question::compared_si(&p), Some(57e3));
}

#[test]
fn what_overloaded_a_part_is_asked_with_those_that_could_have() {
    let mut burnt = part(1, "R4", 10e3);
    burnt.looks = vec![owl_core::part::VisualSign::Scorched];
    let mut c = part(2, "C6", 0.05e-6);
    c.fed_by = Some(Id(1));
    c.family = Some(MadeOf::Capacitor(CapacitorFamily::WaxPaper));
    let tray = Tray::new(vec![burnt.clone(), c], vec![]);
    let j = judged(&tray, &tray.parts()[0], school());
    assert!(overloaded(&tray, j.part, j.verdict.as_ref(), school()));
    let found = question::overloaders(&tray, j.part);
    assert!(found.len() == 1 && found[0].name == "C6" && found[0].known, "{found:?}");
    // It stays asked when something else sits there.
    burnt.fittings.push(fitting(9, 50, PartKind::Resistor, 10e3));
    let tray = one(burnt);
    assert!(overloaded(&tray, &tray.parts()[0], None, school()));
}

/// No lit button leads to power with a known short (common practice, no source).
#[test]
fn what_must_be_answered_stands_before_fit_and_before_power() {
    use question::FirstAsked::{Cause, Disagreement};
    let mut p = part(1, "C7", 8e-6);
    p.family = Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic));
    let asked = |p: &TrayPart, burnt: bool| {
        let looks = if burnt { vec![owl_core::part::VisualSign::Scorched] } else { vec![] };
        let tray = one(TrayPart { looks, ..p.clone() });
        question::first_asked(&tray, &tray.parts()[0]).map(|a| a.question)
    };
    let r = part(5, "R5", 1e3);
    assert_eq!((asked(&r, false), asked(&r, true)), (None, Some(Cause)));
    p.sheet_si = Some(80e-6);
    assert_eq!(asked(&p, false), Some(Disagreement), "ten times the sheet");
    p.sheet_si = Some(6e-6);
    assert_eq!(asked(&p, false), None, "a lesser difference holds nothing up");
    let mut bad = part(3, "C9", 47e-9);
    bad.decisions = vec![decision(1, Outcome::Replace)];
    assert!(left::holds_power(&one(bad.clone()), school()).is_some_and(|why| why.starts_with("C9")));
    // What only its value condemns is no short.
    bad.decisions = vec![];
    bad.family = Some(MadeOf::Capacitor(CapacitorFamily::Polyester));
    let free = |si| Reading {
        state: State::OutOfCircuit,
        ..Reading::of(ReadQuantity::Capacitance, Shown::Value { si })
    };
    bad.readings =
        vec![TakenReading { id: Id(7), reading: free(20e-9), taken_at: Moment(1), voided_at: None }];
    assert!(is_needed(&judged(&one(bad.clone()), &bad, school())));
    assert_eq!(left::holds_power(&one(bad), school()), None);
}

/// A capacitor that is offered, with nothing said of it but its value.
fn offer(safety: Option<SafetyClass>) -> NewPart {
    NewPart {
        kind: PartKind::Capacitor,
        family: Some(MadeOf::Capacitor(CapacitorFamily::Polypropylene)),
        value_si: Some(33e-9),
        tolerance: None,
        power: None,
        volts: Volt::new(275.0).ok(),
        type_number: String::new(),
        safety,
        measured_si: None,
    }
}

/// IEC 60384-14 (classes X and Y); that a class is never taken from the words of a description is ours.
#[test]
fn a_place_that_protects_people_takes_only_a_part_whose_class_is_known_and_right() {
    let at = |position| {
        let mut p = part(1, "C1", 33e-9);
        p.position = Some(position);
        p
    };
    use SafetyClass::{X1, X2, Y1, Y2};
    for (position, right, wrong) in [
        (Position::AcrossTheLine, [X1, X2], [Y1, Y2]),
        (Position::LineToChassis, [Y1, Y2], [X1, X2]),
        (Position::AntennaIsolation, [Y1, Y2], [X1, X2]),
    ] {
        let p = at(position);
        for class in right {
            assert_eq!(check(&p, &offer(Some(class))), Ok(()), "{position} {class}");
        }
        for class in wrong {
            let e = check(&p, &offer(Some(class))).unwrap_err();
            assert!(e.field() == "safety" && e.to_string().contains("needs class"), "{e}");
        }
        let e = check(&p, &offer(None)).unwrap_err();
        assert!(e.field() == "safety" && e.to_string().contains("printed on it"), "{e}");
    }
    assert_eq!(check(&at(Position::Coupling), &offer(None)), Ok(()));
    let lot = |safety| Taken {
        lot: Lot {
            piece: Piece { safety, ..Piece::new(PartKind::Capacitor) },
            ..bench::lot(Piece::new(PartKind::Capacitor), 3, Condition::New)
        },
        count: 1,
    };
    // Two pieces have a class together only where both have it.
    assert_eq!(class_of(None, &[lot(Some(X2))]), Some(X2));
    assert_eq!(class_of(None, &[lot(Some(X2)), lot(None)]), None);
    assert_eq!(
        class_of(Some(X2), &[lot(Some(X2)), lot(None)]),
        Some(X2),
        "what is printed on the other was said"
    );
    assert_eq!(class_of(Some(X2), &[lot(Some(Y2))]), Some(Y2), "the drawer knows better");
    assert_eq!(class_of(Some(Y2), &[]), Some(Y2));
    assert_eq!(class_of(None, &[]), None);
}

#[test]
fn what_is_said_of_a_piece_is_held_against_the_part() {
    let r = part(1, "R1", 1e6);
    let film = Some(MadeOf::Resistor(Family::MetalFilm));
    let good =
        NewPart { kind: PartKind::Resistor, family: film, value_si: Some(1e6), volts: None, ..offer(None) };
    assert_eq!(check(&r, &good), Ok(()));
    let field = |o: NewPart| check(&r, &o).map_err(|e| e.field());
    assert_eq!(field(offer(None)), Err("kind"));
    assert_eq!(field(NewPart { value_si: None, ..good.clone() }), Err("value"));
    assert_eq!(field(NewPart { family: None, ..good.clone() }), Err("family"));
    let paper = Some(MadeOf::Capacitor(CapacitorFamily::WaxPaper));
    assert_eq!(field(NewPart { family: paper, ..good.clone() }), Err("family"));
    assert_eq!(field(NewPart { tolerance: Fraction::new(1.2).ok(), ..good.clone() }), Err("tolerance"));
    assert_eq!(field(NewPart { safety: Some(SafetyClass::X2), ..good.clone() }), Err("safety"));
    let q = TrayPart::new(Id(2), "Q1", PartKind::Transistor);
    let nameless = NewPart { kind: PartKind::Transistor, family: None, value_si: None, ..good.clone() };
    assert_eq!(check(&q, &nameless).map_err(|e| e.field()), Err("type_number"));
    let lamp = TrayPart::new(Id(3), "P1", PartKind::Lamp);
    let lit = NewPart {
        kind: PartKind::Lamp,
        family: None,
        value_si: Some(6.3),
        measured_si: Some(5.0),
        ..good.clone()
    };
    assert_eq!(check(&lamp, &lit).map_err(|e| e.field()), Err("measured"));
    // A resistor stands for a field coil, nothing else for anything else.
    let coil = TrayPart::new(Id(4), "L1", PartKind::Coil);
    assert_eq!(check(&coil, &good), Ok(()));
    // Twice its value is no new part; a thousand times is a slip of the finger.
    let measured = |m| far_off(&NewPart { measured_si: Some(m), ..good.clone() });
    assert!(measured(1.02e6).is_none() && measured(2.5e6).is_some_and(|q| q.contains("right one")));
    assert!(measured(1e9).is_some_and(|q| q.contains("Perhaps")));
}

#[test]
fn a_fitting_is_proven_until_it_works_and_undone_while_nothing_holds_it() {
    let mut p = part(1, "R8", 1e3);
    p.fittings = vec![fitting(10, 1, PartKind::Resistor, 1e3), fitting(11, 2, PartKind::Resistor, 1e3)];
    assert_eq!((may_undo(&p, Id(10)), may_undo(&p, Id(11))), (Err(Held::Followed), Ok(())));
    p.fittings[1].withdrawn_at = Some(Moment(3));
    assert_eq!(may_undo(&p, Id(10)), Ok(()));
    assert_eq!((may_undo(&p, Id(11)), may_prove(&p, Id(11))), (Err(Held::UndoneAlready), Err(Held::Undone)));
    for short in [ProofOutcome::AsBefore, ProofOutcome::Worse] {
        p.fittings[0].proof = Some(short);
        assert_eq!((may_undo(&p, Id(10)), may_prove(&p, Id(10))), (Ok(()), Ok(())));
    }
    p.fittings[0].proof = Some(ProofOutcome::Better);
    assert_eq!((may_undo(&p, Id(10)), may_prove(&p, Id(10))), (Err(Held::Works), Err(Held::Works)));
}

#[test]
fn what_is_left_names_what_keeps_a_ticket_open() {
    let mut tuned = part(1, "C2", 220e-12);
    tuned.position = Some(Position::Padder);
    tuned.fittings = vec![fitting(9, 40, PartKind::Capacitor, 220e-12)];
    let mut open = part(2, "R6", 1e3);
    open.readings = vec![ohms(1, 1e3)];
    let tray = Tray::new(vec![tuned, open, part(3, "R7", 2e3)], vec![]);
    assert_eq!(alignment_due(&tray, None), ["C2"]);
    assert_eq!(alignment_due(&tray, Some(Moment(30))), ["C2"]);
    assert!(alignment_due(&tray, Some(Moment(50))).is_empty());
    let all: Vec<_> = tray.parts().iter().map(|p| judged(&tray, p, school())).collect();
    assert_eq!(unfinished(&all), [("to measure", vec!["R7"]), ("to decide", vec!["R6"])]);
}

#[test]
fn a_can_is_reformed_while_nobody_has_decided_that_it_goes() {
    let mut can = part(1, "C9", 16e-6);
    can.family = Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic));
    let mark = read_text("16+8/350", Hints::of(PartKind::Capacitor)).unwrap().remove(0);
    can.mark = Some(mark);
    let tray = one(can.clone());
    assert!(can_reform(&tray, &tray.parts()[0]));
    let rated = installed(&tray, &tray.parts()[0]).part;
    assert!(matches!(rated, Some(Part::Capacitor(c)) if c.rated == Volt::new(350.0).ok()));
    let w = wanted(&tray, &tray.parts()[0], SetClass::of(PowerSource::Transformer, Devices::Valves)).unwrap();
    assert_eq!(w.sections.len(), 2);
    assert_eq!(w.sections[1].capacitance, Farad::new(8e-6).unwrap());
    can.decisions = vec![decision(1, Outcome::Replace)];
    let tray = one(can);
    assert!(!can_reform(&tray, &tray.parts()[0]));
}

#[test]
fn the_shelf_puts_first_what_is_live_then_what_is_nearly_done() {
    use owl_core::quantity::Second;
    use owl_core::tray::shelf::OnShelf;
    let minutes = |m: f64| Some(Second::new(m * 60.0).unwrap());
    let of = OnShelf { parts: 9, ..OnShelf::default() };
    // In the order in which they are to stand.
    let all = [
        (OnShelf { reforming: true, to_prove: 2, soak_left: minutes(3.0), ..of }, "reforming"),
        (OnShelf { soak_left: minutes(39.2), to_measure: 4, ..of }, "soak test, 40 min left"),
        (OnShelf { to_prove: 1, to_measure: 7, ..of }, "1 to prove"),
        (OnShelf { to_fit: 2, undecided: 3, ..of }, "2 to fit"),
        (OnShelf { undecided: 3, to_measure: 1, ..of }, "3 to decide"),
        (OnShelf { to_measure: 5, ..of }, "5 to measure"),
        (OnShelf { parts: 0, ..of }, "nothing on the tray yet"),
        (of, "all done"),
        (OnShelf { closed: true, reforming: true, ..of }, "closed"),
    ];
    let waits: Vec<_> = all.iter().map(|(t, _)| t.waits()).collect();
    assert!(waits.is_sorted() && waits.windows(2).all(|w| w[0] != w[1]), "{waits:?}");
    for (ticket, words) in all {
        assert_eq!(ticket.left(), words);
    }
    assert_eq!(OnShelf { soak_left: minutes(0.0), ..of }.left(), "soak test is over: look at it");
    assert_eq!(OnShelf { soak_left: minutes(0.0), soak_ended: true, ..of }.left(), "all done");
    assert_eq!(OnShelf { soak_left: minutes(170.0), ..of }.left(), "soak test, 3 h left");
}
