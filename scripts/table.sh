#!/usr/bin/env bash
# Prints a table: how right the computation is on pictures whose truth is known (kinds, cutOuts, scenes,
# soft, clears, lifts, rims, traces, thin, centres, cuts, films, wedges, nests, runs), or how soon it
# can be stopped (portions).
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node
exec node "bench/dist/$1.js" "${@:2}"
