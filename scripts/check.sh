#!/bin/sh
# Everything that CI runs, after `make test` has set up and built.
set -eu
cd "$(dirname "$0")/.."

begun=$(date +%s)
say() { printf '\n== %s (after %s s)\n' "$1" "$(($(date +%s) - begun))"; }

say "formatting"
unformatted=$(git ls-files '*.go' | xargs gofmt -l)
[ -z "$unformatted" ] || { echo "not formatted by gofmt: $unformatted"; exit 1; }
(cd ui && npx --no-install prettier --check --log-level warn "src/**/*.{ts,tsx,css}" "*.{ts,mjs,js}")

say "go vet and staticcheck"
go vet ./...
go tool staticcheck ./...

say "generated files are current"
./bin/magpie openapi | cmp - ui/src/api/openapi.json || { echo "ui/src/api/openapi.json is stale: run scripts/generate.sh"; exit 1; }
./bin/magpie schema | cmp - docs/activity.schema.json || { echo "docs/activity.schema.json is stale: run scripts/generate.sh"; exit 1; }
./bin/magpie schema --series | cmp - docs/series.schema.json || { echo "docs/series.schema.json is stale: run scripts/generate.sh"; exit 1; }
types=$(mktemp)
(cd ui && npx --no-install openapi-typescript src/api/openapi.json -o "$types" >/dev/null && npx --no-install prettier --stdin-filepath src/api/schema.d.ts <"$types" | cmp - src/api/schema.d.ts) || { echo "ui/src/api/schema.d.ts is stale: run scripts/generate.sh"; exit 1; }
rm -f "$types"
words=$(mktemp)
cp ui/src/words/designers/en.po "$words"
(cd ui && npx --no-install lingui extract --clean >/dev/null)
cmp "$words" ui/src/words/designers/en.po || { echo "ui/src/words/designers/en.po is stale: run scripts/generate.sh"; exit 1; }
rm -f "$words"

say "TypeScript and lint"
(cd ui && npm run --silent types && npm run --silent lint)
node scripts/sentences.mjs --check

say "Go tests"
# A busy machine may take several times as long as an idle one.
patience="-timeout 40m"
# Tests of databases and of the cluster wait for most of their time: a third package goes on
# beside them.
# Nothing in the core and what is built on it alone runs beside something else. Most tests of
# the server do one thing after the other and take three times as long when races are looked
# for: those that do several at once are run for that a second time (make race does it for all).
go test $patience -count=1 -p 3 ./cmd/... ./core/... ./formats/... ./lti/... ./packaging ./bench/cluster ./server/...
at_once=$(awk '/^func Test/ { name = $2; sub(/[(].*/, "", name) } /go func|sync[.]WaitGroup/ { print name }' server/*_test.go | sort -u | paste -sd'|' -)
[ -n "$at_once" ] || { echo "no test of the server does several things at once"; exit 1; }
go test $patience -race -run "^($at_once)\$" ./server
go test $patience -race -p 3 ./localdb/... ./demo/... ./hosting/... ./identity/... ./jobs/... ./mailing/... ./ops/... ./platforms/... ./standin/... ./store/...

say "browser tests"
# Most of the time goes by waiting for pages: two are looked at at once.
go test $patience -count=1 -parallel 2 ./e2e/...
