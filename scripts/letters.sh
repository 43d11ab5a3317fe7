#!/usr/bin/env bash
# Prints how words come out: beside Debian's own drawing of text, while one types, which font letters are in, names in a box.
. "$(dirname "$0")/lib.sh"
need_packages
need_debian rsvg-convert gs
node scripts/build.mjs --node
exec node bench/dist/words.js "$@"
