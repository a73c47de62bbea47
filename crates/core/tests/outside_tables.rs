//! The tables of types against two general-purpose libraries of Debian: the symbols of `kicad-symbols` (lead orders, short
//! ratings, pins of valves) and the models of `oregano` (collector volts). A row says that one confirms it exactly where
//! one does, and where one says otherwise the reason stands here. Nothing of them is copied.
//!
//! Skipped with a word where a package is not installed, unless OWL_NEEDS_LIBRARIES is set, as `make test` does.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use std::collections::{BTreeMap, HashMap};
use std::path::Path;

use owl_core::socket::valves;
use owl_core::transistor::device::devices;
use owl_core::transistor::diode_device::devices as diodes;
use owl_core::transistor::{Device, Material};

const SYMBOLS: &str = "/usr/share/kicad/symbols";
const MODELS: &str = "/usr/share/oregano/models";

/// Rows in which a library gives other ratings, each with the reason why the table keeps its own (from memory).
const OTHERWISE: [(&str, &str); 13] = [
    ("BC107", "50 V are its V_CBO or V_CES"),
    ("BC108", "30 V are its V_CBO or V_CES"),
    ("BC109", "25 V and 0.2 A are the peaks of some makers"),
    ("BC237", "50 V are its V_CES"),
    ("BF199", "50 mA are a later maker's"),
    ("2N2219", "50 V there, 30 V in its registration"),
    ("2SC1945", "80 V are its V_CBO"),
    ("BC516", "1 A is a later maker's"),
    ("BC517", "1 A is a later maker's"),
    ("1N914", "makers differ; the least counts"),
    ("1N4151", "0.5 A is its peak"),
    ("2N2905", "60 V are those of the 2N2905A"),
    ("2N3903", "30 V there, 40 V in its registration"),
];

fn installed(path: &str) -> bool {
    let there = Path::new(path).is_dir();
    assert!(there || std::env::var_os("OWL_NEEDS_LIBRARIES").is_none(), "{path} is not installed");
    if !there {
        eprintln!("skipped: {path} is not installed");
    }
    there
}

/// What stands in quotes behind `before`.
fn quoted<'a>(text: &'a str, before: &str) -> Option<&'a str> {
    let at = text.find(before)? + before.len();
    text[at..].split('"').next()
}

/// A symbol: what is said of it, and its pins by number.
#[derive(Default, Clone)]
struct Symbol {
    about: String,
    pins: BTreeMap<u32, String>,
}

fn symbols(file: &str) -> HashMap<String, Symbol> {
    let text = std::fs::read_to_string(format!("{SYMBOLS}/{file}")).unwrap();
    let mut own = HashMap::new();
    let mut derived = Vec::new();
    for block in text.split("\n  (symbol \"").skip(1) {
        let name = block.split('"').next().unwrap().to_owned();
        let about = quoted(block, "\"ki_description\" \"").unwrap_or_default().to_owned();
        let pins = block.split("(name \"").skip(1).filter_map(|pin| {
            Some((quoted(pin, "(number \"")?.parse().ok()?, pin.split('"').next()?.to_ascii_lowercase()))
        });
        if let Some(base) = quoted(block, "(extends \"") {
            derived.push((name.clone(), base.to_owned()));
        }
        own.insert(name, Symbol { about, pins: pins.collect() });
    }
    for (name, base) in derived {
        let pins = own[&base].pins.clone();
        own.get_mut(&name).unwrap().pins = pins;
    }
    own
}

/// `0.1A` and `100mA` before `unit`, in the base unit.
fn rating(about: &str, unit: &str) -> Option<f64> {
    let word = about
        .split(unit)
        .next()
        .filter(|w| w.len() < about.len())?
        .rsplit([' ', ','])
        .find(|w| !w.is_empty())?;
    let number = word.trim_end_matches(|c: char| c.is_alphabetic()).trim_start_matches('-');
    Some(number.parse::<f64>().ok()? * if word.ends_with("mA") { 1e-3 } else { 1.0 })
}

fn alike(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-9 * a.abs().max(b.abs())
}

fn says(source: &str, what: &str) -> bool {
    source.contains(what)
}

fn leads(d: &Device) -> String {
    d.pinout.map_or_else(String::new, |p| p.to_string())
}

