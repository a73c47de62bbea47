//! Numbers in words, as dictation writes them: `twelve three thirty` is 12 and 330, `four point seven kay` is 4.7 k,
//! `are twelve` is R12.
//!
//! People say a value in groups: `three thirty` is 330, `four seventy` is 470, `twenty two` is 22, `three forty nine` is 349.
//! A name is said before it, so the first group belongs to the name.

use super::hear::Word;

/// What a word counts.
fn count(word: &str) -> Option<u32> {
    const SMALL: &[&str] = &[
        "zero",
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
        "twelve",
        "thirteen",
        "fourteen",
        "fifteen",
        "sixteen",
        "seventeen",
        "eighteen",
        "nineteen",
    ];
    const TENS: &[&str] = &["twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"];
    let lower = word.to_lowercase();
    if lower == "oh" {
        return Some(0);
    }
    let small = SMALL.iter().position(|s| *s == lower).and_then(|i| u32::try_from(i).ok());
    small.or_else(|| {
        TENS.iter().position(|t| *t == lower).and_then(|i| u32::try_from(i).ok()).map(|i| 20 + 10 * i)
    })
}

/// The letters that dictation writes for the name of a part, by how they sound.
fn letter(word: &str) -> Option<&'static str> {
    Some(match word.to_lowercase().as_str() {
        "are" | "ar" | "our" => "R",
        "see" | "sea" | "cee" => "C",
        "el" | "ell" => "L",
        "dee" => "D",
        "queue" | "cue" => "Q",
        "vee" | "ve" => "V",
        "you" => "U",
        "pea" | "pee" => "P",
        _ => return None,
    })
}

/// The same words with numbers in figures and names as they are written. Words without numbers stay as they are.
pub(super) fn in_figures(words: Vec<Word>) -> Vec<Word> {
    let mut out: Vec<Word> = Vec::with_capacity(words.len());
    let mut i = 0;
    while i < words.len() {
        let w = &words[i];
        let name = letter(&w.text)
            .or_else(|| one_letter(&w.text))
            .filter(|_| words.get(i + 1).is_some_and(|n| count(&n.text).is_some() || all_digits(&n.text)));
        if let Some(letter) = name {
            let (text, used, end) = match count(&words[i + 1].text) {
                Some(_) => group_of_a_name(&words[i + 1..]),
                None => (words[i + 1].text.clone(), 1, words[i + 1].at.end),
            };
            let stop = words[i + used].stop;
            out.push(Word { stop, ..Word::new(format!("{letter}{text}"), w.at.start..end) });
            i += 1 + used;
            continue;
        }
        // "This one is leaky" counts nothing.
        let alone = is(w, "one") && !words.get(i + 1).is_some_and(|n| goes_on(&n.text));
        if count(&w.text).is_some() && !alone
            || (is(w, "point") && words.get(i + 1).is_some_and(|n| count(&n.text).is_some()))
        {
            let (text, used) = number(&words[i..]);
            let last = &words[i + used - 1];
            out.push(Word { stop: last.stop, ..Word::new(text, w.at.start..last.at.end) });
            i += used;
            continue;
        }
        out.push(w.clone());
        i += 1;
    }
    out
}

/// Whether a word behind "one" makes it a number.
fn goes_on(word: &str) -> bool {
    let units = [
        "watt",
        "watts",
        "meg",
        "megohm",
        "kay",
        "k",
        "kilohm",
        "ohm",
        "percent",
        "hundred",
        "thousand",
        "point",
        "microfarad",
        "mfd",
        "mike",
        "amp",
        "volt",
        "henry",
    ];
    count(word).is_some() || units.iter().any(|u| word.eq_ignore_ascii_case(u))
}

fn is(w: &Word, text: &str) -> bool {
    w.text.eq_ignore_ascii_case(text)
}

fn all_digits(text: &str) -> bool {
    !text.is_empty() && text.len() <= 4 && text.chars().all(|c| c.is_ascii_digit())
}

/// A letter that stands alone before a number: `R twelve`, `V 3`.
fn one_letter(word: &str) -> Option<&'static str> {
    ["R", "C", "L", "D", "Q", "V", "U", "P"].into_iter().find(|l| word.eq_ignore_ascii_case(l))
}

/// The number behind the letter of a name: a ten with a one, or what is below twenty; `one oh one` digit by digit.
fn group_of_a_name(words: &[Word]) -> (String, usize, usize) {
    let first = words.first().and_then(|w| count(&w.text)).unwrap_or(0);
    let second = words.get(1).and_then(|w| count(&w.text));
    let third = words.get(2).and_then(|w| count(&w.text));
    let end = |used: usize| words[used - 1].at.end;
    match (second, third) {
        // "one oh four"
        (Some(0), Some(c)) if first < 10 && c < 10 => (format!("{first}0{c}"), 3, end(3)),
        (Some(b), _) if first >= 20 && (1..10).contains(&b) => ((first + b).to_string(), 2, end(2)),
        _ => (first.to_string(), 1, end(1)),
    }
}

/// A number in words and how many of them it takes.
fn number(words: &[Word]) -> (String, usize) {
    let mut whole = String::new();
    let mut used = 0;
    let mut last: Option<u32> = None;
    while let Some(w) = words.get(used) {
        if is(w, "hundred") && !whole.is_empty() {
            let (next, more) = below_a_hundred(&words[used + 1..]);
            whole = format!("{whole}{next:02}");
            used += 1 + more;
            last = None;
            continue;
        }
        if is(w, "thousand") && !whole.is_empty() {
            whole.push_str("000");
            used += 1;
            last = None;
            continue;
        }
        let Some(n) = count(&w.text) else { break };
        match last {
            // "twenty two"
            Some(t) if t >= 20 && t % 10 == 0 && (1..10).contains(&n) => {
                whole.truncate(whole.len() - 1);
                whole.push_str(&n.to_string());
                last = Some(t + n);
            }
            _ => {
                whole.push_str(&n.to_string());
                last = Some(n);
            }
        }
        used += 1;
    }
    if words.get(used).is_some_and(|w| is(w, "point")) {
        let behind = &words[used + 1..];
        // "point oh five four hundred volts": the four belongs to the hundred.
        let next_counts = |i: usize| behind.get(i + 1).is_some_and(|n| is(n, "hundred") || is(n, "thousand"));
        let digits: Vec<u32> = (0..behind.len())
            .map_while(|i| count(&behind[i].text).filter(|n| *n < 10 && !next_counts(i)))
            .collect();
        if !digits.is_empty() {
            let behind: String = digits.iter().map(ToString::to_string).collect();
            return (format!("{whole}.{behind}"), used + 1 + digits.len());
        }
    }
    (whole, used)
}

/// What is said behind "hundred": `and fifty two`, `eighty`.
fn below_a_hundred(words: &[Word]) -> (u32, usize) {
    let skip = usize::from(
        words.first().is_some_and(|w| is(w, "and") && words.get(1).is_some_and(|n| count(&n.text).is_some())),
    );
    let Some(first) = words.get(skip).and_then(|w| count(&w.text)) else { return (0, 0) };
    match words.get(skip + 1).and_then(|w| count(&w.text)) {
        Some(b) if first >= 20 && (1..10).contains(&b) => (first + b, skip + 2),
        _ => (first, skip + 1),
    }
}
