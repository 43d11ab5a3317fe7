#!/usr/bin/env bash
# Runs a route file on an image, without a server. See docs/route-file.md.
here=$PWD
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node 2>/dev/null || node scripts/build.mjs --node >&2
cd "${INIT_CWD:-$here}"
exec node "$root/apps/cli/dist/main.js" "$@"
