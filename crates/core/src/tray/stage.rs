//! An output stage that shorted: what may have died with its transistor, which parts of the tray that is, and what is
//! changed together (rule R14: a stage is one change).

use std::collections::BTreeMap;

use super::status::{decided, goes};
use super::{Id, Tray, TrayPart};
use crate::part::{PartKind, Position};
use crate::proof::ProofOutcome;
use crate::transistor::suspect::{Role, Suspect, suspects};
use crate::verdict::Outcome;

/// Which part of the set has which role beside a transistor that shorted, in words: its name on the sheet, or why the set
/// has none. A role that is not there is still to be named.
pub type Roles = BTreeMap<Role, String>;

/// Whether it is to be asked what died with a transistor that shorted: an output transistor, once, and not where it died with
/// another, whose stage is asked about already.
#[must_use]
pub fn is_to_be_asked(died: &TrayPart) -> bool {
    let output = died.position.is_some_and(Position::is_output);
    died.kind == PartKind::Transistor && output && died.roles.is_none() && died.suspect_of.is_none()
}

/// The roles of parts that are known, by their names.
#[must_use]
pub fn roles_of(known: &[(Role, &TrayPart)]) -> Roles {
    let mut roles = Roles::new();
    for (role, part) in known {
        let said = roles.entry(*role).or_default();
        let between = if said.is_empty() { "" } else { ", " };
        said.push_str(between);
        said.push_str(&part.name);
    }
    roles
}

/// The parts of the tray that are known to be what dies with a transistor, by their role; one that is the suspect of
/// another already is left out.
#[must_use]
pub fn recognised<'a>(tray: &'a Tray, died: &TrayPart) -> Vec<(Role, &'a TrayPart)> {
    let role = |p: &TrayPart| {
        let paired = died.group.is_some() && p.group == died.group;
        suspects().iter().find(|s| s.is(p.kind, p.position, paired)).map(|s| s.role)
    };
    let free = |p: &&TrayPart| p.id != died.id && p.suspect_of.is_none();
    tray.parts().iter().filter(free).filter_map(|p| Some((role(p)?, p))).collect()
}

/// What may have died with a transistor and of which nobody has said which part it is, or that the set has none. Nothing
/// where nobody asked: it did not short.
#[must_use]
pub fn unnamed(part: &TrayPart) -> Vec<&'static Suspect> {
    let Some(roles) = &part.roles else { return vec![] };
    suspects().iter().filter(|s| !roles.contains_key(&s.role)).collect()
}

/// Why a part cannot be what died with a transistor in that role.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum NotIt {
    /// It is the transistor itself.
    #[error("{0} is the one that shorted")]
    Itself(String),
    /// It is of another kind, by its name or by what lies on the tray.
    #[error("{name} is no {kind}, and a {role} is asked for: such as {letter}12", letter = kind.letters())]
    Kind {
        /// Its name.
        name: String,
        /// What is asked for.
        kind: PartKind,
        /// As what.
        role: Role,
    },
    /// It died with another.
    #[error("{name} is a suspect with {of} already: take it off there first")]
    Taken {
        /// Its name.
        name: String,
        /// The other transistor.
        of: String,
    },
}

/// Whether the part of that name can be what died with a transistor in a role: it lies on the tray, or may be put there.
///
/// # Errors
/// [`NotIt`].
pub fn may_be(tray: &Tray, died: &TrayPart, asked: &Suspect, name: &str) -> Result<(), NotIt> {
    if name == died.name {
        return Err(NotIt::Itself(name.to_owned()));
    }
    let known = tray.called(name);
    if known.map_or_else(|| PartKind::called(name), |p| Some(p.kind)) != Some(asked.kind) {
        return Err(NotIt::Kind { name: name.to_owned(), kind: asked.kind, role: asked.role });
    }
    match known.and_then(|p| p.suspect_of).filter(|of| *of != died.id).and_then(|of| tray.part(of)) {
        Some(other) => Err(NotIt::Taken { name: name.to_owned(), of: other.name.clone() }),
        None => Ok(()),
    }
}

/// The suspects of a part on which nobody has decided yet, by name: they would kill what goes in.
#[must_use]
pub fn suspects_open(tray: &Tray, part: Id) -> Vec<&str> {
    let open = |p: &&TrayPart| p.suspect_of == Some(part) && p.fitting().is_none() && decided(p).is_none();
    tray.parts().iter().filter(open).map(|p| p.name.as_str()).collect()
}

/// The parts that are one stage with a part, itself among them: its pair or group, its bank, what it died with, and what died
/// with the same. They are changed together and proven together.
pub fn stage<'a>(tray: &'a Tray, part: &TrayPart) -> impl Iterator<Item = &'a TrayPart> {
    let (first, group, bank) = (part.suspect_of.unwrap_or(part.id), part.group, tray.bank_of(part.id));
    tray.parts().iter().filter(move |p| {
        p.id == first
            || p.suspect_of == Some(first)
            || (group.is_some() && p.group == group)
            || bank.is_some_and(|b| b.has(p.id))
    })
}

/// What tells the stage of a part from others; `None` where the part stands alone.
#[must_use]
pub fn key(tray: &Tray, part: &TrayPart) -> Option<Id> {
    let members: Vec<Id> = stage(tray, part).map(|p| p.id).collect();
    members.iter().min().copied().filter(|_| members.len() > 1)
}

/// The parts of a part's stage that go and for which nothing has gone in: they are fitted together.
#[must_use]
pub fn to_fit<'a>(tray: &'a Tray, part: &TrayPart) -> Vec<&'a TrayPart> {
    stage(tray, part).filter(|p| goes(p) && p.fitting().is_none()).collect()
}

/// The parts of a part's stage that were fitted and are not proven to work: they are proven together.
#[must_use]
pub fn to_prove<'a>(tray: &'a Tray, part: &TrayPart) -> Vec<&'a TrayPart> {
    stage(tray, part).filter(|p| p.fitting().is_some_and(|f| f.proof != Some(ProofOutcome::Better))).collect()
}

/// The others of a part's stage that may still be shorted, by name; its first among them while not all that may have died
/// with that one is named.
#[must_use]
pub fn unsettled<'a>(tray: &'a Tray, part: &TrayPart) -> Vec<&'a str> {
    let others = stage(tray, part).filter(|p| p.id != part.id && (may_be_shorted(tray, p) || asks_names(p)));
    others.map(|p| p.name.as_str()).collect()
}

/// Whether what may have died with a part is not all named, and it was not proven to work since.
#[must_use]
pub fn asks_names(part: &TrayPart) -> bool {
    !unnamed(part).is_empty() && part.fitting().and_then(|f| f.proof) != Some(ProofOutcome::Better)
}

/// Whether a part may still be shorted where it sits: it goes and nothing has gone in, or it is a suspect of which nobody
/// has decided that it stays. One whose first was proven to work is a suspect no more.
pub(super) fn may_be_shorted(tray: &Tray, part: &TrayPart) -> bool {
    let stays = matches!(decided(part).map(|d| d.decided), Some(Outcome::Keep | Outcome::Watch));
    let proof = |id: Id| tray.part(id).and_then(TrayPart::fitting).and_then(|f| f.proof);
    let works = |id: Id| proof(id) == Some(ProofOutcome::Better);
    let suspect = part.suspect_of.is_some_and(|first| !works(first)) && !stays;
    part.fitting().is_none() && (suspect || goes(part))
}
