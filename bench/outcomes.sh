#!/bin/sh
# What it takes to look at a release that very many have played, and how it grows:
# figures, downloads, re-marks, at 10,000, 100,000 and 1,000,000 sittings of 24 pieces
# (or the numbers given; the largest takes some 20 minutes and 10 GB of disk). Then what
# figures cost in the core alone.
set -eu
cd "$(dirname "$0")/.."
make --silent build
# shellcheck disable=SC2086
go run ./bench/outcomes ${*:-10000 100000 1000000}
go test ./core/stats -run '^$' -bench Figures -benchtime 1s | grep ^Benchmark
