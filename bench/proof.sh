#!/bin/sh
# What the proof takes: counting 60 items in 12 targets with tags and needs, a blind
# guesser, the demo's activity by parts; and each part in the browser.
set -eu
cd "$(dirname "$0")/.."

go test -run '^$' -bench 'SixtyByTwelve' ./core/ways | grep ^Benchmark
go test -run '^$' -bench 'Guess|Demo' ./core/proof | grep ^Benchmark
go test -run '^$' -bench 'ProofOfTheDemo' -benchtime 15x ./e2e | grep ^Benchmark
