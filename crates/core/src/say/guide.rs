//! The grammar by its examples: what can be said, and what is understood by it. One table for the page of the application,
//! for `docs/bench-speech.md` and for the test that says every one of them.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Chip, SayError, Tray, of_deed, of_set, of_valve, understand_each};
use crate::source::Source;
use crate::table::rows;

/// An example.
#[derive(Debug, Clone, Deserialize)]
pub struct Example {
    /// What it is an example of.
    pub section: String,
    /// The sentence.
    pub say: String,
    /// The part and the pieces that are understood, `|` between them; behind a `?` the meanings that are asked about.
    pub meaning: String,
    /// Where the row comes from.
    pub source: Source,
}

static GUIDE: LazyLock<Vec<Example>> =
    LazyLock::new(|| rows("speech_guide.csv", include_str!("../../data/speech_guide.csv")));

/// The examples, those of a section one after the other.
#[must_use]
pub fn examples() -> &'static [Example] {
    &GUIDE
}

/// How a sentence is understood, in the words of [`Example::meaning`]; behind a `!` why it is not.
#[must_use]
pub fn in_short(text: &str, tray: &Tray) -> String {
    if let Some(said) = of_set(text) {
        return match said {
            Ok(s) => pieces(&s.chips),
            Err(e) => refused(&e),
        };
    }
    if let Some(said) = of_valve(text) {
        return match said {
            Ok(v) => pieces(&v.chips),
            Err(e) => refused(&e),
        };
    }
    if let Some(d) = of_deed(text, tray) {
        return format!("{} | {}", d.name, d.deed.in_words());
    }
    match understand_each(text, tray) {
        Ok(all) => {
            let names: Vec<&str> = all.iter().map(|u| u.name.as_str()).collect();
            let chips = all.iter().take(1).flat_map(|u| u.chips.iter().skip(1)).map(|c| c.text.clone());
            std::iter::once(names.join("+")).chain(chips).collect::<Vec<_>>().join(" | ")
        }
        Err(e) => refused(&e),
    }
}

fn pieces(chips: &[Chip]) -> String {
    chips.iter().map(|c| c.text.clone()).collect::<Vec<_>>().join(" | ")
}

fn refused(e: &SayError) -> String {
    match e {
        SayError::Which(all) => {
            format!("? {}", all.iter().map(|m| m.label.clone()).collect::<Vec<_>>().join(" | "))
        }
        other => format!("! {other}"),
    }
}

/// The examples as a page of Markdown, section by section.
#[must_use]
pub fn page() -> String {
    let mut out = String::from(
        "# What can be said in the line\n\n\
         A sentence is about one part, by its name, or about the part that is selected; about a valve in the voltage chart; or \
         about a set that is taken in. The name, what is printed on the part, \
         where it sits, what is seen and what the meter shows come in any order. A number without a unit is what it must be by \
         the part; where it could be two things, both are offered. What is not understood is refused by its word, and nothing \
         of the sentence is taken.\n\n\
         Every example below is said by a test. On its tray lie R3, R8, R12 (selected), C7, C12, L3, D2, Q4, P1 and U1.\n",
    );
    let mut section = "";
    for e in examples() {
        if e.section != section {
            section = &e.section;
            out.push_str(&format!("\n## {section}\n\n| said | understood |\n|---|---|\n"));
        }
        let meaning = match e.meaning.strip_prefix("? ") {
            Some(both) => format!("which one: {}?", both.replace(" | ", " or ")),
            None => e.meaning.replace(" | ", " · "),
        };
        out.push_str(&format!("| `{}` | {meaning} |\n", e.say));
    }
    out
}
