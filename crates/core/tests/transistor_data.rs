//! The tables of types: whole, registered as their numbers say, and as published.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use std::collections::HashSet;

use owl_core::named::Named;
use owl_core::transistor::csv::{COLUMNS, header, read_row, write_row};
use owl_core::transistor::device::{DeviceKind, Material, Polarity, PowerReference, device, devices};
use owl_core::transistor::diode_device::devices as diode_devices;
use owl_core::transistor::package::package;

#[test]
fn there_are_as_many_types_as_promised_and_none_twice() {
    let names: HashSet<String> = devices().iter().map(|d| d.type_number.to_uppercase()).collect();
    assert_eq!(names.len(), devices().len());
    assert!(devices().len() >= 220, "{}", devices().len());
    assert!(diode_devices().len() >= 60, "{}", diode_devices().len());
    for wanted in DeviceKind::ALL {
        assert!(devices().iter().any(|d| d.kind == *wanted), "{wanted}");
    }
}

/// The numbers say what is registered: JEDEC EIA-370 (2N three leads), Pro Electron D15 (A germanium, B silicon; C
/// small audio, D power audio, F radio frequency, L radio power, S switch, U power switch), JIS C 7012 (2SA PNP radio,
/// 2SB PNP audio, 2SC NPN radio, 2SD NPN audio, 2SJ and 2SK field-effect P and N). From memory.
#[test]
fn a_type_is_what_its_number_says() {
    for d in devices() {
        let t = d.type_number.as_str();
        if let Some(letter) = t.strip_prefix("2S").and_then(|r| r.chars().next()) {
            let says = match letter {
                'A' | 'B' => Polarity::Pnp,
                'C' | 'D' => Polarity::Npn,
                'J' => Polarity::PChannel,
                'K' => Polarity::NChannel,
                other => panic!("{t}: {other}"),
            };
            assert_eq!(d.polarity, says, "{t}");
        } else if t.starts_with("2N") || t.starts_with("3N") {
            assert!(t[2..].starts_with(|c: char| c.is_ascii_digit()), "{t}");
        } else if t.starts_with("OC") {
            assert_eq!(d.material, Some(Material::Germanium), "{t}");
        } else {
            let mut letters = t.chars();
            let material = match letters.next() {
                Some('A') => Material::Germanium,
                Some('B') => Material::Silicon,
                other => panic!("{t}: {other:?}"),
            };
            assert_eq!(d.material, Some(material), "{t}");
            let second = letters.next().expect("two letters");
            assert!("CDFLSU".contains(second), "{t}");
            if second == 'D' {
                // A power type has a case that cools: its rating is quoted there, where it is known.
                assert_ne!(d.power_reference, Some(PowerReference::Ambient), "{t}");
            }
        }
    }
}

#[test]
fn what_is_known_is_possible_and_what_is_not_known_is_not_zero() {
    for d in devices() {
        let t = &d.type_number;
        let all = [
            d.vcbo_volts,
            d.vceo_volts,
            d.vebo_volts,
            d.ic_amperes,
            d.power_watts,
            d.gain_min,
            d.gain_max,
            d.gain_at_amperes,
            d.ft_hertz,
            d.cob_farads,
            d.idss_min_amperes,
            d.idss_max_amperes,
            d.gfs_siemens,
        ];
        assert!(all.iter().flatten().all(|v| *v > 0.0 && v.is_finite()), "{t}");
        if let (Some(a), Some(b)) = (d.gain_min, d.gain_max) {
            assert!(a < b, "{t}");
        }
        // With the base open it stands no more than with the emitter open.
        if let (Some(b), Some(e)) = (d.vcbo_volts, d.vceo_volts) {
            assert!(e <= b, "{t}");
        }
        assert_eq!(d.power_watts.is_some(), d.power_reference.is_some(), "{t}");
        if let (Some(i), Some(most)) = (d.gain_at_amperes, d.ic_amperes) {
            assert!(i <= most, "{t}: gain is quoted above its current");
        }
        // Germanium junctions end at 110 °C, silicon ones at 200 °C (handbook; from memory).
        let hottest = if d.material == Some(Material::Germanium) { 110.0 } else { 200.0 };
        assert!(d.junction_celsius.is_none_or(|j| j <= hottest), "{t}");
        if !d.package.is_empty() {
            let p = package(&d.package).unwrap_or_else(|| panic!("{t}: {}", d.package));
            if let Some(pins) = d.pinout {
                assert_eq!(pins.leads().len(), p.leads, "{t}");
            }
        }
        // The published thermal resistance is what the rating means, within a tenth.
        if let (Some(rth), Some(w), Some(tj), Some(at)) =
            (d.rth_kelvin_per_watt, d.power_watts, d.junction_celsius, d.power_at_celsius)
        {
            let means = (tj - at) / w;
            assert!((rth / means - 1.0).abs() < 0.17, "{t}: {rth} against {means}");
        }
    }
}

