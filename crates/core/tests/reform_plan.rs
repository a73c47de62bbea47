//! The plan of a reform, and what it refuses.

use std::error::Error;

use owl_core::quantity::{Ampere, Farad, Ohm, Volt, Watt};
use owl_core::reform::forecast::expected;
use owl_core::reform::plan::{Ask, Plan, Supply};
use owl_core::reform::refusal::Refusal;
use owl_core::reform::run::Ending;
use owl_core::verdict::{Policy, School};

type Done = Result<(), Box<dyn Error>>;

fn test_first() -> Result<&'static Policy, Box<dyn Error>> {
    Ok(Policy::of(School::TestFirst, false)?)
}

/// 24 µF 350 V at 260 V, thirty years idle, 300 V through 22 kΩ.
fn ask() -> Result<Ask, Box<dyn Error>> {
    Ok(Ask {
        capacitance: Farad::new(24e-6)?,
        rated: Volt::new(350.0)?,
        working: Some(Volt::new(260.0)?),
        idle_years: 30.0,
        section: None,
        supply: Supply {
            volts: Volt::new(300.0)?,
            series: Some(Ohm::new(22e3)?),
            series_rating: None,
            limit: None,
        },
        polarity_known: true,
        vented: false,
    })
}

fn refused(ask: &Ask) -> Result<Refusal, Box<dyn Error>> {
    Plan::make(ask, test_first()?).err().ok_or_else(|| "it was planned".into())
}

#[test]
fn the_three_limits_are_those_of_the_rules() -> Done {
    // R5: 0.01·C·V = 84 µA (IEC 60384-4: memory); 0.025·24 + 0.3 = 0.9 mA (older military: memory);
    // 8 µF about 1 mA, so 24 µF about 3 mA (common practice, no source).
    let plan = Plan::make(&ask()?, test_first()?)?;
    let a = &plan.acceptance;
    assert!((a.modern.amperes() - 84e-6).abs() < 1e-9 && (a.military.amperes() - 0.9e-3).abs() < 1e-9);
    assert!((a.bench.amperes() - 3e-3).abs() < 1e-9);
    assert_eq!(a.below, a.military, "test first follows the older military limit");
    let keep = Plan::make(&ask()?, Policy::of(School::KeepOriginal, false)?)?;
    // The milder of two, and no more than one watt in a can of that size: 1 W / 350 V.
    assert!((keep.acceptance.below.amperes() - 1.0 / 350.0).abs() < 1e-9, "{:?}", keep.acceptance.below);
    Ok(())
}

#[test]
fn the_worst_case_is_a_short_at_switch_on() -> Done {
    // Ohm's and Watt's laws: 300 V / 22 kΩ = 13.6 mA, 300²/22 kΩ = 4.09 W.
    let plan = Plan::make(&ask()?, test_first()?)?;
    assert!((plan.peak_current.amperes() - 300.0 / 22e3).abs() < 1e-12);
    assert!(plan.resistor_power.is_some_and(|p| (p.watts() - 300.0 * 300.0 / 22e3).abs() < 1e-9));
    let mut limited = ask()?;
    limited.supply.limit = Some(Ampere::new(5e-3)?);
    let plan = Plan::make(&limited, test_first()?)?;
    assert!((plan.peak_current.amperes() - 5e-3).abs() < 1e-12);
    assert!(plan.resistor_power.is_some_and(|p| (p.watts() - 25e-6 * 22e3).abs() < 1e-9));
    Ok(())
}

#[test]
fn the_stages_rise_to_the_aim_and_never_beyond_the_rating() -> Done {
    let plan = Plan::make(&ask()?, test_first()?)?;
    // The working voltage with the line a tenth higher.
    assert!((plan.aim.volts() - 286.0).abs() < 1e-9);
    assert!(plan.stages.windows(2).all(|w| w[0].volts < w[1].volts && w[0].go_on_below <= w[1].go_on_below));
    assert_eq!(plan.stages.last().map(|s| s.volts), Some(plan.aim));
    assert_eq!(plan.stages.last().map(|s| s.go_on_below), Some(plan.acceptance.below));
    assert_eq!(plan.stages.last().map(|s| s.minimum.seconds() >= 300.0), Some(true));
    let mut near = ask()?;
    near.working = Some(Volt::new(340.0)?);
    near.supply.volts = Volt::new(350.0)?;
    assert_eq!(Plan::make(&near, test_first()?)?.aim, Volt::new(350.0)?, "never above the rating");
    let mut recent = ask()?;
    recent.idle_years = 1.0;
    assert!(Plan::make(&recent, test_first()?)?.stages.len() < plan.stages.len());
    Ok(())
}

