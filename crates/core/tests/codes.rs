//! The tables of the codes, typed here a second time, and every code there and back.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::encode::{bands, chip, digits, eia96, letters};
use owl_core::marking::scheme::{Role, Table, cells};
use owl_core::marking::{
    Code, Colour, Hints, Meaning, Scheme, Tolerance, can, chip_code, date, digit_code, lamp, mil_style,
    read_colours, read_text, temperature, volts,
};
use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::preferred::{Series, between};
use owl_core::quantity::{Farad, Fraction, Ohm};
use proptest::prelude::*;

fn number(m: &Meaning) -> f64 {
    m.value.number().unwrap().1
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-6 * b.abs()
}

/// The numbers of a place, black to white, gold, silver, pink, none; `None` where the colour says nothing.
fn column(table: Table, role: Role) -> Vec<Option<f64>> {
    Colour::ALL.iter().map(|c| cells(table, role, *c).first().and_then(|c| c.value)).collect()
}

/// From memory: the multipliers of the handbook tables, as powers of ten.
#[test]
fn the_multipliers_are_those_of_the_tables() {
    let n = None;
    let s = Some;
    let of = |t| column(t, Role::Multiplier);
    let whole = |to: usize| -> Vec<Option<f64>> { (0..10).map(|i| (i <= to).then_some(i as f64)).collect() };
    let with = |to, tail: [Option<f64>; 4]| [whole(to), tail.to_vec()].concat();
    assert_eq!(of(Table::Resistor), with(9, [s(-1.0), s(-2.0), s(-3.0), n]));
    assert_eq!(of(Table::Mica), with(6, [s(-1.0), s(-2.0), n, n]));
    // Old moulded mica ends at yellow: ten thousand picofarads.
    assert_eq!(of(Table::MicaRma), with(4, [s(-1.0), s(-2.0), n, n]));
    assert_eq!(of(Table::Paper), with(6, [n; 4]));
    assert_eq!(of(Table::Film), with(5, [n; 4]));
    assert_eq!(of(Table::Choke), with(4, [s(-1.0), s(-2.0), n, n]));
    let mut ceramic = with(4, [n; 4]);
    (ceramic[8], ceramic[9]) = (s(-2.0), s(-1.0));
    assert_eq!(of(Table::Ceramic), ceramic);
    let mut tantalum = with(2, [n; 4]);
    (tantalum[8], tantalum[9]) = (s(-2.0), s(-1.0));
    assert_eq!(of(Table::Tantalum), tantalum);
}

/// From memory: volts by colour.
#[test]
fn the_volts_are_those_of_the_tables() {
    for (table, pairs) in [
        (
            Table::MicaRma,
            vec![
                ("brown", 100.0),
                ("green", 500.0),
                ("white", 900.0),
                ("gold", 1000.0),
                ("silver", 2000.0),
                ("none", 500.0),
            ],
        ),
        (Table::Film, vec![("brown", 100.0), ("red", 250.0), ("yellow", 400.0), ("blue", 630.0)]),
        (
            Table::Tantalum,
            vec![
                ("white", 3.0),
                ("yellow", 6.3),
                ("black", 10.0),
                ("green", 16.0),
                ("blue", 20.0),
                ("grey", 25.0),
                ("pink", 35.0),
            ],
        ),
    ] {
        for (colour, v) in pairs {
            let row = cells(table, Role::Voltage, Colour::from_name(colour).unwrap());
            assert_eq!(row[0].value, Some(v), "{table} {colour}");
        }
    }
}

/// From memory: ceramic, tolerance up to 10 pF in picofarad and above in percent, and coefficients.
#[test]
fn ceramic_tolerances_change_at_ten_picofarad() {
    let read = |row: &str| {
        let hints = Hints { scheme: Some(Scheme::TubularCeramic), ..Hints::default() };
        read_text(row, hints).unwrap().swap_remove(0)
    };
    for (colour, percent, pico) in
        [("black", 20.0, 2.0), ("brown", 1.0, 0.1), ("green", 5.0, 0.5), ("white", 10.0, 1.0)]
    {
        let small = read(&format!("black red violet white {colour}"));
        assert!(near(number(&small), 2.7e-12));
        assert_eq!(small.tolerance, Some(Tolerance::Absolute(Farad::new(pico / 1e12).unwrap())), "{colour}");
        let large = read(&format!("black red violet brown {colour}"));
        assert_eq!(large.tolerance, Tolerance::of_percent(percent), "{colour}");
    }
    let coefficients = [0.0, -30.0, -80.0, -150.0, -220.0, -330.0, -470.0, -750.0, 30.0, 500.0];
    let ours: Vec<f64> =
        column(Table::Ceramic, Role::Temperature).into_iter().take(10).map(Option::unwrap).collect();
    assert_eq!(ours, coefficients);
}

