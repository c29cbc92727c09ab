#!/bin/sh
# Sends a running server what tries to make it slow or large, and prints for each the
# processor time, the peak memory, and how long another learner waited for moves (99th
# percentile). The aims: under 50 ms, and under 300 MB.
set -eu
cd "$(dirname "$0")/.."
make --silent build
go build -o bin/hostile ./bench/hostile
exec ./bin/hostile
