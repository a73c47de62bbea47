#!/usr/bin/env bash
# The clock of the server and of the database is moved to and fro by hours while eight hands write and the demo's runs reform
# (libfaketime): what counts last, what is lost, and whether a run stops safely or goes on. Needs Debian's libfaketime.
#
#   scripts/clock.sh [PROGRAM]
set -euo pipefail
cd "$(dirname "$0")/.."
program=${1:-}
fake=$(ls /usr/lib/*/faketime/libfaketimeMT.so.1 2>/dev/null | head -n 1)
[ -n "$fake" ] || { echo "clock: install Debian's package libfaketime" >&2; exit 1; }
. scripts/tried.sh clock
trap 'unset LD_PRELOAD; scripts/cluster.sh stop "$dir" --now; rm -rf "$dir"' EXIT
echo "+0" >"$dir/shift"
chmod 644 "$dir/shift"
# The clock on the wall moves; what counts seconds goes on.
export FAKETIME_TIMESTAMP_FILE="$dir/shift" FAKETIME_NO_CACHE=1 FAKETIME_DONT_FAKE_MONOTONIC=1
OWL_DATABASE_URL=$(LD_PRELOAD="$fake" scripts/cluster.sh start "$dir" --throw-away)
export OWL_DATABASE_URL RUST_LOG=off
LD_PRELOAD="$fake" "$program" demo >/dev/null
node scripts/clock.mjs "$program" "$dir/shift" "$fake"
"$program" check
