#!/bin/sh
# Sees to system programs: need.sh PROGRAM PACKAGE [PROGRAM PACKAGE ...]. Installs what is absent where that is allowed.
# Without them tests that need them are skipped, except in CI, where their absence is a failure.
set -eu
missing=""
while [ $# -ge 2 ]; do
    command -v "$1" >/dev/null 2>&1 || missing="$missing $2"
    shift 2
done
[ -n "$missing" ] || exit 0

if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" = 0 ]; then
    echo "Installing$missing"
    # shellcheck disable=SC2086
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq $missing; } >/dev/null 2>&1 && exit 0
fi
echo "Missing:$missing. Install them with your system's packages, as on Debian: apt-get install$missing" >&2
[ -z "${CI:-}" ]
