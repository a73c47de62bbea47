//! First power: what the lamp's story means.
#![allow(clippy::unwrap_used, clippy::panic, missing_docs)]

use owl_core::first_power::{
    LampStory, PowerAdvice, PowerError, PowerSign, PowerUp, StepReading, read, signs, steps, stories,
};
use owl_core::named::Named;
use owl_core::quantity::{Ampere, Ohm, Volt, Watt};
use owl_core::set::{Devices, Hazard, PowerSource, SetClass};
use owl_core::supply::lamp::{in_series, lamp_volts};

fn step(volts: f64, story: LampStory) -> PowerUp {
    PowerUp {
        class: SetClass::of(PowerSource::Transformer, Devices::Valves),
        line: Volt::new(230.0).unwrap(),
        watts: Watt::new(45.0).ok(),
        volts: Volt::new(volts).unwrap(),
        bulb: Watt::new(100.0).ok(),
        current: None,
        story,
        signs: vec![],
    }
}

fn says(r: &StepReading) -> String {
    r.because.iter().map(|b| b.text.clone()).collect::<Vec<_>>().join(" | ")
}

/// Common practice, no source: bright, dim, up a little is a healthy set; bright and staying bright is a short;
/// dark is nothing drawn.
#[test]
fn the_three_stories() {
    let well = read(&step(127.0, LampStory::BrightThenDimThenUp)).unwrap();
    assert_eq!(well.call, PowerAdvice::GoOn);
    assert!((well.next_volts.unwrap().volts() - 0.8 * 230.0).abs() < 1e-9);
    let short = read(&step(184.0, LampStory::Bright)).unwrap();
    assert_eq!((short.call, short.next_volts), (PowerAdvice::Stop, None));
    assert!(says(&short).contains("0.43 A"), "{}", says(&short));
    let dark = read(&step(230.0, LampStory::Dark)).unwrap();
    assert_eq!(dark.call, PowerAdvice::VisualSign);
    assert!(says(&dark).contains("fuse"));
}

/// Common practice, no source: in a chain an open heater anywhere is dark everywhere.
#[test]
fn an_open_in_a_chain_is_dark_everywhere() {
    let class = SetClass::of(PowerSource::LiveChassis, Devices::Valves);
    let chain = PowerUp { class, ..step(230.0, LampStory::Dark) };
    assert!(says(&read(&chain).unwrap()).contains("dark everywhere"));
    let seen = PowerUp { signs: vec![PowerSign::HeatersDark], story: LampStory::Dim, ..chain };
    let r = read(&seen).unwrap();
    assert_eq!(r.call, PowerAdvice::VisualSign);
    assert!(says(&r).contains("end to end"));
}

#[test]
fn a_lamp_too_small_or_a_step_too_low_is_said_to_tell_nothing() {
    let small = PowerUp { bulb: Watt::new(15.0).ok(), ..step(230.0, LampStory::Bright) };
    let r = read(&small).unwrap();
    assert_eq!(r.call, PowerAdvice::VisualSign);
    assert!(says(&r).contains("too small") && r.next_bulb.is_some_and(|b| b.watts() > 15.0), "{r:?}");
    let low = read(&step(69.0, LampStory::Dark)).unwrap();
    assert_eq!(low.call, PowerAdvice::GoOn);
    assert!(says(&low).contains("says nothing"), "{}", says(&low));
    let dim = read(&step(69.0, LampStory::Dim)).unwrap();
    assert!(says(&dim).contains("even a short"), "{}", says(&dim));
}

#[test]
fn what_is_smelt_or_flows_outweighs_the_lamp() {
    let smoke = PowerUp {
        signs: vec![PowerSign::Plays, PowerSign::Smoke],
        ..step(230.0, LampStory::BrightThenDimThenUp)
    };
    let r = read(&smoke).unwrap();
    assert_eq!((r.call, r.because[0].text.as_str()), (PowerAdvice::Stop, "smoke"));
    let hungry = PowerUp {
        current: Ampere::new(0.5).ok(),
        bulb: None,
        story: LampStory::NoLamp,
        ..step(230.0, LampStory::Dim)
    };
    let r = read(&hungry).unwrap();
    assert_eq!(r.call, PowerAdvice::Stop);
    assert!((r.drawn.unwrap().watts() - 115.0).abs() < 1e-9);
}

#[test]
fn at_full_line_it_is_up_or_gets_a_larger_lamp() {
    let up = PowerUp { bulb: Watt::new(200.0).ok(), ..step(230.0, LampStory::BrightThenDimThenUp) };
    assert_eq!(read(&up).unwrap().call, PowerAdvice::Up);
    let held_back = PowerUp { watts: Watt::new(90.0).ok(), ..step(230.0, LampStory::BrightThenDimThenUp) };
    let r = read(&held_back).unwrap();
    assert_eq!(r.call, PowerAdvice::GoOn);
    assert!(r.next_bulb.is_some_and(|b| b.watts() > 100.0), "{r:?}");
}

