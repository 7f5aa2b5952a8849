#!/usr/bin/env bash
# Runs all the tests: format, vet, Go tests, nonsense for every parser, then the real interface in
# Chromium, and the bench's path in Firefox. Installs what they need when it is missing (Debian:
# chromium-headless-shell, firefox-esr, nginx; npm: the test runner). Says what it does, and how long each part took.
#
#   ./test.sh              what the project's check runs: long tests by samples
#   WHOLE=1 ./test.sh      every case of every test
set -euo pipefail
cd "$(dirname "$0")"
export CGO_ENABLED=0 PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 PUPPETEER_SKIP_DOWNLOAD=1 CI="${CI:-}"
short=-short
[ -z "${WHOLE:-}" ] || short=""

# The shop's file is written through to the disk at every transaction: in memory the tests do
# not hang on how busy this machine's disk is.
work=$(mktemp -d)
if [ -w /dev/shm ]; then work=$(mktemp -d -p /dev/shm yatai.XXXXXX); export GOTMPDIR="${GOTMPDIR:-/tmp}" TMPDIR="$work"; fi
trap 'rm -rf "$work"' EXIT

began=$SECONDS last=$SECONDS
took() { echo "== $1: $((SECONDS - last)) s, $((SECONDS - began)) s in all"; last=$SECONDS; }

export CHROMIUM="${CHROMIUM:-/usr/bin/chromium-headless-shell}" FIREFOX="${FIREFOX:-/usr/bin/firefox-esr}"
browsers() { # what the browser tests need; it waits for the network, so it goes on beside the compiler
  missing=""
  [ -x "$CHROMIUM" ] || missing="$missing chromium-headless-shell"
  [ -x "$FIREFOX" ] || missing="$missing firefox-esr"
  [ -x /usr/sbin/nginx ] || missing="$missing nginx-light"
  command -v openssl >/dev/null || missing="$missing openssl"
  if [ -n "$missing" ]; then
    root=""; [ "$(id -u)" = 0 ] || root=sudo
    # shellcheck disable=SC2086
    $root apt-get update -qq && $root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null
  fi
  (cd e2e && npm ci --no-audit --no-fund --silent)
}
browsers >"$work/browsers" 2>&1 &
installing=$!

unformatted=$(gofmt -l cmd core demo internal shop store web)
if [ -n "$unformatted" ]; then echo "gofmt would change: $unformatted"; exit 1; fi
go build -o "$work/yatai" ./cmd/yatai
took "format and build"
go vet ./...
took "vet"
go tool staticcheck ./...
took "staticcheck"
# A date is a date west of Greenwich, where all tests run, and far in the east too.
TZ=America/New_York go test -vet=off $short ./...
took "Go tests"
TZ=Asia/Tokyo go test -vet=off -count=1 $short ./shop/following ./shop/intake ./shop/quoting ./shop/week ./shop/work
took "time zones"
# Every parser and every door is given nonsense, so many times; longer: FUZZ=10m ./test.sh
# (counted, not timed: a fuzzing that runs out of time may end as a failed test without a fault)
for target in FuzzDoor FuzzDecode FuzzParse FuzzParseHours FuzzTable; do
  go test -vet=off ./internal/fuzz -run xxx -fuzz "^$target\$" -fuzztime "${FUZZ:-3000x}" >"$work/$target" || { tail -40 "$work/$target"; exit 1; }
done
took "nonsense"

wait "$installing" || { cat "$work/browsers"; exit 1; }
export YATAI="$work/yatai"
cd e2e
npx playwright test
took "browsers"
