//! Who may do what (rule R22).
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::named::Named;
use owl_core::people::story::{Done, Thing, told};
use owl_core::people::{May, PasswordError, Permission, Role, Scope, locked_for_s, password};

#[test]
fn an_apprentice_measures_and_decides_only_with_a_countersign() {
    use Permission as P;
    let may = |role: Role| P::ALL.iter().map(|p| role.may(*p)).collect::<Vec<_>>();
    assert_eq!(may(Role::Owner), vec![May::Alone; 5]);
    assert_eq!(may(Role::Technician), [May::Alone, May::Alone, May::Alone, May::Alone, May::Not]);
    assert_eq!(may(Role::Apprentice), [May::Alone, May::Alone, May::Countersigned, May::Not, May::Not]);
    assert_eq!(may(Role::Reader), [May::Alone, May::Not, May::Not, May::Not, May::Not]);
    let signs: Vec<_> = Role::ALL.iter().filter(|r| r.may_countersign()).collect();
    assert_eq!(signs, [&Role::Owner, &Role::Technician], "nobody countersigns what he may not do alone");
}

#[test]
fn a_token_reaches_no_further_than_its_scope_and_never_to_the_people() {
    let reaches =
        |s: Scope| Permission::ALL.iter().filter(|p| s.reaches(**p)).map(|p| p.name()).collect::<Vec<_>>();
    assert_eq!(reaches(Scope::Read), ["look"]);
    assert_eq!(reaches(Scope::Measure), ["look", "measure"]);
    assert_eq!(reaches(Scope::Work), ["look", "measure", "decide", "keep"]);
}

#[test]
fn a_password_is_long_and_not_the_name() {
    // NIST SP 800-63B-4: length counts, odd characters do not, spaces and all letters are taken.
    for (text, said) in [
        ("short", Err(PasswordError::Short)),
        ("nine char", Err(PasswordError::Short)),
        ("Brenna Fell", Err(PasswordError::Name)),
        ("aaaaaaaaaaaa", Err(PasswordError::Same)),
        ("tern kettle slate", Ok(())),
        ("Schlüssel öffnet", Ok(())),
    ] {
        assert_eq!(password(text, "brenna fell"), said, "{text}");
    }
    assert_eq!(password(&"xy".repeat(101), ""), Err(PasswordError::Long));
}

#[test]
fn each_further_wrong_password_locks_for_longer_and_never_for_good() {
    let times: Vec<u64> = (0..60).map(locked_for_s).collect();
    assert!(times.is_sorted() && times[..5].iter().all(|t| *t == 0) && times[5] == 60 && times[59] == 3600);
}

#[test]
fn every_entry_is_told_in_a_line_with_what_it_says() {
    let mut seen = std::collections::BTreeSet::new();
    for thing in Thing::ALL {
        for done in Done::ALL {
            let line = told(*thing, *done, "the rest of it");
            assert!(line.ends_with("the rest of it") && !line.starts_with("the"), "{line}");
            assert!(seen.insert(line) || *thing == Thing::ChartReading, "{thing} {done} sounds like another");
        }
    }
    assert_eq!(told(Thing::Instrument, Done::Added, ""), "entered an instrument");
    assert_eq!(
        told(Thing::Fitting, Done::Added, ""),
        "entered a fitting",
        "of one that is not there any more"
    );
}
