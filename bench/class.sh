#!/bin/sh
# Seconds that 10,000 made-up learners take on the demo's Parts drawers, natively and
# in the browser.
set -eu
cd "$(dirname "$0")/.."

go test -run '^$' -bench 'Demo/(class|replies)' ./core/proof | grep ^Benchmark
go test -run '^$' -bench 'ClassInTheBrowser' -benchtime 3x ./e2e | grep ^Benchmark
