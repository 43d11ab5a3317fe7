#!/usr/bin/env bash
# After a change, in less than a minute: types, lint of what was changed, and the tests that the change reaches, without a
# browser and without a database. What it leaves out, npm test does. Arguments go to jest: npm run quick -- -t "name of a test"
. "$(dirname "$0")/lib.sh"
need_packages
mkdir -p .local
began=$(date +%s)
tell() { say "$1: $(($(date +%s) - began)) s"; }
failed=0
node_modules/.bin/tsc -b --pretty false >&2 || failed=1
tell types
# Changed since the last commit, and not deleted.
mapfile -t changed < <({ git diff --name-only --diff-filter=d HEAD; git ls-files --others --exclude-standard; } | grep -E '\.(ts|tsx|mjs)$')
if [ ${#changed[@]} -gt 0 ]; then
  node_modules/.bin/eslint --max-warnings 0 --cache --cache-location .local/eslint/ "${changed[@]}" >&2 || failed=1
  node scripts/rooms.mjs || failed=1
  tell lint
  mapfile -t tests < <(node scripts/reached.mjs "${changed[@]}")
  if [ ${#tests[@]} -gt 0 ]; then
    node node_modules/jest/bin/jest.js --selectProjects core contract intake web demo --runTestsByPath "${tests[@]}" \
      --json --outputFile=.local/quick.json "$@" >&2 || failed=1
  fi
  tell tests
else
  say "Nothing was changed since the last commit."
fi
[ "$failed" -eq 0 ]
