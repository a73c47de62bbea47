//! What a set can do to people, and what is gone through before work, before power and before it goes out. Common
//! practice, no source; limits from memory, and the local code comes first.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::caution::{CautionAt, CheckError, CheckedBefore, cautions, safety_checks};
use owl_core::named::Named;
use owl_core::quantity::{Quantity, Volt};
use owl_core::set::class::HIGH_FROM;
use owl_core::set::{Devices, Hazard, PowerSource, SetClass};

const TRANSFORMER: SetClass =
    SetClass { source: PowerSource::Transformer, devices: Devices::Valves, highest: None };
const LIVE: SetClass = SetClass { source: PowerSource::LiveChassis, ..TRANSFORMER };
const HIGH: SetClass = SetClass { highest: Some(HIGH_FROM), ..TRANSFORMER };
const BATTERY: SetClass = SetClass { source: PowerSource::Battery, ..TRANSFORMER };

fn of_transistors(set: SetClass) -> SetClass {
    SetClass { devices: Devices::Transistors, ..set }
}

fn words(set: SetClass, at: CautionAt) -> String {
    cautions(set, at).map(|c| c.text.clone()).collect::<Vec<_>>().join(" ")
}

fn lines(set: SetClass, before: CheckedBefore) -> Vec<&'static str> {
    safety_checks(set, before).into_iter().map(|c| c.line.as_str()).collect()
}

#[test]
fn a_live_chassis_is_a_property_of_the_supply_and_not_of_the_technology() {
    let (cold, hot) = (of_transistors(TRANSFORMER), of_transistors(LIVE));
    for at in [CautionAt::Measure, CautionAt::Prove, CautionAt::Voltages, CautionAt::FirstPower] {
        let valve_set = words(LIVE, at);
        assert!(words(hot, at).starts_with(&valve_set) && !words(cold, at).contains(&valve_set), "{at}");
        // What holds for transistors holds as well, in a battery set too.
        let transistors = words(of_transistors(BATTERY), at);
        let own: Vec<&str> = transistors.split(". ").filter(|t| t.contains("transistor")).collect();
        assert!(
            own.iter().all(|t| words(hot, at).contains(t) && words(cold, at).contains(t)),
            "{at}: {own:?}"
        );
    }
    for line in ["isolating", "knobs", "plug", "load"] {
        assert!(lines(hot, CheckedBefore::Work).contains(&line), "{line}");
    }
    let twice = lines(hot, CheckedBefore::Work);
    assert_eq!(twice.iter().filter(|l| **l == "plug").count(), 1, "each line once");
    assert!(!lines(cold, CheckedBefore::Work).contains(&"isolating"));
}

/// Three answers, and what follows from them.
#[test]
fn what_can_hurt_follows_from_how_it_is_fed_what_it_works_with_and_its_volts() {
    use Hazard::{Battery, HighVoltage, LiveChassis, Mains, Transistors};
    assert_eq!(TRANSFORMER.hazards(), [Mains]);
    assert_eq!(of_transistors(LIVE).hazards(), [LiveChassis, Transistors]);
    assert_eq!(HIGH.hazards(), [HighVoltage]);
    assert_eq!(SetClass { highest: HIGH.highest, ..LIVE }.hazards(), [HighVoltage, LiveChassis]);
    let portable = SetClass { source: PowerSource::BatteryOrLiveChassis, ..TRANSFORMER };
    assert_eq!(portable.hazards(), [LiveChassis, Battery]);
    let below = SetClass { highest: Volt::new(HIGH_FROM.volts() - 1.0).ok(), ..TRANSFORMER };
    assert_eq!((below.hazards(), below.in_words()), (vec![Mains], "valves, mains transformer".to_owned()));
    assert_eq!(HIGH.in_words(), "valves, mains transformer, 600 V");
    // No HT and no vibrator in a set without valves.
    for at in CautionAt::ALL {
        assert!(!words(of_transistors(BATTERY), *at).contains("HT"), "{at}");
    }
    let (valves, without) =
        (lines(BATTERY, CheckedBefore::Work), lines(of_transistors(BATTERY), CheckedBefore::Work));
    assert!(valves.contains(&"vibrator") && !without.contains(&"vibrator"));
    assert!(!lines(of_transistors(LIVE), CheckedBefore::Power).contains(&"chain"));
    // A battery set comes up on a bench supply.
    assert!(words(BATTERY, CautionAt::FirstPower).contains("bench supply"));
    for (source, devices) in PowerSource::ALL.iter().flat_map(|s| Devices::ALL.iter().map(move |d| (*s, *d)))
    {
        let set = SetClass::of(source, devices);
        assert!(cautions(set, CautionAt::Measure).count() >= 1, "{}", set.in_words());
        // Before first power the rail is measured on every set.
        assert!(lines(set, CheckedBefore::Power).contains(&"rail"), "{}", set.in_words());
    }
}

#[test]
fn what_does_not_protect_is_said_where_a_hand_would_trust_it() {
    for set in [TRANSFORMER, LIVE, HIGH] {
        let said = words(set, CautionAt::FirstPower);
        assert!(said.contains("variable transformer does not isolate"), "{}", set.in_words());
    }
    for set in [LIVE, HIGH] {
        let said = words(set, CautionAt::FirstPower);
        assert!(said.contains("residual-current device is blind"), "{}", set.in_words());
    }
    assert!(words(HIGH, CautionAt::Voltages).contains("no probe is held by hand"));
    assert!(words(HIGH, CautionAt::FirstPower).contains("dummy load"));
    assert!(lines(HIGH, CheckedBefore::Power).contains(&"dummy"));
    assert!(lines(TRANSFORMER, CheckedBefore::Power).contains(&"alone"));
}

#[test]
fn a_set_on_the_line_is_measured_before_it_goes_out() {
    let of = |set| lines(set, CheckedBefore::Closing);
    assert_eq!(of(TRANSFORMER), ["touch", "insulation", "ground", "fuse", "cord"]);
    assert_eq!(of(LIVE), ["touch", "insulation", "covers", "fuse", "cord"]);
    assert_eq!(of(of_transistors(TRANSFORMER)), of(TRANSFORMER));
    assert_eq!(of(of_transistors(LIVE)), of(LIVE));
    assert_eq!(of(SetClass { source: PowerSource::BatteryOrTransformer, ..TRANSFORMER }), of(TRANSFORMER));
    assert!(of(BATTERY).is_empty() && of(of_transistors(BATTERY)).is_empty());

    let set = TRANSFORMER;
    let check =
        |line: &str| *safety_checks(set, CheckedBefore::Closing).iter().find(|c| c.line == line).unwrap();
    let touch = check("touch");
    assert_eq!((touch.measured, touch.limit().as_str()), (Some(Quantity::Current), "at most 500 µA"));
    assert_eq!((touch.passes(Some(0.5e-3)), touch.passes(Some(0.51e-3))), (Ok(true), Ok(false)));
    assert!(matches!(touch.passes(None), Err(CheckError::Number(_))));
    let insulation = check("insulation");
    assert_eq!((insulation.passes(Some(1e6)), insulation.passes(Some(0.9e6))), (Ok(true), Ok(false)));
    assert_eq!((check("ground").passes(None), check("ground").passes(Some(0.4))), (Ok(true), Ok(false)));
    assert_eq!(
        (check("fuse").passes(None), check("fuse").passes(Some(1.0))),
        (Ok(true), Err(CheckError::Seen))
    );
}
