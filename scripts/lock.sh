#!/bin/sh
# Writes both lock files anew from pyproject.toml: lock.sh BIN. No URL and no host name goes into them.
set -eu
bin=$1
"$bin/python" -m pip install --quiet pip-tools
lock="$bin/pip-compile --quiet --strip-extras --generate-hashes --allow-unsafe --no-header --no-annotate \
    --no-emit-index-url --no-emit-find-links --no-emit-trusted-host"
# The build backend is locked too: the package itself is built without fetching anything unlocked.
$lock --extra dev --output-file requirements-dev.lock pyproject.toml
$lock --extra build --constraint requirements-dev.lock --output-file requirements.lock pyproject.toml
