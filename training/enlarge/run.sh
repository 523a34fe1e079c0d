#!/usr/bin/env bash
# Everything from nothing to new enlargers: bash training/enlarge/run.sh MINUTES
set -eu
cd "$(dirname "$0")/../.."
minutes=${1:-120}
[ -d training/.data/photographs ] || /usr/bin/python3 training/photographs.py
for seed in 1 2; do npx tsx training/enlarge/pairs.ts photo 3000 "$seed" & done
wait
npx tsx training/enlarge/pairs.ts art 3500 1
npx tsx training/enlarge/held-out.ts
cd training/enlarge
for kind in photo art; do THREADS=1 /usr/bin/python3 train.py "$kind" "$minutes" & done
wait
for kind in photo art; do /usr/bin/python3 export.py "$kind"; done
