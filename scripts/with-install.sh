#!/usr/bin/env bash
# Installs the packages where they are missing or older than the lock file.
set -euo pipefail
cd "$(dirname "$0")/.."
if [ ! -e node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
	echo "Installing packages…"
	npm ci --ignore-scripts --no-audit --no-fund
	touch node_modules/.package-lock.json
fi
