# A private PostgreSQL cluster in a folder of the project, on loopback, on a free port. Sourced after lib.sh.
# PostgreSQL refuses to run as root, so root hands the cluster to an unprivileged user.

pg_bin=$(find_postgres)
pg_user() { if [ "$(id -u)" -eq 0 ]; then echo nobody; else id -un; fi; }

# As the cluster's owner; the way to the folder must be open to that user, so it lives under a path of its own.
as_owner() {
  if [ "$(id -u)" -eq 0 ]; then
    setpriv --reuid "$(pg_user)" --regid "$(id -g "$(pg_user)")" --clear-groups env HOME=/tmp "$@"
  else "$@"; fi
}

free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }

# cluster_folder DIR: DIR itself, or, where a folder above it is closed to the cluster's owner (as /root is), one
# under /var/lib that belongs to this project alone.
cluster_folder() {
  mkdir -p "$1"
  if [ "$(id -u)" -ne 0 ] || as_owner test -x "$1"; then echo "$1"; return; fi
  echo "/var/lib/hard-line/$(printf '%s' "$1" | sha256sum | cut -c1-12)"
}

# start_postgres DIR: makes the cluster where there is none, starts it and sets DATABASE_URL.
start_postgres() {
  prepare_postgres "$1"
  run_postgres "$1"
}

# prepare_postgres DIR: makes the cluster where there is none, and sets DATABASE_URL to where it will be.
prepare_postgres() {
  local dir=$1
  mkdir -p "$dir"
  if [ "$(id -u)" -eq 0 ]; then
    chown "$(pg_user)" "$dir"
  fi
  if [ ! -f "$dir/data/PG_VERSION" ]; then
    rm -rf "$dir/data"
    as_owner "$pg_bin/initdb" -D "$dir/data" -U hardline -A trust -E UTF8 --no-locale >"$dir/initdb.log" 2>&1 || {
      cat "$dir/initdb.log" >&2
      exit 1
    }
  fi
  pg_port=$(free_port)
  export DATABASE_URL="postgres://hardline@127.0.0.1:$pg_port/hardline"
}

# run_postgres DIR: starts what was prepared; it answers when this returns.
run_postgres() {
  local dir=$1
  as_owner "$pg_bin/pg_ctl" -D "$dir/data" -w -t 60 -l "$dir/postgres.log" \
    -o "-p $pg_port -c listen_addresses=127.0.0.1 -c unix_socket_directories='' ${PG_OPTIONS:-}" start >/dev/null || {
    tail -n 20 "$dir/postgres.log" >&2
    exit 1
  }
  as_owner "$pg_bin/createdb" -h 127.0.0.1 -p "$pg_port" -U hardline hardline 2>/dev/null || true
}

stop_postgres() { as_owner "$pg_bin/pg_ctl" -D "$1/data" -m fast -w stop >/dev/null 2>&1 || true; }
