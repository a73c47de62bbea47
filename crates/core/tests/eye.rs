//! What a go/no-go eye proves of a capacitor. Common bench practice, no source.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::bench;

use crate::bench::{Bench, at_volts, in_circuit, of, read};
use owl_core::part::{CapacitorFamily, Position};
use owl_core::quantity::Volt;
use owl_core::reading::ReadQuantity;
use owl_core::say::{Tray, read_entry, understand};
use owl_core::verdict::{Outcome, School};

#[test]
fn an_eye_condemns_when_it_stays_closed_and_proves_little_when_it_opens() {
    use CapacitorFamily::{Electrolytic, Polyester};
    use Outcome::{Keep, MeasureAgain, Replace};
    let (opens, closed) = (read(ReadQuantity::LeakageEye, 1.0), read(ReadQuantity::LeakageEye, 0.0));
    let at = |position| of(Polyester, 22e-9, 350.0).at(position);
    let quiet = || at(Position::CathodeBypass);
    let cases: [(&str, Bench, Outcome); 9] = [
        ("closed", quiet().reads(at_volts(closed, 250.0)), Replace),
        ("closed, volts not said", quiet().reads(closed), Replace),
        ("closed, may form", of(Electrolytic, 8e-6, 350.0).reads(at_volts(closed, 250.0)), MeasureAgain),
        ("opens at its volts", quiet().reads(at_volts(opens, 350.0)), Keep),
        ("opens below its volts", quiet().reads(at_volts(opens, 50.0)), MeasureAgain),
        ("opens at nobody knows what", quiet().reads(opens), MeasureAgain),
        ("in circuit", quiet().reads(in_circuit(at_volts(closed, 250.0))), MeasureAgain),
        ("on a grid", at(Position::Coupling).reads(at_volts(opens, 350.0)), MeasureAgain),
        ("on the AVC line", at(Position::Avc).reads(at_volts(opens, 350.0)), MeasureAgain),
    ];
    for (what, b, wanted) in cases {
        let v = b.under(School::TestFirst);
        assert_eq!(v.call, wanted, "{what}: {}", bench::all_words(&v));
    }
}

#[test]
fn an_eye_is_said_and_typed_as_it_is_seen() {
    let said = |text: &str| {
        let u = understand(text, &Tray::default()).map_err(|e| e.to_string())?;
        let m = u.measured.first().ok_or("nothing measured")?;
        Ok::<_, String>((m.quantity, m.value_si, m.test_voltage.map(Volt::volts)))
    };
    let eye = |opens, at| Ok((ReadQuantity::LeakageEye, Some(opens), at));
    assert_eq!(said("C7 .022 400V paper opens at 50 V"), eye(1.0, Some(50.0)));
    assert_eq!(said("C7 .022 400V paper closed and stays closed"), eye(0.0, None));
    assert_eq!(said("C7 .022 400V paper eye shut @250"), eye(0.0, Some(250.0)));
    assert!(said("R7 22k closed").is_err_and(|e| e.contains("eye")));
    let typed = |text: &str| {
        let e = read_entry(ReadQuantity::LeakageCurrent, text).ok()?;
        Some((e.quantity, e.value_si, e.test_voltage.map(Volt::volts)))
    };
    assert_eq!(typed("eye opens at 200 V"), Some((ReadQuantity::LeakageEye, Some(1.0), Some(200.0))));
    assert_eq!(typed("stays closed"), Some((ReadQuantity::LeakageEye, Some(0.0), None)));
    assert_eq!(typed("2.5uA"), Some((ReadQuantity::LeakageCurrent, Some(2.5e-6), None)));
}
