#!/usr/bin/env bash
# Measures in Chromium how soon a ticket is there, and how fast the light table follows the hand.
. "$(dirname "$0")/lib.sh"
need_packages
need_debian chromium
node scripts/build.mjs
. scripts/throwaway.sh
node e2e/dist/measureOpen.js
echo
node e2e/dist/measureDrag.js
echo
node e2e/dist/measureClear.js
echo
node e2e/dist/measureInks.js
echo
node e2e/dist/measureStages.js
