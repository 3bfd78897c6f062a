# Two commands matter: `make demo` and `make test`. The rest is what they are made of.
SHELL := /bin/bash
.DEFAULT_GOAL := help
# Some machines set this; it makes every start recompile everything.
unexport PYTHONDONTWRITEBYTECODE
# A newer npm is nothing to tell whoever starts a demo.
export NPM_CONFIG_UPDATE_NOTIFIER := false

BIN := .venv/bin
# Debian's own, where it can make an environment: a Python that was built beside it is mostly not tuned, and a sixth slower.
PYTHON3 ?= $(shell /usr/bin/python3.11 -c 'import ensurepip' 2>/dev/null && echo /usr/bin/python3.11 || echo python3)
NPM := npm --prefix web
RUN := .run
SITE := src/deriva/site/index.html
PYTHON := $(RUN)/python
PORT ?= 8420

# Downloads, compilers and checkers side by side: each waits for the network or keeps one core busy.
TWO := $(MAKE) --no-print-directory --jobs=2 --output-sync=target

.PHONY: help install installed wheel setup built checked unit demo stop test test-core slow crash partitioned pooled failover contract audit lint types bench dev format docs openapi screenshots icons lock clean

help:
	@echo "make demo         install, build, start PostgreSQL and the app with demo data, print the address"
	@echo "make stop         stop the app and its database (data stays)"
	@echo "make test         install, lint, type-check and run every test"
	@echo "make install      what it takes to run it for real: no test tools, no browser, no PostgreSQL"
	@echo "make wheel        the same as one file to install elsewhere (dist/)"
	@echo "make test-core    the core's tests alone, in seconds"
	@echo "make slow         browser tests with pages four times slower, beside two busy loops"
	@echo "make crash        fifty rounds of killing service, database and phone amid a stream of taps, twenty of a full disk and the like"
	@echo "make partitioned  the service's tests on a database that is parted by angler"
	@echo "make pooled       the service's tests through a pooler that hands on every transaction"
	@echo "make failover     kill a primary under load and promote its replica, three times"
	@echo "make contract     the whole API against its own document, many examples"
	@echo "make audit        known faults of the dependencies, as far as the lists can be read"
	@echo "make bench        speed, skill and load, as ratios"
	@echo "make dev          the app with reload, and Vite beside it, on the demo's database"
	@echo "make format       format Python and TypeScript"
	@echo "make docs         write the pages that follow from the code (docs/glossary.md, docs/many-machines.sql)"
	@echo "make openapi      write openapi.json and the TypeScript types made from it"
	@echo "make screenshots  take docs/screenshots/ again from the demo data"
	@echo "make icons        draw the icons of an installed app from web/public/icon.svg"

# --- set-up: each stamp is remade only when what it depends on changes ---

setup: $(RUN)/apt $(RUN)/python $(RUN)/node $(RUN)/kernels

$(RUN)/apt: scripts/apt.sh
	@mkdir -p $(RUN)
	@scripts/apt.sh
	@touch $@

# For running it for real: where the development set-up is there already, it does.
$(RUN)/runtime: requirements.lock pyproject.toml
	@mkdir -p $(RUN)
	@test -x $(BIN)/python || $(PYTHON3) -m venv .venv
	@test -e $(RUN)/python || { \
	  $(BIN)/pip install --quiet uv && \
	  $(BIN)/uv pip sync --quiet --python $(BIN)/python --compile-bytecode --require-hashes requirements.lock && \
	  $(BIN)/pip install --quiet uv && \
	  $(BIN)/uv pip install --quiet --python $(BIN)/python --no-deps --editable . ; }
	@touch $@

install:
	@$(MAKE) --no-print-directory PYTHON=$(RUN)/runtime installed

installed: $(PYTHON) $(SITE) $(RUN)/kernels
	@echo "Installed. Next: set DERIVA_DATABASE_URL and DERIVA_SITE, then .venv/bin/deriva migrate and .venv/bin/deriva serve"

wheel: setup $(SITE)
	@$(BIN)/uv build --quiet --wheel --out-dir dist

# Not compiled here: most of what is installed is never imported, and compiling all of it takes longer than installing it.
$(RUN)/python: requirements-dev.lock pyproject.toml
	@mkdir -p $(RUN)
	@test -x $(BIN)/python || $(PYTHON3) -m venv .venv
	@$(BIN)/uv --version >/dev/null 2>&1 || $(BIN)/pip install --quiet uv
	@$(BIN)/uv pip sync --quiet --python $(BIN)/python --require-hashes requirements-dev.lock
	@$(BIN)/uv pip install --quiet --python $(BIN)/python --no-deps --no-build-isolation --editable .
	@touch $@

