//! The workshop's own words. Sentences are written once, in one set of words; before anybody reads them they are put
//! into those that the workshop chose: valve or tube, HT or B+, anode or plate, earth or ground, heater or filament;
//! nanofarads, or µF and pF only.

use std::borrow::Cow;
use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::{Named, named};
use crate::quantity::Quantity;
use crate::quantity::format::{CapacitanceStyle, DIGITS, format_as};
use crate::source::Source;
use crate::table::rows;

named! {
    /// What the glass is called.
    "word for a valve" ValveWord {
        /// Valve.
        Valve = "valve",
        /// Tube.
        Tube = "tube",
    }
}

named! {
    /// What the high-tension supply is called.
    "word for the high tension" SupplyWord {
        /// HT.
        Ht = "HT",
        /// B+.
        BPlus = "B+",
    }
}

named! {
    /// What a valve's collecting electrode is called.
    "word for an anode" AnodeWord {
        /// Anode.
        Anode = "anode",
        /// Plate.
        Plate = "plate",
    }
}

named! {
    /// What zero volts and the wire to the soil are called.
    "word for earth" EarthWord {
        /// Earth.
        Earth = "earth",
        /// Ground.
        Ground = "ground",
    }
}

named! {
    /// What warms a cathode.
    "word for a heater" HeaterWord {
        /// Heater.
        Heater = "heater",
        /// Filament.
        Filament = "filament",
    }
}

/// The words that a workshop has chosen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, serde::Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Dialect {
    /// Valve or tube.
    pub valve: ValveWord,
    /// HT or B+.
    pub supply: SupplyWord,
    /// Anode or plate.
    pub anode: AnodeWord,
    /// Earth or ground.
    pub earth: EarthWord,
    /// Heater or filament.
    pub heater: HeaterWord,
    /// Whether there are nanofarads.
    #[serde(default = "with_nano")]
    #[cfg_attr(feature = "openapi", schema(required = false))]
    pub capacitance: CapacitanceStyle,
}

fn with_nano() -> CapacitanceStyle {
    CapacitanceStyle::WithNano
}

impl Dialect {
    /// As in the British trade.
    pub const BRITISH: Self = Self {
        valve: ValveWord::Valve,
        supply: SupplyWord::Ht,
        anode: AnodeWord::Anode,
        earth: EarthWord::Earth,
        heater: HeaterWord::Heater,
        capacitance: CapacitanceStyle::WithNano,
    };
    /// As in the American trade.
    pub const AMERICAN: Self = Self {
        valve: ValveWord::Tube,
        supply: SupplyWord::BPlus,
        anode: AnodeWord::Plate,
        earth: EarthWord::Ground,
        heater: HeaterWord::Filament,
        capacitance: CapacitanceStyle::WithNano,
    };
    /// The words in which the sentences themselves are written: putting into it changes nothing.
    pub const AS_WRITTEN: Self = Self { anode: AnodeWord::Plate, earth: EarthWord::Ground, ..Self::BRITISH };

    fn words(self) -> [&'static str; 5] {
        [self.valve.name(), self.supply.name(), self.anode.name(), self.earth.name(), self.heater.name()]
    }

    /// The words that are said otherwise than they are written in the sentences.
    pub fn terms(self) -> impl Iterator<Item = &'static Term> {
        let words = self.words();
        TERMS.iter().filter(move |t| words.contains(&t.dialect.as_str()))
    }

    /// A sentence in the workshop's words. What stands in quotes was typed by somebody and stays as it is.
    ///
    /// ```
    /// use owl_core::dialect::Dialect;
    /// let written = "pull the valve: a plate is not a ground";
    /// assert_eq!(Dialect::BRITISH.say(written), "pull the valve: an anode is not an earth");
    /// assert_eq!(Dialect::AMERICAN.say(written), "pull the tube: a plate is not a ground");
    /// ```
    #[must_use]
    pub fn say(self, sentence: &str) -> Cow<'_, str> {
        let terms: Vec<&Term> = self.terms().collect();
        let said = put(&terms, sentence, |t| (&t.sentence_word, &t.said_word));
        match self.capacitance {
            CapacitanceStyle::MicroAndPico if said.contains(" nF") => Cow::Owned(without_nano(&said)),
            CapacitanceStyle::MicroAndPico | CapacitanceStyle::WithNano => said,
        }
    }

    /// What somebody typed in the words of either trade, in those of the sentences and the vocabularies.
    ///
    /// ```
    /// use owl_core::dialect::Dialect;
    /// assert_eq!(Dialect::written("R12 47k anode load, tube pulled"), "R12 47k plate load, valve pulled");
    /// ```
    #[must_use]
    pub fn written(typed: &str) -> Cow<'_, str> {
        let terms: Vec<&Term> = TERMS.iter().collect();
        put(&terms, typed, |t| (&t.said_word, &t.sentence_word))
    }
}

