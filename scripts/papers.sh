#!/usr/bin/env bash
# Prints how papers on rendered photographs are found and made flat. Takes about five minutes.
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node
exec node bench/dist/papers.js "$@"
