"""Words without which a pattern cannot match."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest

from auditra.core.advert.condition_forms import COMPILED
from auditra.core.advert.phrases import needed_words

_CASES = tomllib.loads(Path(__file__).with_name("clauses.toml").read_text())


@pytest.mark.parametrize(
    ("pattern", "needed"),
    [
        ("with nothing (?:in|on) it", ("with nothing",)),
        (r"without (?:the |a )?network(?! sockets?)", ("without", "network")),
        ("displays?", ("display",)),
        ("driver|charger", ()),
        (r"[A-D] (?:only|alone)\b", ()),
        (r"(?<=\()host(?=\))", ("host",)),
        (r"Ga{0,2}n cable", ("n cable",)),
    ],
)
def test_only_what_stands_outside_of_choices_is_needed(pattern: str, needed: tuple[str, ...]) -> None:
    assert needed_words(pattern) == needed


def test_no_condition_is_passed_over_that_a_text_has() -> None:
    texts = [case["text"] for cases in _CASES.values() for case in cases]
    matched = 0
    for _, pattern, needed in COMPILED:
        for text in filter(pattern.search, texts):
            matched += 1
            assert all(word in text.lower() for word in needed), (pattern.pattern, text)
    assert matched > len(COMPILED)
