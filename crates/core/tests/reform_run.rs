//! The run: step by step, with the faults of the bench, and with readings as absurd as they come.

use std::error::Error;

use owl_core::quantity::{Ampere, Farad, Ohm, Second, Volt};
use owl_core::reform::Sample;
use owl_core::reform::bench::{Bench, Clip, Fault, MeterFault};
use owl_core::reform::forecast::{Led, forecast, lead};
use owl_core::reform::plan::{Ask, Plan, Supply};
use owl_core::reform::run::{Ending, Event, Meter, Order, Phase, ReformMode, Run, Touch};
use owl_core::verdict::{Policy, School};
use proptest::prelude::*;

type Done = Result<(), Box<dyn Error>>;

/// 10 µF 450 V at 320 V, ten years idle.
fn plan() -> Result<Plan, Box<dyn Error>> {
    let ask = Ask {
        capacitance: Farad::new(10e-6)?,
        rated: Volt::new(450.0)?,
        working: Some(Volt::new(320.0)?),
        idle_years: 10.0,
        section: None,
        supply: Supply {
            volts: Volt::new(400.0)?,
            series: Some(Ohm::new(39e3)?),
            series_rating: None,
            limit: Some(Ampere::new(8e-3)?),
        },
        polarity_known: true,
        vented: false,
    };
    Ok(Plan::make(&ask, Policy::of(School::TestFirst, false)?)?)
}

fn read(volts: f64, milliamperes: f64) -> Event {
    Event::Read(Meter { volts: Some(volts), amperes: Some(milliamperes / 1000.0) })
}

fn then(run: Run, seconds: f64, event: Event) -> Result<Run, Box<dyn Error>> {
    Ok(run.step(Second::new(seconds)?, event).run)
}

/// A run that is switched on at ten seconds.
fn fed(way: ReformMode) -> Result<Run, Box<dyn Error>> {
    let run = then(Run::new(plan()?, way), 5.0, read(0.3, 0.0))?;
    let run = then(run, 10.0, Event::Start)?;
    assert!(matches!(run.phase, Phase::Feeding(_)));
    Ok(run)
}

fn ending(run: &Run) -> Option<Ending> {
    match &run.phase {
        Phase::Emptying(e) => Some(e.ending),
        Phase::Over { ending } => Some(*ending),
        Phase::Ready { .. } | Phase::Feeding(_) => None,
    }
}

fn led(clip: Clip, faults: &[Fault]) -> Result<Led, Box<dyn Error>> {
    let plan = plan()?;
    let mut bench = Bench::with(clip, plan.capacitance, plan.rated, 10.0, 11);
    bench.faults = faults.to_vec();
    Ok(lead(Run::new(plan, ReformMode::Simulated), bench, Second::new(2.0)?))
}

#[test]
fn nothing_is_switched_on_before_it_was_seen_empty() -> Done {
    let run = Run::new(plan()?, ReformMode::Guided);
    assert_eq!((run.order(), run.touch()), (Order::Discharge, Touch::DoNotTouch));
    let run = then(run, 1.0, Event::Start)?;
    assert!(matches!(run.phase, Phase::Ready { .. }));
    let run = then(then(run, 2.0, read(48.0, 0.0))?, 3.0, Event::Start)?;
    assert!(matches!(run.phase, Phase::Ready { seen_empty: false }), "48 V stand on it");
    let run = then(run, 4.0, read(1.2, 0.0))?;
    assert_eq!(run.touch(), Touch::Safe);
    let run = then(run, 5.0, Event::Start)?;
    assert_eq!(run.order(), Order::Feed(run.plan.stages[0].volts));
    assert_eq!(run.touch(), Touch::DoNotTouch, "from the first moment on");
    Ok(())
}