/// EIA-96: the number is the place in E96 (IEC 60063), here by the formula; both letterings.
#[test]
fn every_eia_96_code_is_its_formula() {
    let letters = [
        ("Z", -3),
        ("Y", -2),
        ("R", -2),
        ("X", -1),
        ("S", -1),
        ("A", 0),
        ("B", 1),
        ("H", 1),
        ("C", 2),
        ("D", 3),
        ("E", 4),
        ("F", 5),
    ];
    for place in 1..=96 {
        let digits = (100.0 * 10f64.powf(f64::from(place - 1) / 96.0)).round();
        for (letter, exponent) in letters {
            let code = format!("{place:02}{letter}");
            let (_, m) = chip_code::meanings(&code).into_iter().find(|(_, m)| m.code == Code::Eia96).unwrap();
            assert!(near(number(&m), digits * 10f64.powi(exponent)), "{code}: {}", m.value);
            assert_eq!(m.tolerance, Tolerance::of_percent(1.0));
        }
    }
    for none in ["00A", "97A", "68Q", "6A", "+1A", "🦉A"] {
        assert!(chip_code::meanings(none).iter().all(|(_, m)| m.code != Code::Eia96), "{none}");
    }
}

/// Every value of E24 over seven decades: as bands, in letters, on a chip, and back.
#[test]
fn all_of_e24_comes_back_from_every_code_of_a_resistor() {
    let hints = Hints::of(PartKind::Resistor);
    for value in between(Series::E24, 1.0, 9.1e6) {
        let ohm = Ohm::new(value).unwrap();
        let five = Some(Fraction::new(0.05).unwrap());
        let row = bands(ohm, five).unwrap();
        assert!(near(number(&read_colours(&row, hints).unwrap()[0]), value), "{row:?}");
        let code = letters(ohm, five).unwrap();
        assert!(near(number(&read_text(&code, hints).unwrap()[0]), value), "{code}");
        let print = chip(ohm, false).unwrap();
        let told = chip_code::meanings(&print).into_iter().map(|(_, m)| m);
        let read: Vec<Meaning> = told.chain(read_text(&print, hints).unwrap()).collect();
        assert!(read.iter().any(|m| near(number(m), value)), "{value}: {print}");
        // 390 k 10 %: how would it look? Spelled out for one value.
        if near(value, 390e3) {
            assert_eq!(
                row.iter().map(|c| c.name()).collect::<Vec<_>>(),
                ["orange", "white", "yellow", "gold"]
            );
            assert_eq!((code.as_str(), print.as_str()), ("390KJ", "394"));
        }
    }
    for value in between(Series::E96, 10.0, 976e3) {
        let ohm = Ohm::new(value).unwrap();
        let code = eia96(ohm).unwrap();
        let (_, m) = chip_code::meanings(&code).into_iter().find(|(_, m)| m.code == Code::Eia96).unwrap();
        assert!(near(number(&m), value), "{value}: {code}");
        let four = chip(ohm, true).unwrap();
        assert!(read_text(&four, hints).unwrap().iter().any(|m| near(number(m), value)), "{value}: {four}");
    }
    assert_eq!(
        (chip(Ohm::new(0.47).unwrap(), false).unwrap(), chip(Ohm::new(4.7).unwrap(), false).unwrap()),
        ("R47".into(), "4R7".into())
    );
    assert_eq!(eia96(Ohm::new(47e3).unwrap()), None);
}

/// Every value of E12 from 0.1 pF to 82 µF in digits, with every tolerance in percent, and back.
#[test]
fn all_of_e12_comes_back_from_the_digit_code() {
    for value in between(Series::E12, 1e-12, 8.2e-6) {
        let farad = Farad::new(value).unwrap();
        for percent in [5.0, 10.0, 20.0] {
            let code = digits(farad, Some(Fraction::new(percent / 100.0).unwrap())).unwrap();
            let m = read_text(&code, Hints::of(PartKind::Capacitor)).unwrap().swap_remove(0);
            assert!(near(number(&m), value), "{value}: {code}: {}", m.value);
            if value >= 10e-12 {
                assert_eq!(m.tolerance, Tolerance::of_percent(percent), "{code}");
            }
        }
    }
    assert_eq!(digits(Farad::new(1.234e-9).unwrap(), None), None);
}

