#!/usr/bin/env bash
# Everything that is checked: form, types, then every test on a throw-away database and in a real browser.
# Ends with a line "N passed, N failed". Arguments go to jest: npm test -- --selectProjects core
. "$(dirname "$0")/lib.sh"
need_packages
need_debian chromium pdftoppm
passed=0
failed=0
step() {
  say "== $1"
  shift
  if "$@" >&2; then passed=$((passed + 1)); else failed=$((failed + 1)); fi
}
step "lint" npm run -s lint
step "format" npm run -s format:check
step "types" npm run -s types
step "build" node scripts/build.mjs
. scripts/throwaway.sh
say "== tests"
mkdir -p .local
status=0
LOG_LEVEL=silent node node_modules/jest/bin/jest.js --json --outputFile=.local/jest.json "$@" >&2 || status=$?
read -r p f < <(node -e '
  const r = JSON.parse(require("fs").readFileSync(".local/jest.json", "utf8"));
  console.log(r.numPassedTests, r.numFailedTests + r.numRuntimeErrorTestSuites);
')
passed=$((passed + p))
failed=$((failed + f))
[ "$status" -eq 0 ] || [ "$f" -gt 0 ] || failed=$((failed + 1))
echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
