#!/usr/bin/env bash
# Refreshes .sqlx, the record of the checked queries, against a throw-away database made from the
# migrations. Run it after a query or a migration has changed.
set -euo pipefail
cd "$(dirname "$0")/.."
dir=$(mktemp -d /var/tmp/owl-sql.XXXXXX)
chmod 755 "$dir"
trap 'scripts/cluster.sh stop "$dir" --now; rm -rf "$dir"' EXIT
DATABASE_URL=$(scripts/cluster.sh start "$dir" --throw-away)
export DATABASE_URL
for f in crates/server/migrations/*.sql; do
  psql -qX "$DATABASE_URL" -v ON_ERROR_STOP=1 -f "$f"
done
rm -rf .sqlx
mkdir -p .sqlx
touch crates/server/src/lib.rs
SQLX_OFFLINE=false SQLX_OFFLINE_DIR=$PWD/.sqlx cargo check -p restless-owl --all-targets
