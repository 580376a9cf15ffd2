"""Text from outside does nothing but be read."""

from __future__ import annotations

import unicodedata

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.sanitize import sanitize


def test_escape_codes_and_direction_marks_are_shown_not_obeyed() -> None:
    assert sanitize("\x1b[31mred\x07\u202edne\n") == "\ufffd[31mred\ufffd\ufffddne "


@given(st.text(), st.integers(1, 50))
def test_never_longer_than_its_limit_and_never_a_control_character(text: str, limit: int) -> None:
    shown = sanitize(text, limit)
    assert len(shown) <= limit
    assert not any(unicodedata.category(c) in ("Cc", "Cf", "Zl", "Zp") for c in shown)