#[test]
fn a_hand_is_led_from_stage_to_stage_and_to_the_proof() -> Done {
    let mut run = fed(ReformMode::Guided)?;
    let mut at = 10.0;
    for stage in 0..run.plan.stages.len() {
        assert!(run.sentence().contains(&run.plan.stages[stage].volts.to_string()), "{}", run.sentence());
        let s = run.plan.stages[stage];
        // Too early, then good twice.
        run = then(run, at + 30.0, read(s.volts.volts() * 0.97, 0.1))?;
        assert!(matches!(&run.phase, Phase::Feeding(f) if f.stage == stage), "too early to go on");
        at += s.minimum.seconds() + 40.0;
        let good = s.go_on_below.amperes() * 800.0;
        run = then(run, at, read(s.volts.volts() * 0.98, good))?;
        at += 20.0;
        run = then(run, at, read(s.volts.volts() * 0.98, good))?;
    }
    assert_eq!((ending(&run), run.order(), run.met), (Some(Ending::Reformed), Order::Discharge, true));
    assert_eq!(run.touch(), Touch::DoNotTouch, "charged");
    let countdown = run.empty_in().map_or(0.0, Second::seconds);
    assert!(countdown > 5.0, "{countdown} s from {:?}", run.volts);
    // The clock alone proves nothing.
    run = then(run, at + 10.0 * countdown, Event::Tick)?;
    assert_eq!(run.touch(), Touch::DoNotTouch);
    run = then(run, at + 601.0, read(3.0, 0.0))?;
    assert!(matches!(run.phase, Phase::Emptying(_)), "once is not enough");
    run = then(run, at + 605.0, read(2.0, 0.0))?;
    assert_eq!((run.phase.clone(), run.touch()), (Phase::Over { ending: Ending::Reformed }, Touch::Safe));
    // What comes back after a discharge is taken seriously.
    run = then(run, at + 700.0, read(12.0, 0.0))?;
    assert_eq!((run.touch(), run.order()), (Touch::DoNotTouch, Order::Discharge));
    Ok(())
}

#[test]
fn every_part_ends_as_it_should() -> Done {
    for (clip, expected) in [
        (Clip::Tired, Ending::Reformed),
        (Clip::Fresh, Ending::Reformed),
        (Clip::Leaky, Ending::NotFalling),
        (Clip::Shorted, Ending::Shorted),
    ] {
        let led = led(clip, &[])?;
        assert_eq!(led.ending, Some(expected), "{clip}");
        let last = led.samples.last().ok_or("no samples")?;
        assert!(last.volts < 5.0 && last.set_volts.is_none(), "{clip} was left with {} V", last.volts);
        assert!(led.samples.iter().all(|s| s.volts <= 450.0 && s.set_volts.is_none_or(|v| v <= 450.0)));
    }
    let dying = led(Clip::Dying, &[])?.ending.ok_or("it never ended")?;
    assert!(dying.scrap(), "{dying}");
    Ok(())
}

#[test]
fn faults_of_the_bench_turn_the_supply_off() -> Done {
    let fault = |fault, from_s, to_s| [Fault { fault, from_s, to_s }];
    for (faults, expected) in [
        // A meter that says nothing for 30 s in mid-stage.
        (fault(MeterFault::Silent, 400.0, 430.0), Ending::Silent),
        (fault(MeterFault::Frozen, 400.0, 1e9), Ending::Frozen),
        (fault(MeterFault::Reversed, 400.0, 430.0), Ending::Reversed),
        (fault(MeterFault::PartShorts, 400.0, 1e9), Ending::Shorted),
    ] {
        let led = led(Clip::Tired, &faults)?;
        assert!(
            led.ending == Some(expected)
                || (expected == Ending::Shorted && led.ending == Some(Ending::Rising)),
            "{:?} for {faults:?}",
            led.ending
        );
    }
    // A silence of ten seconds is waited out.
    assert_eq!(led(Clip::Tired, &fault(MeterFault::Silent, 400.0, 410.0))?.ending, Some(Ending::Reformed));
    Ok(())
}