$(RUN)/node: web/package-lock.json
	@mkdir -p $(RUN)
	@cd web && npx --yes npm@10.9.9 ci --no-audit --no-fund --loglevel=error
	@touch $@

# The numeric kernels are compiled ahead, so that the first request is not the slow one.
# What was compiled before goes: a kernel does not notice that one which it calls has changed.
$(RUN)/kernels: $(PYTHON) $(shell find src/deriva/core -name '*.py' -o -name '*.csv')
	@find src -name '*.nb[ic]' -delete
	@$(BIN)/deriva warm
	@touch $@

# What runs on the phone: the core's portable modules and the Python that runs them, beside the front end.
$(RUN)/engine: $(RUN)/node $(PYTHON) scripts/engine.py $(shell find src/deriva/core -name '*.py' -o -name '*.csv')
	@$(BIN)/python scripts/engine.py
	@touch $@

$(SITE): $(RUN)/node $(RUN)/engine $(shell find web/src web/public -type f -not -path '*/engine/*' 2>/dev/null) web/index.html web/vite.config.ts
	@$(NPM) run --silent build

built: setup $(SITE)
	@:

# --- run ---

demo:
	@$(TWO) built
	@$(BIN)/python scripts/demo.py start --port $(PORT)

stop:
	@$(BIN)/python scripts/demo.py stop

# The service with reload, and Vite with its own in front of it.
dev: built
	@$(BIN)/python scripts/demo.py dev --port $(PORT)

format: $(RUN)/python $(RUN)/node
	@$(BIN)/ruff check --quiet --fix . ; $(BIN)/ruff format --quiet . && $(NPM) run --silent format

docs: $(RUN)/python
	@$(BIN)/python scripts/docs.py

# --- check ---

test:
	@$(TWO) checked
	@$(BIN)/pytest -n 3  # on two cores: one waits, for a page or a timer, while two compute

checked: built lint types unit
	@:

unit: $(RUN)/node
	@$(NPM) run --silent test

test-core: $(RUN)/python
	@$(BIN)/pytest tests/core

# Nothing may hang on how fast a machine is: the browser tests with pages four times slower, beside two busy loops.
slow: built
	@trap 'kill 0' EXIT; for _ in 1 2; do (while :; do :; done) & done; DERIVA_THROTTLE=4 $(BIN)/pytest -n 2 tests/e2e

# Everything that is an angler's parted by angler, by PostgreSQL itself: nothing may ask across anglers.
partitioned: built
	@DERIVA_PARTED=1 $(BIN)/pytest -n 2 tests/service

# Through a pooler that hands every transaction to whichever of a few connections is free.
pooled: built
	@DERIVA_POOLED=1 $(BIN)/pytest tests/service

# A primary and a replica: the one is killed under load, the other takes over, and nothing acknowledged is lost.
failover: built
	@$(BIN)/python scripts/failover.py

contract: built
	@DERIVA_CONTRACT_EXAMPLES=20 $(BIN)/pytest tests/service/test_contract.py

crash: built
	@DERIVA_CRASH_ROUNDS=50 DERIVA_STRAIT_ROUNDS=20 $(BIN)/pytest tests/crash

# Known faults of what we depend on: reported, and no failure where the lists cannot be read.
audit: setup
	@$(BIN)/pip-audit --require-hashes --disable-pip -r requirements.lock || echo "pip-audit: see above, or no answer from its list"
	@$(NPM) audit --omit=dev || echo "npm audit: see above, or no answer from its list"

lint: $(RUN)/python $(RUN)/node
	@$(BIN)/ruff check . && $(BIN)/ruff format --check .
	@$(BIN)/lint-imports --no-cache >$(RUN)/imports.log || { cat $(RUN)/imports.log; exit 1; }
	@$(BIN)/python scripts/openapi.py --check
	@$(BIN)/python scripts/docs.py --check
	@$(NPM) run --silent lint
	@$(NPM) run --silent api:check

types: $(RUN)/python $(RUN)/node
	@$(BIN)/mypy --no-error-summary
	@$(NPM) run --silent types

bench: built
	@$(BIN)/deriva bench

openapi: setup
	@$(BIN)/python scripts/openapi.py
	@$(NPM) run --silent api

screenshots: built
	@$(BIN)/python scripts/screenshots.py

icons: setup
	@$(BIN)/python scripts/icons.py

# --- upkeep ---

lock: $(RUN)/python
	@$(BIN)/uv pip compile --quiet --upgrade --generate-hashes --no-emit-index-url --no-header pyproject.toml -o requirements.lock
	@$(BIN)/uv pip compile --quiet --upgrade --generate-hashes --no-emit-index-url --no-header pyproject.toml --group dev -o requirements-dev.lock

clean:
	@$(BIN)/python scripts/demo.py stop 2>/dev/null || true
	@rm -rf .venv $(RUN) web/node_modules src/deriva/site