/// EIA and JIS: figure × 10^digit volts, the published list of ratings (from memory).
#[test]
fn voltage_letters_are_the_published_ratings() {
    for (code, v) in [
        ("0G", 4.0),
        ("0J", 6.3),
        ("1A", 10.0),
        ("1C", 16.0),
        ("1E", 25.0),
        ("1V", 35.0),
        ("1H", 50.0),
        ("1J", 63.0),
        ("1K", 80.0),
        ("2A", 100.0),
        ("2C", 160.0),
        ("2D", 200.0),
        ("2E", 250.0),
        ("2F", 315.0),
        ("2V", 350.0),
        ("2G", 400.0),
        ("2W", 450.0),
        ("2H", 500.0),
        ("2J", 630.0),
        ("3A", 1000.0),
        ("3D", 2000.0),
        ("3F", 3150.0),
    ] {
        assert!(near(volts::of_letters(code).unwrap(), v), "{code}");
    }
    for none in ["A1", "2", "2AA", "9A", "2ö", ""] {
        assert_eq!(volts::of_letters(none), None, "{none}");
    }
}

/// IEC 60062:2016, clause 6: letters of capacitors, below 10 pF absolute.
#[test]
fn tolerance_letters_of_capacitors() {
    let small = Farad::new(4.7e-12).unwrap();
    let large = Farad::new(470e-12).unwrap();
    for (letter, pico) in [('B', 0.1), ('C', 0.25), ('D', 0.5), ('F', 1.0), ('G', 2.0)] {
        let want = Tolerance::Absolute(Farad::new(pico / 1e12).unwrap());
        assert_eq!(digit_code::tolerance(letter, small), Some(want), "{letter}");
    }
    for (letter, minus, plus) in [
        ('F', 1.0, 1.0),
        ('G', 2.0, 2.0),
        ('J', 5.0, 5.0),
        ('K', 10.0, 10.0),
        ('M', 20.0, 20.0),
        ('N', 30.0, 30.0),
        ('S', 20.0, 50.0),
        ('Z', 20.0, 80.0),
        ('T', 10.0, 50.0),
        ('Q', 10.0, 30.0),
    ] {
        assert_eq!(digit_code::tolerance(letter, large), Tolerance::from_percents(minus, plus), "{letter}");
    }
    assert_eq!(digit_code::tolerance('C', large), None);
    assert_eq!(digit_code::tolerance('A', small), None);
    assert_eq!(Tolerance::from_percents(20.0, 80.0).unwrap().to_string(), "−20 % +80 %");
}

/// EIA-198, from memory.
#[test]
fn temperature_codes() {
    for (code, words) in [
        ("C0G", "C0G: 0 ±30 ppm/K"),
        ("COG", "C0G: 0 ±30 ppm/K"),
        ("NP0", "NP0: 0 ppm/K"),
        ("N150", "N150: −150 ppm/K"),
        ("S2H", "S2H: −330 ±60 ppm/K"),
        ("U2J", "U2J: −750 ±120 ppm/K"),
        ("P3K", "P3K: −1500 ±250 ppm/K"),
        ("M7G", "M7G: +100 ±30 ppm/K"),
        ("X7R", "X7R: ±15 % from −55 to 125 °C"),
        ("X5F", "X5F: ±7.5 % from −55 to 85 °C"),
        ("Y5V", "Y5V: +22 −82 % from −30 to 85 °C"),
        ("Z5U", "Z5U: +22 −56 % from 10 to 85 °C"),
        ("z5p", "Z5P: ±10 % from 10 to 85 °C"),
    ] {
        assert_eq!(temperature::behaviour(code).unwrap().in_words, words);
    }
    for none in ["X7", "Q7R", "XYZ", "N999", "", "🦉🦉🦉"] {
        assert_eq!(temperature::behaviour(none), None, "{none}");
    }
}

/// Every style of the table, with two values; the watts come with it.
#[test]
fn every_mil_style_is_read() {
    for style in mil_style::styles() {
        let (value, ohms) = if style.digits == 3 { ("273", 27e3) } else { ("2702", 27e3) };
        let letter = if style.family.name() == "carbon composition" { "J" } else { "F" };
        let fails = if style.failure == "yes" { "P" } else { "" };
        let text = format!("{}{}G{value}{letter}{fails}", style.style, style.size);
        let m = mil_style::meaning(&text).unwrap_or_else(|| panic!("{text}"));
        assert!(near(number(&m), ohms), "{text}: {}", m.value);
        assert_eq!(m.power.map(|p| p.watts()), Some(style.watts), "{text}");
        assert_eq!(m.notes.iter().any(|n| n == "failure rate 0.1 % in 1000 hours"), fails == "P", "{text}");
    }
    for none in [
        "RC20",
        "RC20GF10",
        "RC20GF103X",
        "RC20GF103KS",
        "RX20GF103K",
        "RN60D1002FSS",
        "RN60D0▲",
        "RC20GF▲",
        "RC99GF103K",
    ] {
        assert_eq!(mil_style::meaning(none), None, "{none}");
    }
    let point = mil_style::meaning("RN55D4R99F").unwrap();
    assert!(near(number(&point), 4.99));
}

