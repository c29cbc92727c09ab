# Two commands are enough: make demo, make test. Both set up what is missing.
.PHONY: demo test race build deps chromium clean bench package

GO_FILES := $(shell find cmd core demo formats hosting identity jobs localdb lti mailing ops platforms server standin store -name '*.go' -not -name '*_test.go' 2>/dev/null) \
	$(wildcard store/migrations/*.sql demo/activities/*.json demo/series/*.json demo/pictures/*.svg)
UI_FILES := $(shell find ui/src -type f -not -path '*/generated/*' 2>/dev/null) $(wildcard ui/*.html ui/*.ts ui/*.mjs ui/public/*) ui/package-lock.json
ENGINE := ui/src/engine/generated/engine.wasm
PLAYENGINE := ui/src/engine/generated/play.wasm
UI := server/webui/dist/built/index.html
PLAYER := formats/pack/player/built/core.js
RUNTIME := standin/built/scorm-again.min.js

demo: deps build
	@exec ./bin/magpie demo

build: bin/magpie

# A Debian package, in dist/.
VERSION ?= 0.9.$(shell git rev-list --count HEAD 2>/dev/null || echo 0)
package: build
	@CGO_ENABLED=0 go build -trimpath -ldflags="-s -w -X main.version=$(VERSION)" -o dist/magpie ./cmd/magpie
	@./packaging/build.sh dist/magpie $(VERSION) dist

# The interface is embedded in the program, and the engine in the interface.
bin/magpie: $(GO_FILES) $(UI) $(PLAYER) $(RUNTIME) standin/college.html go.mod go.sum
	@echo "building the program"
	@go build -o bin/magpie ./cmd/magpie

$(UI): $(UI_FILES) $(ENGINE) ui/node_modules/.package-lock.json
	@echo "building the interface"
	@cd ui && npm run --silent build && node compress.mjs
	@touch $@

# The player of packages: a plain script, and as much of the core as it needs.
$(PLAYER): $(UI_FILES) ui/pack.mjs $(PLAYENGINE) $(UI)
	@echo "building the player of packages"
	@cd ui && npm run --silent build:pack && node pack.mjs ../$(PLAYENGINE) src/engine/generated/wasm_exec.js ../$(@D)

# What stands in for a learning platform plays packages before this.
$(RUNTIME): ui/node_modules/.package-lock.json
	@cp ui/node_modules/scorm-again/dist/scorm-again.min.js $@

$(PLAYENGINE): $(shell find core cmd/playengine -name '*.go' -not -name '*_test.go' 2>/dev/null) go.mod
	@echo "building the engine of packages"
	@mkdir -p $(@D)
	@GOOS=js GOARCH=wasm go build -trimpath -ldflags="-s -w" -o $@ ./cmd/playengine

$(ENGINE): $(shell find core cmd/engine -name '*.go' -not -name '*_test.go' 2>/dev/null) go.mod
	@echo "building the engine"
	@mkdir -p $(@D)
	@GOOS=js GOARCH=wasm go build -trimpath -ldflags="-s -w" -o $@ ./cmd/engine
	@cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" $(@D)/wasm_exec.js

ui/node_modules/.package-lock.json: ui/package-lock.json ui/package.json
	@command -v npm >/dev/null || { echo "Node.js with npm is needed to build the interface: install Node 20 or later, then start again."; exit 1; }
	@cd ui && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

deps:
	@./scripts/setup.sh mariadb

chromium:
	@./scripts/setup.sh mariadb chromium xmllint

test: chromium build
	@./scripts/check.sh

# Every test of what serves, with races looked for; make test does so where several things
# are done at once.
race: deps build
	@go test -timeout 40m -race ./server/... ./demo/... ./hosting/... ./identity/... ./jobs/... ./mailing/... ./ops/... ./platforms/... ./store/...

# Figures and ratios, printed.
bench: deps build
	@go test -run "^$$" -bench . -benchtime 3000x ./bench
	@node bench/first-load.mjs
	@./bench/start.sh
	@./bench/core.sh

clean:
	rm -rf bin server/webui/dist/built formats/pack/player/built ui/src/engine/generated ui/node_modules $(RUNTIME)
