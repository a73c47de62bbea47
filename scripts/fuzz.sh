#!/usr/bin/env bash
# Asks a server everything that its own OpenAPI document allows, and much that it does not (schemathesis, from PyPI): nothing
# may be answered by a server error, and nothing may take longer than a second. Prints the counts; fails if either happens.
#
#   scripts/fuzz.sh [SECONDS] [PROGRAM]     five minutes if not said
set -euo pipefail
cd "$(dirname "$0")/.."
seconds=${1:-300}
program=${2:-}
tool=$(realpath -s "${CARGO_TARGET_DIR:-target}")/tools/schemathesis
[ -x "$tool" ] || scripts/setup.sh test
. scripts/tried.sh fuzz
server=""
here=$PWD
trap '[ -z "$server" ] || kill "$server" 2>/dev/null; cd "$here"; scripts/cluster.sh stop "$dir" --now; rm -rf "$dir"' EXIT
OWL_DATABASE_URL=$(scripts/cluster.sh start "$dir" --throw-away)
export OWL_DATABASE_URL RUST_LOG=warn
"$program" demo >/dev/null
"$program" serve --listen 127.0.0.1:0 >"$dir/out" 2>"$dir/err" &
server=$!
for _ in $(seq 100); do url=$(grep -o 'http://[0-9.:]*' "$dir/out" || true); [ -n "$url" ] && break; sleep 0.1; done
# Streams answer as long as one listens; devices that are not there are waited for.
node scripts/fuzz.mjs "$url" "$dir/openapi.json"
# It keeps what it found beside where it runs.
cd "$dir"
"$tool" run openapi.json --url "$url" --phases coverage,fuzzing --checks not_a_server_error --max-response-time "${SLOWEST:-1}" \
  --exclude-path-regex '/(live|events)$|/instruments/' --max-time "$seconds" --continue-on-failure --seed "${SEED:-1}" \
  --no-color --header 'origin: '"$url" || code=$?
echo "server: $(ps -o rss= -p "$server" | awk '{printf "%.0f MB", $1 / 1024}') at the end; panics: $(grep -c panicked "$dir/err" || true)"
grep panicked "$dir/err" && exit 1
exit "${code:-0}"
