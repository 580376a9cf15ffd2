"""Copies a library into another, audit by audit; and checks one: each entry, and each piece of evidence."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.errors import AuditraError, StoreError
from auditra.core.journal.facts import Entry
from auditra.core.sanitize import sanitize
from auditra.store.chain import FIRST_LINK
from auditra.store.evidence import copy_evidence, problems_of_evidence
from auditra.store.journal import StoredJournal
from auditra.store.library import Library


class Copied(StrEnum):
    """What became of an audit."""

    NEW = "copied"
    LONGER = "went on"
    THERE = "there already"
    REFUSED = "refused"


@dataclass(frozen=True)
class Step:
    """One audit is done with, of so many."""

    name: str
    of: int
    done: Copied
    entries: int = 0
    problems: tuple[str, ...] = ()


def copy_library(source: Library, target: Library) -> Iterator[Step]:
    """Every audit with its evidence, each whole or not at all; what is there already is left, so that a copy that was
    broken off goes on where it was. Nothing in the target is written over. Raises: StoreError.
    """
    heads, there = source.heads(), dict(target.heads())
    for name, head in heads:
        if there.get(name) == head:
            yield Step(name, len(heads), Copied.THERE)
            continue
        try:
            yield _copy(source.journal(name), target, name, len(heads), is_new=name not in there)
        except StoreError as error:
            if not _is_of_one_audit(error):
                raise
            yield Step(name, len(heads), Copied.REFUSED, problems=(f"{error}",))


def _is_of_one_audit(error: StoreError) -> bool:
    """What is wrong with one audit stops no other; a disk that is full or a line that is cut does."""
    from auditra.core.errors import LibraryFull, LibraryReadOnly, LibraryUnreachable

    return not isinstance(error, LibraryFull | LibraryReadOnly | LibraryUnreachable)


def _copy(journal: StoredJournal, target: Library, name: str, of: int, *, is_new: bool) -> Step:
    entries = journal.entries()
    lost = tuple(copy_evidence((entry.fact for entry in entries), journal.evidence.read, target.evidence))
    if is_new:
        made = target.restore(name, entries)
    else:
        made = target.journal(name)
        _go_on(made, journal, entries)
    copied = made.entries()
    differing = next(
        (each.number for each in entries if made.link_of(each.number) != journal.link_of(each.number)), None
    )
    if differing is not None or len(copied) != len(entries):
        why = f"entry {differing or len(entries)} is not as it was in the library that it came from"
        raise StoreError(f'audit "{sanitize(name)}"', why=why, do="Remove it there, and copy it again")
    return Step(name, of, Copied.NEW if is_new else Copied.LONGER, len(entries), lost)


def _go_on(made: StoredJournal, journal: StoredJournal, entries: tuple[Entry, ...]) -> None:
    """Append what the target lacks. Raises: StoreError where it has something that the source has not."""
    known = len(made.entries())
    if known > len(entries) or (made.link_of(known) or FIRST_LINK) != journal.link_of(known):
        why = "another audit of this name, or other entries of it, are there"
        raise StoreError(f'audit "{sanitize(made.name)}"', why=why, do="Rename one of them, then copy again")
    made.append_all((entry.fact, entry.action, entry.at, entry.writer) for entry in entries[known:])


def check_library(library: Library) -> Iterator[Step]:
    """Walk every chain, and look at every piece of evidence that is named. Raises: StoreError."""
    heads = library.heads()
    for name, _ in heads:
        journal = library.journal(name)
        try:
            entries = journal.entries()
        except AuditraError as error:
            yield Step(name, len(heads), Copied.REFUSED, problems=(f"{error}",))
            continue
        problems = tuple(problems_of_evidence((entry.fact for entry in entries), journal.evidence))
        yield Step(name, len(heads), Copied.THERE, len(entries), problems)
