#!/usr/bin/env bash
# A film of 128 million dots on the server: prints time, progress and memory.
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node
. scripts/throwaway.sh
node e2e/dist/measureFilm.js "$@"
