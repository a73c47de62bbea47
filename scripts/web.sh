#!/usr/bin/env bash
# Builds the front end if any of its sources is newer than what was built.
set -euo pipefail
cd "$(dirname "$0")/../web"
if [ -f dist/index.html ] && [ -z "$(find src public index.html package.json package-lock.json vite.config.ts tsconfig.json \
    -newer dist/index.html -not -name schema.d.ts -print -quit)" ]; then
  exit 0
fi
npm run --silent build -- --logLevel warn
