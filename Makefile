# Nine Yard. `make demo` is all a new machine needs; `make help` lists the rest.
.PHONY: library-report attack outdated help demo demo-reset test check bench bench-large dev build web prepare prepare-web prepare-postgres prepare-chromium prepare-pdf prepare-ffmpeg generate format film shots

GO      ?= go
BIN     := bin/nineyard
WEB_IN  := $(shell find web/src web/public -type f -not -path 'web/src/core/core.wasm' -not -path 'web/src/core/wasm_exec.js' 2>/dev/null) web/index.html web/vite.config.ts web/package-lock.json

# The core for the browser, and the script of the same toolchain that starts it.
CORE    := web/src/core/core.wasm
CORE_IN := $(shell find core internal/contract internal/plan/sheet internal/film/labels internal/browser cmd/browser -name '*.go' -not -name '*_test.go') go.mod

help: ## List the commands
	@grep -E '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | awk -F':.*## ' '{printf "  %-12s %s\n", $$1, $$2}'

demo: prepare-postgres build ## Serve the demo club at http://127.0.0.1:8080
	@exec ./$(BIN) demo

demo-reset: ## Throw the demo's database away and serve a fresh one
	@./scripts/reset.sh
	@$(MAKE) --no-print-directory demo

test: prepare ## All Go tests, browser tests and front-end tests
	cd web && npm run --silent test
	$(GO) test $$($(GO) list ./... | grep -v /e2e)
	$(GO) test -count 1 -timeout 30m -parallel 3 ./e2e # it runs what was built, which no cache knows of
	$(GO) test -count 1 -timeout 10m ./e2e/attack

check: prepare-web $(CORE) generate-check ## Formatting, vet, staticcheck, types, lint, generated code
	@test -z "$$(gofmt -l cmd core internal library e2e web/*.go)" || { echo "gofmt: run 'make format'"; gofmt -l cmd core internal library e2e web/*.go; exit 1; }
	$(GO) vet ./...
	$(GO) tool staticcheck ./...
	$(GO) test -count 1 ./internal/rooms ./internal/contract/... 
	cd web && npm run --silent check

bench: prepare build ## Measure the budgets
	$(GO) test -run '^$$' -bench . -benchtime 5x ./core/...
	$(GO) test -run '^$$' -bench Claims -benchtime 1x ./internal/demo
	$(GO) test -run '^$$' -bench . -benchtime 5x ./internal/mark
	NINEYARD_BIN=$(CURDIR)/$(BIN) $(GO) test -run '^$$' -bench . -benchtime 20x -timeout 30m ./internal/product
	NINEYARD_BENCH=1 $(GO) test -run 'KeyToPaint|DragToPaint|Twelve' -v -count 1 -parallel 1 ./e2e
	@ls -l web/dist/assets/*.js.gz | awk '{print "JavaScript, gzip: " $$5 " bytes " $$9}'
	@uptime

library-report: ## Print how far the shipped library is from what it is to be (RULE=C4 lists one rule whole, MONTH=ol a group's first month, MONTH=all each group's)
	@$(GO) run ./cmd/library-report $(if $(RULE),-all -rule $(RULE)) $(if $(MONTH),-month $(MONTH))

attack: prepare-postgres build ## Attack a server of its own: the contract, memory, what was answered (three minutes)
	NINEYARD_ATTACK=3m $(GO) test -count 1 -timeout 30m -v ./e2e/attack
	$(GO) test -count 1 -v -run 'EveryRole|OwnGroup|NoClubReaches' ./internal/product

outdated: prepare-web ## List the parts of which there is a newer version
	@$(GO) list -m -u -e -f '{{with .Update}}{{$$.Path}} {{$$.Version}} → {{.Version}}{{end}}' \
		$$($(GO) list -m -f '{{if not (or .Indirect .Main)}}{{.Path}}{{end}}' all)
	@cd web && npm outdated || true

bench-large: prepare-postgres build ## Measure the screens among a hundred clubs with five seasons each (11 million marks)
	NINEYARD_LARGE=1 NINEYARD_BIN=$(CURDIR)/$(BIN) $(GO) test -run '^$$' -bench 'Screens/largest' -benchtime 40x -timeout 60m ./internal/product
	@uptime

dev: prepare-postgres prepare-web $(CORE) ## Serve the demo with hot reload of the front end at http://127.0.0.1:5173
	@./scripts/dev.sh

build: web/dist/index.html ## Build the binary with the front end in it
	$(GO) build -o $(BIN) ./cmd/nineyard

web: web/dist/index.html ## Build the front end

$(CORE): $(CORE_IN)
	GOOS=js GOARCH=wasm $(GO) build -trimpath -ldflags="-s -w" -o $@ ./cmd/browser
	@cp "$$($(GO) env GOROOT)/lib/wasm/wasm_exec.js" web/src/core/wasm_exec.js

web/dist/index.html: $(WEB_IN) $(CORE) | prepare-web
	@find web/dist -mindepth 1 ! -name placeholder.html -delete
	cd web && npm run --silent build
	@touch $@

generate: prepare-web ## Generate the contract's Go and TypeScript
	./scripts/generate.sh

.PHONY: generate-check
generate-check: prepare-web
	@./scripts/generate.sh --check

format: ## Format everything
	gofmt -w cmd core internal library e2e web/*.go
	cd web && npm run --silent format

film: ## Take the demo's film anew with the simulated camera; needs ffmpeg
	@./scripts/need.sh ffmpeg ffmpeg
	$(GO) run ./cmd/camera

shots: prepare build ## Take the pictures of docs/screenshots
	$(GO) run ./e2e/shots

prepare: prepare-postgres prepare-chromium prepare-pdf prepare-ffmpeg web/dist/index.html

prepare-postgres:
	@./scripts/need.sh initdb postgresql

prepare-pdf: # reads printed pages back
	@./scripts/need.sh pdftotext poppler-utils

prepare-ffmpeg: # makes videos that step quickly
	@./scripts/need.sh ffmpeg ffmpeg

prepare-chromium: # the one without windows does the same with a fifth less work; what is printed needs the other
	@./scripts/need.sh chromium chromium
	@./scripts/need.sh chromium-headless-shell chromium-headless-shell || true

prepare-web: web/node_modules/.package-lock.json

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@
