#!/bin/sh
# Prints how large packages are without media, how long one takes from being opened to the
# first piece that can be moved, and how long checkpoints are and take.
set -eu
cd "$(dirname "$0")/.."
make --silent build chromium >/dev/null
dir=$(mktemp -d)
trap 'rm -rf "$dir"' EXIT
cat >"$dir/plain.json" <<'END'
{"format":"keen-magpie/activity","version":1,"id":"plain","title":"Plain","items":[{"id":"bell","text":"Bell"}],
 "targets":[{"id":"box","name":"Box","frame":{"x":0,"y":0,"w":300,"h":300}}],"key":{"solutions":[{"right":{"box":{"all":true}}}]}}
END
for as in scorm12 scorm2004 cmi5 web bundle; do
	./bin/magpie pack --as $as "$dir/plain.json" --out "$dir/$as.zip"
	printf '%-10s %8d bytes without media\n' $as "$(wc -c <"$dir/$as.zip")"
done
printf 'the engine in it: %d bytes, compressed %d\n' "$(wc -c <ui/src/engine/generated/play.wasm)" "$(gzip -9 -c ui/src/engine/generated/play.wasm | wc -c)"
go test -run '^$' -bench Checkpoint ./core/play | grep Benchmark
go test -run ALargeSitting -v ./core/play | grep characters
go test -run '^$' -bench OpeningAPackage -benchtime 10x ./e2e 2>&1 | grep Benchmark
go test -run '^$' -bench 'Launches|Statements' -benchtime 3s ./server 2>&1 | grep Benchmark
