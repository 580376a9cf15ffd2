"""Every claim of a library as one row, to be searched, counted and taken elsewhere."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from auditra.core.journal.audit import Audit
    from auditra.core.judge.judgement import Judgement


@dataclass(frozen=True)
class ClaimRow:
    """A claim and what is said of it."""

    audit: str
    maker: str
    model: str
    kind: str
    port: str
    claim: str
    """Its sentence in the claim language."""
    verdict: str
    condition: str
    shown: str
    why: str
    last: str
    """When the audit was last written to, ISO 8601."""


def claim_rows(audit: Audit, judgement: Judgement) -> tuple[ClaimRow, ...]:
    """The claims of an audit as it stands, in their order."""
    last = audit.last_at.isoformat() if audit.last_at is not None else ""
    devices = {device.id: device for device in audit.devices}
    return tuple(
        ClaimRow(
            audit.name, (device := devices[verdict.claim.device]).maker, device.model, device.kind,
            "+".join(verdict.claim.ports), f"{verdict.claim}", verdict.verdict.word, verdict.condition, verdict.shown,
            verdict.why, last,
        )
        for verdict in judgement.claims
    )  # fmt: skip


@dataclass(frozen=True)
class Wanted:
    """What is looked for; all of it must be so, and what is empty is anything."""

    words: str = ""
    """Each must be in the claim or in the name of its device; a figure as a whole word."""
    verdicts: tuple[str, ...] = ()
    maker: str = ""
    kind: str = ""
    since: str = ""
    """The first day, month or year: ``2026-01``."""
    until: str = ""

    def fits(self, row: ClaimRow) -> bool:
        """Whether a row is wanted."""
        return (
            (not self.verdicts or row.verdict in self.verdicts)
            and self.maker.casefold() in row.maker.casefold()
            and self.kind.casefold() in row.kind.casefold()
            and row.last >= self.since
            and (not self.until or row.last[: len(self.until)] <= self.until)
            and _has_words(self.words, row)
        )

    def among(self, rows: Iterable[ClaimRow]) -> Iterator[ClaimRow]:
        """Those that are wanted."""
        return filter(self.fits, rows)


_DIGIT = re.compile(r"\d")


def _has_words(words: str, row: ClaimRow) -> bool:
    text = f"{row.claim} {row.maker} {row.model}".casefold()
    whole = text.split()
    return all(word in (whole if _DIGIT.search(word) else text) for word in words.casefold().split())


GROUPS = ("maker", "model", "kind", "verdict", "audit", "port")
"""What rows may be counted by."""


def count_by(rows: Iterable[ClaimRow], group: str) -> list[tuple[str, Counter[str]]]:
    """How often each verdict was given, by one of `GROUPS`, the largest group first."""
    found: dict[str, Counter[str]] = {}
    for row in rows:
        found.setdefault(getattr(row, group), Counter())[row.verdict] += 1
    return sorted(found.items(), key=lambda pair: (-pair[1].total(), pair[0]))
