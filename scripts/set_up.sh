#!/bin/sh
# Makes the virtual environment and puts the locked packages and this one into it: set_up.sh PYTHON VENV LOCK
set -eu
python=$1 venv=$2 lock=$3

"$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' || {
    echo "Auditra needs Python 3.11 or newer; $("$python" --version) was found. Name another: make PYTHON=python3.12" >&2
    exit 1
}
[ -x "$venv/bin/python" ] || "$python" -m venv "$venv" || {
    echo "The venv module is missing. On Debian: apt-get install python3-venv" >&2
    exit 1
}
"$venv/bin/python" -m pip install --quiet --disable-pip-version-check --require-hashes --requirement "$lock"
"$venv/bin/python" -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation --editable .
