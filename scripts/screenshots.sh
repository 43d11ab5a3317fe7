#!/usr/bin/env bash
# Takes the pictures in docs/screenshots from a running `npm start` (HARDLINE_URL, port 4280 otherwise).
. "$(dirname "$0")/lib.sh"
need_packages
need_debian chromium
node scripts/build.mjs
node e2e/dist/screenshots.js
