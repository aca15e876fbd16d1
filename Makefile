# Two commands do everything from a fresh machine with Go, Node and npm:
#   make demo   runs the demo studio on http://127.0.0.1:8420
#   make test   runs every test
.PHONY: demo serve build test lint e2e shots fuzz bench soak audit clean

demo: build
	bin/tidykiln demo

serve: build
	bin/tidykiln serve

build:
	scripts/setup
	scripts/build

test:
	scripts/setup --tests
	scripts/test

# Only the browser tests, on what is built.
e2e: build
	scripts/setup --tests
	scripts/e2e

# Takes docs/screenshots afresh from the demo data.
shots: build
	scripts/setup --tests
	go build -o bin/studio ./e2e/studio
	cd e2e && node shots.mjs

# Random input, for as long as FOR says, to each reader of files and formats and to every route.
FOR ?= 60s
FUZZ_REQUESTS ?= 20000
fuzz: build
	scripts/fuzz $(FOR)
	TIDYKILN_FUZZ=$(FUZZ_REQUESTS) scripts/with-database go test -count 1 -timeout 120m -run 'RandomlySpoilt' -v ./internal/server

# Measures; see docs/performance.md. Nothing of it is part of make test.
bench: build
	scripts/setup --tests
	scripts/bench

# Kills server and database at 200 random moments of a day's work, and backs a large
# studio up while it serves; takes some minutes. TIDYKILN_SOAK says how many kills.
soak: build
	go test -tags soak -count 1 -timeout 120m -run 'EveryAcknowledged|ALargeStudio' -v ./cmd/tidykiln

# Looks for known weaknesses in what is built upon, where their databases are reached.
audit: build
	scripts/audit

clean:
	rm -rf bin ui/dist/assets ui/dist/index.html ui/node_modules e2e/node_modules bench/node_modules
