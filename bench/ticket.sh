#!/usr/bin/env bash
# How long a ticket of 400 parts, 300 voltage points and 5,000 readings takes to open and to work on. Prints, asserts nothing.
set -euo pipefail
cd "$(dirname "$0")/.."
. bench/serve.sh
node bench/ticket.mjs "$url"
