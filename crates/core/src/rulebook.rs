//! The rule book (`docs/rules.md`) and the register of sources, as the application serves them.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::source::{Source, SourceKind};
use crate::table::rows;

/// One rule as the book has it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RuleText {
    /// Its number: `R4s`.
    pub number: String,
    /// What it is about.
    pub title: String,
    /// What it says.
    pub says: String,
    /// Its formula.
    pub formula: String,
    /// The units of what goes in, and its range.
    pub units: String,
    /// Where it comes from.
    pub source: String,
    /// What it cannot tell.
    pub limits: String,
    /// The numbers of a school that are judgement in it, by name.
    pub judgement: Vec<String>,
    /// The tests that hold it: file and names.
    pub held_by: String,
}

static RULES: LazyLock<Vec<RuleText>> = LazyLock::new(|| parse(include_str!("../../../docs/rules.md")));

/// All rules, in the order of the book.
#[must_use]
pub fn rules() -> &'static [RuleText] {
    &RULES
}

/// A rule by its number; `None` where the book has none such.
///
/// ```
/// use owl_core::rulebook::rule;
/// assert!(rule("R1").is_some_and(|r| r.formula.contains("nominal")));
/// assert!(rule("R99").is_none());
/// ```
#[must_use]
pub fn rule(number: &str) -> Option<&'static RuleText> {
    RULES.iter().find(|r| r.number == number)
}

/// The rules whose number begins so, then those whose title has all the words, then those that say them.
///
/// ```
/// use owl_core::rulebook::find;
/// assert_eq!(find("r1")[0].number, "R1");
/// assert!(find("no such words anywhere").is_empty());
/// ```
#[must_use]
pub fn find(text: &str) -> Vec<&'static RuleText> {
    let text = text.to_lowercase();
    let words: Vec<&str> = text.split_whitespace().collect();
    let has = |what: &str| !words.is_empty() && words.iter().all(|w| what.to_lowercase().contains(w));
    let place = |r: &RuleText| match r.number.to_lowercase() {
        number if number == text => Some(0),
        number if !text.is_empty() && number.starts_with(&text) => Some(1),
        _ if has(&r.title) => Some(2),
        _ if has(&format!("{} {}", r.title, r.says)) => Some(3),
        _ => None,
    };
    let mut found: Vec<(u8, &RuleText)> = RULES.iter().filter_map(|r| Some((place(r)?, r))).collect();
    found.sort_by_key(|(place, _)| *place);
    found.into_iter().map(|(_, r)| r).collect()
}

fn parse(book: &str) -> Vec<RuleText> {
    book.split("\n## ").skip(1).filter_map(section).collect()
}

fn section(text: &str) -> Option<RuleText> {
    let (head, body) = text.split_once('\n')?;
    let (number, title) = head.split_once(". ")?;
    let field = |name: &str| {
        let line = body.lines().find_map(|l| l.strip_prefix(&format!("- **{name}:** ")));
        line.map(|l| l.trim().to_owned()).unwrap_or_default()
    };
    let judgement = field("Judgement");
    Some(RuleText {
        number: number.to_owned(),
        title: title.trim().to_owned(),
        says: field("Says"),
        formula: field("Formula"),
        units: field("Units and range"),
        source: field("Source"),
        limits: field("Limits"),
        judgement: judgement.split(", ").filter(|j| *j != "none").map(str::to_owned).collect(),
        held_by: field("Held by"),
    })
}

/// A publication that table rows point to.
#[derive(Debug, Clone, Deserialize)]
pub struct Publication {
    /// With what a clause begins that points to it.
    pub title: String,
    /// Whether it is a standard or a handbook.
    pub kind: SourceKind,
    /// The edition.
    pub edition: String,
    /// What it is about.
    pub what: String,
}

static REGISTER: LazyLock<Vec<Publication>> =
    LazyLock::new(|| rows("source_register.csv", include_str!("../data/source_register.csv")));

/// The publications that the tables and rules point to.
#[must_use]
pub fn register() -> &'static [Publication] {
    &REGISTER
}

/// The publication that a source points to; `None` of practice and memory, which are none.
#[must_use]
pub fn publication(source: &Source) -> Option<&'static Publication> {
    REGISTER.iter().find(|p| p.kind == source.kind && source.clause.starts_with(&p.title))
}
