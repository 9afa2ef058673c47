# Every target prepares what it needs. `make help` lists them.
SHELL := /bin/bash
PORT ?= 8000
PY := .venv/bin/python
PNPM := $(CURDIR)/.tools/node_modules/.bin/pnpm
MANAGE := $(PY) server/manage.py
AT_ONCE ?= 2
APPS = $(addprefix server/,accounts advice archive box days demo instruments lake lookback practice project standins waters)
LOCAL := STILLTHREAD_LOCAL=1
# The core is installed as it lies; scripts and tests also use its tests and the server.
EDITABLE = .venv/bin/uv pip install -q --python $(PY) --no-deps --no-build-isolation -e core
SCRIPT = PYTHONPATH=core:server $(PY)
# The page holds the rooms of the core that the device runs.
DEVICE_CORE = $(addprefix core/stillthread/,trade search practice)
WEB_SOURCES := $(shell find web/src web/public $(DEVICE_CORE) -type f -not -name '*.pyc' 2>/dev/null) \
	web/index.html web/vite.config.ts web/python.ts web/package.json

.PHONY: help demo backup restore dev format test test-page test-quick test-long test-postgres coverage advice physics web wheel lint types schema bench sweep search practice lookback lake soak chaos screenshots standins test-core clean

help: ## list the targets
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 16

demo: .venv/runtime web/dist/index.html ## set up, load the demo season, serve on 127.0.0.1:$(PORT)
	@mkdir -p var
	@$(LOCAL) $(MANAGE) migrate -v0 --skip-checks
	@$(LOCAL) $(MANAGE) load_demo
	@echo "Still Thread: http://127.0.0.1:$(PORT)"
	@cd server && $(LOCAL) STILLTHREAD_DEMO=1 STILLTHREAD_LISTEN=127.0.0.1:$(PORT) exec ../.venv/bin/python -m project.serve

dev: .venv/test web/node_modules/.stamp ## both sides reload as they are edited; the page on 127.0.0.1:5173
	@mkdir -p var
	@$(LOCAL) $(MANAGE) migrate -v0 --skip-checks
	@$(LOCAL) $(MANAGE) load_demo
	@trap 'kill 0' EXIT; (cd web && $(PNPM) -s exec vite --host 127.0.0.1 --strictPort) & \
		$(LOCAL) STILLTHREAD_DEMO=1 $(MANAGE) runserver 127.0.0.1:8000

format: .venv/test web/node_modules/.stamp ## put everything into its one form
	@.venv/bin/ruff check -q --fix .
	@.venv/bin/ruff format -q .
	@cd web && $(PNPM) -s exec prettier --log-level warn --write .

backup: .venv/runtime ## copy the store while it is written to, into var/backups
	@$(LOCAL) $(MANAGE) backup

restore: .venv/runtime ## put a copy in the store's place: make restore FROM=var/backups/...
	@$(LOCAL) $(MANAGE) restore "$(FROM)"

standins: .venv/runtime ## start a simulated sounder, weather station and forecast service on 127.0.0.1
	@cd server && exec ../.venv/bin/python -m standins

test: .venv/test web/dist/index.html ## install what is missing, then lint, types, and every test
	@scripts/need-chromium
	@$(MAKE) --no-print-directory lint types wheel test-page
	@mkdir -p var
	@$(LOCAL) $(MANAGE) test --no-input --parallel $(AT_ONCE) server core/tests

test-page: web/node_modules/.stamp ## the page's own tests, without a browser
	@cd web && $(PNPM) -s exec vitest run --reporter=dot --silent

test-quick: .venv/test web/node_modules/.stamp ## what a change breaks most often, in a minute and a half: the core and the server without the browser's tests
	@mkdir -p var
	@$(MAKE) --no-print-directory test-page
	@$(LOCAL) $(MANAGE) test --no-input --parallel $(AT_ONCE) --exclude-tag slow core/tests $(APPS)

test-long: .venv/test web/dist/index.html ## every test, with properties held to many more examples than at every run
	@scripts/need-chromium
	@mkdir -p var
	@$(LOCAL) STILLTHREAD_TESTS=long $(MANAGE) test --no-input --parallel $(AT_ONCE) server core/tests

test-postgres: .venv/test web/dist/index.html ## every test of the server, the browser's too, against Debian's PostgreSQL
	@scripts/need-chromium
	@$(LOCAL) scripts/with-postgres $(MANAGE) test --no-input server

coverage: .venv/test ## lines and branches that the core's and the server's tests run, without the browser's
	@mkdir -p var
	@$(LOCAL) .venv/bin/coverage run --data-file=var/coverage server/manage.py test --no-input core/tests \
		$(APPS)
	@.venv/bin/coverage report --data-file=var/coverage --skip-covered --sort=cover | tail -25

test-core: .venv/test ## the core's tests alone, without the web framework
	@cd core && ../.venv/bin/python -m unittest

wheel: .venv/test ## build the core's wheel, and prove it in an environment with nothing else in it
	@scripts/check-wheel