/// Common practice, no source.
#[test]
fn cans_are_read_section_by_section() {
    let sections = |text: &str| -> Vec<(Option<String>, f64, Option<f64>)> {
        let m = can::meaning(text).unwrap_or_else(|| panic!("{text}"));
        m.sections
            .iter()
            .map(|s| {
                (s.sign.clone(), (s.capacitance.farads() * 1e6).round(), s.rating.map(|r| r.volts.volts()))
            })
            .collect()
    };
    let plain = |v: &[(f64, f64)]| v.iter().map(|(c, u)| (None, *c, Some(*u))).collect::<Vec<_>>();
    assert_eq!(sections("16+16/350"), plain(&[(16.0, 350.0), (16.0, 350.0)]));
    assert_eq!(sections("50-30-20 µF 300 VDC"), plain(&[(50.0, 300.0), (30.0, 300.0), (20.0, 300.0)]));
    assert_eq!(sections("3x10/400"), plain(&[(10.0, 400.0); 3]));
    assert_eq!(sections("40 MFD 400V 20 MFD 25V"), plain(&[(40.0, 400.0), (20.0, 25.0)]));
    let signed = sections("◗60/300 ▲40/300 □20/50");
    assert_eq!(signed.iter().map(|s| s.0.as_deref().unwrap()).collect::<Vec<_>>(), ["◗", "▲", "■"]);
    assert_eq!(signed[2], (Some("■".to_owned()), 20.0, Some(50.0)));
    let surge = can::meaning("80-40 MFD 250 WV 300 SURGE").unwrap();
    assert_eq!(surge.rating.unwrap().surge.map(|s| s.volts()), Some(300.0));
    // A surge rating belongs to the section whose volts it lies a little above.
    let two = can::meaning("▲30/350 ■20/25 400 surge").unwrap();
    let of: Vec<bool> = two.sections.iter().map(|s| s.rating.unwrap().surge.is_some()).collect();
    assert_eq!(of, [true, false]);
    for none in
        ["", "8", "-", "20/", "x/450", "hello/450", "7x8/450", "0/450", "8/8/8/8/8/8/8/450", "450V/8V"]
    {
        assert_eq!(can::meaning(none), None, "{none}");
    }
}

/// Common practice, no source: capacitance and volts run together in every way that people write them.
#[test]
fn capacitance_and_volts_in_one_word() {
    for (text, micro, volts) in [
        ("8/450", vec![8.0], Some(450.0)),
        ("8uF450V", vec![8.0], Some(450.0)),
        ("8 µF 450 V", vec![8.0], Some(450.0)),
        ("2x8/450", vec![8.0, 8.0], Some(450.0)),
        ("20+20/350", vec![20.0, 20.0], Some(350.0)),
        ("20/20/20@450", vec![20.0, 20.0, 20.0], Some(450.0)),
        ("8-16/350V", vec![8.0, 16.0], Some(350.0)),
        (".047/600", vec![0.047], Some(600.0)),
        ("22nF", vec![0.022], None),
        ("330 pF 500V", vec![330e-6], Some(500.0)),
        ("32+32 uF", vec![32.0, 32.0], None),
    ] {
        let m = read_text(text, Hints::of(PartKind::Capacitor)).unwrap().swap_remove(0);
        let sections: Vec<f64> = m.sections.iter().map(|s| s.capacitance.farads()).collect();
        let got = if sections.is_empty() { vec![number(&m)] } else { sections };
        assert!(
            got.len() == micro.len() && got.iter().zip(&micro).all(|(a, b)| near(*a * 1e6, *b)),
            "{text}: {got:?}"
        );
        assert_eq!(m.rating.map(|r| r.volts.volts()), volts, "{text}");
        assert_eq!(m.tolerance, None, "{text}: an F behind µ is the farad, not a tolerance");
    }
}

