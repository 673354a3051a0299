# Two commands do all the set-up: `make demo` runs the main job on the demo, `make test` passes the tests.

PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin

.PHONY: demo test bench corpus conformance leads clean

$(VENV)/.ready: pyproject.toml constraints.txt
	$(PYTHON) -m venv $(VENV)
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --constraint constraints.txt --editable '.[dev]'
	@touch $@

demo: $(VENV)/.ready
	@$(BIN)/murvel demo

test: $(VENV)/.ready
	@sh tests/system_packages.sh
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports
	$(BIN)/pytest

bench: $(VENV)/.ready
	@$(BIN)/python bench/run.py

corpus: $(VENV)/.ready
	@sh bench/fetch_corpus.sh .corpus
	@$(BIN)/python bench/read_corpus.py .corpus

conformance: $(VENV)/.ready
	@sh bench/fetch_corpus.sh .corpus
	@$(BIN)/python bench/conformance.py

leads: $(VENV)/.ready
	@sh bench/fetch_corpus.sh .corpus
	@$(BIN)/python bench/leads_corpus.py .corpus

clean:
	rm -rf $(VENV) .corpus