#[test]
fn a_hand_may_be_slow_but_not_for_ever() -> Done {
    let run = fed(ReformMode::Guided)?;
    let silent = run.plan.silence_by_hand.seconds();
    let step = run.step(Second::new(10.0 + 0.6 * silent)?, Event::Tick);
    assert!(step.said.iter().any(|s| s.text.contains("no reading")), "{:?}", step.said);
    let run = then(step.run, 11.0 + silent, Event::Tick)?;
    assert_eq!(ending(&run), Some(Ending::Silent));
    // The browser was closed for an hour: the same, however late it is noticed.
    let run = then(fed(ReformMode::Guided)?, 3700.0, read(50.0, 0.1))?;
    assert_eq!(run.touch(), Touch::DoNotTouch);
    Ok(())
}

#[test]
fn an_interrupted_run_waits_for_a_hand_and_a_meter() -> Done {
    let run = then(fed(ReformMode::Simulated)?, 60.0, read(55.0, 1.0))?;
    let run = then(run, 61.0, Event::Restarted)?;
    assert_eq!(
        (ending(&run), run.order(), run.touch()),
        (Some(Ending::Interrupted), Order::Off, Touch::DoNotTouch)
    );
    assert!(run.sentence().contains("may be charged"), "{}", run.sentence());
    // A reading under the limit proves nothing while no resistor is across it.
    let run = then(then(run, 70.0, read(1.0, 0.0))?, 71.0, read(1.0, 0.0))?;
    assert_eq!(run.touch(), Touch::DoNotTouch);
    let run = then(run, 80.0, Event::Discharge)?;
    let run = then(then(run, 90.0, read(1.0, 0.0))?, 91.0, read(0.8, 0.0))?;
    assert_eq!((run.phase.clone(), run.touch()), (Phase::Over { ending: Ending::Interrupted }, Touch::Safe));
    Ok(())
}

#[test]
fn a_restart_at_every_stage_leaves_nothing_switched_on_or_called_safe() -> Done {
    // Before it was switched on: what was measured then says nothing now.
    let ready = then(Run::new(plan()?, ReformMode::Simulated), 1.0, read(0.2, 0.0))?;
    let ready = then(then(ready, 2.0, Event::Restarted)?, 3.0, Event::Start)?;
    assert_eq!((ready.order(), ready.touch()), (Order::Discharge, Touch::DoNotTouch));
    // At each voltage of the plan, and while it is emptied.
    let mut run = fed(ReformMode::Simulated)?;
    let mut at = 10.0;
    while matches!(run.phase, Phase::Feeding(_)) {
        let gone = then(run.clone(), at, Event::Restarted)?;
        assert_eq!(
            (gone.order(), gone.touch(), ending(&gone)),
            (Order::Off, Touch::DoNotTouch, Some(Ending::Interrupted))
        );
        at += 5.0;
        let Order::Feed(v) = run.order() else { break };
        let stage = run.plan.stages.iter().find(|s| s.volts == v).ok_or("no such stage")?.go_on_below;
        run = then(run, at, read(v.volts() * 0.99 + at.sin() * 0.01, stage.amperes() * 700.0))?;
    }
    assert_eq!(ending(&run), Some(Ending::Reformed));
    let gone = then(run, at + 1.0, Event::Restarted)?;
    assert_eq!((gone.order(), gone.touch()), (Order::Off, Touch::DoNotTouch));
    let unproven = then(then(gone, at + 2.0, read(0.1, 0.0))?, at + 3.0, read(0.1, 0.0))?;
    assert_eq!(unproven.touch(), Touch::DoNotTouch, "nothing lies across it");
    Ok(())
}

#[test]
fn stopped_by_hand_is_never_reformed_and_held_stays() -> Done {
    let run = then(fed(ReformMode::Guided)?, 60.0, Event::Stop(Ending::Reformed))?;
    assert_eq!(ending(&run), Some(Ending::ByHand));
    let mut run = then(fed(ReformMode::Guided)?, 20.0, Event::Hold)?;
    for n in 1..40 {
        run = then(run, 20.0 + 60.0 * f64::from(n), read(50.0, 0.05))?;
    }
    assert!(matches!(&run.phase, Phase::Feeding(f) if f.stage == 0 && f.hold));
    let run = then(run, 2500.0, Event::Resume)?;
    let run = then(then(run, 2510.0, read(50.0, 0.05))?, 2520.0, read(50.0, 0.05))?;
    assert!(matches!(&run.phase, Phase::Feeding(f) if f.stage == 1));
    Ok(())
}

