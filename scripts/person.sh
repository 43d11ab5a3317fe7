#!/usr/bin/env bash
# Who the shop's people are, and ways in for them, from the machine itself. DATABASE_URL, or the database that npm start keeps.
. "$(dirname "$0")/lib.sh"
need_packages
node scripts/build.mjs --node >&2
if [ -z "${DATABASE_URL:-}" ]; then
  . scripts/postgres.sh
  cluster=$(cluster_folder "$root/.local/postgres")
  if [ ! -f "$cluster/data/PG_VERSION" ]; then
    say "There is no database yet: npm start makes it."
    exit 1
  fi
  if [ -f "$cluster/data/postmaster.pid" ]; then
    export DATABASE_URL="postgres://hardline@127.0.0.1:$(as_owner sed -n 4p "$cluster/data/postmaster.pid")/hardline"
  else
    start_postgres "$cluster"
    trap 'stop_postgres "$cluster"' EXIT
  fi
fi
node apps/server/dist/people/console.js "$@"
