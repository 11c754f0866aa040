#!/usr/bin/env bash
# Rebuilds internal/core/lexicon/data. Needs Debian's packages scowl, wbritish-large and wamerican-large, and the npm sources.
set -euo pipefail
cd "$(dirname "$0")"
[ -d node_modules ] || npm install --silent --no-package-lock
node pictures.mjs
node known.mjs
node dump.mjs | go run . . > ../../internal/core/lexicon/data/words.txt.new
mv ../../internal/core/lexicon/data/words.txt.new ../../internal/core/lexicon/data/words.txt
node oceans.mjs
