#!/bin/sh
# Writes the generated files: the API's description, the document's schema, and
# the TypeScript types of both.
set -eu
cd "$(dirname "$0")/.."
go run ./cmd/magpie openapi >ui/src/api/openapi.json
go run ./cmd/magpie schema >docs/activity.schema.json
go run ./cmd/magpie schema --series >docs/series.schema.json
cd ui
npm run --silent api >/dev/null
npx --no-install prettier --write --log-level silent src/api/schema.d.ts