/// From memory.
#[test]
fn lamps_and_dates() {
    for (number, v, a) in [("40", 6.3, 0.15), ("46", 6.3, 0.25), ("51", 7.5, 0.22), ("1819", 28.0, 0.04)] {
        let m = lamp::meaning(&format!("#{number}"), false).unwrap();
        assert!(near(m.value.number().unwrap().1, v) && near(m.current.unwrap().amperes(), a), "{number}");
    }
    assert!(lamp::meaning("47", false).is_none() && lamp::meaning("47", true).is_some());
    assert_eq!(date::perhaps("7432").unwrap(), "perhaps made in week 32 of 1974");
    assert_eq!(date::perhaps("0901").unwrap(), "perhaps made in week 1 of 2009");
    assert_eq!(date::perhaps("KO").unwrap(), "perhaps made in October 1978, 1998 or 2018");
    for none in ["7454", "7400", "I5", "A0", "123", ""] {
        assert_eq!(date::perhaps(none), None, "{none}");
    }
}

/// Direct and alternating volts are two ratings.
#[test]
fn alternating_and_direct_volts_are_kept_apart() {
    let read = |text: &str| read_text(text, Hints::of(PartKind::Capacitor)).unwrap().swap_remove(0);
    assert_eq!(read("33n 250VAC").rating.unwrap().to_string(), "250 V AC");
    assert_eq!(read("33n DC630V").rating.unwrap().to_string(), "630 V DC");
    assert_eq!(read("33n 630V").rating.unwrap().to_string(), "630 V");
    let both = read("33n 630VDC 250VAC");
    assert_eq!(both.rating.unwrap().to_string(), "630 V DC");
    assert!(both.notes[0].contains("250 V AC"), "{:?}", both.notes);
    let y = read("2n2 Y2 250V");
    assert_eq!(y.rating.unwrap().to_string(), "250 V AC");
    assert!(read("2n2 Y2").notes[0].contains("AC rating is not"), "no volts, no claim");
}

proptest! {
    /// Whatever is typed, however long, is answered: whole likelihoods, or an error in words.
    #[test]
    fn any_text_is_answered(text in "\\PC{0,400}", times in 1usize..26) {
        answered(&text.repeat(times), Hints::default())?;
        for part in PartKind::ALL {
            answered(&text, Hints::of(*part))?;
        }
    }

    /// Pieces of real markings in any order.
    #[test]
    fn pieces_of_markings_in_any_order_are_answered(pieces in prop::collection::vec(prop::sample::select(vec![
        "104", "K", "2A", "J", "4n7", "R47", "µ", "▲", "■", "plain", "20", "/", "@", "450", "V", "~", "X2", "Y1", "C0G",
        "X7R", "N750", "±10%", "-20+80%", "RC20", "GF", "RN60", "D1002F", "#47", "1N", "AA", "mfd", "mmf", "surge", "x",
        "+", "-", " ", "  ", "40/085/21", "8523", "K5", "8", "uH", "½W", "k", "T", "500mA", "slow", "3.2", "ohm", "6V6", "GT", "meg", "brown", "gold", "wide", ".", ",", "0",
    ]), 0..14), part in prop::option::of(prop::sample::select(PartKind::ALL.to_vec()))) {
        answered(&pieces.concat(), Hints { part, measured_si: Some(4.7e-8), expected_si: Some(5e-8), ..Hints::default() })?;
    }

    /// Any colours under any scheme.
    #[test]
    fn any_colours_are_answered(which in prop::collection::vec(0usize..14, 0..20),
                                scheme in prop::option::of(prop::sample::select(Scheme::ALL.to_vec())), wide_first: bool) {
        let row: Vec<Colour> = which.iter().map(|i| Colour::ALL[*i]).collect();
        let hints = Hints { scheme, wide_first, measured_si: Some(1e3), ..Hints::default() };
        match read_colours(&row, hints) {
            Ok(all) => whole(&all)?,
            Err(e) => prop_assert!(!e.to_string().is_empty()),
        }
    }
}

fn answered(text: &str, hints: Hints) -> Result<(), TestCaseError> {
    match read_text(text, hints) {
        Ok(all) => whole(&all),
        Err(e) => {
            prop_assert!(!e.to_string().is_empty());
            Ok(())
        }
    }
}

fn whole(all: &[Meaning]) -> Result<(), TestCaseError> {
    prop_assert!((all.iter().map(|m| m.likelihood).sum::<f64>() - 1.0).abs() < 1e-9);
    for m in all {
        prop_assert!(m.value.number().is_none_or(|(_, v)| v.is_finite() && v >= 0.0));
        prop_assert!(!m.in_words().is_empty() && !m.source.clause.is_empty());
    }
    Ok(())
}
