#!/usr/bin/env bash
# Licences and sources of all dependencies, crates and packages of the front end, and no yanked crate. Known advisories are
# looked up where their database is reachable; where it is not, that is said and nothing fails.
set -euo pipefail
cd "$(dirname "$0")/.."
deny=${CARGO_TARGET_DIR:-target}/tools/bin/cargo-deny
"$deny" --log-level error check --hide-inclusion-graph licenses bans sources
database=$(mktemp)
if "$deny" --log-level error check --hide-inclusion-graph advisories >"$database" 2>&1; then
  tail -n 1 "$database"
elif grep -qE 'failed to (fetch|clone|load)|unable to|IO error|network' "$database"; then
  echo "advisories: their database cannot be reached from here; nothing was looked up"
else
  cat "$database"
  exit 1
fi
rm -f "$database"
(cd web && node ../scripts/licences.mjs)
