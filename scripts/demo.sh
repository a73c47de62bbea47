#!/usr/bin/env bash
# Builds Restless Owl, starts a private database for it, loads the demo workshop and serves it.
#
#   scripts/demo.sh           serve until Ctrl-C
#   scripts/demo.sh --reset   take out the demo's own rows and load them anew; your own work is never touched
#
# OWL_DATABASE_URL  use this database instead of starting one
# OWL_STATE         where the private database keeps its data
# OWL_LISTEN        where to serve, 127.0.0.1:8750 if not set
set -euo pipefail
cd "$(dirname "$0")/.."

scripts/setup.sh demo
program=${CARGO_TARGET_DIR:-target}/demo/restless-owl
if [ ! -x "$program" ]; then echo "demo: building; the first time takes some minutes"; fi
scripts/build.sh

if [ "$(id -u)" = 0 ]; then
  state=${OWL_STATE:-/var/lib/restless-owl}
else
  state=${OWL_STATE:-${XDG_STATE_HOME:-$HOME/.local/state}/restless-owl}
fi
mkdir -p "$state"
# Root starts what needs it (the database's own user); the application itself runs as nobody.
as=()
if [ "$(id -u)" = 0 ]; then
  install -m 755 "$program" "$state/restless-owl"
  program=$state/restless-owl
  as=(setpriv --reuid=nobody --regid=nogroup --clear-groups)
fi
# Whoever holds the lock owns the private database and stops it at the end.
exec 9>"$state/lock"
mine=yes
flock -n 9 || mine=no

server=""
bench=""
finish() {
  trap '' INT TERM
  [ -z "$bench" ] || kill -TERM "$bench" 2>/dev/null || true
  [ -z "$server" ] || { kill -TERM "$server" 2>/dev/null; wait "$server" 2>/dev/null; } || true
  if [ -z "${own_url:-}" ] && [ "$mine" = yes ]; then scripts/cluster.sh stop "$state/cluster"; fi
}

if [ "${1:-}" != --reset ] && [ "$mine" = no ]; then
  echo "demo: it is running already (its data is in $state); stop it first with Ctrl-C in its window" >&2
  exit 1
fi
own_url=${OWL_DATABASE_URL:-}
trap finish EXIT
if [ -z "$own_url" ]; then
  OWL_DATABASE_URL=$(scripts/cluster.sh start "$state/cluster" 9>&-)
  export OWL_DATABASE_URL
fi
export RUST_LOG=${RUST_LOG:-warn}
if [ "${1:-}" = --reset ]; then
  "${as[@]}" "$program" demo --reset
  echo "The demo workshop is back as it was."
  exit 0
fi
"${as[@]}" "$program" demo
if [ -z "$own_url" ]; then echo "The demo's data is kept in $state; make demo-reset brings it back as it was."; fi
# The simulated bench of instruments; without its ports the workshop goes on, and says so when one is read.
"${as[@]}" "$program" bench 9>&- >/dev/null &
bench=$!
"${as[@]}" "$program" serve 9>&- &
server=$!
trap 'kill -TERM "$server" 2>/dev/null || true' INT TERM
status=0
wait "$server" || status=$?
# A trapped signal ends the first wait early: wait for the server to finish what it is doing.
if kill -0 "$server" 2>/dev/null; then status=0; wait "$server" || status=$?; fi
server=""
exit "$status"
