#!/bin/sh
# Seconds from `make demo` on an already built tree to the page answering: the
# first time, with a database to be made, and the second time.
set -eu
cd "$(dirname "$0")/.."
make --silent build
data=$(mktemp -d)
for turn in first second; do
	start=$(date +%s.%N)
	MAGPIE_ADDR=127.0.0.1:8099 MAGPIE_DATA=$data make --silent demo >/dev/null &
	timeout 120 sh -c 'until curl -sf -o /dev/null http://127.0.0.1:8099/; do sleep 0.02; done'
	end=$(date +%s.%N)
	echo "$turn start: $(echo "$end $start" | awk '{printf "%.1f", $1 - $2}') s"
	kill -INT "$(cat "$data/magpie.pid")"
	wait
done
rm -rf "$data"
