# A PostgreSQL cluster for one run, removed afterwards. Sourced after lib.sh; sets TEST_DATABASE_URL.
need_debian postgresql
. scripts/postgres.sh
throwaway=$(mktemp -d /tmp/hard-line-test-XXXXXX)
chmod 755 "$throwaway"
trap 'stop_postgres "$throwaway"; rm -rf "$throwaway"' EXIT
# Nothing here outlives the run, so nothing has to reach the disk before an answer.
PG_OPTIONS="-c fsync=off -c full_page_writes=off -c synchronous_commit=off -c max_connections=200" start_postgres "$throwaway"
export TEST_DATABASE_URL=$DATABASE_URL
unset DATABASE_URL
