"""Texts keep to their columns, whatever they are made of."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st
from rich.cells import cell_len

from auditra.tui.renderables.cells import cut, fill


@given(st.text(st.characters(exclude_categories=("Cc", "Cs")), max_size=30), st.integers(1, 40))
def test_a_text_fills_its_column_and_never_more(text: str, width: int) -> None:
    assert cell_len(cut(text, width)) <= width
    assert cell_len(fill(text, width)) == width


def test_wide_characters_take_two_cells() -> None:
    assert fill("四口", 6) == "四口  "
    assert cut("四口集线器", 6) == "四口…"
    assert cut("four", 4) == "four"
