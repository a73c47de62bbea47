#!/usr/bin/env bash
# For how long the page is blocked while a ticket of 400 parts is opened and worked on. Prints, asserts nothing. Aim: 50 ms.
set -euo pipefail
cd "$(dirname "$0")/.."
. bench/serve.sh
node bench/ticket.mjs "$url" >/dev/null
node bench/page.mjs "$url"