lint: .venv/test web/node_modules/.stamp ## ruff, arrows between rooms, eslint, prettier, stale contract and migrations
	@.venv/bin/ruff check .
	@.venv/bin/ruff format --check .
	@cd core && ../.venv/bin/lint-imports --no-logo --no-cache
	@cd server && PYTHONPATH=. ../.venv/bin/lint-imports --no-logo --no-cache
	@cd web && $(PNPM) -s lint && $(PNPM) -s exec knip --no-progress --no-config-hints
	@.venv/bin/vulture --config requirements/vulture.toml
	@$(LOCAL) $(MANAGE) makemigrations --check --dry-run -v0
	@scripts/check-contract

types: .venv/test web/node_modules/.stamp ## mypy on core, server, tests and scripts, tsc on the web part
	@cd core && ../.venv/bin/mypy --strict stillthread tests
	@MYPYPATH=core:server:scripts .venv/bin/mypy --strict --config-file scripts/mypy.ini scripts/*.py
	@cd server && $(LOCAL) ../.venv/bin/mypy .
	@cd web && $(PNPM) -s exec tsc --noEmit

schema: .venv/test web/node_modules/.stamp ## write the API contract and the web's types from it
	@$(LOCAL) $(MANAGE) export_openapi_schema --api project.api.api --indent 1 --output web/openapi.json
	@cd web && $(PNPM) -s types > /dev/null
	@$(SCRIPT) scripts/trade_ts.py web/src/api/trade.ts

web: web/dist/index.html ## build the web part

advice: .venv/test ## ask the plan for every row of practice, and write docs/advice.md and docs/judgement.md
	@$(SCRIPT) scripts/advice.py

physics: .venv/test ## check the simulator against the outside, and write docs/physics.md
	@$(SCRIPT) scripts/physics.py

bench: .venv/test web/dist/index.html ## measure, and write docs/benchmarks.md
	@scripts/need-chromium
	@$(LOCAL) $(SCRIPT) scripts/bench.py --rows 0

sweep: .venv/test web/dist/index.html ## the same, and what a thousand random days say of the plan: a quarter of an hour
	@scripts/need-chromium
	@$(LOCAL) $(SCRIPT) scripts/bench.py

practice: .venv/test ## fish practice days by rules, and write docs/practice.md
	@OPENBLAS_NUM_THREADS=1 $(SCRIPT) scripts/practice_days.py

search: .venv/test ## simulate days of searching, and write docs/search.md
	@OPENBLAS_NUM_THREADS=1 $(SCRIPT) scripts/search_days.py

lookback: .venv/test ## hold what is learnt from a log against seasons whose truth is known, and write docs/lookback.md
	@OPENBLAS_NUM_THREADS=1 $(SCRIPT) scripts/lookback_proof.py

lake: .venv/test ## hold the lake that weather carries against an open lake model, and write docs/lake.md
	@PYTHONPATH=core:server $(PY) scripts/lake.py

soak: .venv/test web/dist/index.html ## try to lose an entry and to starve somebody, and write docs/reliability.md
	@scripts/need-chromium
	@$(LOCAL) $(SCRIPT) scripts/soak.py

chaos: .venv/test ## break what can break between a device and the store, and hold the store to a model of the log
	@$(LOCAL) $(SCRIPT) scripts/chaos.py

screenshots: .venv/test web/dist/index.html ## draw docs/screenshots from the demo season
	@scripts/need-chromium
	@$(LOCAL) STILLTHREAD_DEMO=1 $(SCRIPT) scripts/screenshots.py

clean: ## remove everything built or downloaded; the database in var/ stays
	rm -rf .venv .tools web/node_modules web/dist

.venv/bin/uv: requirements/tools.txt
	@scripts/make-venv

.venv/runtime: .venv/bin/uv requirements/runtime.txt
	@[ -e .venv/test ] || .venv/bin/uv pip install -q --compile-bytecode --python $(PY) --require-hashes -r requirements/runtime.txt
	@$(EDITABLE)
	@touch $@

.venv/test: .venv/bin/uv requirements/test.txt
	@.venv/bin/uv pip install -q --compile-bytecode --python $(PY) --require-hashes -r requirements/test.txt
	@$(EDITABLE)
	@touch $@ .venv/runtime

$(PNPM):
	@npm install --silent --no-save --prefix .tools pnpm@10.34.9 2>/dev/null

web/node_modules/.stamp: $(PNPM) web/package.json web/pnpm-lock.yaml
	@cd web && $(PNPM) install --frozen-lockfile --silent
	@touch $@

web/dist/index.html: web/node_modules/.stamp $(WEB_SOURCES)
	@mkdir -p var/old-assets && if [ -d web/dist/assets ]; then find web/dist/assets -maxdepth 1 -type f -exec cp -p {} var/old-assets/ \;; fi
	@find var/old-assets -type f -mtime +30 -delete
	@cd web && $(PNPM) -s exec vite build --logLevel error
