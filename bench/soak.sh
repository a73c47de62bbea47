#!/usr/bin/env bash
# Two hundred simulated reforming runs at once: processor, memory, readings a second, and whether one is missing.
# Prints, asserts nothing.
set -euo pipefail
cd "$(dirname "$0")/.."
. bench/serve.sh
node bench/soak.mjs "$url" "$server" "${1:-200}" "${2:-60}" "${3:-60}"
