#!/usr/bin/env bash
# Every test: style and dead ends, types, unit and integration (Vitest), browser (Playwright). Called by bin/zumbrel test.
set -euo pipefail
node node_modules/@biomejs/biome/bin/biome check --error-on-warnings
node node_modules/knip/bin/knip.js
node node_modules/typescript/bin/tsc --noEmit
node node_modules/vitest/vitest.mjs run
node node_modules/@playwright/test/cli.js test
