# Two commands matter: `make demo` and `make test`. Both install what they need, and are quick when repeated.

SHELL := bash
.SHELLFLAGS := -eu -o pipefail -c
.ONESHELL:
.DEFAULT_GOAL := help

BINARY := target/release/warm-blend
CARGO_BUILD := cargo build --release --locked --quiet -p warm-blend-server
SUDO := $(shell [ "$$(id -u)" = 0 ] || echo sudo)

.PHONY: help demo serve build test torture fuzz truth strings lint web api licences tools browser bench screenshots techniques clean

help: ## What there is
	@grep -hE '^[a-z]+:.*##' $(MAKEFILE_LIST) | sed -E 's/^([a-z]+):.*## /  make \1\t/' | expand -t 22

demo: build ## Build, and serve the demo workspace at a printed local address
	@exec $(BINARY) demo

serve: build ## Build, and serve your own workspace
	@exec $(BINARY) serve --open

build: | tools ## The one binary, with the front end inside
	@# The engine is compiled while the front end is fetched and bundled.
	mkdir -p web/dist
	$(CARGO_BUILD) & engine=$$!
	$(MAKE) --no-print-directory web
	wait $$engine
	# A front end that came too late for it is taken in now.
	$(CARGO_BUILD)

test: browser web ## Every test: engine, HTTP, and the real interface in Chromium
	@cargo test --workspace --locked

torture: web ## Two hundred rounds of kill -9, full disks and files taken away, under a painter at work
	@TORTURE_ROUNDS=200 cargo test --locked -p warm-blend-server --test program torture -- --nocapture

fuzz: ## Importers of files and archives under random bytes, for long
	@PROPTEST_CASES=20000 cargo test --workspace --locked --test archive --test files --quiet

truth: ## How near predictions come: the engine's own virtual paints, and paints made by radiative transfer
	@cargo test --workspace --locked --quiet --test sim -- --nocapture radiative:: closed_loop::

strings: web ## Every string that a painter can read, with its file and line
	@cargo test --workspace --locked --quiet --test strings every_visible -- --nocapture | grep -P "\t"

lint: web ## Formatting and lints of both languages
	@cargo fmt --all --check
	cargo clippy --workspace --all-targets --locked --quiet -- -D warnings
	cd web && npx biome check --error-on-warnings

web: web/dist/index.html

web/dist/index.html: web/node_modules/.package-lock.json web/index.html web/vite.config.ts web/tsconfig.json $(shell find web/src web/public -type f ! -name schema.d.ts)
	@cd web && npm run --silent build
	touch dist/index.html
	# A release build takes the front end in when it compiles.
	touch ../crates/server/src/front.rs

web/node_modules/.package-lock.json: web/package.json web/package-lock.json | tools
	@# Not `npm ci`: it refuses a lock file that does not name the builds for every other platform, and a registry may hold
	# this platform's only. Versions are those of the lock file all the same.
	cd web && npm install --no-save --no-audit --no-fund --loglevel=error
	touch node_modules/.package-lock.json

api: ## Write the description of the interface anew, for the front end's types
	@cargo run --quiet -p warm-blend-server -- openapi > web/src/api/openapi.json.new
	mv web/src/api/openapi.json.new web/src/api/openapi.json

licences: web/node_modules/.package-lock.json ## Gather the licences of all that is shipped anew, after crates or packages changed
	@command -v cargo-about >/dev/null || cargo install --locked --features cli cargo-about
	cd web && node licences.mjs

tools:
	@command -v cargo >/dev/null || { echo "Rust is missing: install it from your system or rustup, 1.95 or later."; exit 1; }
	command -v node >/dev/null && command -v npm >/dev/null || { echo "Node is missing: install Node 20.19 or later, with npm."; exit 1; }
	command -v cc >/dev/null || { echo "A C compiler is missing (SQLite is built in): apt-get install build-essential"; exit 1; }

browser: | tools
	@command -v chromium >/dev/null && command -v chromedriver >/dev/null && exit 0
	command -v apt-get >/dev/null || { echo "chromium and chromedriver are missing, and there is no apt-get to install them with."; exit 1; }
	echo "Installing chromium and chromium-driver"
	$(SUDO) apt-get update -qq
	DEBIAN_FRONTEND=noninteractive $(SUDO) apt-get install -y -qq --no-install-recommends chromium chromium-driver > /dev/null

bench: ## How fast the engine is, beside a general-purpose library from npm
	@npm install --no-save --prefix benches --no-audit --no-fund --loglevel=error
	cargo bench --locked -p warm-blend-benches

screenshots: build browser ## The pictures of docs/screenshots, from the demo
	@cargo run --quiet --locked -p warm-blend-e2e --example screenshots

techniques: ## Every technique and every ready finish on a panel of its own, in target/techniques
	@cargo run --quiet --release --locked -p warm-blend-render --example techniques -- target/techniques 1020
	echo "target/techniques/techniques.png target/techniques/finishes.png"

clean: ## Everything that was built
	@rm -rf target web/dist web/node_modules benches/node_modules
