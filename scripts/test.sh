#!/usr/bin/env bash
# Everything that must hold: formatting, lints, types, and all tests, the browser's included.
set -euo pipefail
cd "$(dirname "$0")/.."

step() { echo; echo "== $*"; }

step "set-up"
scripts/setup.sh test
step "formatting"
cargo fmt --check
step "front end: types, lint, formatting"
(cd web && npm run --silent check)
step "front end: build"
scripts/web.sh
step "licences and sources of what this is built on"
scripts/dependencies.sh
step "clippy"
cargo clippy --workspace --all-targets --locked -- -D warnings
step "tests"
OWL_NEEDS_NGSPICE=1 OWL_NEEDS_LIBRARIES=1 OWL_NEEDS_FUZZER=1 cargo test --workspace --locked
