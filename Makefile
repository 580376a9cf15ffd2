# Each target does all its own set-up on a fresh machine.

PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
TESTS ?=
DEVICES ?=
# Compiled modules are kept: hundreds of tests start a Python of their own.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: demo test all-tests screenshots lock clean

demo: $(VENV)/demo.stamp
	@$(BIN)/auditra demo

test: $(VENV)/dev.stamp tmux
	@sh scripts/need.sh pg_ctlcluster postgresql openssl openssl
	$(BIN)/ruff format --check .
	$(BIN)/ruff check .
	$(BIN)/mypy
	$(BIN)/lint-imports
	$(BIN)/pytest -n 2 -m "not slow" $(TESTS)

# What CI runs: all of it, with whole audits, screens, a browser and a database server.
all-tests: test
	@sh scripts/need.sh chromium chromium
	$(BIN)/pytest -n 2 -m slow $(TESTS)

screenshots: $(VENV)/dev.stamp tmux
	@sh scripts/need.sh xterm xterm Xvfb xvfb import imagemagick
	$(BIN)/python scripts/screenshots.py

bench: $(VENV)/dev.stamp tmux
	$(BIN)/python -m benchmarks.storage_engine
	$(BIN)/python -m benchmarks.network_engine
	$(BIN)/python -m benchmarks.judging_and_journal
	$(BIN)/python -m benchmarks.planning
	$(BIN)/python -m benchmarks.findings
	$(BIN)/python -m benchmarks.claim_language
	$(BIN)/python -m benchmarks.host_and_decoders
	$(BIN)/python -m benchmarks.instruments
	$(BIN)/python -m benchmarks.logs_and_captures
	$(BIN)/python -m benchmarks.reports
	$(BIN)/python -m benchmarks.team_library
	$(BIN)/python -m benchmarks.start
	$(BIN)/python -m benchmarks.keys

examples: $(VENV)/run.stamp
	$(BIN)/python scripts/examples.py

truth: $(VENV)/dev.stamp
	$(BIN)/python -m tests.truth 5000 $(DEVICES)

fuzz: $(VENV)/dev.stamp
	$(BIN)/python scripts/fuzz.py

lock: $(VENV)/dev.stamp
	sh scripts/lock.sh $(BIN)

tmux:
	@sh scripts/need.sh tmux tmux

.PHONY: tmux bench examples truth fuzz

$(VENV)/run.stamp: requirements.lock pyproject.toml
	sh scripts/set_up.sh $(PYTHON) $(VENV) requirements.lock
	@touch $@

# Some audits of the demo are finished, some half done: they are run here, once, on the simulated bench.
$(VENV)/demo.stamp: $(VENV)/run.stamp
	@echo "Running the first audits of the demo; this takes a moment."
	@$(BIN)/auditra demo --prepare
	@touch $@

$(VENV)/dev.stamp: requirements-dev.lock pyproject.toml
	sh scripts/set_up.sh $(PYTHON) $(VENV) requirements-dev.lock
	@touch $@ $(VENV)/run.stamp

clean:
	rm -rf $(VENV) .mypy_cache .pytest_cache .ruff_cache .import_linter_cache .hypothesis
