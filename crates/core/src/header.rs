//! The first row of a CSV file that people bring: its columns in any order, each known, none twice.

use std::collections::HashMap;

/// Why a first row is not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum HeaderError {
    /// A column that must be there.
    #[error("the header has no column '{column}'; it needs {needed}, and may have: {known}")]
    Missing {
        /// Which.
        column: &'static str,
        /// What must be there.
        needed: String,
        /// What may be there.
        known: String,
    },
    /// A column that nobody knows.
    #[error("the header has a column '{column}' that means nothing here; known are: {known}")]
    Unknown {
        /// Which, cut to forty characters.
        column: String,
        /// What may be there.
        known: String,
    },
    /// A column that stands there twice.
    #[error("the header has the column '{0}' twice")]
    Twice(String),
}

/// Which column stands where.
#[derive(Debug, Clone)]
pub struct Header(HashMap<&'static str, usize>);

impl Header {
    /// Reads the first row: capitals and spaces do not count, nor does a mark of its encoding.
    pub(crate) fn of<'a>(
        row: impl IntoIterator<Item = &'a str>,
        known: &[&'static str],
        needed: &[&'static str],
    ) -> Result<Self, HeaderError> {
        let mut places = HashMap::new();
        for (i, name) in row.into_iter().enumerate() {
            let name = name.trim().trim_start_matches('\u{feff}').to_lowercase();
            let column = known.iter().find(|c| **c == name).ok_or_else(|| HeaderError::Unknown {
                column: name.chars().take(40).collect(),
                known: known.join(", "),
            })?;
            if places.insert(*column, i).is_some() {
                return Err(HeaderError::Twice(name));
            }
        }
        match needed.iter().find(|n| !places.contains_key(*n)) {
            Some(column) => {
                Err(HeaderError::Missing { column, needed: needed.join(", "), known: known.join(", ") })
            }
            None => Ok(Self(places)),
        }
    }

    /// What stands in a column of a row; empty where the column is not there.
    pub(crate) fn get<'a>(&self, row: &'a [&str], column: &'static str) -> &'a str {
        self.0.get(column).and_then(|i| row.get(*i)).map_or("", |f| f.trim())
    }
}
