//! Transistors by their type number: of a registered series ([`crate::transistor::type_family`]), or, where it is known to be
//! a transistor, of whatever number its maker gave it.
//!
//! Cannot tell a JIS type printed without its 2S (C945) from a house number of the same look.

use super::{Code, Meaning};
use crate::marking::meaning::Value;
use crate::named::Named;
use crate::part::PartKind;
use crate::source::Source;
use crate::transistor::device::{device, meant, with_prefix};
use crate::transistor::type_family::{plain, type_family};

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

/// A type number as printed. `None` for anything else. `surely` where it is known to be a transistor: then a JIS number
/// without its 2S is taken too, and a number that belongs to no series as its maker's own.
#[must_use]
pub fn printed(text: &str, surely: bool) -> Option<Meaning> {
    let text = plain(text);
    if let Some(series) = type_family(&text, false) {
        return Some(of_type(text, series.says.clone(), series.source.clone()));
    }
    // C945 for 2SC945.
    let full = with_prefix(&text).filter(|full| {
        let known = meant(full, device).is_some();
        type_family(full, false).is_some() && (surely || known)
    });
    if let Some(series) = full.as_deref().and_then(|f| type_family(f, false)) {
        let says = series.says.split_once(": ").map_or(series.says.as_str(), |(_, s)| s);
        let first = text.chars().next()?;
        let mut m = of_type(
            full?,
            format!("{first} and digits: a JIS number printed without its 2S, {says}"),
            Source::practice("how JIS types are printed"),
        );
        if !surely {
            m.because.push("C and digits may be a house number as well".to_owned());
        }
        return Some(m);
    }
    if !surely {
        return None;
    }
    if let Some(series) = type_family(&text, true) {
        return Some(of_type(text, series.says.clone(), series.source.clone()));
    }
    house_number(&text).then(|| {
        of_type(
            text,
            "of no series that is known: its maker's own number, a type of its own; nothing follows from it"
                .to_owned(),
            Source::practice("house numbers"),
        )
    })
}

/// Whether a text can be a maker's own number: up to three letters before digits, or five digits and more. What begins with a
/// digit may be a value, four letters a word with its number run together, TO a case, and hFE or VBE what is read.
fn house_number(text: &str) -> bool {
    let digits = text.chars().filter(char::is_ascii_digit).count();
    let letters = text.chars().take_while(char::is_ascii_alphabetic).count();
    let letters_first = (1..=3).contains(&letters) && digits >= 2;
    (4..=12).contains(&text.len())
        && text.chars().all(|c| c.is_ascii_alphanumeric() || c == '/' || c == '.')
        && (letters_first || (digits == text.len() && digits >= 5))
        && !["TO", "HFE", "VBE"].iter().any(|w| text.starts_with(w))
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
