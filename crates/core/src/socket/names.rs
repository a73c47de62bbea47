//! Type numbers of valves: how they are compared, and which name the same valve.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::source::Source;
use crate::table::rows;

#[derive(Deserialize)]
struct Row {
    names: String,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

/// The names of one valve, by makers, countries and services; each group once.
static NAMES: LazyLock<Vec<Vec<String>>> = LazyLock::new(|| {
    let all = rows::<Row>("valve_name.csv", include_str!("../../data/valve_name.csv"));
    all.into_iter().map(|r| r.names.split_whitespace().map(str::to_owned).collect()).collect()
});

/// Every group of names.
pub fn groups() -> impl Iterator<Item = &'static [String]> {
    NAMES.iter().map(Vec::as_slice)
}

/// A type number as it is compared: capitals without blanks and dashes; what stands behind a stroke is let go, but for a
/// number that has one in its middle (QQE06/40).
#[must_use]
pub fn bare(typed: &str) -> String {
    let kept = |c: &char| c.is_ascii_alphanumeric() || *c == '/';
    let all: String = typed.chars().filter(kept).collect::<String>().to_ascii_uppercase();
    match all.split_once('/') {
        Some((_, behind)) if !behind.is_empty() && behind.chars().all(|c| c.is_ascii_digit()) => all,
        Some((head, _)) => head.to_owned(),
        None => all,
    }
}

/// What is written behind a type and names only its bulb, its base or its makers' wishes (memory).
const BULBS: [&str; 12] = ["WGTA", "GTG", "GTB", "GTA", "WGT", "WGB", "GT", "WA", "GB", "GC", "GA", "G"];

/// A type number without its bulb's letters: `6V6` of `6V6GTA`; they stand behind a digit.
#[must_use]
pub fn without_bulb(typed: &str) -> String {
    let name = bare(typed);
    let digit = |n: &&str| n.ends_with(|c: char| c.is_ascii_digit());
    let short = BULBS.iter().filter_map(|b| name.strip_suffix(b)).find(digit).map(str::to_owned);
    short.unwrap_or(name)
}

/// The other names of the same valve.
///
/// ```
/// use owl_core::socket::names::names_of;
/// assert!(names_of("ECC83").contains(&"12AX7"));
/// ```
#[must_use]
pub fn names_of(name: &str) -> Vec<&'static str> {
    let group = NAMES.iter().find(|g| g.iter().any(|n| n == name));
    group.into_iter().flatten().map(String::as_str).filter(|n| *n != name).collect()
}

/// Whether two numbers name one valve, whatever their bulbs.
#[must_use]
pub fn is_same(a: &str, b: &str) -> bool {
    let (a, b) = (without_bulb(a), without_bulb(b));
    a == b || names_of(&a).contains(&b.as_str())
}
