# `make demo` and `make test` each do all that is needed on a fresh machine.
.PHONY: setup linker build demo demo-cluster test bench truth mutants lint format openapi screenshots clean

INSTALL = for p in $(1); do dpkg -s $$p >/dev/null 2>&1 || missing="$$missing $$p"; done; \
	if [ -n "$$missing" ]; then \
		SUDO=$$([ $$(id -u) = 0 ] || echo sudo); \
		$$SUDO apt-get update -qq && $$SUDO apt-get install -y -qq $$missing >/dev/null; \
	fi
ARCH := $(if $(filter aarch64,$(shell uname -m)),arm64,x64)
PUBLISH := dotnet publish --no-restore --nologo -v quiet -c Release -r linux-$(ARCH)
PORT ?= 7420

build: bin/revtald bin/revtal bin/revtal-demo

console/node_modules/.package-lock.json: console/package-lock.json
	cd console && npm ci --loglevel=error
	touch $@

PAGES := $(shell find console/src console/public console/index.html console/vite.config.ts -type f)

console/dist/index.html: console/node_modules/.package-lock.json $(PAGES)
	cd console && npm run --silent build
	touch $@

SOURCES := $(shell find src -name '*.cs' -not -path '*/obj/*' -o -name '*.csproj' -not -path '*/obj/*') \
	Directory.Build.props Directory.Packages.props

build/.restored: $(shell find src tests bench -name '*.csproj' -not -path '*/obj/*') Directory.Packages.props
	dotnet restore Revtal.slnx --locked-mode --nologo -v quiet
	mkdir -p build && touch $@

bin/revtald: $(SOURCES) console/dist/index.html build/.restored
	$(PUBLISH) --self-contained false src/Revtal.Service -o build/revtald
	mkdir -p bin && ln -sf ../build/revtald/revtald bin/revtald && touch -h bin/revtald

bin/revtal-demo: $(SOURCES) $(wildcard guides/*.yaml guides/pictures/*) bin/revtald
	$(PUBLISH) --self-contained false src/Revtal.Demo -o build/revtal-demo
	ln -sfn ../revtald/wwwroot build/revtal-demo/wwwroot
	ln -sf ../build/revtal-demo/revtal-demo bin/revtal-demo && touch -h bin/revtal-demo

# Compiled ahead to one file for this processor: a command at a terminal is over before a runtime has started.
bin/revtal: $(SOURCES) console/node_modules/.package-lock.json build/.restored | linker
	rm -rf build/revtal
	$(PUBLISH) src/Revtal.CommandLine -o build/revtal
	mkdir -p bin && ln -sf ../build/revtal/revtal bin/revtal && touch -h bin/revtal

# The linker of the command line.
linker:
	@$(call INSTALL,clang zlib1g-dev)

# Chromium for the console's tests, the decoders of tables and EEPROMs as oracles for ours, the PDF tools to look at
# paper, PostgreSQL and nginx for the tests of shops in a database and on several instances.
setup: linker
	@$(call INSTALL,chromium dmidecode i2c-tools poppler-utils postgresql nginx-light zbar-tools)

demo: build
	@echo "Revtal with the Saltmarsh Road data: http://127.0.0.1:$(PORT)  (Ctrl+C stops it)"
	@bin/revtal-demo --data .demo --backup:folder .demo/backups --log plain --urls http://127.0.0.1:$(PORT) --shop:name "Saltmarsh Road" --shop:taxPercent 19

# The same on three instances over a private PostgreSQL, behind nginx.
demo-cluster: build
	@$(call INSTALL,postgresql nginx-light)
	@src/Revtal.Demo/cluster $(PORT)

test: setup build lint
	tests/run

# The formatter lays the lines out at 120 columns; the SDK's own keeps what an analyzer asks for.
build/.tools: .config/dotnet-tools.json
	dotnet tool restore >/dev/null
	mkdir -p build && touch $@

lint: console/node_modules/.package-lock.json build/.restored build/.tools
	dotnet csharpier check .
	dotnet format style Revtal.slnx --no-restore --verify-no-changes --exclude src/Revtal.Storage/Migrations
	cd console && npm run --silent lint

format: console/node_modules/.package-lock.json build/.restored build/.tools
	dotnet format style Revtal.slnx --no-restore --exclude src/Revtal.Storage/Migrations
	dotnet csharpier format .
	cd console && npm run --silent format

bench: setup build
	ln -sfn ../../console/node_modules tests/EndToEnd/node_modules
	dotnet run -c Release --project bench/Revtal.Bench -- all

# What the check says of simulated machines of known state: cases, wrong, unsure.
truth: build/.restored
	dotnet run -c Release --project bench/Revtal.Bench -- truth

# Changes the heart in small ways, one at a time, and counts which of them no test of the heart notices. Hours for all of
# it; FILES names a part: make mutants FILES='Planning/P*.cs'
# Every mutant meets every test: asking first which test reaches what takes ten seconds a test with this runner.
STRYKER := 5.1.0
FILES ?= Checks/*.cs Bench/*.cs Orders/**/*.cs Planning/*.cs
mutants: build/.restored
	[ -x build/mutants/dotnet-stryker ] || \
		dotnet tool install --tool-path build/mutants dotnet-stryker --version $(STRYKER) >/dev/null
	cd tests/Revtal.Core.Tests && ../../build/mutants/dotnet-stryker --test-runner mtp --project Revtal.Core.csproj \
		$(foreach f,$(FILES),--mutate '**/$(f)') --output ../../build/mutants/report --reporter cleartext --reporter json

# The API's description and the console's types from it, the guide's schema and its page of keys; tests hold them to the
# code.
openapi: console/node_modules/.package-lock.json build/.restored
	tests/openapi

screenshots: setup build
	ln -sfn ../../console/node_modules tests/EndToEnd/node_modules
	node tests/EndToEnd/screenshots.mjs

clean:
	rm -rf bin build console/dist .demo
	find . -name obj -type d -not -path './console/*' -prune -exec rm -rf {} +
