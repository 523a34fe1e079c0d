#!/usr/bin/env bash
# Builds coated.icc and uncoated.icc from free characterisation data; never needed to run or test.
# Needs Debian's packages argyll and icc-profiles-free. The date in a profile differs with every making.
set -eu
data=/usr/share/color/icc
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
here=$(cd "$(dirname "$0")" && pwd)
one() { # data, name, description, most ink
  cp "$data/$1.ti3" "$work/$2.ti3"
  colprof -qm -bm -kr -l "$4" -L 95 -S "$here/srgb.icc" -cmt -dpp -D "$3" -M "$3" -A 'ISO 12647-2' \
    -C 'Made from free characterisation data of the zlib licence. No warranty.' -O "$work/$2.icc" "$work/$2"
  cp "$work/$2.icc" "$here/$2.icc"
}
one FOGRA39L coated 'Coated paper, offset' 330
one FOGRA29L uncoated 'Uncoated paper, offset' 300
sha256sum "$here"/*.icc
