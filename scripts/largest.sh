#!/usr/bin/env bash
# The largest job there is, from taking the artwork in to its files: prints time and memory.
. "$(dirname "$0")/lib.sh"
need_packages
need_debian chromium
node scripts/build.mjs
. scripts/throwaway.sh
node e2e/dist/measureLargest.js
