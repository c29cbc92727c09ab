#!/bin/sh
# Writes the generated files: the API's description, the document's schema, and
# the TypeScript types of both, and the catalogue of what designers read. Where the program does not build they stay as they are.
set -eu
cd "$(dirname "$0")/.."
made=$(mktemp -d)
trap 'rm -rf "$made"' EXIT
go build -o "$made/magpie" ./cmd/magpie
"$made/magpie" openapi >"$made/openapi.json"
"$made/magpie" schema >"$made/activity.json"
"$made/magpie" schema --series >"$made/series.json"
cp "$made/openapi.json" ui/src/api/openapi.json
cp "$made/activity.json" docs/activity.schema.json
cp "$made/series.json" docs/series.schema.json
cd ui
npm run --silent api >/dev/null
npx --no-install prettier --write --log-level silent src/api/schema.d.ts
npx --no-install lingui extract --clean >/dev/null
