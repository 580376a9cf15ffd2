"""What people read is plain English: phrases of an older house style must not come back into any shown text."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest

SOURCE = Path(__file__).resolve().parent.parent / "src" / "auditra"
PHRASES = (
    "accuses nobody", "less than nothing", "more than nothing", "plugged so", "taken back", "take back", "put down",
    "taken down", "take down", "is to be ", "it is so", "stands on the shelf", "of what cannot be",
    "take none", "nothing is said", "nobody ", "hangs on", "hangs at", "comes up", "came up", "come up", "seen to come",
    "what is plugged into", "is promised of", "one way inside", "mend ", "mended.", "anew", "say it of", "is told",
    "are told", "was told", "not told", "goes by this name", "off the rule", "somebody",
    "is said", "says so", "stands beside", "of itself", "besides", "held against", "in vain",
    "so fast", "has the supply", "is meant?", "is so?",
)  # fmt: skip


def shown_texts(file: Path) -> Iterator[tuple[int, str]]:
    """Every text in a file that is no docstring, with its line."""
    tree = ast.parse(file.read_text(encoding="utf-8"))
    silent = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in silent:
            yield node.lineno, node.value


@cache
def all_shown_texts() -> tuple[tuple[str, str], ...]:
    """Every text of the program, with its place."""
    return tuple(
        (f"{file.relative_to(SOURCE)}:{line}", text)
        for file in sorted(SOURCE.rglob("*.py"))
        for line, text in shown_texts(file)
    )


@pytest.mark.parametrize("phrase", PHRASES)
def test_no_shown_text_has_the_phrase(phrase: str) -> None:
    assert [f"{place}: {text[:80]}" for place, text in all_shown_texts() if phrase in text] == []
