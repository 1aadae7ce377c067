#!/usr/bin/env bash
# A database for one test alone, in the folder that FENNIP_STATE names: that nothing is lost when it stops and starts
# again, or is killed (`kill`) and comes back (`up`). `start` and `restart` print the address of its own administration;
# `stop` takes it away with all it holds.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
state=${FENNIP_STATE:?names the folder of the database}
mkdir -p "$state"
source tools/install.sh
source tools/postgres.sh
case "${1:-}" in
  start)
    start_postgres >&2
    database_url postgres
    ;;
  restart)
    stop_postgres
    start_postgres >&2
    database_url postgres
    ;;
  kill)
    # As a loss of power ends it: its processes cannot say a word.
    kill -9 "$(head -n 1 "$pg_data/postmaster.pid")"
    while pgrep -u "$(stat -c %U "$pg_data")" -f "^postgres: .*" >/dev/null 2>&1 && is_postgres_up; do sleep 0.1; done
    ;;
  up)
    for _ in 1 2 3 4 5 6 7 8 9 10; do
      start_postgres >&2 && break
      sleep 0.5
    done
    ;;
  stop)
    stop_postgres
    rm -rf "$pg_home" "$state"
    ;;
  *)
    echo "start, restart, kill, up or stop?" >&2
    exit 2
    ;;
esac
