//! The voltage chart: what a point should show today, and how a reading stands to it.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::chart::{ChartStatus, Point, SheetMeter, Taken, expected, held, pair};
use owl_core::quantity::{Ohm, Volt};
use owl_core::verdict::{Policy, School};
use proptest::prelude::*;

fn volt(v: f64) -> Volt {
    Volt::new(v).unwrap()
}

fn policy() -> &'static Policy {
    Policy::of(School::TestFirst, false).unwrap()
}

fn point(sheet: f64) -> Point {
    Point { sheet: Some(volt(sheet)), fed_through: None, heater: false, steady: false }
}

fn lines(sheet: f64, now: f64) -> (SheetMeter, Taken) {
    (
        SheetMeter { line: Some(volt(sheet)), ..SheetMeter::default() },
        Taken { line: Some(volt(now)), meter: None },
    )
}

/// Common practice, no source: voltages at 107 V of line read 107/117 of the sheet.
#[test]
fn volts_follow_the_line() {
    let (sheet, now) = lines(117.0, 107.0);
    let e = expected(point(234.0), sheet, now).unwrap().unwrap();
    assert!((e.volts.volts() - 234.0 * 107.0 / 117.0).abs() < 1e-9);
    assert_eq!(e.because.len(), 1);
    let regulated = Point { steady: true, ..point(150.0) };
    assert_eq!(expected(regulated, sheet, now).unwrap().unwrap().volts, volt(150.0));
    assert!(expected(Point { sheet: None, ..point(0.0) }, sheet, now).unwrap().is_none());
}

/// A divider of the feed resistance and the meter, by Ohm's law: a 1,000 Ω/V meter on 250 V is 250 kΩ.
#[test]
fn a_sheet_read_with_a_loading_meter_is_corrected() {
    let p = Point { fed_through: Ohm::new(250e3).ok(), ..point(90.0) };
    let sheet = SheetMeter { line: None, ohms_per_volt: Ohm::new(1000.0).ok(), range: Some(volt(250.0)) };
    let modern = Taken { line: None, meter: Ohm::new(10e6).ok() };
    let e = expected(p, sheet, modern).unwrap().unwrap();
    // 250 kΩ on 250 kΩ halves it: 180 V free; 10 MΩ take 2.4 % of that.
    assert!((e.volts.volts() - 180.0 * 10.0 / 10.25).abs() < 1e-9, "{e:?}");
    assert!(e.because[0].contains("180 V without a meter"), "{e:?}");
    // The range that one would have chosen: 90 V are read on 250 V.
    let unsaid = SheetMeter { range: None, ..sheet };
    assert_eq!(expected(p, unsaid, modern).unwrap(), Some(e));
    // The same meter again: what the sheet says.
    let same = Taken { line: None, meter: Ohm::new(250e3).ok() };
    assert!((expected(p, sheet, same).unwrap().unwrap().volts.volts() - 90.0).abs() < 1e-9);
}

#[test]
fn a_reading_stands_as_a_technician_would_say() {
    let (sheet, now) = lines(120.0, 120.0);
    let of = |p: Point, v: f64| held(p, sheet, now, volt(v), policy()).unwrap().status;
    for (read, status) in [
        (205.0, ChartStatus::Right),
        (235.0, ChartStatus::Strays),
        (150.0, ChartStatus::Low),
        (250.0, ChartStatus::High),
        (0.05, ChartStatus::Dead),
        (-3.0, ChartStatus::Wrong),
    ] {
        assert_eq!(of(point(200.0), read), status, "{read}");
    }
    assert_eq!(of(point(0.0), 0.4), ChartStatus::Right);
    assert_eq!(of(point(0.0), 11.0), ChartStatus::Wrong);
    assert_eq!(of(point(-12.0), -12.5), ChartStatus::Right);
    assert_eq!(of(Point { heater: true, ..point(6.3) }, 5.5), ChartStatus::Low);
    assert_eq!(of(Point { sheet: None, ..point(0.0) }, 5.5), ChartStatus::Alone);
}

/// Common practice, no source: plates of a push-pull pair at 249 and 258 V meant 150 and 185 Ω at the cathodes.
#[test]
fn halves_that_disagree_are_named_though_both_are_near_the_sheet() {
    let p = pair(volt(249.0), volt(258.0), policy()).unwrap().unwrap();
    assert!(!p.agree && p.text.contains("cathode"), "{p:?}");
    assert!(pair(volt(249.0), volt(252.0), policy()).unwrap().unwrap().agree);
    assert!(pair(volt(0.0), volt(0.1), policy()).unwrap().is_none());
    let (sheet, now) = lines(120.0, 120.0);
    for v in [249.0, 258.0] {
        assert_eq!(held(point(250.0), sheet, now, volt(v), policy()).unwrap().status, ChartStatus::Right);
    }
}

proptest! {
    /// At the sheet's own line and meter, a point should show what the sheet says, whatever feeds it.
    #[test]
    fn the_sheets_own_way_of_reading_gives_the_sheet(
        v in 3.0..900.0f64, fed in 0.0..1e7f64, each in 100.0..1e5f64, range in 1.0..1000.0f64, line in 90.0..250.0f64,
    ) {
        let p = Point { fed_through: Ohm::new(fed).ok(), ..point(v) };
        let sheet = SheetMeter { line: Some(volt(line)), ohms_per_volt: Ohm::new(each).ok(), range: Some(volt(range)) };
        let now = Taken { line: Some(volt(line)), meter: Ohm::new(each * range).ok() };
        let e = expected(p, sheet, now).unwrap().unwrap();
        prop_assert!((e.volts.volts() / v - 1.0).abs() < 1e-9);
        prop_assert!(e.because.is_empty());
    }
}
