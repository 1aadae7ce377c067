#!/usr/bin/env bash
# Stops the database and starts it again, for the test that nothing is lost by that.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
state=${FENNIP_STATE:-$PWD/.fennip}
source tools/install.sh
source tools/postgres.sh
stop_postgres
start_postgres