#[test]
fn lead_orders_and_short_ratings_are_those_of_the_symbols_or_the_reason_is_known() {
    if !installed(SYMBOLS) {
        return;
    }
    let mut all = symbols("Transistor_BJT.kicad_sym");
    all.extend(symbols("Transistor_FET.kicad_sym"));
    let (mut in_leads, mut in_ratings) = (0, 0);
    for d in devices() {
        let t = d.type_number.as_str();
        let symbol = all.get(t).cloned().unwrap_or_default();
        let order: String =
            symbol.pins.values().filter_map(|n| n.chars().next()).collect::<String>().to_uppercase();
        // A flange's third lead is the case.
        let agrees = order.len() == 3 && order == leads(d);
        assert!(
            agrees || order.is_empty() || d.leads_vary || leads(d).len() == 2,
            "{t}: {order} for {}",
            leads(d)
        );
        let ratings = rating(&symbol.about, " Ic").zip(rating(&symbol.about, " Vce"));
        let same = ratings.map(|(ic, vce)| {
            d.ic_amperes.is_some_and(|i| alike(i, ic)) && d.vceo_volts.is_some_and(|v| alike(v, vce))
        });
        assert!(same != Some(false) || OTHERWISE.iter().any(|(o, _)| *o == t), "{t}: {}", symbol.about);
        let confirmed = d.source.clause.split(';').find(|s| s.contains("kicad-symbols")).unwrap_or_default();
        assert_eq!(says(confirmed, "leads"), agrees, "{t}: '{confirmed}'");
        assert_eq!(says(confirmed, "collector volts and current"), same == Some(true), "{t}: '{confirmed}'");
        in_leads += u32::from(agrees);
        in_ratings += u32::from(same == Some(true));
    }
    assert!(in_leads >= 48 && in_ratings >= 38, "{in_leads} lead orders, {in_ratings} ratings");
}

#[test]
fn diodes_stand_what_the_symbols_say() {
    if !installed(SYMBOLS) {
        return;
    }
    let all = symbols("Diode.kicad_sym");
    let mut confirmed = 0;
    for d in diodes() {
        let t = d.type_number.as_str();
        let about = all.get(t).map_or("", |s| s.about.as_str());
        let mut words = about.split(' ');
        let stands = words.next().and_then(|w| w.strip_suffix('V')?.parse::<f64>().ok());
        let carries = words.next().and_then(|w| rating(&format!("{w} "), " "));
        let same = stands
            .zip(carries)
            .map(|(v, a)| alike(v, d.reverse_volts) && d.amperes.is_some_and(|i| alike(i, a)));
        assert!(same != Some(false) || OTHERWISE.iter().any(|(o, _)| *o == t), "{t}: {about}");
        assert_eq!(says(&d.source.clause, "kicad-symbols"), same == Some(true), "{t}: {about}");
        confirmed += u32::from(same == Some(true));
    }
    assert!(confirmed >= 20, "{confirmed}");
}

#[test]
fn valves_have_their_electrodes_on_the_pins_of_the_symbols() {
    if !installed(SYMBOLS) {
        return;
    }
    let all = symbols("Valve.kicad_sym");
    let mut confirmed = 0;
    for v in valves() {
        let Some(symbol) = all.get(&v.name).filter(|s| !s.pins.is_empty()) else { continue };
        let agrees = symbol.pins.iter().all(|(pin, theirs)| {
            v.pins.iter().find(|p| u32::from(p.0) == *pin).is_some_and(|ours| electrode(theirs, &ours.1.code))
        });
        assert_eq!(says(&v.source.clause, "kicad-symbols"), agrees, "{}: {:?}", v.name, symbol.pins);
        confirmed += u32::from(agrees);
    }
    assert!(confirmed >= 9, "{confirmed}");
}

/// Whether the symbol's electrode is that of the code: `F1` is a heater's pin, a diode's plate may be A.
fn electrode(theirs: &str, ours: &str) -> bool {
    match (theirs.chars().next(), ours.chars().next()) {
        (Some('f'), Some(o)) => o == 'h' || o == 'f',
        (Some('a'), Some(o)) => o == 'a' || o == 'd',
        (Some('g'), _) if theirs[1..].starts_with(|c: char| c.is_ascii_digit()) => {
            ours.starts_with(&theirs[..2])
        }
        (a, b) => a == b,
    }
}

#[test]
fn collector_volts_are_those_of_the_models() {
    if !installed(MODELS) {
        return;
    }
    let mut confirmed = 0;
    // Its germanium models are silicon ones with other names: not asked.
    for d in devices().iter().filter(|d| d.material == Some(Material::Silicon)) {
        let t = d.type_number.as_str();
        let file = std::fs::read(format!("{MODELS}/{t}.model")).unwrap_or_default();
        let text = String::from_utf8_lossy(&file).to_ascii_uppercase();
        let volts = text
            .split("VCEO=")
            .nth(1)
            .and_then(|r| r.split(|c: char| !c.is_ascii_digit() && c != '.').next()?.parse::<f64>().ok());
        let same = volts.map(|v| d.vceo_volts.is_some_and(|o| alike(o, v)));
        assert!(same != Some(false) || OTHERWISE.iter().any(|(o, _)| *o == t), "{t}: {volts:?}");
        assert_eq!(says(&d.source.clause, "oregano"), same == Some(true), "{t}: {volts:?}");
        confirmed += u32::from(same == Some(true));
    }
    assert!(confirmed >= 25, "{confirmed}");
}
