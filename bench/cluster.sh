#!/bin/sh
# Plays on two servers and three databases that keep the same (Galera), and kills a
# database, which comes back, and then another for good. Prints moves a second next to one
# database by itself, how long learners waited, and what was lost. Its arguments are those
# of bench/cluster: -seconds 10.
set -eu
cd "$(dirname "$0")/.."
make --silent build
go build -o bin/cluster ./bench/cluster
exec ./bin/cluster "$@"
