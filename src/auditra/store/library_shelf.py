"""Every audit at a glance: as this machine kept it, else as another bench of the team judged it, else judged now."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from auditra.core.errors import AuditraError
from auditra.store.shelf_cache import KeptRows, kept_rows, read_rows, write_rows
from auditra.workflows.audits.shelf import Glance, ShelfRow, row_in_trouble, shelf_row

if TYPE_CHECKING:  # the shelf is painted before the library is loaded
    from auditra.core.judge.judged_audit import JudgedAudit
    from auditra.store.library import Library
    from auditra.workflows.audits.claim_rows import ClaimRow

_KEEPS_EVERY_S = 5.0
_ASKED_AT_ONCE = 200
"""Audits of which a team's database is asked in one go."""


class LibraryShelf:
    """The shelf of a library, which is opened when its audits are first looked at."""

    def __init__(
        self,
        folder: Path,
        library: Callable[[], Library],
        judge: Callable[[str], JudgedAudit],
        log: Callable[[str, BaseException], None],
    ) -> None:
        self._folder, self._library, self._judge, self._log = folder, library, judge, log
        self._kept: KeptRows | None = None

    def kept_rows(self) -> KeptRows:
        """The rows as they were last written, without those that are put away."""
        return self.all_kept().in_use

    def all_kept(self) -> KeptRows:
        """Read once: a start asks twice before anything is painted."""
        if self._kept is None:
            self._kept = kept_rows(self._folder)
        return self._kept

    def kept_claims(self) -> Mapping[str, tuple[ClaimRow, ...]]:
        """What was last said of the claims of each audit."""
        from auditra.store.claim_cache import read_claims

        return {name: rows for name, (_, rows) in read_claims(self._folder).items()}

    def rows(self) -> tuple[ShelfRow, ...]:
        """Every audit's row. Raises: StoreError."""
        return tuple(row for row, _ in self.each_row())

    def each_row(self) -> Iterator[tuple[ShelfRow, int]]:
        """Each audit's row, and how many there are; only those whose journal has grown are judged again.

        Raises: StoreError. One that cannot be read comes with its reason.
        """
        for glance, of in self._each(needs_claims=False):
            yield glance.row, of

    def each_audits_claims(self) -> Iterator[tuple[tuple[ClaimRow, ...], int]]:
        """What is said of the claims of each audit, and how many audits there are. One that cannot be read has none.

        Raises: StoreError.
        """
        for glance, of in self._each(needs_claims=True):
            yield glance.claims, of

    def _each(self, *, needs_claims: bool) -> Iterator[tuple[Glance, int]]:
        library = self._library()
        heads = library.heads()
        notes = _Notes(self._folder, [name for name, _ in heads], needs_claims=needs_claims)
        kept_at, to_share = time.monotonic(), list[Glance]()
        try:
            for start in range(0, len(heads), _ASKED_AT_ONCE):
                chunk = heads[start : start + _ASKED_AT_ONCE]
                unknown = {name: head for name, head in chunk if notes.known(name, head) is None}
                elsewhere = library.judged_elsewhere(unknown)
                for name, head in chunk:
                    glance = notes.known(name, head) or elsewhere.get(name)
                    if glance is None:
                        glance = self._glance(name, head)
                        to_share.append(glance)
                    notes.take(glance)
                    yield glance, len(heads)
                    if time.monotonic() - kept_at > _KEEPS_EVERY_S:
                        notes.write_rows()
                        library.share_judged(_sound(to_share))
                        kept_at, to_share = time.monotonic(), []
        finally:
            notes.write_rows()
            notes.write_claims()
            library.share_judged(_sound(to_share))
            self._kept = None

    def _glance(self, name: str, head: str) -> Glance:
        try:
            judged = self._judge(name)
        except AuditraError as error:
            return Glance(row_in_trouble(name, head, f"{error.why or error.what}"), ())
        except Exception as error:
            self._log(f"fault in judging {name}", error)
            why = f"unexpected fault: {type(error).__name__}; the log has the details"
            return Glance(row_in_trouble(name, head, why), ())
        from auditra.workflows.audits.claim_rows import claim_rows

        claims = claim_rows(judged.audit, judged.judgement)
        return Glance(shelf_row(judged.audit, judged.judgement, head), claims)


class _Notes:
    """What this machine has kept of the audits with these names; of their claims only where they are needed."""

    def __init__(self, folder: Path, names: Sequence[str], *, needs_claims: bool) -> None:
        self._folder, self._names, self._needs_claims = folder, names, needs_claims
        self._rows = read_rows(folder)
        self._claims = self._read_claims() if needs_claims else {}
        self._rows_written = tuple(self._rows.values())
        self._are_new: dict[str, tuple[str, tuple[ClaimRow, ...]]] = {}

    def known(self, name: str, head: str) -> Glance | None:
        """None where it has to be judged."""
        row = self._rows.get(name)
        if row is None or row.head != head or row.trouble:
            return None
        if not self._needs_claims:
            return Glance(row, ())
        link, claims = self._claims.get(name, ("", ()))
        return Glance(row, claims) if link == head else None

    def take(self, glance: Glance) -> None:
        """Have it kept, if it is new."""
        row = glance.row
        if self.known(row.name, row.head) is None:
            self._rows[row.name] = row
            self._are_new[row.name] = self._claims[row.name] = row.head, glance.claims

    def write_rows(self) -> None:
        """Also those that were not come to yet, as they were, so that a look that is broken off was not for nothing."""
        rows = tuple(self._rows[name] for name in self._names if name in self._rows)
        if rows != self._rows_written:
            write_rows(self._folder, rows)
            self._rows_written = rows

    def write_claims(self) -> None:
        """Reads and rewrites the whole file, so it is called once, at the end."""
        if self._are_new:
            from auditra.store.claim_cache import write_claims

            claims = self._read_claims() | self._are_new
            write_claims(self._folder, {name: claims[name] for name in self._names if name in claims})

    def _read_claims(self) -> dict[str, tuple[str, tuple[ClaimRow, ...]]]:
        from auditra.store.claim_cache import read_claims

        return read_claims(self._folder)


def _sound(glances: Sequence[Glance]) -> list[Glance]:
    """Those that could be judged: what ails an audit on this machine may ail it on no other."""
    return [each for each in glances if not each.row.trouble]
