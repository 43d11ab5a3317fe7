#!/usr/bin/env bash
# Prints prints on rendered photographs of things beside the same things with the print on them, and how long a mock-up
# takes. Takes about five minutes.
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node
exec node bench/dist/mockups.js "$@"
