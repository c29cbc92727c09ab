#!/bin/sh
# What a server takes that learners play on: moves a second at a 99th percentile under
# 50 ms, beside a bare INSERT; memory at 1,000 open sittings. Then what a learner's
# browser takes: bytes of the first load, seconds to the first piece that can be moved,
# and frames of dragging among 60 pieces with the processor slowed four times.
set -eu
cd "$(dirname "$0")/.."
make --silent build
go build -o bin/load ./bench/load
./bin/load
node bench/first-load.mjs | tail -n 1
MAGPIE_BENCH=1 go test ./e2e -run '^$' -bench 'DraggingAmong60|FirstPiece' -benchtime 1x | grep ^Benchmark
