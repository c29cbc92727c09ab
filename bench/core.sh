#!/bin/sh
# What the core takes: judging, a move, folding, lanes; and judging as WebAssembly
# under Node next to the same natively.
set -eu
cd "$(dirname "$0")/.."

go test -run '^$' -bench 'BenchmarkJudge' -benchmem ./core/marks | grep ^Benchmark
go test -run '^$' -bench 'BenchmarkMove' ./core/play | grep ^Benchmark
go test -run '^$' -bench 'Lane16|Tiers200' ./core/order | grep ^Benchmark

judge() { go test -run '^$' -bench 'BenchmarkJudge/numbers' -benchtime 2s "$@" ./core/marks | awk '/^Benchmark/ { print $3 }'; }
native=$(judge)
export GOOS=js GOARCH=wasm
wasm=$(judge -exec "$(go env GOROOT)/lib/wasm/go_js_wasm_exec")
awk -v n="$native" -v w="$wasm" 'BEGIN { printf "judging 50 pieces, 10 targets, 3 solutions: %.1f µs native, %.1f µs as WebAssembly, ratio %.1f\n", n/1000, w/1000, w/n }'
