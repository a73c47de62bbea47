#!/usr/bin/env bash
# Installs what is missing on a Debian 12 machine that has Rust and Node.js.
#
#   scripts/setup.sh demo    PostgreSQL
#   scripts/setup.sh test    PostgreSQL, Chromium, age, PgBouncer, ngspice, two libraries of parts, a fuzzer, what looks at licences
set -euo pipefail
cd "$(dirname "$0")/.."

die() { echo "set-up: $*" >&2; exit 1; }

command -v cargo >/dev/null || die "Rust is missing: install it with rustup (version 1.95 or newer), then try again"
command -v node >/dev/null || die "Node.js is missing: install version 20 or newer, then try again"
command -v npm >/dev/null || die "npm is missing: install it beside Node.js, then try again"
[ "$(node -p 'Number(process.versions.node.split(".")[0])')" -ge 20 ] \
  || die "Node.js $(node --version) is too old: version 20 or newer is needed"

FUZZER=4.32.5
DENY=0.20.2
wanted=()
# rustc links with a C compiler; the allocator is built with it.
command -v cc >/dev/null || wanted+=(build-essential)
ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v initdb >/dev/null || wanted+=(postgresql)
if [ "${1:-demo}" = test ]; then
  command -v "${OWL_CHROMIUM:-/usr/bin/chromium}" >/dev/null || wanted+=(chromium)
  python3 -c 'import ensurepip' 2>/dev/null || wanted+=(python3-venv)
  # what seals backups
  command -v age >/dev/null || wanted+=(age)
  # what stands between a server and its database in larger places
  command -v pgbouncer >/dev/null || [ -x /usr/sbin/pgbouncer ] || wanted+=(pgbouncer)
  # an outside opinion on what leakage does in a circuit
  command -v ngspice >/dev/null || wanted+=(ngspice)
  # and on the tables of types: their lead orders, short ratings and pins
  [ -d /usr/share/kicad/symbols ] || wanted+=(kicad-symbols)
  [ -d /usr/share/oregano/models ] || wanted+=(oregano)
fi
if [ "${#wanted[@]}" -gt 0 ]; then
  command -v apt-get >/dev/null || die "please install: ${wanted[*]} (this machine has no apt-get)"
  root=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || die "please install as root: ${wanted[*]}"
    root=(sudo)
  fi
  echo "set-up: installing ${wanted[*]}"
  log=$(mktemp)
  { "${root[@]}" apt-get update && "${root[@]}" env DEBIAN_FRONTEND=noninteractive \
      apt-get install -y --no-install-recommends "${wanted[@]}"; } >"$log" 2>&1 \
    || { tail -n 20 "$log" >&2; die "installing ${wanted[*]} failed"; }
  rm -f "$log"
fi

# Packages of the registry: only when the lock file is newer than what is there.
packages() {
  if [ ! -f "$1/node_modules/.package-lock.json" ] || [ "$1/package-lock.json" -nt "$1/node_modules/.package-lock.json" ]; then
    echo "set-up: npm ci in $1"
    (cd "$1" && PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 npm ci --no-fund --no-audit --loglevel=error)
    touch "$1/node_modules/.package-lock.json"
  fi
}
packages web
if [ "${1:-demo}" = test ]; then
  packages e2e
  # What makes requests of the OpenAPI document; in a place of its own, of a version that is known.
  tools=${CARGO_TARGET_DIR:-target}/tools
  if ! "$tools/schemathesis-$FUZZER/bin/schemathesis" --version >/dev/null 2>&1; then
    echo "set-up: schemathesis $FUZZER"
    python3 -m venv "$tools/schemathesis-$FUZZER"
    "$tools/schemathesis-$FUZZER/bin/pip" install --quiet --disable-pip-version-check "schemathesis==$FUZZER"
  fi
  ln -sfn "schemathesis-$FUZZER/bin/schemathesis" "$tools/schemathesis"
  # What looks at the licences and sources of all dependencies.
  if ! "$tools/bin/cargo-deny" --version 2>/dev/null | grep -qx "cargo-deny $DENY"; then
    echo "set-up: cargo-deny $DENY, built once"
    cargo install --quiet --locked --debug --root "$tools" "cargo-deny@$DENY"
  fi
fi
