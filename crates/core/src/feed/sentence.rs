//! A feed as one would tell it, a part a line: `R9 from rail to screen 3k3 1W`, `C21 screen .1`, `V5 screen 4mA`.
//!
//! What does not say where its other end goes, goes to ground. Numbers stand at the end, in any order: value, tolerance,
//! rating. A name may have blanks where `from` and `to` stand around it, or where the chart knows it.
//!
//! Cannot tell: `V3 pin 5 2` could be pin 5 and a value of 2, so a load's value needs its unit.

use super::{Element, FeedKind, FeedPart, RAIL};
use crate::quantity::parse::best;
use crate::quantity::{Ampere, Farad, Fraction, Ohm, Quantity, Watt};

/// A part as it was told; a load may leave its current to the sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct Told {
    /// The part; of a load that says no current, with none.
    pub part: FeedPart,
    /// Whether its value was said.
    pub valued: bool,
}

/// Why a line is no part of a feed.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum SentenceError {
    /// No first word.
    #[error("begin with the part's name, such as R9")]
    NoName,
    /// A name that says nothing of its kind.
    #[error(
        "'{0}' does not say what it is: R or L passes current, C holds it back, V, Q or X draws it; W is a wire or track, J a joint, S a switch, F a fuse, D a diode that conducts"
    )]
    NoKind(String),
    /// No node.
    #[error("say where {0} goes: from rail to a node, or from a node to ground")]
    NoEnds(String),
    /// More words than two nodes.
    #[error("'{0}': write it as 'from … to …', so that it is clear where one end stops")]
    ManyWords(String),
    /// No value.
    #[error("say the value of {0}")]
    NoValue(String),
    /// A number that makes no sense.
    #[error("'{text}': {why}")]
    Number {
        /// As typed.
        text: String,
        /// In words.
        why: String,
    },
}

/// The kind of a part by its first letter.
fn kind(name: &str) -> Option<FeedKind> {
    match name.chars().next()?.to_ascii_uppercase() {
        'R' | 'L' => Some(FeedKind::Resistor),
        'C' => Some(FeedKind::Capacitor),
        // A diode that conducts and a whole fuse are next to no resistance as well.
        'W' | 'J' | 'S' | 'D' | 'F' => Some(FeedKind::Contact),
        'V' | 'Q' | 'X' | 'T' => Some(FeedKind::Load),
        _ => None,
    }
}

#[derive(Default)]
struct Numbers {
    ohms: Option<f64>,
    farads: Option<f64>,
    amperes: Option<f64>,
    tolerance: Option<f64>,
    watts: Option<f64>,
}

/// Reads one line; `known` are the nodes that the chart has.
///
/// # Errors
/// [`SentenceError`] in words.
///
/// ```
/// use owl_core::feed::sentence::told;
/// let t = told("R2 from rail to screen line 47k 1W", &[]).unwrap();
/// assert_eq!((t.part.a.as_str(), t.part.b.as_str()), ("rail", "screen line"));
/// assert!(told("R2 rail screen", &[]).is_err());
/// ```
pub fn told(line: &str, known: &[String]) -> Result<Told, SentenceError> {
    let mut words: Vec<&str> = line.split_whitespace().collect();
    if words.is_empty() {
        return Err(SentenceError::NoName);
    }
    let name = words.remove(0).trim_end_matches([':', ',']).to_owned();
    let kind = kind(&name).ok_or_else(|| SentenceError::NoKind(name.clone()))?;
    let mut numbers = Numbers::default();
    while let Some(word) = words.last() {
        if !takes(&mut numbers, kind, word)? {
            break;
        }
        words.pop();
    }
    let (a, b) = ends(&name, &words, known)?;
    let number = |text: f64, e: crate::quantity::QuantityError| SentenceError::Number {
        text: text.to_string(),
        why: e.to_string(),
    };
    let element = match kind {
        FeedKind::Resistor => {
            let v = numbers.ohms.ok_or_else(|| SentenceError::NoValue(name.clone()))?;
            Element::Resistor(Ohm::new(v).map_err(|e| number(v, e))?)
        }
        FeedKind::Capacitor => Element::Capacitor(numbers.farads.and_then(|f| Farad::new(f).ok())),
        FeedKind::Contact => Element::Contact,
        FeedKind::Load => match (numbers.ohms, numbers.amperes) {
            (Some(v), _) => Element::Resistance(Ohm::new(v).map_err(|e| number(v, e))?),
            (None, a) => Element::Current(Ampere::new(a.unwrap_or(0.0)).map_err(|e| number(0.0, e))?),
        },
    };
    let valued = numbers.ohms.or(numbers.amperes).or(numbers.farads).is_some();
    Ok(Told {
        part: FeedPart {
            name,
            element,
            a,
            b,
            tolerance: numbers.tolerance.and_then(|t| Fraction::new(t).ok()),
            rating: numbers.watts.and_then(|w| Watt::new(w).ok()),
        },
        valued,
    })
}

