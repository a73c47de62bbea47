//! The page's composables, each by itself with a server that answers by rule: Vitest, started from here.
#![allow(clippy::unwrap_used, missing_docs)]

use std::path::Path;
use std::process::Command;

#[test]
fn the_composables() {
    let web = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web");
    let vitest = web.join("node_modules/.bin/vitest");
    assert!(vitest.exists(), "the front end's packages are not installed: run `make setup-test` first");
    let done = Command::new(vitest).arg("run").current_dir(&web).env("CI", "true").status().unwrap();
    assert!(done.success(), "Vitest: {done}");
}
