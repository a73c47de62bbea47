//! What a proof says: whether the set is better, as before or worse for what was done, heard in the sentence that the
//! technician writes down anyway.
//!
//! A set that stays silent for another reason is *as before*: that is no failure of what went in, and it can be proven anew.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::phrase::longest;
use crate::source::Source;
use crate::table::rows;

named! {
    /// How the set is for what was done.
    "outcome of a proof" ProofOutcome {
        /// What was wrong is gone, or less.
        Better = "better",
        /// Neither better nor worse: what is wrong may lie elsewhere.
        AsBefore = "as before",
        /// Something is wrong now that was not before.
        Worse = "worse",
    }
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "lowercase")]
enum Means {
    Good,
    Trouble,
    Harm,
    Better,
    Worse,
    Same,
    Not,
    Gone,
    Still,
    More,
    Less,
}

#[derive(Deserialize)]
struct Row {
    phrase: String,
    means: Means,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static WORDS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("proof_word.csv", include_str!("../../data/proof_word.csv")));

/// Words that begin another thought.
const BETWEEN: [&str; 5] = ["but", "and", "aber", "und", "though"];

/// What a sentence says of the outcome; `None` where it does not say it, or says two things: then it is asked.
///
/// ```
/// use owl_core::proof::{ProofOutcome, heard};
/// assert_eq!(heard("music on all bands, crackle gone"), Some(ProofOutcome::Better));
/// assert_eq!(heard("still silent"), Some(ProofOutcome::AsBefore));
/// assert_eq!(heard("hum gone but now it smokes"), None);
/// ```
#[must_use]
pub fn heard(sentence: &str) -> Option<ProofOutcome> {
    let mut said: Vec<ProofOutcome> = thoughts(sentence).iter().filter_map(|t| of_thought(t)).collect();
    said.sort_unstable();
    said.dedup();
    match said.as_slice() {
        [one] => Some(*one),
        _ => None,
    }
}

/// The words of each thought, in small letters.
fn thoughts(sentence: &str) -> Vec<Vec<String>> {
    let mut all = vec![Vec::new()];
    for word in sentence.to_lowercase().replace('’', "'").split_whitespace() {
        let kept = word.trim_matches(|c: char| !c.is_alphanumeric());
        if BETWEEN.contains(&kept) {
            all.push(Vec::new());
        } else if let Some(now) = all.last_mut()
            && !kept.is_empty()
        {
            now.push(kept.to_owned());
        }
        if word.ends_with([',', ';', '.', ':', '!']) {
            all.push(Vec::new());
        }
    }
    all
}

fn of_thought(words: &[String]) -> Option<ProofOutcome> {
    let found = meanings(words);
    let has = |m: Means| found.contains(&m);
    let (not, still, gone) = (has(Means::Not), has(Means::Still), has(Means::Gone));
    if has(Means::Same) {
        return Some(ProofOutcome::AsBefore);
    }
    if has(Means::Better) || has(Means::Worse) {
        let plain = if has(Means::Better) { ProofOutcome::Better } else { ProofOutcome::Worse };
        return Some(if not { ProofOutcome::AsBefore } else { plain });
    }
    if has(Means::Harm) {
        let plain = if still { ProofOutcome::AsBefore } else { ProofOutcome::Worse };
        return (!not && !gone).then_some(plain);
    }
    if has(Means::Trouble) {
        // "no more hum" and "hum gone" are better, "still no hum" says nothing new.
        return match (not || gone || has(Means::Less), still, has(Means::More)) {
            (true, false, _) => Some(ProofOutcome::Better),
            (false, true, _) => Some(ProofOutcome::AsBefore),
            (false, false, true) => Some(ProofOutcome::Worse),
            _ => None,
        };
    }
    if has(Means::Good) {
        return match (not || gone, still) {
            (true, true) => Some(ProofOutcome::AsBefore),
            // "no sound" is as before of a silent set and worse of one that played.
            (true, false) => None,
            (false, true) => None,
            (false, false) => Some(ProofOutcome::Better),
        };
    }
    None
}

/// What the words mean, the longest phrase first at each place.
fn meanings(words: &[String]) -> Vec<Means> {
    let words: Vec<&str> = words.iter().map(String::as_str).collect();
    let mut found = Vec::new();
    let mut at = 0;
    while at < words.len() {
        let here = longest(&words[at..], WORDS.iter().map(|r| (r.phrase.as_str(), r.means)));
        found.extend(here.map(|(means, _)| means));
        at += here.map_or(1, |(_, used)| used);
    }
    found
}