#[test]
fn emptying_is_reckoned_by_the_closed_forms() -> Done {
    // t = RC ln(V/5), ½CV², V²/R: any textbook.
    let plan = Plan::make(&ask()?, test_first()?)?;
    let (e, c, v) = (plan.emptying, 24e-6, plan.aim.volts());
    assert!((e.energy_joules - 0.5 * c * v * v).abs() < 1e-9);
    assert!((e.power.watts() - v * v / e.resistor.ohms()).abs() < 1e-9);
    assert!((e.time.seconds() - e.resistor.ohms() * c * (v / 5.0).ln()).abs() < 1e-9);
    assert!((5.0..20.0).contains(&e.time.seconds()), "about the ten seconds of the school: {}", e.time);
    Ok(())
}

#[test]
fn a_part_as_assumed_gets_there_in_an_evening_and_a_longer_rest_takes_longer() -> Done {
    let plan = |years| -> Result<f64, Box<dyn Error>> {
        let mut ask = ask()?;
        ask.idle_years = years;
        let led = expected(&Plan::make(&ask, test_first()?)?);
        assert_eq!(led.ending, Some(Ending::Reformed), "after {years} years");
        Ok(led.fed_s)
    };
    let (short, long) = (plan(3.0)?, plan(40.0)?);
    assert!(short < long && long < 6.0 * 3600.0, "{short} s and {long} s");
    Ok(())
}

#[test]
fn what_is_unsafe_is_refused_with_what_would_make_it_safe() -> Done {
    let change = |f: &dyn Fn(&mut Ask) -> Done| -> Result<(String, &'static str), Box<dyn Error>> {
        let mut a = ask()?;
        f(&mut a)?;
        let r = refused(&a)?;
        Ok((r.to_string(), r.input()))
    };
    let (text, input) = change(&|a| {
        a.supply.volts = Volt::new(400.0)?;
        Ok(())
    })?;
    assert!(text.contains("cannot go above 350 V") && input == "supply.voltage", "{text}");
    let (text, input) = change(&|a| {
        a.supply.volts = Volt::new(200.0)?;
        Ok(())
    })?;
    assert!(text.contains("260 V") && input == "supply.voltage", "{text}");
    let (text, input) = change(&|a| {
        a.supply.series = None;
        Ok(())
    })?;
    // V²/4R = 2 W at 300 V: 11.25 kΩ, so 12 kΩ of E12; V·I = 2 W: 6.67 mA.
    assert!(text.contains("12 kΩ") && text.contains("6.667 mA") && input == "supply.series", "{text}");
    let (text, _) = change(&|a| {
        a.supply.series = Some(Ohm::new(1e3)?);
        Ok(())
    })?;
    assert!(text.contains("22.5 W") && text.contains("12 kΩ"), "{text}");
    let (text, input) = change(&|a| {
        a.supply.series_rating = Some(Watt::new(2.0)?);
        Ok(())
    })?;
    // 4.09 W in it when shorted: the next size sold, or √(2 W / 22 kΩ) = 9.53 mA.
    assert!(text.contains("4.091 W") && text.contains("5 W") && text.contains("9.535 mA"), "{text}");
    assert_eq!(input, "supply.series_power");
    let (text, _) = change(&|a| {
        a.supply.series = Some(Ohm::new(1e6)?);
        Ok(())
    })?;
    assert!(text.contains("never get there"), "{text}");
    let (text, input) = change(&|a| {
        a.polarity_known = false;
        Ok(())
    })?;
    assert!(text.contains("plus") && input == "polarity_known", "{text}");
    let (text, input) = change(&|a| {
        a.vented = true;
        Ok(())
    })?;
    assert!(text.contains("Replace") && input == "vented", "{text}");
    let (text, input) = change(&|a| {
        a.working = Some(Volt::new(380.0)?);
        Ok(())
    })?;
    assert!(text.contains("substitute") && input == "working", "{text}");
    Ok(())
}

#[test]
fn a_supply_that_reaches_the_working_voltage_only_is_used_as_it_is() -> Done {
    let mut a = ask()?;
    a.supply.volts = Volt::new(265.0)?;
    assert_eq!(Plan::make(&a, test_first()?)?.aim, Volt::new(265.0)?);
    Ok(())
}

#[test]
fn a_section_of_a_can_is_warned_of_its_neighbours() -> Done {
    let mut a = ask()?;
    a.section = Some("B".to_owned());
    let plan = Plan::make(&a, test_first()?)?;
    assert!(plan.cautions.iter().any(|c| c.contains("Section B")), "{:?}", plan.cautions);
    // ½ · 24 µF · 286² is under one joule; a big can holds more than ten.
    assert!(!plan.cautions.iter().any(|c| c.contains("can kill")));
    let mut big = ask()?;
    big.capacitance = Farad::new(470e-6)?;
    big.supply.series = Some(Ohm::new(15e3)?);
    let big = Plan::make(&big, test_first()?);
    assert!(big?.cautions.iter().any(|c| c.contains("can kill")));
    Ok(())
}
