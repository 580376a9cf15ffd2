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
        self._claims = [tuple((claims or {}).get(row.name, ())) for row in self._rows]
        self._lines = [_lines_of(each) for each in self._claims]
        self._texts = ["\n".join((head, *lines)) for head, lines in zip(self._heads, self._lines, strict=True)]
        self._last: tuple[Sequence[str], Sequence[int]] = ((), range(len(self._rows)))
        """What was sought last, and where it is likely to be: what is typed on is in fewer."""

    def found(self, wanted: str) -> list[ShelfRow]:
        """The rows that have all words: each in what the row is about, or all of the rest in one of its claims."""
        words = wanted.casefold().split()
        return [self._rows[n] for n in self._likely(words) if self._has(n, words)]

    def claims_found(self, wanted: str, among: Iterable[str]) -> list[ClaimRow]:
        """Of the audits with these names: the claims that have all words which are not in what the row is about."""
        words, names = wanted.casefold().split(), frozenset(among)
        return [
            claim
            for n in self._likely(words)
            if self._rows[n].name in names
            for claim, line in zip(self._claims[n], self._lines[n], strict=True)
            if all(word in line for word in self._rest(n, words))
        ]

    def _likely(self, words: Sequence[str]) -> Sequence[int]:
        before, among = self._last
        is_typed_on = all(any(old in word for word in words) for old in before)
        texts = self._texts
        likely: Sequence[int] = among if is_typed_on else range(len(texts))
        for word in words:
            if not (is_typed_on and word in before):
                likely = [n for n in likely if word in texts[n]]
        self._last = tuple(words), likely
        return likely

    def _has(self, number: int, words: Sequence[str]) -> bool:
        """Whether the words that are not in what the row is about are in one of its claims; one alone is in some."""
        rest = self._rest(number, words)
        return len(rest) <= 1 or any(all(word in line for word in rest) for line in self._lines[number])

    def _rest(self, number: int, words: Sequence[str]) -> list[str]:
        return [word for word in words if word not in self._heads[number]]


def _words_of(row: ShelfRow) -> str:
    return f"{row.name} {row.device} {row.kind} {row.rig} {row.follows} {row.trouble}".casefold()


def _lines_of(claims: Iterable[ClaimRow]) -> list[str]:
    return [f"{claim.claim} {claim.verdict} {claim.condition}".casefold() for claim in claims]
