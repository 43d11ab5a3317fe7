#!/usr/bin/env bash
# Puts the program to a trial on a throw-away database and prints tables: hostile, faults, growth, years.
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs
. scripts/throwaway.sh
export HARDLINE_TEST_CLUSTER=$throwaway
node "e2e/dist/trials/$1.js" "${@:2}"
