#!/usr/bin/env bash
# How long a ticket with 500 parts takes to be judged anew when its school changes. Prints, asserts nothing.
set -euo pipefail
cd "$(dirname "$0")/.."
. bench/serve.sh
node bench/rejudge.mjs "$url"
