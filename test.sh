#!/usr/bin/env bash
# Runs all the tests: format, vet, Go tests, then the real interface in Chromium, and the bench's path in
# Firefox. Installs what they need when it is missing (Debian: chromium, firefox-esr, nginx; npm: the test runner).
set -euo pipefail
cd "$(dirname "$0")"
export CGO_ENABLED=0 PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 PUPPETEER_SKIP_DOWNLOAD=1 CI="${CI:-}"

# The shop's file is written through to the disk at every transaction: in memory the tests do
# not hang on how busy this machine's disk is.
work=$(mktemp -d)
if [ -w /dev/shm ]; then work=$(mktemp -d -p /dev/shm yatai.XXXXXX); export GOTMPDIR="${GOTMPDIR:-/tmp}" TMPDIR="$work"; fi
trap 'rm -rf "$work"' EXIT

unformatted=$(gofmt -l cmd core demo internal shop store web)
if [ -n "$unformatted" ]; then echo "gofmt would change: $unformatted"; exit 1; fi
go vet ./...
go tool staticcheck ./...
go test ./...
# Every parser and every door is given nonsense for some seconds; longer: go test ./core/calc -fuzz FuzzDoor -fuzztime 10m
printf '%s\n' core/calc:FuzzDoor core/head:FuzzDecode core/length:FuzzParse core/schedule:FuzzParseHours shop/inout:FuzzLook shop/library:FuzzReadLimits |
  xargs -P 2 -I {} bash -c 'f={}; go test "./${f%%:*}" -run xxx -fuzz "^${f##*:}\$" -fuzztime "${FUZZ:-3s}" -parallel 1 >"$0/fuzz.${f##*:}" || { tail -40 "$0/fuzz.${f##*:}"; exit 1; }' "$work"
for zone in America/New_York Asia/Tokyo; do # a date is a date west of Greenwich and far in the east too
  TZ=$zone go test -count=1 ./shop/following ./shop/intake ./shop/quoting ./shop/week ./shop/work
done

export CHROMIUM="${CHROMIUM:-/usr/bin/chromium}" FIREFOX="${FIREFOX:-/usr/bin/firefox-esr}"
missing=""
[ -x "$CHROMIUM" ] || missing="$missing chromium"
[ -x "$FIREFOX" ] || missing="$missing firefox-esr"
[ -x /usr/sbin/nginx ] || missing="$missing nginx-light"
command -v openssl >/dev/null || missing="$missing openssl"
if [ -n "$missing" ]; then
  root=""; [ "$(id -u)" = 0 ] || root=sudo
  # shellcheck disable=SC2086
  $root apt-get update -qq && $root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null
fi
go build -o "$work/yatai" ./cmd/yatai
export YATAI="$work/yatai"
cd e2e
npm ci --no-audit --no-fund --silent
npx playwright test
