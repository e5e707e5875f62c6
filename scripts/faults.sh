#!/usr/bin/env bash
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh
node scripts/build-node.mjs
exec node dist/faults.mjs "$@"
