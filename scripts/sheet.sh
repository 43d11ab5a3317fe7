#!/usr/bin/env bash
# Arranges a sheet of pieces and writes its files, without a server. See docs/route-file.md.
here=$PWD
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node 2>/dev/null || node scripts/build.mjs --node >&2
cd "${INIT_CWD:-$here}"
exec node "$root/apps/cli/dist/sheet.js" "$@"
