"""What sellers say of being the best, held against the devices of a line-up: no set is larger than the one at hand."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from auditra.core.claims.kinds.offer import Comparison, Superlative
from auditra.core.claims.promise import Sense
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.line_up.line_up import Checked, Row

_ABOUT = {
    "fastest": ("rate",), "faster": ("rate",), "smallest": ("length",), "smaller": ("length",), "lightest": ("weight",),
    "lighter": ("weight",), "cheapest": ("price",), "cheaper": ("price",), "strongest": ("power",),
}  # fmt: skip
"""Words of a row's title that a quality is about."""
_LEAST = frozenset({"smallest", "smaller", "lightest", "lighter", "cheapest", "cheaper"})


def superlatives_of(audits: Sequence[JudgedAudit], rows: Sequence[Row]) -> tuple[Checked, ...]:
    """Every superlative and comparison that is claimed, with what the rows say to it."""
    return tuple(
        _check(number, str(verdict.claim), verdict.claim.promise.quality, rows, audits)
        for number, judged in enumerate(audits)
        for verdict in judged.judgement.of_device
        if isinstance(verdict.claim.promise, Superlative | Comparison)
    )


def _check(number: int, claim: str, quality: str, rows: Sequence[Row], audits: Sequence[JudgedAudit]) -> Checked:
    about = [row for row in rows if any(word in row.title for word in _ABOUT.get(quality, ()))]
    told = [row for row in about if any(each == number for each, _, _ in row.measured) and len(row.measured) > 1]
    if not told:
        return Checked(number, claim, "no row of this line-up measures it")
    beaten = list(_beaten(number, quality, told, audits))
    titles = tuple(row.title for row in told)
    if beaten:
        return Checked(number, claim, f"refuted: {'; '.join(beaten)}", titles)
    clear = all(row.leaders == (number,) or quality in _LEAST for row in told)
    words = "true of these" if clear else "not refuted by these, and tied in some"
    return Checked(number, claim, f"{words}; a set of {len(audits)} proves nothing of the rest", titles)


def _beaten(number: int, quality: str, rows: Sequence[Row], audits: Sequence[JudgedAudit]) -> Iterator[str]:
    for row in rows:
        if row.differs:
            continue
        own = next(value for each, _, value in row.measured if each == number)
        wants_less = quality in _LEAST or row.sense is Sense.AT_MOST
        for each, cell, value in row.measured:
            apart = own.low > value.high if wants_less else own.high < value.low
            if each != number and apart:
                yield f"{audits[each].audit.device.name} has {cell.words} ({row.title})"
