#!/usr/bin/env bash
# What forty years of work cost: the same questions put to the demo's data, and to 20,000 tickets with a million readings, ten
# million samples of reforming and 200,000 movements of the stock. Prints, asserts nothing. Aim: within twice the time.
#
#   bench/growth.sh [TICKETS READINGS SAMPLES MOVEMENTS]
set -euo pipefail
cd "$(dirname "$0")/.."
program=${OWL_PROGRAM:-}
if [ -z "$program" ]; then
  cargo build --release --locked --quiet -p restless-owl
  program=${CARGO_TARGET_DIR:-target}/release/restless-owl
fi
dir=$(mktemp -d "${TMPDIR:-/tmp}/owl-growth.XXXXXX")
chmod 755 "$dir"
server=""
trap '[ -z "$server" ] || kill "$server" 2>/dev/null; scripts/cluster.sh stop "$dir" --now; rm -rf "$dir"' EXIT
OWL_DATABASE_URL=$(scripts/cluster.sh start "$dir" --throw-away)
export OWL_DATABASE_URL RUST_LOG=warn
"$program" demo >/dev/null
measure() {
  "$program" serve --listen 127.0.0.1:0 >"$dir/out" &
  server=$!
  url=""
  for _ in $(seq 100); do url=$(grep -o 'http://[0-9.:]*' "$dir/out" || true); [ -n "$url" ] && break; sleep 0.1; done
  node bench/growth.mjs "$url" >"$dir/$1.json"
  kill "$server"
  wait "$server" || true
  server=""
}
measure small
PGPASSWORD=$(cat "$dir/password") psql -h 127.0.0.1 -p "$(cat "$dir/port")" -U postgres owl -v ON_ERROR_STOP=1 \
  -v tickets="${1:-20000}" -v readings="${2:-1000000}" -v samples="${3:-10000000}" -v movements="${4:-200000}" -f bench/growth.sql
measure large
node -e '
  const [a, b] = process.argv.slice(1).map((f) => JSON.parse(require("fs").readFileSync(f)))
  console.log("question | demo | grown | times | first | kB")
  for (const k in a) console.log([k, a[k].ms.toFixed(1), b[k].ms.toFixed(1), (b[k].ms / a[k].ms).toFixed(1), b[k].first.toFixed(0), (b[k].bytes / 1e3).toFixed(0)].join(" | "))
' "$dir/small.json" "$dir/large.json"
