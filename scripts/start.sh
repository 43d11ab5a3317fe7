#!/usr/bin/env bash
# Runs Hard Line with demo data: installs what is missing, builds what is stale, starts its own database, serves, and then
# draws the demo's tickets, which appear one by one. Says how long each part took.
# DATABASE_URL set: uses that PostgreSQL instead. PORT set: serves there (4280 otherwise).
. "$(dirname "$0")/lib.sh"
need_node
mkdir -p .local
exec 9>.local/running.lock
if ! flock -n 9; then
  say "Hard Line already runs here: $(cat .local/address 2>/dev/null || echo 'it is still starting')"
  exit 1
fi
last=$EPOCHREALTIME
took() {
  local now=$EPOCHREALTIME
  say "$(awk -v a="$last" -v b="$now" 'BEGIN { printf "%5.1f s", b - a }')  $1"
  last=$now
}
# Packages of the registry and of Debian come by ways of their own.
debian=
[ -n "${DATABASE_URL:-}" ] || { need_debian postgresql & debian=$!; }
need_packages
[ -z "$debian" ] || wait "$debian"
took "packages"
node scripts/build.mjs --start 9>&- &
build=$!
if [ -z "${DATABASE_URL:-}" ]; then
  . scripts/postgres.sh
  cluster=$(cluster_folder "$root/.local/postgres")
  # After kill -9 the old server may still run on the cluster; it is asked to stop first. Its work is safe.
  [ -f "$cluster/data/postmaster.pid" ] && stop_postgres "$cluster"
  trap 'stop_postgres "$cluster"' EXIT
  # Only this shell holds the lock, not what it starts. Where there is a cluster already, the server may start beside it: it
  # waits for its database.
  if [ -f "$cluster/data/PG_VERSION" ]; then
    prepare_postgres "$cluster"
    run_postgres "$cluster" 9>&- &
  else
    start_postgres "$cluster" 9>&-
  fi
fi
wait "$build"
took "building, and the database"
export PORT=${PORT:-4280}
# Who sits at this very machine is signed in as the demo's owner; at any other address the program asks.
export HARDLINE_DEMO=${HARDLINE_DEMO:-1}
# Where the stand-ins will be: simulated machines, each a program of its own, that listen on loopback.
machine_port=${HARDLINE_MACHINE_PORT:-$((PORT + 20))}
export HARDLINE_MACHINE_PORT=$machine_port
machines=()
node apps/server/dist/main.js 9>&- &
server=$!
seed=
trap 'kill -TERM $server $seed ${machines[@]+"${machines[@]}"} 2>/dev/null; wait $server 2>/dev/null || true; [ -z "${cluster:-}" ] || stop_postgres "$cluster"' EXIT
trap 'exit 0' INT TERM
node scripts/wait.mjs "http://127.0.0.1:$PORT/api/health" 30 || { say "The server did not start; see above."; exit 1; }
echo "http://127.0.0.1:$PORT" > .local/address
took "the server"
echo "Hard Line runs at http://127.0.0.1:$PORT  (Ctrl+C stops it)"
# The machines' stand-ins come when the page is there. HARDLINE_PACE: how many times faster than real ones they are.
for kind in $(node -p 'require("./packages/core/dist/machine/machine.js").USUAL_MACHINES.map((m) => m.key).join(" ")'); do
  node apps/server/dist/machines/standIn/main.js --machine=$kind --port=$machine_port --floor=$((machine_port + 1)) \
    --pace="${HARDLINE_PACE:-20}" --folder="$root/.local/machines" 9>&- >/dev/null &
  machines+=($!)
  machine_port=$((machine_port + 2))
done
node apps/server/dist/seed/main.js 9>&- &
seed=$!
wait $server
