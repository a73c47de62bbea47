//! Fixed vocabularies: enums whose members have one name, the trade's, used on the screen, in
//! the computing interface and in the database alike.

/// A closed list of things with trade names.
pub trait Named: Copy + Eq + Sized + 'static {
    /// What one of these is called, for messages: "school", "position".
    const NOUN: &'static str;
    /// Every member, in the order in which the trade would list them.
    const ALL: &'static [Self];

    /// The trade's name of this member.
    fn name(self) -> &'static str;

    /// The member of that name, upper and lower case alike.
    ///
    /// # Errors
    /// [`UnknownName`], listing the names that there are.
    fn from_name(name: &str) -> Result<Self, UnknownName> {
        // As written is by far the most frequent: the database and the page write it so.
        let exact = Self::ALL.iter().copied().find(|m| m.name() == name);
        let found = exact.or_else(|| {
            let name = name.trim();
            Self::ALL.iter().copied().find(|m| m.name().eq_ignore_ascii_case(name))
        });
        found.ok_or_else(|| UnknownName {
            noun: Self::NOUN,
            given: name.chars().take(60).collect(),
            known: Self::ALL.iter().map(|m| m.name()).collect::<Vec<_>>().join(", "),
        })
    }
}

/// A name that stands in no list.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("'{given}' is no {noun}; known are: {known}")]
pub struct UnknownName {
    /// What was looked for.
    pub noun: &'static str,
    /// What was given, cut to sixty characters.
    pub given: String,
    /// The names that there are.
    pub known: String,
}

/// Declares a [`Named`] enum: each member beside its name.
macro_rules! named {
    ($(#[$meta:meta])* $noun:literal $ty:ident { $($(#[$m:meta])* $member:ident = $name:literal,)+ }) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub enum $ty { $($(#[$m])* $member,)+ }

        impl $crate::named::Named for $ty {
            const NOUN: &'static str = $noun;
            const ALL: &'static [Self] = &[$(Self::$member,)+];
            fn name(self) -> &'static str {
                match self { $(Self::$member => $name,)+ }
            }
        }

        impl std::fmt::Display for $ty {
            fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                f.write_str($crate::named::Named::name(*self))
            }
        }

        impl std::str::FromStr for $ty {
            type Err = $crate::named::UnknownName;
            fn from_str(s: &str) -> Result<Self, Self::Err> {
                $crate::named::Named::from_name(s)
            }
        }

        impl serde::Serialize for $ty {
            fn serialize<S: serde::Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
                s.serialize_str($crate::named::Named::name(*self))
            }
        }

        impl<'de> serde::Deserialize<'de> for $ty {
            fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
                let name = <std::borrow::Cow<'de, str> as serde::Deserialize>::deserialize(d)?;
                $crate::named::Named::from_name(&name).map_err(serde::de::Error::custom)
            }
        }
    };
}
pub(crate) use named;
