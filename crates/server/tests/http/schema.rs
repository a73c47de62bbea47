//! Requests made from the server's own OpenAPI document, good and bad ones (schemathesis): none is answered by a server
//! error. Long by `scripts/fuzz.sh`, short here.

use std::path::Path;
use std::process::Command;

#[test]
fn nothing_that_the_document_allows_is_a_server_error() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let target = Path::new(env!("CARGO_BIN_EXE_restless-owl")).ancestors().nth(2).unwrap();
    if !target.join("tools/schemathesis").exists() {
        assert!(
            std::env::var_os("OWL_NEEDS_FUZZER").is_none(),
            "scripts/setup.sh test installs schemathesis"
        );
        eprintln!("not run: schemathesis is not installed");
        return;
    }
    // How fast it answers is the script's question: a loaded machine fails no test.
    let done = Command::new(root.join("scripts/fuzz.sh"))
        .args(["25", env!("CARGO_BIN_EXE_restless-owl")])
        .env("SLOWEST", "60")
        .env("CARGO_TARGET_DIR", target)
        .output()
        .unwrap();
    let said = String::from_utf8_lossy(&done.stdout);
    assert!(done.status.success(), "{said}\n{}", String::from_utf8_lossy(&done.stderr));
    assert!(said.contains("panics: 0"), "{said}");
}
