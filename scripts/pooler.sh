#!/usr/bin/env bash
# All tests of the server, with PgBouncer in transaction mode between it and the database: four connections for all that each
# server asks at once. What holds one connection and asks for another, or expects anything to outlive its transaction, fails.
# Needs Debian's pgbouncer.
#
#   scripts/pooler.sh [TEST]
set -euo pipefail
cd "$(dirname "$0")/.."
command -v pgbouncer >/dev/null || { echo "pooler: install Debian's package 'pgbouncer'" >&2; exit 1; }
OWL_POOLER=1 exec cargo test --quiet --locked -p restless-owl --test http -- "$@"
