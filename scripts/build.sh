#!/usr/bin/env bash
# Builds the program that `make demo` runs: the front end beside the library, then the program with the front end in it.
# On a terminal Cargo shows how far it is; elsewhere this says so every half minute.
set -euo pipefail
cd "$(dirname "$0")/.."

scripts/web.sh &
web=$!
progress=""
trap '[ -z "$progress" ] || kill "$progress" 2>/dev/null || true' EXIT
if [ ! -t 2 ]; then
  packages=$(grep -c '^\[\[package\]\]' Cargo.lock)
  while sleep 30; do
    done=$(find "${CARGO_TARGET_DIR:-target}/demo/deps" -name '*.rmeta' 2>/dev/null | wc -l)
    echo "build: $done libraries, of at most $packages" >&2
  done &
  progress=$!
fi
cargo build --profile demo --locked --lib -p restless-owl
wait "$web"
cargo build --profile demo --locked -p restless-owl
