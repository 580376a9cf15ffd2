"""Test vectors: data files that name their source."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

_FOLDER = Path(__file__).resolve().parent.parent / "vectors"


def vectors(name: str) -> Any:
    kept = json.loads((_FOLDER / f"{name}.json").read_text(encoding="utf-8"))
    assert kept["source"], f"{name}.json names no source"
    return kept
