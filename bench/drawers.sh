#!/usr/bin/env bash
# How long drawers of 20,000 kinds take to be searched and chosen from. Prints, asserts nothing.
set -euo pipefail
cd "$(dirname "$0")/.."
. bench/serve.sh
node bench/drawers.mjs "$url"