#[derive(serde::Deserialize)]
struct Published {
    r#type: String,
    polarity: Polarity,
    vcbo: f64,
    vceo: Option<f64>,
    vebo: f64,
    ic: f64,
    p: f64,
    package: String,
    source: String,
}

#[test]
fn well_known_types_are_as_published() {
    let text = include_str!("cases/transistor/published.csv");
    let rows: Vec<Published> = csv::Reader::from_reader(text.as_bytes())
        .deserialize()
        .collect::<Result<_, _>>()
        .expect("the table of published values");
    assert!(rows.len() >= 30);
    for r in rows {
        let d = device(&r.r#type).unwrap_or_else(|| panic!("{} is missing", r.r#type));
        let ours = (
            d.polarity,
            d.vcbo_volts,
            d.vceo_volts,
            d.vebo_volts,
            d.ic_amperes,
            d.power_watts,
            d.package.as_str(),
        );
        let published =
            (r.polarity, Some(r.vcbo), r.vceo, Some(r.vebo), Some(r.ic), Some(r.p), r.package.as_str());
        assert_eq!(ours, published, "{}: {}", r.r#type, r.source);
    }
}

#[test]
fn a_written_type_is_read_as_it_was() {
    let ours = header(COLUMNS).expect("our own header");
    for d in devices() {
        let row = write_row(d);
        let fields: Vec<&str> = row.iter().map(String::as_str).collect();
        let again = read_row(&ours, &fields).unwrap_or_else(|e| panic!("{}: {e}", d.type_number));
        let close = |a: Option<f64>, b: Option<f64>| match (a, b) {
            (Some(a), Some(b)) => (a / b - 1.0).abs() < 1e-9 || a == b,
            (a, b) => a == b,
        };
        assert!(
            close(d.cob_farads, again.cob_farads) && close(d.gfs_siemens, again.gfs_siemens),
            "{}",
            d.type_number
        );
        let again =
            owl_core::transistor::Device { cob_farads: d.cob_farads, gfs_siemens: d.gfs_siemens, ..again };
        assert_eq!(&again, d);
    }
}

#[test]
fn a_wrong_row_names_its_column() {
    let ours = header(["type", "kind", "polarity", "vceo", "pinout", "hfe_min", "hfe_max"]).expect("legal");
    let wrong = [
        (["", "bipolar", "npn", "", "", "", ""], "type"),
        (["=1", "bipolar", "npn", "", "", "", ""], "type"),
        (["BX1", "", "npn", "", "", "", ""], "kind"),
        (["BX1", "bipolar", "n-channel", "", "", "", ""], "polarity"),
        (["BX1", "jfet", "npn", "", "", "", ""], "polarity"),
        (["BX1", "bipolar", "npn", "0", "", "", ""], "vceo"),
        (["BX1", "bipolar", "npn", "lots", "", "", ""], "vceo"),
        (["BX1", "bipolar", "npn", "", "SGD", "", ""], "pinout"),
        (["BX1", "bipolar", "npn", "", "EBB", "", ""], "pinout"),
        (["BX1", "bipolar", "npn", "", "", "200", "100"], "hfe_max"),
        (["BX1", "bipolar", "npn", "", "", "-4", ""], "hfe_min"),
    ];
    for (row, column) in wrong {
        assert_eq!(read_row(&ours, &row).map_err(|e| e.column), Err(column), "{row:?}");
    }
    assert!(header(["type", "kind"]).is_err());
    assert!(header(["type", "kind", "polarity", "colour"]).is_err());
    assert!(header(["type", "kind", "polarity", "type"]).is_err());
}

#[test]
fn power_falls_along_the_published_line() {
    // P(T) = P (Tj − T) / (Tj − T0): the derating line of every data sheet.
    let d = device("2N3055").expect("there");
    let at = |t: f64| d.power_at(t).expect("known");
    assert_eq!(at(0.0), 115.0);
    assert_eq!(at(25.0), 115.0);
    assert!((at(112.5) - 57.5).abs() < 1e-9);
    assert_eq!(at(200.0), 0.0);
    assert_eq!(at(250.0), 0.0);
}