#[test]
fn what_is_foreseen_comes_true() -> Done {
    let plan = plan()?;
    let bench = Bench::with(Clip::Tired, plan.capacitance, plan.rated, 10.0, 4);
    let whole = lead(Run::new(plan.clone(), ReformMode::Simulated), bench, Second::new(5.0)?);
    let half = whole.fed_s * 0.5;
    let seen: Vec<Sample> = whole.samples.iter().copied().take_while(|s| s.at_s <= half).collect();
    let mut run = Run::new(plan, ReformMode::Simulated);
    for s in &seen {
        run = then(run, s.at_s, Event::Read(Meter { volts: Some(s.volts), amperes: Some(s.amperes) }))?;
        if matches!(run.phase, Phase::Ready { seen_empty: true }) {
            run = then(run, s.at_s, Event::Start)?;
        }
    }
    let f = forecast(&run, &seen).ok_or("nothing is foreseen")?;
    let done = f.done_s.ok_or("no end in sight")?;
    assert!(
        (done - whole.fed_s).abs() < 2.0 * f.give_or_take_s,
        "{done} ± {} for {}",
        f.give_or_take_s,
        whole.fed_s
    );
    assert!(f.give_or_take_s < 0.5 * whole.fed_s);
    let inside = f.band.iter().filter(|(_, low, high)| low <= high && *low > 0.0).count();
    assert!(inside > 20, "a band of {inside} points");
    Ok(())
}

#[derive(Debug, Clone, Copy)]
enum Absurd {
    Read(Option<f64>, Option<f64>),
    Good,
    Empty,
    Tick,
    Start,
    Hold,
    Resume,
    Stop(Ending),
    Discharge,
    Restarted,
}

