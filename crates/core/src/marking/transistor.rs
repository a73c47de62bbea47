//! Transistors by their registered type number: JEDEC 2N and 3N, JIS 2SA to 2SD, 2SJ and 2SK, also printed without the 2S,
//! Pro Electron, and the older European OC.
//!
//! Cannot tell a JIS type printed without its 2S (C945) from a house number of the same look.

use super::{Code, Meaning};
use crate::marking::meaning::Value;
use crate::named::Named;
use crate::part::PartKind;
use crate::source::Source;
use crate::transistor::device::{device, meant};

fn of_type(number: String, because: String, source: Source) -> Meaning {
    let known = meant(&number, device);
    let mut m = Meaning::new(PartKind::Transistor, Code::TypeNumber, Value::TypeNumber(number), source);
    m.because.push(because);
    if let Some(d) = known {
        let material = d.material.map_or_else(String::new, |x| format!("{} ", x.name()));
        m.because.push(format!("in the table: {material}{}, {}", d.polarity, d.usual_use));
    }
    m
}

fn digits(text: &str) -> (usize, &str) {
    let n = text.chars().take_while(char::is_ascii_digit).count();
    (n, text.get(n..).unwrap_or(""))
}

/// A letter or two behind the digits: a group of gain, an improved type.
fn is_suffix(text: &str) -> bool {
    text.len() <= 2 && text.chars().all(|c| c.is_ascii_uppercase())
}

/// A registered type number as printed. `None` for anything else. `surely` where it is known to be a transistor: then
/// a JIS number without its 2S is taken too.
#[must_use]
pub fn printed(text: &str, surely: bool) -> Option<Meaning> {
    let text: String =
        text.trim().to_ascii_uppercase().chars().filter(|c| !c.is_whitespace() && *c != '-').collect();
    let jis = |letter: char| match letter {
        'A' => Some("PNP for radio frequency"),
        'B' => Some("PNP for audio"),
        'C' => Some("NPN for radio frequency"),
        'D' => Some("NPN for audio"),
        'J' => Some("P-channel field effect"),
        'K' => Some("N-channel field effect"),
        _ => None,
    };
    let fits = |rest: &str, least: usize, most: usize| {
        let (n, tail) = digits(rest);
        (least..=most).contains(&n) && is_suffix(tail)
    };
    if let Some(rest) = text.strip_prefix("2S") {
        let mut chars = rest.chars();
        let letter = chars.next()?;
        let says = jis(letter)?;
        let source = Source::standard("JIS C 7012, type numbers (memory)");
        return fits(chars.as_str(), 2, 4)
            .then(|| of_type(text.clone(), format!("2S{letter}: {says}"), source));
    }
    for (prefix, says) in [("2N", "three leads"), ("3N", "four leads")] {
        if let Some(rest) = text.strip_prefix(prefix) {
            let source = Source::standard("JEDEC type registration (memory)");
            return fits(rest, 2, 4)
                .then(|| of_type(text.clone(), format!("{prefix} and digits: registered, {says}"), source));
        }
    }
    if let Some(rest) = text.strip_prefix("OC") {
        let source = Source::memory("the older European type numbers");
        return fits(rest, 2, 4).then(|| {
            of_type(text.clone(), "OC and digits: the older European number, germanium".to_owned(), source)
        });
    }
    let mut chars = text.chars();
    let (first, second) = (chars.next()?, chars.next()?);
    let material = match first {
        'A' => Some("germanium"),
        'B' => Some("silicon"),
        _ => None,
    };
    let job = match second {
        'C' => Some("small, audio"),
        'D' => Some("power, audio"),
        'F' => Some("small, radio frequency"),
        'L' => Some("power, radio frequency"),
        'S' => Some("small switch"),
        'U' => Some("power switch"),
        _ => None,
    };
    if let (Some(material), Some(job)) = (material, job) {
        let rest = chars.as_str();
        let serial = rest.chars().take_while(|c| ('R'..='Z').contains(c)).count();
        if serial <= 1 && fits(rest.get(serial..).unwrap_or(""), 2, 3) {
            let source = Source::standard("Pro Electron type numbers (memory)");
            return Some(of_type(text.clone(), format!("{first}{second}: {material}, {job}"), source));
        }
    }
    // C945 for 2SC945.
    let says = jis(first)?;
    let full = format!("2S{text}");
    let known = meant(&full, device).is_some();
    let rest = text.get(1..).unwrap_or("");
    (fits(rest, 2, 4) && (surely || known)).then(|| {
        let mut m = of_type(
            full,
            format!("{first} and digits: a JIS number printed without its 2S, {says}"),
            Source::practice("how JIS types are printed"),
        );
        if !surely {
            m.because.push("C and digits may be a house number as well".to_owned());
        }
        m
    })
}

/// The type number of an integrated circuit: letters and digits, whatever they mean.
#[must_use]
pub fn circuit(text: &str) -> Option<Meaning> {
    let text = text.trim().to_ascii_uppercase();
    let fits = (3..=24).contains(&text.len())
        && text.chars().any(|c| c.is_ascii_digit())
        && text.chars().any(|c| c.is_ascii_alphabetic())
        && text.chars().all(|c| c.is_ascii_alphanumeric() || "-/ .".contains(c));
    fits.then(|| {
        let source = Source::practice("type numbers of integrated circuits are their makers'");
        let mut m = Meaning::new(PartKind::Ic, Code::TypeNumber, Value::TypeNumber(text), source);
        m.because.push("a type number as printed".to_owned());
        m
    })
}
