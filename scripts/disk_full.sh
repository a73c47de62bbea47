#!/usr/bin/env bash
# The database's disk runs full while eight hands write, again and again, and has room again: what the benches are told, and
# what is there at the end. Needs root: the disk is a small one in memory.
#
#   scripts/disk_full.sh [ROUNDS] [PROGRAM]     4 rounds if not said
set -euo pipefail
cd "$(dirname "$0")/.."
rounds=${1:-4}
program=${2:-}
. scripts/tried.sh full
mount -t tmpfs -o size=260m,mode=755 owl-full "$dir"
trap 'scripts/cluster.sh stop "$dir" --now || true; umount -l "$dir"; rmdir "$dir"' EXIT
OWL_DATABASE_URL=$(scripts/cluster.sh start "$dir")
export OWL_DATABASE_URL RUST_LOG=off
node scripts/disk_full.mjs "$program" "$dir" "$rounds"
"$program" check
