//! Reads the CSV tables that are compiled in from `data/`.

use serde::de::DeserializeOwned;

/// The rows of a compiled-in table.
///
/// The text is part of the build, so a broken row is a broken build and stops the program at
/// its first use; a test reads every table.
#[allow(clippy::panic, reason = "a compiled-in table that does not parse is a build error")]
pub(crate) fn rows<T: DeserializeOwned>(name: &str, text: &str) -> Vec<T> {
    csv::ReaderBuilder::new()
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes())
        .deserialize()
        .enumerate()
        .map(|(i, row)| match row {
            Ok(row) => row,
            Err(e) => panic!("data/{name}, row {}: {e}", i + 1),
        })
        .collect()
}

/// A column of `yes` and `no`.
pub(crate) fn yes<'de, D: serde::Deserializer<'de>>(d: D) -> Result<bool, D::Error> {
    use serde::Deserialize;
    match String::deserialize(d)?.as_str() {
        "yes" => Ok(true),
        "no" => Ok(false),
        other => Err(serde::de::Error::custom(format!("yes or no, not '{other}'"))),
    }
}
