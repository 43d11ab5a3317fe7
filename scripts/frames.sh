#!/usr/bin/env bash
# Measures in Chromium how evenly the light table is drawn while paths of ten thousand points are edited.
. "$(dirname "$0")/lib.sh"
need_packages
need_debian chromium
node scripts/build.mjs
. scripts/throwaway.sh
node e2e/dist/measureFrames.js
