//! No sentence that people read holds the name of a type: what is renamed in the code is not renamed in the words.
#![allow(clippy::unwrap_used, missing_docs)]

use std::path::{Path, PathBuf};

fn sources(dir: &Path, out: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(dir).unwrap() {
        let path = entry.unwrap().path();
        match path.extension().and_then(|e| e.to_str()) {
            _ if path.is_dir() => sources(&path, out),
            Some("rs") => out.push(path),
            _ => {}
        }
    }
}

/// The string literals of a line that are sentences: they hold a space and no quotation of code.
fn sentences(line: &str) -> Vec<&str> {
    let code = ["//", "#[", "as \"", "reason ="].iter().any(|c| line.trim_start().starts_with(c));
    let all = line.split('"').skip(1).step_by(2);
    all.filter(|s| !code && s.contains(' ') && !s.contains("::")).collect()
}

fn two_humped(word: &str) -> bool {
    let humps = word.char_indices().filter(|(i, c)| {
        c.is_ascii_uppercase() && word[i + 1..].starts_with(|n: char| n.is_ascii_lowercase())
    });
    word.chars().all(|c| c.is_ascii_alphabetic())
        && word.starts_with(|c: char| c.is_ascii_uppercase())
        && humps.count() > 1
}

#[test]
fn no_type_stands_in_a_sentence() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    let mut files = Vec::new();
    for part in ["core/src", "server/src", "instruments/src"] {
        sources(&root.join(part), &mut files);
    }
    assert!(files.len() > 300, "they were looked for in the wrong place");
    let mut found = Vec::new();
    for file in files {
        let text = std::fs::read_to_string(&file).unwrap();
        for (n, line) in text.lines().enumerate().take_while(|(_, l)| !l.starts_with("#[cfg(test)]")) {
            let words =
                sentences(line).into_iter().flat_map(|s| s.split(|c: char| !c.is_ascii_alphanumeric()));
            found.extend(
                words.filter(|w| two_humped(w)).map(|w| format!("{}:{}: {w}", file.display(), n + 1)),
            );
        }
    }
    assert!(found.is_empty(), "{}", found.join("\n"));
}

#[test]
fn a_slip_would_be_seen() {
    assert!(two_humped("CurveShape") && !two_humped("Look") && !two_humped("LCR") && !two_humped("McMurdo2"));
    assert_eq!(sentences(r#"    "CurveShape at the leads", x"#), ["CurveShape at the leads"]);
    assert!(sentences(r#"/// "a CurveShape in a comment""#).is_empty());
}
