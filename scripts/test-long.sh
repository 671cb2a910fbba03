#!/usr/bin/env bash
# Campaigns that are too long for every change: random faults against the running app, mutated files, many clients.
set -euo pipefail
cd "$(dirname "$0")/.."
step() { printf '\n== %s\n' "$1"; }
bash scripts/with-install.sh
bash scripts/with-chromium.sh
npm run -s build >/dev/null
step "what a view shows, mutated packs and models, many clients"
LONG=1 npm run -s unit -- packages/core/test/shown packages/core/test/readers packages/core/test/mesh packages/core/test/cutting packages/core/test/format packages/core/test/openraster packages/core/test/whole packages/core/test/bakes.test apps/server/test
step "random rounds of faults"
cd e2e
ROUNDS="${ROUNDS:-300}" SEED="${SEED:-$RANDOM}" npx --no-install playwright test trust -g "random rounds"
step "savings of another editor, the server killed in between"
SAVINGS="${SAVINGS:-200}" SEED="${SEED:-$RANDOM}" npx --no-install playwright test exchange
