# Two commands do everything on a fresh machine: make demo, make test. The rest are parts of them.
SHELL := /bin/bash
PORT ?= 8080
HOST ?= 127.0.0.1
JIT := $(shell sed -n '/^;/!s/^/-d /p' config/jit.ini)

.PHONY: audit first load soak torture huge two-machines test-postgres bench-service inside nearness
.PHONY: bench-search mutate large honesty answers recorded hardship demo demo-reset start test check bench coverage jit findings reference properties screenshots openapi install build format

demo: build
	@DOKIMOS_DATA="$${DOKIMOS_DATA:-$(CURDIR)/var/demo-data}" DOKIMOS_DEMO=1 PORT=$(PORT) HOST=$(HOST) bin/start demo

demo-reset:
	@rm -rf var/demo-data
	@echo "The demo's data are gone. make demo begins anew."

start: build
	@DOKIMOS_DATA="$${DOKIMOS_DATA:-$(CURDIR)/var/data}" PORT=$(PORT) HOST=$(HOST) bin/start

install:
	@bin/install

build: install
	@bin/build

test: install
	@bin/install tests & packages=$$!; bin/build && wait $$packages
	@bin/test

check: install
	@bin/check

coverage: build ## how often 95 % intervals hold the truth
	@bin/coverage

jit: build ## what is compiled while it runs gives the bytes of what is not
	@php benchmarks/jit.php 40

bench-search: build ## what a guided search reaches on problems of known truth; goes on where it was stopped
	@php $(JIT) -d memory_limit=4G benchmarks/search.php $(SEARCH)

honesty: ## how often a search on pure noise shows an interval that excludes doing nothing
	@php -d memory_limit=1G benchmarks/honesty.php

answers: build ## what the screens' tests are drawn from, asked of the demo anew
	@php benchmarks/answers.php && cd web && npx prettier --log-level=warn --write src/recorded.json

recorded: build ## what the application answers is as recorded, to the last bit
	@php benchmarks/recorded.php

bench-service: build ## how long a service takes to answer behind nginx and php-fpm
	@bin/install tests
	@php benchmarks/service.php

inside: build ## how many records a minute a model scores inside PostgreSQL
	@bin/install tests
	@php $(JIT) benchmarks/inside.php $(ROWS) $(TREES)

nearness: build ## how near each learner comes to the best AUC of the demo, by preparation
	@php $(JIT) benchmarks/nearness.php

mutate: install ## turns rules round, one at a time: each must be caught
	@bin/mutate

large: build ## a million visits: fitted, listed, scored
	@php -d memory_limit=1G benchmarks/large.php

hardship: build ## kills, a full disk, doors and load on an installation of its own
	@php benchmarks/hardship.php

bench: build
	@php $(JIT) benchmarks/run.php
	@php $(JIT) benchmarks/learners.php
	@php $(JIT) benchmarks/workers.php
	@php $(JIT) -d memory_limit=2G benchmarks/reasons.php
	@bin/coverage

findings: build
	@php $(JIT) -d memory_limit=4G benchmarks/findings.php 20

reference:
	@php bin/reference $(DIR)

properties: build ## what holds for every learner, figure and step
	@bin/install tests
	@bin/properties

screenshots: build
	@bin/install tests
	@php bin/screenshots

openapi:
	@bin/openapi

format: install
	@php vendor/bin/php-cs-fixer fix --quiet
	@cd web && npx prettier --log-level=warn --write src

two-machines: build ## web and workers twice on one PostgreSQL, one side killed: the same bytes as alone
	@bin/install tests
	@php -d memory_limit=1G benchmarks/two-machines.php $(ROWS)

load: build ## 50 analysts and 5 trials, on both stores
	@php benchmarks/hardship.php load
	@STORE=postgres php benchmarks/hardship.php load

first: build ## seconds from a clone to the demo, and from signing in to a first list
	@php benchmarks/first-minutes.php

soak: build ## the same for an hour: memory and open files stay what they are
	@SECONDS=3600 php benchmarks/hardship.php load

huge: build ## ten million records, and two thousand columns: imported, looked at, prepared, learned from
	@php -d memory_limit=1G benchmarks/huge.php $(PART) $(ROWS)

torture: build ## 200 kills, power cuts, a moved clock, a full and a slow disk, killed upgrades, a killed database server
	@php -d memory_limit=1G benchmarks/hardship.php torture kills disk slow server

audit: install ## known weaknesses of what is built in
	@composer audit --no-interaction || echo "composer: see above, or no list of weaknesses could be reached."
	@cd web && npm audit --omit=dev || echo "npm: see above, or no list of weaknesses could be reached."

test-postgres: build ## every test of the application, with PostgreSQL as the store
	@bin/install tests
	@for suite in store api learners searches console browser; do DOKIMOS_TEST_STORE=postgres php $(JIT) vendor/bin/phpunit --no-progress --testsuite $$suite || exit 1; done
