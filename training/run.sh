#!/usr/bin/env bash
# Everything from nothing to new models: bash training/run.sh MINUTES
set -eu
cd "$(dirname "$0")/.."
minutes=${1:-100}
/usr/bin/python3 training/photographs.py
for kind in compression noise; do npx tsx training/pairs.ts "$kind" 6000 1 & done
wait
npx tsx training/held-out.ts
cd training
for kind in compression noise; do THREADS=1 /usr/bin/python3 train.py "$kind" "$minutes" & done
wait
for kind in compression noise; do /usr/bin/python3 export.py "$kind"; done
