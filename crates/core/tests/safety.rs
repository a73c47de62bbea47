//! What a set can do to people, and what is gone through before work, before power and before it goes out. Common
//! practice, no source; limits from memory, and the local code comes first.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::caution::{CautionAt, CheckError, CheckedBefore, SetClass, Supplied, cautions, safety_checks};
use owl_core::named::Named;
use owl_core::quantity::{Quantity, Volt};

fn words(set: Supplied, at: CautionAt) -> String {
    cautions(set, at).map(|c| c.text.clone()).collect::<Vec<_>>().join(" ")
}

fn lines(set: Supplied, before: CheckedBefore) -> Vec<&'static str> {
    safety_checks(set, before).into_iter().map(|c| c.line.as_str()).collect()
}

#[test]
fn a_hot_chassis_is_a_property_of_the_supply_and_not_of_the_technology() {
    let line = Volt::new(120.0).ok();
    let (cold, hot) =
        (Supplied::of(SetClass::SolidState, false, line), Supplied::of(SetClass::SolidState, true, line));
    for at in [CautionAt::Measure, CautionAt::Prove, CautionAt::Voltages, CautionAt::FirstPower] {
        let valve_set = words(Supplied::of(SetClass::LiveChassis, false, line), at);
        assert!(words(hot, at).starts_with(&valve_set) && !words(cold, at).contains(&valve_set), "{at}");
        // What holds for transistors holds as well.
        assert!(words(hot, at).contains(&words(cold, at)), "{at}");
    }
    for line in ["isolating", "knobs", "plug", "load"] {
        assert!(lines(hot, CheckedBefore::Work).contains(&line), "{line}");
    }
    let twice = lines(hot, CheckedBefore::Work);
    assert_eq!(twice.iter().filter(|l| **l == "plug").count(), 1, "each line once");
    assert!(!lines(cold, CheckedBefore::Work).contains(&"isolating"));
}

#[test]
fn what_does_not_protect_is_said_where_a_hand_would_trust_it() {
    let of = |class| Supplied::of(class, false, None);
    for class in [SetClass::Isolated, SetClass::LiveChassis, SetClass::HighVoltage] {
        assert!(
            words(of(class), CautionAt::FirstPower).contains("variable transformer does not isolate"),
            "{class}"
        );
    }
    for class in [SetClass::LiveChassis, SetClass::HighVoltage] {
        assert!(
            words(of(class), CautionAt::FirstPower).contains("residual-current device is blind"),
            "{class}"
        );
    }
    assert!(words(of(SetClass::HighVoltage), CautionAt::Voltages).contains("no probe is held by hand"));
    assert!(words(of(SetClass::HighVoltage), CautionAt::FirstPower).contains("dummy load"));
    assert!(lines(of(SetClass::HighVoltage), CheckedBefore::Power).contains(&"dummy"));
    // Before first power the rail is measured on every set, and the transformer is tried alone.
    for class in SetClass::ALL.iter().filter(|c| **c != SetClass::LiveChassis) {
        assert!(lines(of(*class), CheckedBefore::Power).contains(&"rail"), "{class}");
    }
    assert!(lines(of(SetClass::Isolated), CheckedBefore::Power).contains(&"alone"));
}

#[test]
fn a_set_on_the_line_is_measured_before_it_goes_out() {
    let of = |class, hot, line: Option<f64>| {
        lines(Supplied::of(class, hot, line.and_then(|v| Volt::new(v).ok())), CheckedBefore::Closing)
    };
    assert_eq!(of(SetClass::Isolated, false, None), ["touch", "insulation", "ground", "fuse", "cord"]);
    assert_eq!(of(SetClass::LiveChassis, false, None), ["touch", "insulation", "covers", "fuse", "cord"]);
    assert_eq!(of(SetClass::SolidState, false, Some(230.0)), of(SetClass::Isolated, false, None));
    assert_eq!(of(SetClass::SolidState, true, Some(230.0)), of(SetClass::LiveChassis, false, None));
    assert!(
        of(SetClass::SolidState, false, Some(13.8)).is_empty()
            && of(SetClass::Battery, false, None).is_empty()
    );

    let set = Supplied::of(SetClass::Isolated, false, None);
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