fn absurd() -> impl Strategy<Value = (f64, Absurd)> {
    let number = prop_oneof![
        Just(None),
        Just(Some(f64::NAN)),
        Just(Some(f64::INFINITY)),
        Just(Some(9.9e37)),
        (-1000.0..1000.0).prop_map(Some),
        (0.0..1e-2).prop_map(Some),
        any::<f64>().prop_map(Some),
    ];
    let event = prop_oneof![
        3 => (number.clone(), number).prop_map(|(v, i)| Absurd::Read(v, i)),
        6 => Just(Absurd::Good),
        3 => Just(Absurd::Empty),
        1 => Just(Absurd::Tick),
        2 => Just(Absurd::Start),
        1 => Just(Absurd::Hold),
        1 => Just(Absurd::Resume),
        1 => Just(Absurd::Stop(Ending::Reformed)),
        1 => Just(Absurd::Discharge),
        1 => Just(Absurd::Restarted),
    ];
    (prop_oneof![Just(-500.0), Just(0.0), 0.0..400.0, Just(1e7)], event)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]

    /// No sequence of events, however absurd or late, leads past the rated voltage or current, or to "done" without the
    /// limits met and the discharge proven.
    #[test]
    fn nothing_leads_past_the_rating_or_to_done_without_proof(events in prop::collection::vec(absurd(), 1..400), guided: bool) {
        let plan = plan().map_err(|e| TestCaseError::fail(e.to_string()))?;
        let peak = plan.peak_current.amperes();
        let series = plan.supply.series.map_or(0.0, Ohm::ohms);
        let limit = plan.supply.limit.map_or(f64::INFINITY, Ampere::amperes);
        let mut run = Run::new(plan, if guided { ReformMode::Guided } else { ReformMode::Simulated });
        let mut at = 0.0_f64;
        // Readings under the limit at the last voltage, and readings of nothing since the supply was last on.
        let (mut met, mut empty) = (0, 0);
        for (later, event) in events {
            at = (at + later).max(0.0);
            let ordered = match run.order() { Order::Feed(v) => Some(v.volts()), Order::Off | Order::Discharge => None };
            let stage = match &run.phase { Phase::Feeding(f) => run.plan.stages.get(f.stage).copied(), _ => None };
            let last_stage = matches!(&run.phase, Phase::Feeding(f) if f.stage + 1 == run.plan.stages.len());
            let event = match event {
                Absurd::Read(volts, amperes) => Event::Read(Meter { volts, amperes }),
                Absurd::Good => {
                    let (v, i) = stage.map_or((0.0, 0.0), |s| (s.volts.volts() * 0.98, s.go_on_below.amperes() * 0.9));
                    Event::Read(Meter { volts: Some(v), amperes: Some(i) })
                }
                Absurd::Empty => Event::Read(Meter { volts: Some(0.4), amperes: Some(0.0) }),
                Absurd::Tick => Event::Tick,
                Absurd::Start => Event::Start,
                Absurd::Hold => Event::Hold,
                Absurd::Resume => Event::Resume,
                Absurd::Stop(e) => Event::Stop(e),
                Absurd::Discharge => Event::Discharge,
                Absurd::Restarted => Event::Restarted,
            };
            let on_time = at >= run.now_s;
            if let Event::Read(Meter { volts: Some(v), amperes }) = event && on_time && v.is_finite() {
                match (ordered, amperes.filter(|i| i.is_finite())) {
                    (Some(o), Some(i)) if last_stage => {
                        met = if i <= run.plan.acceptance.below.amperes() && v >= 0.9 * o { met + 1 } else { 0 };
                    }
                    (Some(_), _) => {}
                    (None, _) => empty = if v.abs() < 5.0 { empty + 1 } else { 0 },
                }
            }
            if ordered.is_some() { empty = 0; }
            let was_over = matches!(run.phase, Phase::Over { .. });
            run = run.step(Second::new(at).map_err(|e| TestCaseError::fail(e.to_string()))?, event).run;
            if let Order::Feed(v) = run.order() {
                prop_assert!(v <= run.plan.rated && v <= run.plan.aim);
                prop_assert!((v.volts() / series).min(limit) <= peak * (1.0 + 1e-12));
                prop_assert_eq!(run.touch(), Touch::DoNotTouch);
            }
            if let Phase::Over { ending } = run.phase {
                prop_assert!(was_over || empty >= 2, "over after {} empty readings", empty);
                if ending == Ending::Reformed {
                    prop_assert!(run.met && met >= 2, "reformed after {} good readings", met);
                }
            }
            if run.touch() == Touch::Safe {
                prop_assert!(!matches!(run.phase, Phase::Feeding(_) | Phase::Emptying(_)));
                prop_assert!(run.volts.is_some_and(|v| v.abs() < 5.0));
            }
        }
    }

    /// A run is stored after each step and read again: it goes on as if it had not been.
    #[test]
    fn a_run_read_back_goes_on_the_same(readings in prop::collection::vec((0.0..60.0, 0.0..400.0, 0.0..5.0), 1..60)) {
        let fail = |e: Box<dyn Error>| TestCaseError::fail(e.to_string());
        let (mut a, mut b, mut at) = (fed(ReformMode::Guided).map_err(fail)?, fed(ReformMode::Guided).map_err(fail)?, 10.0);
        for (later, volts, milli) in readings {
            at += later;
            a = then(a, at, read(volts, milli)).map_err(fail)?;
            b = then(b, at, read(volts, milli)).map_err(fail)?;
            let text = serde_json::to_string(&b).map_err(|e| TestCaseError::fail(e.to_string()))?;
            b = serde_json::from_str(&text).map_err(|e| TestCaseError::fail(e.to_string()))?;
            prop_assert_eq!(&a, &b);
        }
    }
}