/// What one valve draws at several nodes, its plate and its screen, stands there once for each under the node's name as
/// well: `V5-plate`, `V5-screen`. What stands twice on one node, and all that is no load, keeps its name.
pub fn named_apart(all: &mut [Told]) {
    let is_load = |t: &Told| t.part.element.kind() == FeedKind::Load;
    let seen: Vec<(String, String)> =
        all.iter().filter(|t| is_load(t)).map(|t| (t.part.name.clone(), t.part.a.clone())).collect();
    for t in all.iter_mut().filter(|t| is_load(t)) {
        let elsewhere = seen.iter().any(|(n, a)| *n == t.part.name && *a != t.part.a);
        let twice = seen.iter().filter(|(n, a)| *n == t.part.name && *a == t.part.a).count() > 1;
        if elsewhere && !twice {
            // The node may be called by the valve already.
            let node = t.part.a.strip_prefix(t.part.name.as_str()).unwrap_or(&t.part.a);
            t.part.name = format!("{}-{}", t.part.name, node.trim().replace(' ', "-"));
        }
    }
}

/// Takes a word from the end as a number, if it is one that is still wanted.
fn takes(n: &mut Numbers, kind: FeedKind, word: &str) -> Result<bool, SentenceError> {
    let number = word.starts_with(|c: char| c.is_ascii_digit() || matches!(c, '.' | '½' | '¼' | '±'));
    // A contact has no value.
    if !number || kind == FeedKind::Contact {
        return Ok(false);
    }
    let last = word.chars().last().unwrap_or(' ');
    let (of, slot, needed) = match (last, kind) {
        ('%', _) => (Quantity::Fraction, &mut n.tolerance, true),
        ('w' | 'W', _) => (Quantity::Power, &mut n.watts, true),
        ('A' | 'a', FeedKind::Load) => (Quantity::Current, &mut n.amperes, true),
        (c, FeedKind::Load) => (Quantity::Resistance, &mut n.ohms, !c.is_ascii_digit()),
        (_, FeedKind::Resistor) => (Quantity::Resistance, &mut n.ohms, false),
        (_, FeedKind::Capacitor | FeedKind::Contact) => (Quantity::Capacitance, &mut n.farads, false),
    };
    // A bare figure behind a load is a pin, not a value.
    if slot.is_some() || (!needed && kind == FeedKind::Load) {
        return Ok(false);
    }
    match best(of, word.trim_start_matches('±')) {
        Ok(v) if v > 0.0 && v < 1e15 => *slot = Some(v),
        Ok(_) => {
            return Err(SentenceError::Number {
                text: word.to_owned(),
                why: "a value above zero is needed".to_owned(),
            });
        }
        Err(_) if !needed => return Ok(false),
        Err(e) => return Err(SentenceError::Number { text: word.to_owned(), why: e.to_string() }),
    }
    Ok(true)
}

/// The node that is meant: in the chart's spelling where it knows it, `rail` and `ground` in theirs.
fn node(words: &[&str], known: &[String]) -> String {
    let said = words.join(" ");
    let spelled = |k: &&String| k.eq_ignore_ascii_case(&said);
    match said.to_lowercase().as_str() {
        "rail" | "b+" | "ht" => RAIL.to_owned(),
        "ground" | "gnd" | "chassis" | "earth" | "0" => "ground".to_owned(),
        _ => known.iter().find(spelled).cloned().unwrap_or(said),
    }
}

fn ends(name: &str, words: &[&str], known: &[String]) -> Result<(String, String), SentenceError> {
    let words = match words {
        [first, rest @ ..] if first.eq_ignore_ascii_case("from") => rest,
        all => all,
    };
    if words.is_empty() {
        return Err(SentenceError::NoEnds(name.to_owned()));
    }
    let between = |w: &&str| matches!(w.to_lowercase().as_str(), "to" | "-" | "–" | "→" | "->");
    if let Some(at) = words.iter().position(between) {
        let (a, b) = (&words[..at], &words[at + 1..]);
        if a.is_empty() || b.is_empty() {
            return Err(SentenceError::NoEnds(name.to_owned()));
        }
        return Ok((node(a, known), node(b, known)));
    }
    let whole = node(words, known);
    let is_known = |n: &str| n == RAIL || n == "ground" || known.iter().any(|k| k == n);
    if words.len() == 1 || is_known(&whole) {
        return Ok((whole, "ground".to_owned()));
    }
    if words.len() == 2 {
        return Ok((node(&words[..1], known), node(&words[1..], known)));
    }
    // Of several ways to cut it, the one in which both halves are known.
    let cut = (1..words.len()).map(|i| (node(&words[..i], known), node(&words[i..], known)));
    cut.into_iter()
        .find(|(a, b)| is_known(a) && is_known(b))
        .ok_or_else(|| SentenceError::ManyWords(words.join(" ")))
}

/// A part as it would be told.
#[must_use]
pub fn written(part: &FeedPart, valued: bool) -> String {
    let mut line = format!("{} from {} to {}", part.name, part.a, part.b);
    let mut add = |text: String| {
        line.push(' ');
        line.push_str(&text.replace(' ', ""));
    };
    match part.element {
        Element::Resistor(r) | Element::Resistance(r) => add(r.to_string()),
        Element::Capacitor(Some(c)) => add(c.to_string()),
        Element::Current(a) if valued => add(a.to_string()),
        Element::Capacitor(None) | Element::Contact | Element::Current(_) => {}
    }
    if let Some(t) = part.tolerance {
        add(crate::quantity::format::percent(t.fraction()));
    }
    if let Some(w) = part.rating {
        add(w.to_string());
    }
    line
}
