"""Finds audits on a shelf of many thousands as fast as one types."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:  # the shelf is painted before it is searched
    from auditra.workflows.audits.claim_rows import ClaimRow
    from auditra.workflows.audits.shelf import ShelfRow


class ShelfSearch:
    """The words of each row, made ready once. Claims may come later: then they are searched too."""

    def __init__(self, rows: Sequence[ShelfRow], claims: Mapping[str, Iterable[ClaimRow]] | None = None) -> None:
        self._rows = tuple(rows)
        self._heads = [_words_of(row) for row in self._rows]
        self._claims = [_lines_of((claims or {}).get(row.name, ())) for row in self._rows]
        self._texts = ["\n".join((head, *lines)) for head, lines in zip(self._heads, self._claims, strict=True)]

    def found(self, wanted: str) -> list[ShelfRow]:
        """The rows that have all words: each in what the row is about, or all of the rest in one of its claims."""
        words = wanted.casefold().split()
        likely = [n for n, text in enumerate(self._texts) if all(word in text for word in words)]
        return [self._rows[n] for n in likely if self._has(n, words)]

    def _has(self, number: int, words: Sequence[str]) -> bool:
        rest = [word for word in words if word not in self._heads[number]]
        return not rest or any(all(word in line for word in rest) for line in self._claims[number])


def _words_of(row: ShelfRow) -> str:
    return f"{row.name} {row.device} {row.kind} {row.rig} {row.follows} {row.trouble}".casefold()


def _lines_of(claims: Iterable[ClaimRow]) -> list[str]:
    return [f"{claim.claim} {claim.verdict} {claim.condition}".casefold() for claim in claims]
