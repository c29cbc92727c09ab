#!/bin/sh
# Kills a server, the database, a migration, and a server during a re-mark, in turn, while
# learners play on two servers; prints moves acknowledged, lost and doubled. Its arguments
# are those of bench/kill: -seed 1 -kills 24.
set -eu
cd "$(dirname "$0")/.."
make --silent build
go build -o bin/kill ./bench/kill
exec ./bin/kill "$@"
