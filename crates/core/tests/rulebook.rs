//! The rule book is whole: every rule that the code names stands in it, every number of a school is named as judgement
//! once, every test that it names is there; and every source is registered and believed no more than it can be.
#![allow(clippy::expect_used, clippy::unwrap_used, missing_docs)]

use std::collections::BTreeSet;
use std::path::Path;

use owl_core::named::Named;
use owl_core::rulebook::{publication, register, rule, rules};
use owl_core::source::{Source, SourceKind};
use owl_core::transistor::device::{Sure, devices};
use owl_core::transistor::diode_device;
use owl_core::verdict::{PolicyNumber, Rule};

fn root() -> &'static Path {
    Path::new(env!("CARGO_MANIFEST_DIR"))
}

fn files(dir: &Path, end: &str, out: &mut Vec<std::path::PathBuf>) {
    for entry in std::fs::read_dir(dir).unwrap().map(Result::unwrap) {
        let path = entry.path();
        if path.is_dir() {
            files(&path, end, out);
        } else if path.extension().is_some_and(|e| e == end) {
            out.push(path);
        }
    }
}

#[test]
fn every_rule_of_the_code_stands_in_the_book_with_all_that_belongs_to_it() {
    for r in Rule::ALL {
        assert!(rule(r.name()).is_some(), "{r} is not in docs/rules.md");
    }
    let mut numbers = BTreeSet::new();
    for r in rules() {
        assert!(numbers.insert(&r.number), "{} stands twice", r.number);
        for (what, text) in [
            ("title", &r.title),
            ("says", &r.says),
            ("formula", &r.formula),
            ("units", &r.units),
            ("source", &r.source),
            ("limits", &r.limits),
            ("held by", &r.held_by),
        ] {
            assert!(!text.is_empty(), "{} has no {what}", r.number);
        }
    }
    // Whatever else the code calls a rule is one of the book.
    let mut sources = Vec::new();
    files(&root().join("src"), "rs", &mut sources);
    for path in sources {
        let text = std::fs::read_to_string(&path).unwrap();
        for (at, _) in text.match_indices("(rule R").chain(text.match_indices("rule: \"R")) {
            let named: String = text[at..]
                .chars()
                .skip_while(|c| *c != 'R')
                .take_while(char::is_ascii_alphanumeric)
                .collect();
            assert!(rule(&named).is_some(), "{}: {named} is not in docs/rules.md", path.display());
        }
        assert!(!text.contains("docs/rules.md, R"), "{} points to a file outside", path.display());
    }
}

#[test]
fn every_number_of_a_school_is_named_as_judgement_once() {
    let mut named: Vec<&str> = rules().iter().flat_map(|r| r.judgement.iter().map(String::as_str)).collect();
    named.sort_unstable();
    let mut known: Vec<&str> = PolicyNumber::ALL.iter().map(|n| n.name()).collect();
    known.sort_unstable();
    assert_eq!(named, known);
}

#[test]
fn every_test_that_the_book_names_is_there() {
    for r in rules() {
        for group in r.held_by.split("; ") {
            let (file, names) = group.split_once(": ").unwrap();
            let text = std::fs::read_to_string(root().join(file)).unwrap_or_else(|e| panic!("{file}: {e}"));
            for name in names.split(", ") {
                assert!(text.contains(&format!("fn {name}(")), "{}: {file} has no {name}", r.number);
            }
        }
    }
}

fn table_sources() -> Vec<(String, Source)> {
    let mut tables = Vec::new();
    files(&root().join("data"), "csv", &mut tables);
    let mut out = Vec::new();
    for path in tables.iter().filter(|p| !p.ends_with("source_register.csv")) {
        let mut reader = csv::Reader::from_path(path).unwrap();
        let name = path.file_name().unwrap().to_string_lossy().into_owned();
        let at = reader.headers().unwrap().iter().position(|h| h.trim() == "source");
        let at = at.unwrap_or_else(|| panic!("{name} has no source column"));
        for row in reader.records().map(Result::unwrap) {
            let text = row.get(at).unwrap();
            out.push((name.clone(), text.parse().unwrap_or_else(|e| panic!("{name}: {e}"))));
        }
    }
    out
}

#[test]
fn every_published_source_is_registered() {
    let mut used = BTreeSet::new();
    for (table, source) in table_sources() {
        match source.kind {
            SourceKind::Standard | SourceKind::Handbook => match publication(&source) {
                Some(p) => {
                    used.insert(p.title.clone());
                }
                None => panic!("{table}: '{source}' is in no register"),
            },
            SourceKind::Practice | SourceKind::Memory => assert!(publication(&source).is_none()),
        }
    }
    for r in Rule::ALL {
        let source = r.source();
        let published = matches!(source.kind, SourceKind::Standard | SourceKind::Handbook);
        assert!(!published || publication(&source).is_some(), "{r}: {source}");
    }
    assert!(used.len() > 8 && register().iter().all(|p| !p.edition.is_empty() && !p.what.is_empty()));
}

/// What decides about people, fire or kilovolts claims no more than it has: recalled rows say that they are recalled.
#[test]
fn nothing_that_can_hurt_is_surer_than_its_source() {
    for d in devices() {
        assert!(!(d.source.is_recalled() && d.sure == Sure::Sure), "{} is sure from memory", d.type_number);
    }
    for d in diode_device::devices() {
        assert!(!(d.source.is_recalled() && d.sure == Sure::Sure), "{} is sure from memory", d.type_number);
    }
    let can_hurt =
        ["safety_class.csv", "safety_check.csv", "caution.csv", "resistor_size.csv", "rectifier_valve.csv"];
    for (table, source) in table_sources().iter().filter(|(t, _)| can_hurt.contains(&t.as_str())) {
        let published = publication(source).is_some_and(|p| p.edition != "as recalled");
        assert!(
            published || source.kind == SourceKind::Practice || source.is_recalled(),
            "{table}: {source}"
        );
    }
    assert!(Source::memory("a table").is_recalled() && Source::standard("EIA RS-236 (memory)").is_recalled());
    assert!(!Source::standard("IEC 60063:2015").is_recalled());
}