#[test]
fn a_step_that_makes_no_sense_is_refused() {
    let over = read(&step(280.0, LampStory::Dim)).unwrap_err();
    assert!(matches!(over, PowerError::TooMuch { .. }) && over.input() == Some("volts"));
    let which = read(&PowerUp { bulb: None, ..step(100.0, LampStory::Dim) }).unwrap_err();
    assert_eq!(which.input(), Some("bulb"));
}

#[test]
fn every_class_has_steps_up_to_its_line_and_every_sign_a_meaning() {
    let mut ways = Vec::new();
    for (source, devices) in PowerSource::ALL.iter().flat_map(|s| Devices::ALL.iter().map(move |d| (*s, *d)))
    {
        for highest in [None, Volt::new(900.0).ok()] {
            let class = SetClass { source, devices, highest };
            let what = class.in_words();
            let shares: Vec<f64> = steps(class).map(|s| s.share).collect();
            assert!(
                shares.len() >= 3 && shares.windows(2).all(|w| w[0] < w[1]) && shares.last() == Some(&1.0),
                "{what}"
            );
            ways.push(class.comes_up_as());
            // Each sign once; what only valves do is offered on no other set.
            let offered = signs(class);
            for sign in PowerSign::ALL {
                let valves =
                    matches!(sign, PowerSign::HeatersGlow | PowerSign::HeatersDark | PowerSign::RedPlate);
                let wanted = usize::from(class.has_valves() || !valves);
                assert_eq!(offered.iter().filter(|s| s.sign == *sign).count(), wanted, "{what}: {sign}");
            }
            let words: String = offered.iter().map(|s| s.says.as_str()).collect();
            assert_eq!(words.contains("grid"), class.has_valves(), "{what}");
        }
    }
    assert!(Hazard::ALL.iter().all(|h| ways.contains(h)), "each has a way up");
}

/// Common practice, no source: no lamp in a battery set, and nothing glows or warms up in one of transistors.
#[test]
fn the_lamp_tells_its_story_by_what_the_set_is() {
    let battery = SetClass::of(PowerSource::Battery, Devices::Transistors);
    assert_eq!(stories(battery).collect::<Vec<_>>(), [LampStory::NoLamp]);
    let mains = SetClass::of(PowerSource::BatteryOrTransformer, Devices::Transistors);
    assert_eq!(stories(mains).count(), LampStory::ALL.len());
    let of = |class, story| read(&PowerUp { class, ..step(184.0, story) }).unwrap();
    let warm = of(mains, LampStory::BrightThenDimThenUp);
    assert_eq!(warm.call, PowerAdvice::VisualSign);
    assert!(says(&warm).contains("runs away"), "{}", says(&warm));
    assert!(!says(&of(mains, LampStory::BrightThenDim)).contains("filaments"));
}

/// Kirchhoff: lamp and set share the supply, and the lamp's current gives its volts back.
#[test]
fn the_lamp_and_the_set_share_the_supply() {
    let line = Volt::new(230.0).unwrap();
    for (supply, bulb, ohms) in [(230.0, 100.0, 1200.0), (120.0, 60.0, 300.0), (70.0, 25.0, 5000.0)] {
        let (supply, bulb) = (Volt::new(supply).unwrap(), Watt::new(bulb).unwrap());
        let at = in_series(supply, line, bulb, Ohm::new(ohms).unwrap()).unwrap();
        assert!((at.set_volts.volts() / ohms - at.current.amperes()).abs() < 1e-6 * at.current.amperes());
        let lamp = lamp_volts(line, bulb, at.current).unwrap();
        assert!(
            (lamp.volts() + at.set_volts.volts() - supply.volts()).abs() < 1e-6,
            "{lamp} {}",
            at.set_volts
        );
    }
}

/// Common practice, no source: "up" needs evidence; a step without lamp, meter or senses proves nothing.
#[test]
fn a_step_at_which_nothing_was_observed_proves_nothing() {
    let blind = PowerUp { bulb: None, story: LampStory::NoLamp, ..step(230.0, LampStory::Dim) };
    let r = read(&blind).unwrap();
    assert_eq!(r.call, PowerAdvice::VisualSign);
    assert!(says(&r).contains("nothing was observed"), "{}", says(&r));
    let heard = PowerUp { signs: vec![PowerSign::Plays], ..blind.clone() };
    assert_eq!(read(&heard).unwrap().call, PowerAdvice::Up);
    let read_off = PowerUp { current: Ampere::new(0.2).ok(), ..blind };
    assert_eq!(read(&read_off).unwrap().call, PowerAdvice::Up);
}
