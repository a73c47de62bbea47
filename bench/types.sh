#!/usr/bin/env bash
# How long 50,000 transistors of the workshop's own take to be imported, looked up and chosen from. Prints, asserts
# nothing.
set -euo pipefail
cd "$(dirname "$0")/.."
. bench/serve.sh
node bench/types.mjs "$url"
