#!/bin/sh
# Kills servers and the database while what learners do is sent to a record store that is slow,
# failing, gone or silent; prints what had to come there, and what of it was lost, doubled or
# out of order. Its arguments are those of bench/outbox: -seed 1 -kills 10.
set -eu
cd "$(dirname "$0")/.."
make --silent build
go build -o bin/outbox ./bench/outbox
exec ./bin/outbox "$@"
