//! What is seen on a part before it is measured, and what that alone decides.

use std::sync::LazyLock;

use serde::Deserialize;

use super::PartKind;
use crate::named::named;
use crate::source::Source;
use crate::table::{rows, yes};
use crate::verdict::Outcome;

named! {
    /// What is seen on a part.
    "look" VisualSign {
        /// An end or the top bulges.
        Domed = "domed",
        /// The vent has opened.
        Vented = "vented",
        /// Wax has run out.
        WaxOut = "wax out",
        /// Browned or burnt.
        Scorched = "scorched",
        /// The body is cracked.
        Cracked = "cracked",
        /// A lead is off.
        LeadBroken = "lead broken",
        /// Wrapped in tape.
        Taped = "taped",
        /// Good at one moment and not at the next: by tapping, by heat.
        ComesAndGoes = "comes and goes",
        /// The silver spot inside the glass has turned white.
        GetterWhite = "getter white",
        /// The cap turns on the glass.
        CapLoose = "cap loose",
        /// The glass turns in its base.
        BaseLoose = "base loose",
        /// Something is loose inside.
        Rattles = "rattles",
        /// It is heard in the loudspeaker when it is tapped.
        NoisyWhenTapped = "noisy when tapped",
        /// Blue between the electrodes, and not on the glass.
        GlowsBlue = "glows blue inside",
        /// Its plate glows red.
        PlateRed = "plate glows red",
        /// Its pins are black.
        PinsDirty = "pins dirty",
    }
}

/// What a look means on a kind of part.
#[derive(Debug, Clone, Deserialize)]
pub struct Meaning {
    /// The look.
    pub look: VisualSign,
    /// On which kind of part.
    pub kind: PartKind,
    /// What it alone says of the part; keep where it says nothing.
    pub call: Outcome,
    /// Whether something has overloaded the part.
    #[serde(deserialize_with = "yes")]
    pub burnt: bool,
    /// In words.
    pub text: String,
    /// What to do next; empty for nothing.
    pub next: String,
    /// Where that comes from.
    pub source: Source,
}

static MEANINGS: LazyLock<Vec<Meaning>> =
    LazyLock::new(|| rows("look.csv", include_str!("../../data/look.csv")));

impl VisualSign {
    /// What it means on a kind of part; `None` where such parts do not look so.
    #[must_use]
    pub fn on(self, kind: PartKind) -> Option<&'static Meaning> {
        MEANINGS.iter().find(|m| m.look == self && m.kind == kind)
    }

    /// The looks that a kind of part can have.
    pub fn of(kind: PartKind) -> impl Iterator<Item = Self> {
        MEANINGS.iter().filter(move |m| m.kind == kind).map(|m| m.look)
    }
}
