#!/usr/bin/env bash
# Makes the pictures in docs/screenshots anew from the demo data.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/with-install.sh
bash scripts/with-chromium.sh
npm run -s build >/dev/null
npx --no-install tsx demo/strokeSheet.ts
cd e2e
SHOTS=1 npx --no-install playwright test shots.spec.ts
