#!/usr/bin/env bash
# Everything: installs what is missing, types, lint, unit tests, build, browser tests. Ends with "N passed, N failed".
set -uo pipefail
cd "$(dirname "$0")/.."
export NEXT_TELEMETRY_DISABLED=1
bash scripts/setup.sh || exit 1
passed=0
failed=0
step() {
  echo "== $1"
  shift
  if "$@"; then passed=$((passed + 1)); else failed=$((failed + 1)); echo "FAILED: $*"; fi
}
reports=$(mktemp -d)
# Lint runs beside the types; what it says is shown after them.
(npm run --silent lint >"$reports/lint.txt" 2>&1; echo $? >"$reports/lint.rc") &
step "types" npm run --silent types
wait
cat "$reports/lint.txt"
step "lint, architecture, dead code" test "$(cat "$reports/lint.rc")" = 0
export DEMO_PROFILE="$reports/demo-profile"
step "build" npm run --silent build
# What goes by the clock has the machine to itself, but for what it leaves: the unit tests run behind it and give way. What they say is shown after.
(nice -n 19 npx vitest run --reporter=default --reporter=json --outputFile.json="$reports/unit.json" >"$reports/unit.txt" 2>&1; echo $? >"$reports/unit.rc") &
units=$!
PLAYWRIGHT_JSON_OUTPUT_NAME="$reports/clock.json" step "browser tests by the clock" npx playwright test --grep @clock --workers=1 --reporter=list,json
wait $units
cat "$reports/unit.txt"
step "unit tests" test "$(cat "$reports/unit.rc")" = 0
# The rest runs two at a time.
PLAYWRIGHT_JSON_OUTPUT_NAME="$reports/browser.json" step "browser tests" npx playwright test --grep-invert @clock --workers=2 --reporter=list,json
step "faults, a slice with a fixed seed" npx tsx bench/faults/index.ts --slice --minutes 0.5 --seed 1 --found "$reports/faults"
count=$(node scripts/count-tests.mjs "$reports/unit.json" "$reports/clock.json" "$reports/browser.json") || { failed=$((failed + 1)); count="0 0"; }
read -r more_passed more_failed <<<"$count"
echo
echo "$((passed + more_passed)) passed, $((failed + more_failed)) failed"
[ $((failed + more_failed)) -eq 0 ]
