#!/usr/bin/env bash
# Everything that must hold before a change is handed in.
set -euo pipefail
cd "$(dirname "$0")/.."
step() { printf '\n== %s\n' "$1"; }
bash scripts/with-install.sh
step "generate"; npm run -s generate
step "types"; npm run -s types
step "lint and import rules"; npm run -s lint
if [ -f ../shared/tools/own-words.mjs ]; then step "own words"; node ../shared/tools/own-words.mjs; fi
step "unit tests"; npm run -s unit
step "build"; npm run -s build >/dev/null
bash scripts/with-chromium.sh
step "journeys in the browser"; npm run -s e2e
npm run -s share