/// A word of the sentences, and how one dialect says it.
#[derive(Debug, Clone, Deserialize, serde::Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct Term {
    /// The chosen word that brings it.
    pub dialect: String,
    /// As the sentences have it.
    pub sentence_word: String,
    /// As this dialect says it.
    pub said_word: String,
    /// Where that comes from.
    #[serde(skip_serializing)]
    #[cfg_attr(feature = "openapi", schema(ignore))]
    pub source: Source,
}

/// A sentence with its nanofarads in microfarads, as old sheets write them: `22 nF` as `0.022 µF`. What stands in quotes
/// was typed by somebody and stays.
fn without_nano(sentence: &str) -> String {
    let mut out = String::new();
    let mut rest = sentence;
    while let Some(at) = rest.find(" nF") {
        let (before, unit) = rest.split_at(at);
        let start = before
            .rfind(|c: char| !c.is_ascii_digit() && c != '.')
            .map_or(0, |i| i + before[i..].chars().next().map_or(1, char::len_utf8));
        let (text, number) = before.split_at(start);
        out.push_str(text);
        let quoted = ends_in_quotes(&out);
        match number.parse::<f64>() {
            Ok(nano) if !quoted => {
                out.push_str(
                    &format_as(Quantity::Capacitance, nano * 1e-9, DIGITS, CapacitanceStyle::MicroAndPico)
                        .to_string(),
                );
            }
            _ => {
                out.push_str(number);
                out.push_str(" nF");
            }
        }
        rest = unit.strip_prefix(" nF").unwrap_or_default();
    }
    out.push_str(rest);
    out
}

/// Whether the end of a text stands in quotes.
fn ends_in_quotes(text: &str) -> bool {
    let mut quoted = false;
    let mut last = None;
    for (i, c) in text.char_indices() {
        if c == '\'' {
            let opens = last.is_none_or(|l| l == ' ' || l == '(');
            quoted = if quoted { text[i + 1..].starts_with(is_of_word) } else { opens };
        }
        last = Some(c);
    }
    quoted
}

static TERMS: LazyLock<Vec<Term>> =
    LazyLock::new(|| rows("dialect.csv", include_str!("../../data/dialect.csv")));

/// Puts whole words for whole words, with their capitals and the article before them.
fn put<'a>(terms: &[&Term], text: &'a str, pair: impl Fn(&Term) -> (&str, &str)) -> Cow<'a, str> {
    let found = |word: &str| {
        terms.iter().map(|t| pair(t)).find(|(from, _)| {
            *from == word || (from.starts_with(char::is_lowercase) && from.eq_ignore_ascii_case(word))
        })
    };
    let mut out = String::new();
    let mut changed = false;
    let mut quoted = false;
    let mut rest = text;
    while let Some(first) = rest.chars().next() {
        let length = if is_of_word(first) {
            rest.find(|c| !is_of_word(c)).unwrap_or(rest.len())
        } else {
            first.len_utf8()
        };
        let (word, after) = rest.split_at(length);
        rest = after;
        if first == '\'' {
            let opens = out.chars().next_back().is_none_or(|c| c == ' ' || c == '(');
            quoted = if quoted { rest.starts_with(is_of_word) } else { opens && rest.contains('\'') };
        }
        match found(word).filter(|_| !quoted) {
            Some((from, to)) => {
                correct_article(&mut out, from, to);
                out.push_str(&with_capitals_of(word, to));
                changed = true;
            }
            None => out.push_str(word),
        }
    }
    if changed { Cow::Owned(out) } else { Cow::Borrowed(text) }
}

/// What a word is made of; `B+` is one.
fn is_of_word(c: char) -> bool {
    c.is_alphanumeric() || c == '_' || c == '+'
}

/// The word with a capital, or in capitals, where the one it stands for has them.
fn with_capitals_of(like: &str, word: &str) -> String {
    let capital = like.chars().next().is_some_and(char::is_uppercase);
    let short = word.chars().any(char::is_uppercase);
    if !capital || short {
        return word.to_owned();
    }
    let mut letters = word.chars();
    letters.next().map(|c| c.to_uppercase().chain(letters).collect()).unwrap_or_default()
}

/// "a plate" becomes "an anode", "an earth" becomes "a ground".
fn correct_article(before: &mut String, from: &str, to: &str) {
    let (had, wants) = (takes_an(from), takes_an(to));
    if had == wants {
        return;
    }
    let article = |s: &str, article: &str| s.strip_suffix(article).is_some_and(|b| !b.ends_with(is_of_word));
    if wants && (article(before, "a ") || article(before, "A ")) {
        before.insert(before.len() - 1, 'n');
    } else if had && (article(before, "an ") || article(before, "An ")) {
        before.remove(before.len() - 2);
    }
}

fn takes_an(word: &str) -> bool {
    word == "HT" || word.starts_with(['a', 'e', 'i', 'o', 'u'])
}
