#!/usr/bin/env bash
# Installs Debian's Chromium where there is none.
set -euo pipefail
if [ -x "${CHROMIUM:-/usr/bin/chromium}" ]; then exit 0; fi
echo "Installing Chromium…"
run() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi; }
run apt-get update -qq
DEBIAN_FRONTEND=noninteractive run apt-get install -y -qq chromium fonts-liberation
