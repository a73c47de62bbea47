#!/usr/bin/env bash
# Each figure of the server beside something that is measured in the same run: a bare echo of JSON, a single insert by
# pgbench, a brute force by numpy. Prints, asserts nothing. Needs Debian's wrk and python3-venv; about ten minutes.
#
#   bench/ratios.sh [REQUESTS]     a million if not said
set -euo pipefail
cd "$(dirname "$0")/.."
requests=${1:-1000000}
command -v wrk >/dev/null || { echo "bench: wrk is missing; install Debian's package 'wrk'" >&2; exit 1; }
pgbench=$(ls /usr/lib/postgresql/*/bin/pgbench | sort -V | tail -n 1)
also="--example echo"
. bench/serve.sh
release=${CARGO_TARGET_DIR:-target}/release
"$release/examples/echo" >"$dir/echo" &
echo_server=$!
trap 'kill "$server" "$echo_server" 2>/dev/null || true; scripts/cluster.sh stop "$dir" --now; rm -rf "$dir"' EXIT
while ! grep -q http "$dir/echo"; do sleep 0.1; done
memory() { awk '/VmRSS/ { printf "%.0f MB", $2 / 1000 }' "/proc/$server/status"; }

echo "== starting again, the database up to date: from the command to the first answer"
kill "$server"; wait "$server" || true
begun=$(date +%s%N)
"$release/restless-owl" serve --listen "${url#http://}" >/dev/null &
server=$!
until curl -fso /dev/null "$url/api/health"; do sleep 0.01; done
echo "$((($(date +%s%N) - begun) / 1000000)) ms (aim: under 1 s); idle: $(memory) (aim: under 60)"

decode='{"colours":["orange","white","yellow","silver"],"measured":401000}'
judge='{"part":{"kind":"resistor","family":"carbon composition","value":390000,"tolerance":0.1,"power":0.5},"position":"plate load","readings":[{"quantity":"resistance","value":455000,"state":"lifted","accuracy":{"percent":0.5,"counts":2,"resolution":100}}],"school":"test first"}'
substitute='{"part":{"kind":"resistor","family":"carbon composition","value":390000,"tolerance":0.1,"power":0.5},"position":"plate load","circuit":{"voltage":110},"school":"test first"}'
# Prints requests a second and the 99th percentile in milliseconds.
load() { # URL BODY SECONDS
  cat >"$dir/load.lua" <<LUA
wrk.method = "POST"
wrk.headers["Content-Type"] = "application/json"
wrk.body = [==[$2]==]
done = function(s, latency)
  if s.errors.status + s.errors.connect + s.errors.read + s.errors.timeout > 0 then io.write("errors ") end
  io.write(string.format("%.0f %.2f %d\n", s.requests / s.duration * 1e6, latency:percentile(99) / 1000, s.requests))
end
LUA
  wrk -t1 -c16 "-d$3s" -s "$dir/load.lua" "$1" | tail -n 1
}
echo "== beside a bare echo of the same body, 16 connections, in turn three times"
for what in decode judge substitute; do
  body=${!what}
  for _ in 1 2 3; do
    load "$(cat "$dir/echo")/echo" "$body" 4 >>"$dir/echo.$what"
    load "$url/api/$what" "$body" 4 >>"$dir/ours.$what"
  done
  # The middle of three of each.
  middle() { sort -n "-k$2" "$dir/$1.$what" | awk -v c="$2" 'NR == 2 { print $c }'; }
  awk -v w="$what" -v e="$(middle echo 1)" -v o="$(middle ours 1)" -v ep="$(middle echo 2)" -v op="$(middle ours 2)" 'BEGIN {
    printf "%-10s %6.0f/s, echo %6.0f/s: %.2f of it; 99 %% below %.2f ms, echo %.2f ms: %.1f times\n", w, o, e, o / e, op, ep, op / ep }'
done

echo "== a million requests, then fifty streams"
seen=0
while [ "$seen" -lt "$requests" ]; do
  set -- $(load "$url/api/decode" "$decode" 20)
  seen=$((seen + ${!#}))
done
echo "after $seen requests: $(memory) (aim: under 100)"
for _ in $(seq 50); do curl -sN "$url/api/events?page=$(cat /proc/sys/kernel/random/uuid)" >/dev/null & done
sleep 3
echo "with fifty streams: $(memory), $(curl -s "$url/api/metrics" | awk '/pages_listening/ && !/#/ { print $2 }') listen"
kill $(jobs -p | grep -v -e "^$server$" -e "^$echo_server$") 2>/dev/null || true

echo "== a reading written, 16 hands, beside pgbench with a single insert of the same size"
psql -qX "$OWL_DATABASE_URL" -c "create table bare (id uuid primary key default gen_random_uuid(), part uuid, value float8, typed text, state text, at timestamptz default now())"
echo "insert into bare (part, value, typed, state) values (gen_random_uuid(), 4700, '4.7k', 'lifted');" >"$dir/insert.sql"
insert=$("$pgbench" -n -c 16 -j 1 -T 10 -f "$dir/insert.sql" "$OWL_DATABASE_URL" 2>/dev/null | awk '/tps/ { printf "%.0f", $3 }')
written=$(node bench/written.mjs "$url")
awk -v w="$written" -v i="$insert" 'BEGIN { printf "%.0f/s, pgbench %.0f/s: %.2f of it\n", w, i, w / i }'

echo "== networks beside a brute force by numpy"
python3 -m venv "$dir/python"
"$dir/python/bin/pip" --quiet install numpy
"$dir/python/bin/python" bench/networks.py "$url"

echo "== the first screen"
node bench/first_screen.mjs "$url"
