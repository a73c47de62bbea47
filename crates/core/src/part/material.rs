//! What a semiconductor is made of, and which way its current flows.

use super::DiodeFamily;
use crate::named::named;

named! {
    /// Which way its current flows.
    "polarity" Polarity {
        /// The collector is positive.
        Npn = "npn",
        /// The collector is negative.
        Pnp = "pnp",
        /// The drain is positive.
        NChannel = "n-channel",
        /// The drain is negative.
        PChannel = "p-channel",
    }
}

named! {
    /// What a semiconductor is made of.
    "material" Material {
        /// Germanium.
        Germanium = "germanium",
        /// Silicon.
        Silicon = "silicon",
    }
}

impl Material {
    /// As a family of parts.
    #[must_use]
    pub fn family(self) -> DiodeFamily {
        match self {
            Self::Germanium => DiodeFamily::Germanium,
            Self::Silicon => DiodeFamily::Silicon,
        }
    }

    /// Of a family of parts; `None` of selenium.
    #[must_use]
    pub fn of(family: DiodeFamily) -> Option<Self> {
        match family {
            DiodeFamily::Germanium => Some(Self::Germanium),
            DiodeFamily::Silicon => Some(Self::Silicon),
            DiodeFamily::Selenium => None,
        }
    }
}
