#!/usr/bin/env bash
# Kills the server and the database again and again while many hands write, then counts: what was acknowledged and is not
# there, and what is there twice. Fails if either is more than none.
#
#   scripts/faults.sh [ROUNDS] [PROGRAM]     20 rounds if not said, with a build of its own if no program is given
set -euo pipefail
cd "$(dirname "$0")/.."
rounds=${1:-20}
program=${2:-}
. scripts/tried.sh faults
trap 'scripts/cluster.sh stop "$dir" --now; rm -rf "$dir"' EXIT
# With the safety of a real one: what it acknowledged is on the disk.
OWL_DATABASE_URL=$(scripts/cluster.sh start "$dir")
# That the database is away is what is wanted here: not a word of it.
export OWL_DATABASE_URL RUST_LOG=off
node scripts/faults.mjs "$program" "$dir" "$rounds"
"$program" check
