# Two commands do all the set-up: `make demo` runs the main job on the demo, `make test` passes the tests.

PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
PIP := $(BIN)/python -m pip install --quiet --disable-pip-version-check --constraint constraints.txt
WORKERS ?= auto
PYTEST := $(BIN)/pytest --numprocesses $(WORKERS)

.PHONY: demo test quick thorough nightly style coverage bench fuzz wreck keys corpus conformance bench-browser scripted leads clean

# What running needs.
$(VENV)/.ready: pyproject.toml constraints.txt
	$(PYTHON) -m venv $(VENV)
	$(PIP) --editable '.[charts]'
	@touch $@

# What developing needs beside it.
$(VENV)/.ready-dev: $(VENV)/.ready
	$(PIP) --editable '.[dev]'
	@touch $@

demo: $(VENV)/.ready
	@$(BIN)/murvel demo

style: $(VENV)/.ready-dev
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

# Everything that is quick: the core, the commands, the application.
test: style
	$(PYTEST) -m "not thorough"

# The inner loop: the core alone.
quick: $(VENV)/.ready-dev
	$(PYTEST) -m "not thorough" --ignore tests/tui --ignore tests/cli

# What takes long: growth, real terminals, a real browser, properties tried on many more pages.
thorough: $(VENV)/.ready-dev
	@sh tests/system_packages.sh
	MURVEL_TESTS=thorough $(PYTEST) -m "hypothesis and not thorough"
	$(PYTEST) -m thorough

nightly: $(VENV)/.ready-dev
	MURVEL_TESTS=nightly $(PYTEST) -m hypothesis

coverage: $(VENV)/.ready-dev
	$(PYTEST) -m "not thorough" --cov --cov-report term

bench: $(VENV)/.ready-dev
	@$(BIN)/python -m bench.run $(PARTS)

# Hostile pages through everything, and damaged files of each kind: make fuzz PAGES=20000 FILES=1000
fuzz: $(VENV)/.ready-dev
	@$(BIN)/python bench/fuzz.py $(or $(PAGES),1000)
	@$(BIN)/python bench/fuzz_files.py $(or $(FILES),200)

# Programs killed while they keep, and damaged casebooks: make wreck TIMES=400
wreck: $(VENV)/.ready-dev
	@$(BIN)/python bench/wreck.py $(or $(TIMES),50)

# Keys at random, at full speed: make keys KEYS=50000 IN_BROWSER=5000
keys: $(VENV)/.ready-dev
	@$(BIN)/python bench/keys.py $(or $(KEYS),5000) $(or $(IN_BROWSER),500)

corpus: $(VENV)/.ready-dev
	@sh bench/fetch_corpus.sh .corpus
	@$(BIN)/python bench/read_corpus.py .corpus

conformance: $(VENV)/.ready-dev
	@sh bench/fetch_corpus.sh .corpus
	@$(BIN)/python bench/conformance.py

# From a key to what is heard, in a real browser.
bench-browser: $(VENV)/.ready-dev
	@$(BIN)/python bench/browser.py

# Pages with scripts against Chromium's own tree and order of Tab: make scripted ROOT=site PAGES="site/a.html site/b.html"
scripted: $(VENV)/.ready-dev
	@$(BIN)/python bench/scripted.py $(ROOT) $(PAGES)

leads: $(VENV)/.ready-dev
	@sh bench/fetch_corpus.sh .corpus
	@$(BIN)/python bench/leads_corpus.py .corpus

clean:
	rm -rf $(VENV) .corpus
