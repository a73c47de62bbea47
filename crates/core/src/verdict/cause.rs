//! Why did it fail? A cooked part is usually a symptom: what fed too much through it, and which parts on the
//! tray could have.

use crate::part::{MadeOf, PartKind, Position};

/// A part on the tray, as far as the question is concerned.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OnTray<'a> {
    /// What it is called.
    pub name: &'a str,
    /// What it is.
    pub kind: PartKind,
    /// How it is made, where that is known.
    pub family: Option<MadeOf>,
    /// Where it sits, where that is known.
    pub position: Option<Position>,
    /// The resistor that it is fed through, where that is known.
    pub fed_by: Option<&'a str>,
}

/// A part that could have overloaded another.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Suspect {
    /// What it is called.
    pub name: String,
    /// Whether it is known to hang on the overloaded part; otherwise its position only makes it possible.
    pub known: bool,
    /// Why, in words.
    pub because: String,
}

/// What fed too much through the part called `burnt`: what is known to hang behind it first, then what by its
/// position could, known-bad families before others. Parts that are known to hang elsewhere are left out.
///
/// ```
/// use owl_core::part::{PartKind, Position};
/// use owl_core::verdict::cause::{OnTray, suspects};
/// let c = OnTray { name: "C7", kind: PartKind::Capacitor, family: None, position: Some(Position::ScreenBypass), fed_by: Some("R4") };
/// assert_eq!(suspects("R4", &[c])[0].name, "C7");
/// assert!(suspects("R5", &[c]).is_empty());
/// ```
#[must_use]
pub fn suspects(burnt: &str, tray: &[OnTray<'_>]) -> Vec<Suspect> {
    let mut found: Vec<(bool, bool, Suspect)> = tray
        .iter()
        .filter(|p| p.name != burnt)
        .filter_map(|p| {
            let bad = p.family.and_then(MadeOf::facts).is_some_and(|f| f.known_bad);
            let known = match p.fed_by {
                Some(feed) if feed == burnt => true,
                Some(_) => return None,
                None if p.kind == PartKind::Capacitor && p.position.is_some_and(hangs_on_a_feed) => false,
                None => return None,
            };
            Some((known, bad, Suspect { name: p.name.to_owned(), known, because: because(*p, known, bad) }))
        })
        .collect();
    found.sort_by_key(|(known, bad, _)| std::cmp::Reverse((*known, *bad)));
    found.into_iter().map(|(_, _, s)| s).collect()
}

fn hangs_on_a_feed(position: Position) -> bool {
    matches!(
        position,
        Position::ScreenBypass
            | Position::PlateDecoupling
            | Position::RfBypass
            | Position::Smoothing
            | Position::Reservoir
            | Position::Tone
    )
}

fn because(part: OnTray<'_>, known: bool, bad: bool) -> String {
    let place = part.position.map(|p| p.to_string()).unwrap_or_else(|| part.kind.to_string());
    let family = part
        .family
        .and_then(MadeOf::facts)
        .filter(|_| bad)
        .map(|f| format!(", {} {}", crate::named::Named::name(f.family), f.failure));
    let fed = if known { "is fed through it" } else { "could hang on it: not said what feeds it" };
    format!("{place} {fed}{}", family.unwrap_or_default())
}
