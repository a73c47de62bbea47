# Sourced by the measurements: a release build that serves an empty database of its own. Sets $dir and $url; $also names what
# else is built.
# shellcheck disable=SC2086
cargo build --release --locked --quiet -p restless-owl --bins ${also:-}
dir=$(mktemp -d "${TMPDIR:-/tmp}/owl-bench.XXXXXX")
chmod 755 "$dir"
server=""
trap '[ -z "$server" ] || kill "$server" 2>/dev/null; scripts/cluster.sh stop "$dir" --now; rm -rf "$dir"' EXIT
OWL_DATABASE_URL=$(scripts/cluster.sh start "$dir" --throw-away)
export OWL_DATABASE_URL RUST_LOG=warn
"${CARGO_TARGET_DIR:-target}/release/restless-owl" serve --listen 127.0.0.1:0 >"$dir/out" &
server=$!
for _ in $(seq 100); do url=$(grep -o 'http://[0-9.:]*' "$dir/out" || true); [ -n "$url" ] && break; sleep 0.1; done
