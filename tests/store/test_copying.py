"""A library copied into another of either sort, and looked through."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest

from auditra.core.journal.facts import EvidenceKept, NoteWritten
from auditra.store.copying import Copied, check_library, copy_library
from auditra.store.demos import DEMOS
from auditra.store.library import Library
from tests.store.conftest import Shelf
from tests.support.audits import BEGIN


@pytest.fixture
def source(tmp_path: Path) -> Iterator[Library]:
    made = Library(tmp_path / "source", "Ada")
    for demo in DEMOS[:3]:
        made.create(demo.name, demo.facts(), BEGIN)
    photo = made.evidence.keep(b"a photo of the label")
    made.journal(DEMOS[0].name).append([EvidenceKept(photo, "label.png", 20)], action="photo", at=BEGIN)
    yield made
    made.close()


def test_all_of_it_comes_across_entry_by_entry_and_a_second_time_nothing(source: Library, shelf: Shelf) -> None:
    target = shelf.open()
    steps = list(copy_library(source, target))
    assert [step.done for step in steps] == [Copied.NEW] * 3
    assert target.heads() == source.heads()
    for name in source.names():
        assert target.journal(name).entries() == source.journal(name).entries()
    photo = target.journal(DEMOS[0].name).read()[0].evidence[0]
    assert target.evidence.read(photo.sha256) == b"a photo of the label"
    assert [step.done for step in copy_library(source, target)] == [Copied.THERE] * 3
    assert not any(step.problems for step in check_library(target))


def test_a_copy_that_was_broken_off_goes_on(source: Library, shelf: Shelf) -> None:
    target = shelf.open()
    assert next(iter(copy_library(source, target))).done is Copied.NEW
    assert len(target.names()) == 1
    assert [step.done for step in copy_library(source, target)] == [Copied.THERE, Copied.NEW, Copied.NEW]


def test_what_was_written_since_is_appended(source: Library, shelf: Shelf) -> None:
    target = shelf.open()
    list(copy_library(source, target))
    source.journal(DEMOS[1].name).append([NoteWritten("later")], action="n", at=BEGIN)
    steps = list(copy_library(source, target))
    assert [step.done for step in steps] == [Copied.THERE, Copied.LONGER, Copied.THERE]
    assert target.heads() == source.heads()


def test_an_audit_that_went_another_way_is_refused_and_left(source: Library, shelf: Shelf) -> None:
    target = shelf.open()
    list(copy_library(source, target))
    for library, text in ((source, "here"), (target, "there")):
        library.journal(DEMOS[1].name).append([NoteWritten(text)], action="n", at=BEGIN)
    steps = list(copy_library(source, target))
    assert [step.done for step in steps] == [Copied.THERE, Copied.REFUSED, Copied.THERE]
    assert "other entries of it" in steps[1].problems[0]
    assert [note.text for note in target.journal(DEMOS[1].name).read()[0].notes] == ["there"]


def test_evidence_that_is_missing_is_told_and_stops_nothing(source: Library, shelf: Shelf) -> None:
    target = shelf.open()
    for file in (source.folder / "evidence").rglob("*"):
        if file.is_file():
            file.unlink()
    steps = list(copy_library(source, target))
    assert [step.done for step in steps] == [Copied.NEW] * 3
    assert "evidence" in steps[0].problems[0]
    assert [bool(step.problems) for step in check_library(target)] == [True, False, False]


def test_a_changed_entry_is_found(source: Library, shelf: Shelf) -> None:
    list(copy_library(source, shelf.open()))
    shelf.change("UPDATE entry SET body = replace(body, '5 Gb', '9 Gb') WHERE audit = 2")
    checked = list(check_library(shelf.open()))
    assert [step.done for step in checked] == [Copied.THERE, Copied.REFUSED, Copied.THERE]
