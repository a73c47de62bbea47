//! What is kept for years: a form of the core's own, with the version in which it was written.
//!
//! | version | written |
//! |---|---|
//! | 1 | until 2026-11: the bare content, as the screen of the day was sent it |
//! | 2 | since: `{"version": 2, "content": …}` |
//!
//! A content type reads what both versions wrote; a later one than is known is refused, because half of it would be
//! lost when it is written again. An accepted marking has a version of its own: [`crate::marking::stored`].

use serde::de::{DeserializeOwned, Error};
use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// The version that is written.
pub const VERSION: u8 = 2;

/// A content with its version.
#[derive(Debug, Clone, PartialEq)]
pub struct Stored<T>(pub T);

#[derive(Serialize)]
struct Written<'a, T> {
    version: u8,
    content: &'a T,
}

#[derive(Deserialize)]
#[serde(untagged, bound = "T: DeserializeOwned")]
enum Read<T> {
    Versioned { version: u8, content: T },
    Bare(T),
}

impl<T: Serialize> Serialize for Stored<T> {
    fn serialize<S: Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
        Written { version: VERSION, content: &self.0 }.serialize(s)
    }
}

impl<'de, T: DeserializeOwned> Deserialize<'de> for Stored<T> {
    fn deserialize<D: Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        match Read::deserialize(d)? {
            Read::Versioned { version, .. } if version > VERSION => {
                Err(D::Error::custom(format!("version {version} is newer than this application")))
            }
            Read::Versioned { content, .. } | Read::Bare(content) => Ok(Self(content)),
        }
    }
}
