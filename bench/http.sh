#!/usr/bin/env bash
# How long decode and judge take over HTTP on loopback with 16 connections. Prints, asserts nothing.
# Aim: 99th percentile below 5 ms.
set -euo pipefail
cd "$(dirname "$0")/.."
command -v wrk >/dev/null || { echo "bench: wrk is missing; install Debian's package 'wrk'" >&2; exit 1; }
. bench/serve.sh
post() {
  cat >"$dir/$1.lua" <<LUA
wrk.method = "POST"
wrk.headers["Content-Type"] = "application/json"
wrk.body = [==[$2]==]
done = function(summary, latency)
  io.write(string.format("%-8s %7.0f requests/s   median %.2f ms   99 %% below %.2f ms   errors %d\n", "$1",
    summary.requests / summary.duration * 1e6, latency:percentile(50) / 1000, latency:percentile(99) / 1000,
    summary.errors.status + summary.errors.connect + summary.errors.read + summary.errors.timeout))
end
LUA
  wrk -t1 -c16 -d2s -s "$dir/$1.lua" "$url/api/$1" >/dev/null # warm up
  wrk -t1 -c16 -d5s -s "$dir/$1.lua" "$url/api/$1" | tail -n 1
}
post decode '{"colours":["orange","white","yellow","silver"],"measured":401000}'
post judge '{"part":{"kind":"resistor","family":"carbon composition","value":390000,"tolerance":0.1,"power":0.5},"position":"plate load","readings":[{"quantity":"resistance","value":455000,"state":"lifted","accuracy":{"percent":0.5,"counts":2,"resolution":100}}],"school":"test first"}'
