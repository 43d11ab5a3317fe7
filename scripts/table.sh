#!/usr/bin/env bash
# Prints a table: how right the computation is on pictures whose truth is known (kinds, cutOuts, scenes,
# soft, clears, lifts, rims, losses, translucent, traces, thin, centres, cuts, films, wedges, nests, runs), how soon it
# can be stopped (portions), or what a second thread brings (hands).
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node
exec node "bench/dist/$1.js" "${@:2}"
