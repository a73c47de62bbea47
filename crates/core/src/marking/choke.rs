//! Coils with printed values: `100uH 10%`, `2.5 mH`, and digit codes in microhenry: `101K`, `4R7`.

use super::{Code, Meaning, Tolerance, Value, letter_code};
use crate::part::PartKind;
use crate::quantity::parse::parse;
use crate::quantity::{Henry, Quantity};
use crate::source::Source;

/// The meanings of what is printed on a coil, each with its weight among them; empty if it is none.
#[must_use]
pub fn meanings(text: &str) -> Vec<(f64, Meaning)> {
    let joined: String = text.chars().filter(|c| !c.is_whitespace()).collect();
    let (value, percent) = match joined.strip_suffix('%') {
        Some(head) => {
            let at = head.rfind(|c: char| !(c.is_ascii_digit() || c == '.')).map_or(0, |i| i + 1);
            // The last sign before the number may be ± of two bytes.
            let Some(percent) = head.get(at..).and_then(|p| p.parse::<f64>().ok()) else { return vec![] };
            (head.get(..at).unwrap_or("").trim_end_matches(['±', '-', '+', '/']), Some(percent))
        }
        None => (joined.as_str(), None),
    };
    if value.to_ascii_lowercase().ends_with('h') {
        let Ok(entries) = parse(Quantity::Inductance, value) else { return vec![] };
        return entries
            .into_iter()
            .filter_map(|e| {
                let value = Value::Inductance(Henry::new(e.value).ok()?);
                let source = Source::standard("SI brochure, 9th edition, tables 4 and 7");
                let mut m = Meaning::new(PartKind::Coil, Code::PlainText, value, source);
                m.tolerance = percent.and_then(Tolerance::of_percent);
                m.because = e.because;
                Some((e.likelihood, m))
            })
            .collect();
    }
    if percent.is_some() { vec![] } else { code(value).map(|m| (1.0, m)).into_iter().collect() }
}

/// `101K` is 100 µH ±10 %, `4R7` is 4.7 µH.
fn code(text: &str) -> Option<Meaning> {
    let text = text.to_ascii_uppercase();
    let end = text.find(|c: char| !(c.is_ascii_digit() || c == 'R')).unwrap_or(text.len());
    let (digits, tail) = text.split_at(end);
    if digits.len() != 3 || digits.starts_with('0') {
        return None;
    }
    let micro = match digits.split_once('R') {
        Some((whole, frac)) => format!("0{whole}.{frac}0").parse::<f64>().ok()?,
        None => {
            let (head, zeros) = digits.split_at(2);
            let zeros: i32 = zeros.parse().ok()?;
            if zeros > 5 {
                return None;
            }
            head.parse::<f64>().ok()? * 10f64.powi(zeros)
        }
    };
    let letter = match tail.chars().collect::<Vec<_>>()[..] {
        [] => None,
        [c] => Some(letter_code::tolerances().iter().find(|t| t.letter == c)?),
        _ => return None,
    };
    let value = Value::Inductance(Henry::new(micro / 1e6).ok()?);
    let source = Source::practice("digit code as on small chokes, in microhenry");
    let mut m = Meaning::new(PartKind::Coil, Code::ChokeCode, value, source);
    m.tolerance = letter.and_then(|l| Tolerance::of_percent(l.percent));
    m.because.push("on a choke: digits and zeros, in µH".to_owned());
    Some(m)
}
