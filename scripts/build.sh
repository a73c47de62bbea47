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
  {
    all=$(cargo tree --locked -p restless-owl -e normal,build --prefix none 2>/dev/null | awk '{ print $1 }' | sort -u | wc -l)
    while sleep 30; do
      done=$(find "${CARGO_TARGET_DIR:-target}/demo/deps" -name '*.rmeta' -printf '%f\n' 2>/dev/null \
        | sed -E 's/-[0-9a-f]+\.rmeta$//' | sort -u | wc -l)
      echo "build: $done of about $all libraries; the last, our own, takes longest" >&2
    done
  } &
  progress=$!
fi
cargo build --profile demo --locked --lib -p restless-owl
wait "$web"
cargo build --profile demo --locked -p restless-owl
