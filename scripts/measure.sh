#!/usr/bin/env bash
# Measures in Chromium how fast the light table follows a dragged curve point.
. "$(dirname "$0")/lib.sh"
need_packages
need_debian chromium
node scripts/build.mjs
. scripts/throwaway.sh
node e2e/dist/measureDrag.js
echo
node e2e/dist/measureClear.js
echo
node e2e/dist/measureInks.js
