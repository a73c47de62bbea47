//! Who may do what in a workshop of several people (rule R22), and what a password must be.
//!
//! An apprentice measures and proposes; what decides about a part, puts one in, calls something safe or brings volts onto
//! something is countersigned by somebody who may do it alone.

pub mod story;

use crate::named::named;

named! {
    /// What somebody is in the workshop.
    "role" Role {
        /// Whose workshop it is: everything, and the people.
        Owner = "owner",
        /// Works alone.
        Technician = "technician",
        /// Measures and proposes; decides with a countersign.
        Apprentice = "apprentice",
        /// Looks.
        Reader = "reader",
    }
}

named! {
    /// What something that is asked for needs.
    "permission" Permission {
        /// Looking, and everything that is only computed.
        Look = "look",
        /// Writing down what was seen and measured.
        Measure = "measure",
        /// Deciding on parts, fitting them, safety ticks, power, closing.
        Decide = "decide",
        /// The workshop's instruments, schools, drawers and words; records from elsewhere.
        Keep = "keep",
        /// People, and what cannot be taken back.
        Own = "own",
    }
}

named! {
    /// How much a script's token may do, at most what its person may.
    "scope" Scope {
        /// Looking only.
        Read = "read",
        /// Writing down readings, too.
        Measure = "measure",
        /// All that its person may do alone, but for the people.
        Work = "work",
    }
}

/// Whether somebody may do something.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum May {
    /// Alone.
    Alone,
    /// With the countersign of somebody who may do it alone.
    Countersigned,
    /// Not at all.
    Not,
}

impl Role {
    /// What this role may do (rule R22).
    ///
    /// ```
    /// use owl_core::people::{May, Permission, Role};
    /// assert_eq!(Role::Apprentice.may(Permission::Measure), May::Alone);
    /// assert_eq!(Role::Apprentice.may(Permission::Decide), May::Countersigned);
    /// assert_eq!(Role::Reader.may(Permission::Measure), May::Not);
    /// ```
    #[must_use]
    pub fn may(self, needed: Permission) -> May {
        use Permission as P;
        match (self, needed) {
            (_, P::Look) | (Self::Owner, _) => May::Alone,
            (Self::Technician, P::Measure | P::Decide | P::Keep) | (Self::Apprentice, P::Measure) => {
                May::Alone
            }
            (Self::Apprentice, P::Decide) => May::Countersigned,
            (Self::Apprentice, P::Keep)
            | (Self::Technician | Self::Apprentice, P::Own)
            | (Self::Reader, _) => May::Not,
        }
    }

    /// Whether this role's countersign counts.
    #[must_use]
    pub fn may_countersign(self) -> bool {
        self.may(Permission::Decide) == May::Alone
    }
}

impl Scope {
    /// Whether a token of this scope reaches that far. What needs people at the bench is none for a script.
    #[must_use]
    pub fn reaches(self, needed: Permission) -> bool {
        match needed {
            Permission::Look => true,
            Permission::Measure => self != Self::Read,
            Permission::Decide | Permission::Keep => self == Self::Work,
            Permission::Own => false,
        }
    }
}

/// The fewest characters of a password (practice: NIST SP 800-63B asks for eight at least and for no odd characters).
pub const SHORTEST_PASSWORD: usize = 10;
/// The most characters of a password.
pub const LONGEST_PASSWORD: usize = 200;

/// Why a password is none.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum PasswordError {
    /// Too short.
    #[error(
        "a password has {SHORTEST_PASSWORD} characters or more: three words that do not belong together will do"
    )]
    Short,
    /// Too long.
    #[error("a password has at most {LONGEST_PASSWORD} characters")]
    Long,
    /// The name in it.
    #[error("a password is not the name")]
    Name,
    /// One character only.
    #[error("a password of one character again and again is guessed at once")]
    Same,
}

/// Whether a password may be taken for somebody of that name (rule R22).
///
/// # Errors
/// [`PasswordError`] in words.
pub fn password(text: &str, name: &str) -> Result<(), PasswordError> {
    let count = text.chars().count();
    if count < SHORTEST_PASSWORD {
        return Err(PasswordError::Short);
    }
    if count > LONGEST_PASSWORD {
        return Err(PasswordError::Long);
    }
    if text.trim().eq_ignore_ascii_case(name.trim()) {
        return Err(PasswordError::Name);
    }
    let first = text.chars().next();
    if text.chars().all(|c| Some(c) == first) {
        return Err(PasswordError::Same);
    }
    Ok(())
}

/// So many wrong passwords are forgiven.
pub const FORGIVEN: u32 = 5;

/// For how many seconds somebody is locked out after so many wrong passwords in a row (rule R22): none up to the fifth,
/// then a minute, doubled by each further one, an hour at most.
///
/// ```
/// use owl_core::people::locked_for_s;
/// assert_eq!([4, 5, 6, 8, 40].map(locked_for_s), [0, 60, 120, 480, 3600]);
/// ```
#[must_use]
pub fn locked_for_s(wrong: u32) -> u64 {
    if wrong < FORGIVEN { 0 } else { (60_u64 << (wrong - FORGIVEN).min(6)).min(3600) }
}
