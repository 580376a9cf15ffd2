"""Drafts: kept under their name whatever it is, dropped when they are empty, and never in the way."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.store.drafts import DraftFolder

_TEXTS = st.dictionaries(
    st.text(max_size=8), st.text(st.characters(exclude_categories=["Cs"]), min_size=1, max_size=40)
)


@given(st.text(max_size=40), _TEXTS)
def test_what_was_typed_is_there_again(
    tmp_path_factory: pytest.TempPathFactory, name: str, texts: dict[str, str]
) -> None:
    folder = DraftFolder(tmp_path_factory.mktemp("drafts"))
    folder.keep(name, texts)
    assert folder.kept(name) == texts
    folder.drop(name)
    assert folder.kept(name) == {}


def test_an_empty_draft_is_dropped_and_a_damaged_one_is_none(tmp_path: Path) -> None:
    folder = DraftFolder(tmp_path / "drafts")
    folder.keep("a", {"x": "1"})
    folder.keep("a", {"x": ""})
    assert folder.kept("a") == {}
    folder.keep("a", {"x": "1"})
    (file,) = (tmp_path / "drafts").iterdir()
    for damage in (b"[1]", b"{", b"\xff"):
        file.write_bytes(damage)
        assert folder.kept("a") == {}


def test_a_folder_that_refuses_costs_only_the_draft(tmp_path: Path) -> None:
    (tmp_path / "drafts").write_text("a file is in the way")
    folder = DraftFolder(tmp_path / "drafts")
    folder.keep("a", {"x": "1"})
    assert folder.kept("a") == {}
