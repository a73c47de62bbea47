//! Fixed vocabularies: enums whose members have one name, the trade's, used on the screen, in
//! the computing interface and in the database alike.
//!
//! The features `sqlx` and `openapi` let a server put them in its rows and describe them in its interface; without
//! them the core knows of neither.

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

        $crate::named::by_name!($ty);
    };
}
pub(crate) use named;

/// Makes a [`Named`] type travel by its name: in JSON, in a row of the database, in the description of the interface.
macro_rules! by_name {
    ($ty:ident) => {
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

        #[cfg(feature = "sqlx")]
        impl sqlx::Type<sqlx::Postgres> for $ty {
            fn type_info() -> sqlx::postgres::PgTypeInfo {
                <str as sqlx::Type<sqlx::Postgres>>::type_info()
            }

            fn compatible(ty: &sqlx::postgres::PgTypeInfo) -> bool {
                <str as sqlx::Type<sqlx::Postgres>>::compatible(ty)
            }
        }

        #[cfg(feature = "sqlx")]
        impl sqlx::postgres::PgHasArrayType for $ty {
            fn array_type_info() -> sqlx::postgres::PgTypeInfo {
                <String as sqlx::postgres::PgHasArrayType>::array_type_info()
            }

            fn array_compatible(ty: &sqlx::postgres::PgTypeInfo) -> bool {
                <String as sqlx::postgres::PgHasArrayType>::array_compatible(ty)
            }
        }

        #[cfg(feature = "sqlx")]
        impl<'q> sqlx::Encode<'q, sqlx::Postgres> for $ty {
            fn encode_by_ref(
                &self,
                buf: &mut sqlx::postgres::PgArgumentBuffer,
            ) -> Result<sqlx::encode::IsNull, sqlx::error::BoxDynError> {
                <&str as sqlx::Encode<'_, sqlx::Postgres>>::encode($crate::named::Named::name(*self), buf)
            }
        }

        #[cfg(feature = "sqlx")]
        impl<'r> sqlx::Decode<'r, sqlx::Postgres> for $ty {
            fn decode(value: sqlx::postgres::PgValueRef<'r>) -> Result<Self, sqlx::error::BoxDynError> {
                let name = <&str as sqlx::Decode<'r, sqlx::Postgres>>::decode(value)?;
                Ok($crate::named::Named::from_name(name)?)
            }
        }

        // Through the trait that utoipa's own types implement: a bare `PartialSchema` could not stand inside an option
        // or a list.
        #[cfg(feature = "openapi")]
        impl utoipa::__dev::ComposeSchema for $ty {
            fn compose(
                _: Vec<utoipa::openapi::RefOr<utoipa::openapi::Schema>>,
            ) -> utoipa::openapi::RefOr<utoipa::openapi::Schema> {
                use $crate::named::Named;
                utoipa::openapi::ObjectBuilder::new()
                    .schema_type(utoipa::openapi::schema::Type::String)
                    .enum_values(Some(Self::ALL.iter().map(|m| m.name())))
                    .build()
                    .into()
            }
        }

        #[cfg(feature = "openapi")]
        impl utoipa::ToSchema for $ty {
            fn name() -> std::borrow::Cow<'static, str> {
                $crate::named::type_name(<Self as $crate::named::Named>::NOUN).into()
            }
        }
    };
}
pub(crate) use by_name;

/// A noun as a type is called: `resistor family` becomes `ResistorFamily`.
#[cfg(feature = "openapi")]
pub(crate) fn type_name(noun: &str) -> String {
    let upper = |word: &str| {
        let (head, tail) = word.split_at(1);
        head.to_uppercase() + tail
    };
    noun.split(' ').map(upper).collect()
}
