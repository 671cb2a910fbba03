#!/usr/bin/env bash
# Installs, builds, paints the demo projects where they are missing, and starts.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/with-install.sh
npm run -s build
npx --no-install tsx demo/seed.ts
exec node apps/server/dist/main.js
