#!/usr/bin/env bash
# What a connection costs: resident memory of the server with so many open, idle, and half a header each.
#   bench/door.sh [connections]
set -euo pipefail
cd "$(dirname "$0")/.."
many=${1:-400}
. bench/serve.sh
rss() { awk '/VmRSS/ { print $2 }' "/proc/$server/status"; }
cpu() { awk '{ print $14 + $15 }' "/proc/$server/stat"; }
before=$(rss) cpu0=$(cpu)
node - "$url" "$many" <<'JS' &
const [url, many] = process.argv.slice(2)
const { hostname, port } = new URL(url)
const net = require('net')
for (let i = 0; i < Number(many); i++) {
  const s = net.connect(Number(port), hostname)
  s.on('error', () => {})
  s.write(i % 2 ? 'GET /api/live HTTP/1.1\r\nhost: half' : `GET /api/live HTTP/1.1\r\nhost: ${hostname}:${port}\r\n\r\n`)
}
setTimeout(() => process.exit(), 8000)
JS
sleep 4
echo "$many connections: $(( ($(rss) - before) / many )) kB and $(( ($(cpu) - cpu0) * 10000 / many )) µs of processor each; server $before kB before, $(rss) kB with them"
wait $!
sleep 20
echo "after they are gone: $(rss) kB"
