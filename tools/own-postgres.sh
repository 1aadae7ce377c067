#!/usr/bin/env bash
# A database for one test alone, in the folder that FENNIP_STATE names: that nothing is lost when it stops and starts
# again. `start` and `restart` print the address of its own administration; `stop` takes it away with all it holds.
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
  stop)
    stop_postgres
    rm -rf "$pg_home" "$state"
    ;;
  *)
    echo "start, restart or stop?" >&2
    exit 2
    ;;
esac
