#!/usr/bin/env bash
# Makes a machine's program of a route and runs it on the simulated machine. See docs/route-file.md.
here=$PWD
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node 2>/dev/null || node scripts/build.mjs --node >&2
cd "${INIT_CWD:-$here}"
exec node "$root/apps/cli/dist/burn.js" "$@"
