//! Colours that have become others: which true colours a seen one may be, how likely, and why
//! (`fading.csv`).
//!
//! One part has one history. The same true colour is therefore counted once however many bands have
//! it, and a part on which one colour has changed is more likely to have changed in others:
//! [`super::weigh::Weight::Faded`] is the share of parts on which colours have changed at all.

use std::sync::LazyLock;

use serde::Deserialize;

use super::Colour;
use crate::named::Named;
use crate::source::Source;
use crate::table::rows;

/// A colour that is seen as another.
#[derive(Debug, Clone, Deserialize)]
pub struct Fading {
    /// What it was.
    #[serde(rename = "true")]
    pub truly: Colour,
    /// What it looks like.
    pub seen: Colour,
    /// On a part whose colours have changed: the share on which this colour looks so.
    pub chance: f64,
    /// Why.
    pub because: String,
    /// Where the row comes from.
    pub source: Source,
}

static ROWS: LazyLock<Vec<Fading>> =
    LazyLock::new(|| rows("marking/fading.csv", include_str!("../../data/marking/fading.csv")));

/// The table.
#[must_use]
pub fn table() -> &'static [Fading] {
    &ROWS
}

/// By seen colour: the true colours that it may be, with the chance of each; itself first.
static ORIGINS: LazyLock<Vec<Vec<(Colour, f64)>>> = LazyLock::new(|| {
    Colour::ALL
        .iter()
        .map(|seen| {
            let stays = 1.0 - ROWS.iter().filter(|r| r.truly == *seen).map(|r| r.chance).sum::<f64>();
            let others = ROWS.iter().filter(|r| r.seen == *seen).map(|r| (r.truly, r.chance));
            std::iter::once((*seen, stays)).chain(others).collect()
        })
        .collect()
});

/// The colours that `seen` may truly be, itself first, each with the chance that it would look so.
#[must_use]
pub fn origins(seen: Colour) -> &'static [(Colour, f64)] {
    &ORIGINS[seen as usize]
}

/// Why `truly` may look like `seen`; `None` where it does not.
#[must_use]
pub fn because(truly: Colour, seen: Colour) -> Option<&'static Fading> {
    ROWS.iter().find(|r| r.truly == truly && r.seen == seen)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn no_colour_changes_more_often_than_always() {
        for c in Colour::ALL {
            let (itself, stays) = origins(*c)[0];
            assert_eq!(itself, *c);
            assert!((0.2..=1.0).contains(&stays), "{c} stays itself with {stays}");
        }
    }
}
