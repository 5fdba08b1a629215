# Two commands do everything: `make demo` and `make test`. The rest are their steps.
PYTHON ?= python3
PORT ?= 8642
BEHIND ?= 8643
# One more than the cores there are for: some of what is tested is time going by.
WORKERS ?= 3
# Chromium without a window's frame: Debian has it, and it takes a third less of the machine.
BROWSER ?= /usr/bin/chromium-headless-shell
VENV := .venv
# What is compiled once is kept, whatever the machine is used to: Velmot starts in half the time.
export PYTHONDONTWRITEBYTECODE :=
# Compilers and checkers make much that is soon forgotten: more room for it spares them a fifth of their time.
export NODE_OPTIONS := --max-semi-space-size=64
PY := $(VENV)/bin/python
FRONT := frontend
SOURCES := $(shell find $(FRONT)/src -type f 2>/dev/null) $(FRONT)/vite.config.ts
DATA := $(or $(VELMOT_DATA),var)

.PHONY: demo dev test bench properties fuzz mutants lint types core browser format docs pictures release

demo: $(VENV)/.runs $(FRONT)/dist/manifest.json
	@if [ -n "$(FRESH)" ]; then rm -rf "$(DATA)"; fi
	@$(PY) -m velmot.site --demo --port $(PORT)

# The workers take whatever is next, browser tests and others alike, so that all cores are busy to the end; what is only
# read takes what they leave of the machine.
test: $(VENV)/.tests $(FRONT)/dist/manifest.json $(BROWSER)
	@nice -n 15 $(MAKE) -j2 --output-sync=target lint types units & checks=$$!; \
	$(PY) -m pytest -n $(WORKERS) --dist worksteal tests/browser src/velmot/core tests; tests=$$?; \
	wait $$checks || exit 1; exit $$tests

# Both halves with reload, at one address: Vite serves what it builds and hands everything else on to Django.
dev: $(VENV)/.runs $(FRONT)/node_modules/.done
	@trap 'kill 0' EXIT INT TERM; \
	VELMOT_DEV=$(PORT) $(PY) -m velmot.site --demo --reload --port $(BEHIND) & \
	cd $(FRONT) && VELMOT_BEHIND=$(BEHIND) ./node_modules/.bin/vite --host 127.0.0.1 --port $(PORT) --strictPort --clearScreen false

lint: $(VENV)/.tests $(FRONT)/node_modules/.done
	$(VENV)/bin/lint-imports
	$(VENV)/bin/ruff check src tests
	$(VENV)/bin/ruff format --check src tests
	cd $(FRONT) && ./node_modules/.bin/eslint --max-warnings 0 --cache --cache-location node_modules/.cache/eslint src && ./node_modules/.bin/prettier --check --log-level warn --cache --cache-strategy content --cache-location node_modules/.cache/prettier src

types: $(VENV)/.tests $(FRONT)/node_modules/.done docs-current
	$(VENV)/bin/mypy
	cd $(FRONT) && ./node_modules/.bin/vue-tsc --noEmit

# What is generated from the code must be what is committed.
.PHONY: docs-site
docs-site: help/index.html

help/index.html: $(VENV)/.tests $(FRONT)/node_modules/.done $(shell find docs docs-theme -type f 2>/dev/null) mkdocs.yml CHANGELOG.md CONTRIBUTING.md
	$(PY) -m tests.docs_site

.PHONY: docs-current
docs-current: $(VENV)/.tests $(FRONT)/node_modules/.done
	$(PY) -m velmot.site.generated --check
	cd $(FRONT) && ./node_modules/.bin/openapi-typescript ../docs/openapi.json -o src/api/schema.ts --check

docs: $(VENV)/.runs $(FRONT)/node_modules/.done
	$(PY) -m velmot.site.generated
	$(PY) -m tests.drawings
	cd $(FRONT) && ./node_modules/.bin/openapi-typescript ../docs/openapi.json -o src/api/schema.ts

.PHONY: units
units: $(FRONT)/node_modules/.done
	cd $(FRONT) && ./node_modules/.bin/vitest run --test-timeout 60000

core: $(VENV)/.tests units
	$(PY) -m pytest -n $(WORKERS) src/velmot/core tests --ignore tests/browser

browser: $(VENV)/.tests $(FRONT)/dist/manifest.json $(BROWSER)
	$(PY) -m pytest -n $(WORKERS) tests/browser

# The wheel and the source archive, built, installed where nothing is, and used.
release: $(VENV)/.tests $(FRONT)/dist/manifest.json docs-site $(BROWSER)
	$(PY) -m tests.release

bench: $(VENV)/.tests $(FRONT)/dist/manifest.json $(BROWSER)
	$(PY) -m tests.bench

# Properties on many more examples than `make test` has time for, and with the smallest that fails.
# Many more random cases than `make test` has, drawn anew each time: SEED=… draws those of a run again.
properties: SEED ?= $(shell od -An -N4 -tu4 /dev/urandom | tr -d ' ')
properties: $(VENV)/.tests
	@echo "seed $(SEED)"
	VELMOT_NEW_SEEDS=1 VELMOT_EXAMPLES=400 VELMOT_SHRINK=1 $(PY) -m pytest -n $(WORKERS) --hypothesis-seed=$(SEED) tests/core tests/formats tests/presentation tests/storage

fuzz: $(VENV)/.tests
	$(PY) -m tests.hostile 20000 30000

# A sample of small breaks, and how many of them some test notices; SHARE=1 takes every one there is.
mutants: $(VENV)/.tests $(FRONT)/dist/manifest.json
	$(PY) -m tests.mutants $(SHARE)
	cd $(FRONT) && node mutants.js $(SHARE)

format: $(VENV)/.tests
	$(VENV)/bin/ruff check --fix src tests
	$(VENV)/bin/ruff format src tests
	cd $(FRONT) && ./node_modules/.bin/eslint --fix src && ./node_modules/.bin/prettier --write --log-level warn --cache --cache-strategy content --cache-location node_modules/.cache/prettier src

$(VENV)/.runs: requirements.txt pyproject.toml
	test -x $(PY) || $(PYTHON) -m venv $(VENV)
	$(PY) -m pip install -q --disable-pip-version-check -r requirements.txt
	$(PY) -m pip install -q --disable-pip-version-check --no-deps -e .
	touch $@

$(VENV)/.tests: requirements-dev.txt $(VENV)/.runs
	$(PY) -m pip install -q --disable-pip-version-check -r requirements-dev.txt
	touch $@

$(FRONT)/node_modules/.done: $(FRONT)/package-lock.json $(FRONT)/package.json $(FRONT)/.npmrc
	cd $(FRONT) && npm ci --no-audit --no-fund --loglevel=error
	touch $@

$(FRONT)/dist/manifest.json: $(FRONT)/node_modules/.done $(SOURCES)
	cd $(FRONT) && ./node_modules/.bin/vite build --logLevel warn
	touch $@

$(BROWSER):
	apt-get update -q
	apt-get install -y -q --no-install-recommends $(notdir $(BROWSER)) || apt-get install -y -q --no-install-recommends chromium

pictures: $(VENV)/.tests $(FRONT)/dist/manifest.json $(BROWSER)
	$(PY) -m tests.pictures
