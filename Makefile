# The two commands that a newcomer needs are `make demo` and `make test`.

.PHONY: help demo demo-reset test web deb openapi sql screenshots bench setup-test

help: ## what there is to make
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/^([a-z-]+):.*## /\1\t/' | expand -t 14

demo: ## build, start a private database, load the demo workshop, serve on 127.0.0.1:8750
	@scripts/demo.sh

demo-reset: ## bring the demo workshop back as it was
	@scripts/demo.sh --reset

test: ## formatting, lints, types and all tests, the browser's included
	@scripts/test.sh

web: ## build the front end
	@scripts/setup.sh demo && scripts/web.sh

deb: ## make a Debian package
	@scripts/deb.sh

openapi: ## write the OpenAPI document that the front end's types are made from
	@cargo run --quiet -p restless-owl -- openapi > web/src/api/openapi.json.new
	@mv web/src/api/openapi.json.new web/src/api/openapi.json

sql: ## refresh .sqlx, the record of the checked queries
	@scripts/sql-check.sh

screenshots: ## make the pictures in docs/screenshots from the demo data
	@scripts/setup.sh test && scripts/web.sh && OWL_SPECS=pictures.ts cargo test --locked -p restless-owl --test browser the_real_interface

bench: ## measure the server (needs wrk) and the core
	@bench/http.sh && bench/rejudge.sh && bench/types.sh && bench/ticket.sh && bench/page.sh && bench/growth.sh && bench/door.sh && cargo bench --quiet -p owl-core

setup-test: ## install what the tests need
	@scripts/setup.sh test
