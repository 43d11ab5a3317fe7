#!/usr/bin/env bash
# Times the core's kernels on 16-megapixel inputs, as ratios to a plain loop of the same run.
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node
exec node bench/dist/main.js "$@"
