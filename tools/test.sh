#!/usr/bin/env bash
# Runs every check and test and counts them. Called by ./fennip test, which has installed what is needed.
# With --quick: format, lint, types and the tests that need no database and no browser. With --faults: what happens when
# servers, databases and disks fail, at length.
set -uo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
root=$PWD
state=${FENNIP_STATE:-$root/.fennip}
mkdir -p "$state"
state=$(realpath "$state")
source tools/install.sh
source tools/postgres.sh
source tools/server.sh

passed=0
failed=0

checks=$(mktemp -d)

# One check that passes or fails as a whole; what it says is kept until all are done.
check() {
  local name=$1 said
  shift
  said=$(mktemp "$checks/XXXXXX")
  echo "== $name" >"$said"
  if "$@" >>"$said" 2>&1; then echo passed >"$said.end"; else
    echo "FAILED: $name" >>"$said"
    echo failed >"$said.end"
  fi
}

# What was checked side by side is told and counted one after the other.
count_checks() {
  local said
  for said in "$checks"/??????; do
    cat "$said"
    if [ "$(cat "$said.end")" = passed ]; then passed=$((passed + 1)); else failed=$((failed + 1)); fi
  done
  rm -rf "$checks"
}

# A test runner that writes its counts as JSON; $3 and $4 read them.
suite() {
  local name=$1 report=$2 read_counts=$3
  shift 3
  echo "== $name"
  rm -f "$report"
  "$@" || echo "FAILED: $name"
  local counts
  counts=$(node -e "$read_counts" "$report") || counts="0 1"
  passed=$((passed + ${counts% *}))
  failed=$((failed + ${counts#* }))
}

quick=0
[ "${1:-}" = --quick ] && quick=1
faults=0
[ "${1:-}" = --faults ] && faults=1

# The compiler that is compiled itself: a fifth of the time. What lints and what reads the page's templates need the other.
types=(node node_modules/typescript-7/bin/tsc)
read_units='const r=require(process.argv[1]);const broken=r.testResults.filter((t)=>t.status==="failed"&&!t.assertionResults.some((a)=>a.status==="failed"));console.log(r.numPassedTests, r.numFailedTests + broken.length)'

# Lint and format remember the files that they found in order.
check_sources() {
  check "format" npx prettier --check --log-level warn --cache --cache-location "$state/prettier-cache" .
  check "lint" npx eslint --cache --cache-strategy content --cache-location "$state/eslint-cache" .
}
check_types() {
  check "types of the page" npx vue-tsc -p packages/app
  check "one-way dependencies" npx depcruise --config .dependency-cruiser.cjs --output-type err packages bench tests
  check "types of core, which knows no platform" "${types[@]}" -p packages/core
  check "types" "${types[@]}" -p tsconfig.json
}

if [ "$quick" = 1 ]; then
  check_sources &
  check_types &
  wait
  count_checks
  # Without the tests that start a server, and without those of a minute and more: the pinned renderings and the nets.
  suite "unit tests" "$state/quick.json" "$read_units" \
    npx vitest run --reporter=default --reporter=json --outputFile.json="$state/quick.json" \
    --exclude 'packages/server/test/**' --exclude 'bench/src/**'
  echo "$passed passed, $failed failed"
  [ "$failed" = 0 ]
  exit
fi

was_up=0
is_postgres_up && was_up=1
start_postgres || exit 1
# shellcheck disable=SC2329 # called by the trap
leave() { [ "$was_up" = 1 ] || stop_postgres; }
trap leave EXIT

if [ "$faults" = 0 ]; then
  check_sources &
  (
    check_types
    check "build of the page" build_page
  ) &
  wait
  count_checks
fi

export FENNIP_TEST_DATABASE_URL
FENNIP_TEST_DATABASE_URL=$(database_url postgres)

if [ "$faults" = 1 ]; then
  FENNIP_FAULTS=full suite "faults" "$state/faults.json" "$read_units" \
    npx vitest run --reporter=default --reporter=json --outputFile.json="$state/faults.json" \
    --testTimeout=1800000 tests/faults
  echo "$passed passed, $failed failed"
  [ "$failed" = 0 ]
  exit
fi

suite "unit and server tests" "$state/unit.json" "$read_units" \
  npx vitest run --reporter=default --reporter=json --outputFile.json="$state/unit.json"

suite "browser tests" "$state/e2e.json" \
  'const {stats}=require(process.argv[1]);console.log(stats.expected + stats.flaky, stats.unexpected)' \
  env PLAYWRIGHT_JSON_OUTPUT_NAME="$state/e2e.json" npx playwright test -c tests/e2e

echo "$passed passed, $failed failed"
[ "$failed" = 0 ]
