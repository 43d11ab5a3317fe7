#!/usr/bin/env bash
# Everything that is checked: form, types, then every test on a throw-away database and in a real browser.
# Ends with a line "N passed, N failed". Arguments go to jest: npm test -- --selectProjects core
. "$(dirname "$0")/lib.sh"
need_packages
need_debian chromium pdftoppm gs
passed=0
failed=0
mkdir -p .local
step() {
  say "== $1"
  shift
  if "$@" >&2; then passed=$((passed + 1)); else failed=$((failed + 1)); fi
}
# Lint needs none of the others: it runs beside them.
npm run -s lint >.local/lint.log 2>&1 &
lint=$!
step "format" npm run -s format:check
step "types" npm run -s types
step "build" env CHECK_SIZES=1 node scripts/build.mjs
looked() {
  local status=0
  wait "$lint" || status=$?
  cat .local/lint.log
  return "$status"
}
step "lint" looked
. scripts/throwaway.sh
say "== tests"
status=0
LOG_LEVEL=silent node node_modules/jest/bin/jest.js --json --outputFile=.local/jest.json "$@" >&2 || status=$?
read -r p f later < <(node -e '
  const r = JSON.parse(require("fs").readFileSync(".local/jest.json", "utf8"));
  console.log(r.numPassedTests, r.numFailedTests + r.numRuntimeErrorTestSuites, r.numPendingTests);
')
node -e '
  const { testResults } = JSON.parse(require("fs").readFileSync(".local/jest.json", "utf8"));
  const suites = testResults.map((s) => [(s.endTime - s.startTime) / 1000, s.name.replace(`${process.cwd()}/`, "")]);
  console.error("The ten slowest, of", Math.round(suites.reduce((sum, [t]) => sum + t, 0)), "seconds in all:");
  for (const [t, name] of suites.sort((a, b) => b[0] - a[0]).slice(0, 10)) console.error(`  ${t.toFixed(0).padStart(4)} s  ${name}`);
'
passed=$((passed + p))
failed=$((failed + f))
[ "$status" -eq 0 ] || [ "$f" -gt 0 ] || failed=$((failed + 1))
[ "$later" -eq 0 ] || say "$later tests are left to npm run nightly, and so are the suites in jest.config's SLOW."
echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
