"""Identities of partners and cables, from their vendor data objects."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.identity import decode_identity, limits_in_words
from tests.support.vectors import vectors

WORD = st.integers(0, 2**34)


@pytest.mark.parametrize("vector", vectors("identities")["identities"], ids=lambda vector: str(vector["name"]))
def test_what_an_identity_says(vector: dict[str, Any]) -> None:
    header, cert, product, *types = (int(each, 16) for each in vector["vdos"])
    found = decode_identity(header, cert, product, tuple(types), of_cable=vector["of cable"])
    assert found is not None
    assert found.sort == vector["sort"]
    told = limits_in_words(found.cable) if found.cable is not None else found.header.partner_type
    assert told == vector["told"]
    assert found.header.vid == 0x1F6E


def test_nothing_was_discovered_yet() -> None:
    assert decode_identity(0, 0, 0, (0, 0, 0), of_cable=True) is None


@given(WORD, WORD, WORD, st.lists(WORD, max_size=4), st.booleans())
def test_any_words_give_a_value(header: int, cert: int, product: int, types: list[int], of_cable: bool) -> None:
    found = decode_identity(header, cert, product, tuple(types), of_cable=of_cable)
    assert found is None or all(0 <= each < 2**32 for each in found.raw)
    assert found is None or found.cable is None or (found.cable.most_w or 0) <= 240
