//! Phrases of one word or several, looked for at the head of a sentence.

/// How many of `words` a phrase takes that opens them, upper and lower case alike; `None` where it does not stand there.
pub(crate) fn opens(phrase: &str, words: &[&str]) -> Option<usize> {
    let parts: Vec<&str> = phrase.split(' ').collect();
    let fits = words.len() >= parts.len()
        && parts.iter().zip(words).all(|(a, b)| a.to_lowercase() == b.to_lowercase());
    fits.then_some(parts.len())
}

/// The longest of `phrases` that opens `words`, and how many of them it takes.
pub(crate) fn longest<'p, T>(
    words: &[&str],
    phrases: impl IntoIterator<Item = (&'p str, T)>,
) -> Option<(T, usize)> {
    let found = phrases.into_iter().filter_map(|(text, value)| Some((value, opens(text, words)?)));
    found.max_by_key(|(_, used)| *used)
}
