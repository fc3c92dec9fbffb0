# Pavese: `make demo` starts it, `make test` checks everything; both set up what a fresh machine lacks.
SHELL := /bin/bash
PY := .venv/bin/python
STAMPS := .stamps
NODE_MODULES := frontend/node_modules/.package-lock.json
SOURCES := $(shell find src -name '*.py' 2>/dev/null)
# What was compiled is kept, whatever the machine says: a child that reads or draws starts in a third of the time.
export PYTHONDONTWRITEBYTECODE :=
VIEWS := $(shell find frontend/src frontend/public -type f ! -name schema.d.ts 2>/dev/null) frontend/index.html

.DEFAULT_GOAL := help
.PHONY: help demo serve test lint types types-of-core types-of-views unit search bench screenshots build clean

help: ## list the targets
	@grep -hE '^[a-z]+:.*##' $(MAKEFILE_LIST) | sed -E 's/^([a-z]+):.*## /  make \1\t/' | expand -t 22

demo: build ## set up what is missing and start Pavese with the demo data
	@exec $(PY) -m pavese.cli serve --demo

serve: build ## start Pavese as it was left, without loading the demo
	@exec $(PY) -m pavese.cli serve

test: ## lint, types, import contracts and all tests
	@$(MAKE) --no-print-directory -j2 --output-sync=target lint types build
	@$(MAKE) --no-print-directory unit

lint: $(STAMPS)/venv $(NODE_MODULES) frontend/src/api/schema.d.ts
	.venv/bin/ruff check src tests benchmarks docs
	.venv/bin/ruff format --check src tests benchmarks docs
	.venv/bin/lint-imports
	cd frontend && npm run --silent lint

types: types-of-core types-of-views

types-of-core: $(STAMPS)/venv
	.venv/bin/mypy

types-of-views: $(NODE_MODULES) frontend/src/api/schema.d.ts
	cd frontend && npm run --silent types

# The long ones first, so that none is left when all else is done. Only in the browser is a failure tried a second time;
# the report says so, and it is looked into.
unit: build $(STAMPS)/system
	.venv/bin/pytest tests/api tests/render tests/formats tests/core -n 2 --dist loadfile
	.venv/bin/pytest tests/browser -n 2 --dist loadfile --durations=10 --reruns 1 -r R

search: build $(STAMPS)/system ## look for counterexamples: property tests with ten times the examples, new ones each time
	.venv/bin/pytest tests/core tests/formats --hypothesis-profile=search

bench: build ## measure speed and quality: name, value, bound, ok or short
	@$(PY) benchmarks/run.py

screenshots: build ## draw docs/screenshots anew from the demo data
	$(PY) docs/take_screenshots.py

build: $(STAMPS)/system frontend/dist/index.html $(STAMPS)/fonts ## build the interface

clean: ## remove everything that was built; the data in .data stays
	rm -rf .venv $(STAMPS) frontend/node_modules frontend/dist frontend/openapi.json frontend/src/api/schema.d.ts

$(STAMPS)/system: ops/system.sh
	@mkdir -p $(STAMPS)
	@bash ops/system.sh
	@touch $@

$(STAMPS)/venv: requirements/run.txt requirements/dev.txt pyproject.toml | $(STAMPS)/system
	test -x $(PY) || python3 -m venv .venv
	.venv/bin/pip install --quiet --disable-pip-version-check -r requirements/run.txt -r requirements/dev.txt
	.venv/bin/pip install --quiet --disable-pip-version-check --no-deps --editable .
	@touch $@

$(NODE_MODULES): frontend/package.json frontend/package-lock.json | $(STAMPS)/system
	cd frontend && npm ci --no-progress --loglevel=error
	@touch $@

frontend/src/api/schema.d.ts: $(STAMPS)/venv $(NODE_MODULES) $(SOURCES)
	@$(PY) -m pavese.cli openapi > frontend/openapi.new
	@if cmp -s frontend/openapi.new frontend/openapi.json && test -f $@; then rm frontend/openapi.new; touch $@; \
	else mv frontend/openapi.new frontend/openapi.json && cd frontend && npm run --silent schema; fi

frontend/dist/index.html: frontend/src/api/schema.d.ts $(VIEWS) frontend/vite.config.ts $(NODE_MODULES)
	cd frontend && npm run --silent build -- --logLevel warn
	@touch $@

$(STAMPS)/fonts: $(STAMPS)/venv $(NODE_MODULES)
	$(PY) -m pavese.cli fonts frontend/node_modules
	@touch $@
