"""What the seller says in one place and otherwise in another: on the case, on the box, on a page."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations

from auditra.core.claims.claim import Claim
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.quantities.units import Dimension, find_unit
from auditra.core.sanitize import sanitize

_FIGURE = re.compile(r"(?<![\w.])(\d+(?:\.\d+)?)\s?([A-Za-z/]{1,6})(?![\w/])")
_RATES = (Dimension.BIT_RATE, Dimension.BYTE_RATE)
_ALIKE = 0.02


@dataclass(frozen=True, kw_only=True)
class Prints(Finding):
    kind = "two sources"
    role = Role.CONTRADICTION

    one: str
    other: str

    @property
    def sentence(self) -> str:
        return f"{self.one}, but {self.other}"


def _find(inquiry: Inquiry) -> Iterator[Prints]:
    """Two promises of one kind about one port that differ; and the print beside a port that differs from its claim."""
    claims = inquiry.audit.claims
    for one, other in combinations(claims, 2):
        same = one.ports == other.ports and one.device == other.device and one.conditions == other.conditions
        if same and type(one.promise) is type(other.promise) and _differ(one, other):
            yield Prints(
                ports=one.ports, claims=(one.id, other.id), one=f"{_source(one)} promises {one}",
                other=f"{_source(other)} promises {other}",
            )  # fmt: skip
    for claim in claims:
        port = inquiry.audit.device_of(claim.device).port(claim.port)
        if port is not None and isinstance(port.printed, str) and _denies(port.printed, claim):
            printed = f'"{sanitize(port.printed, 40)}" is printed beside {port.id}'
            yield Prints(ports=(port.id,), claims=(claim.id,), one=printed, other=f"{_source(claim)} promises {claim}")


def _differ(one: Claim, other: Claim) -> bool:
    """Another figure for the same thing: not a mode or host more, which may both be so."""
    figures = [claim.promise.scale() for claim in (one, other)]
    if any(figure is None for figure in figures) or one.source.kind == other.source.kind:
        return False
    limits = [figure.limit for figure in figures if figure is not None]
    return abs(limits[0] - limits[1]) > _ALIKE * max(map(abs, limits))


def _source(claim: Claim) -> str:
    return f"the {claim.source.kind}" if isinstance(claim.source.kind, str) else "the seller"


def _denies(printed: str, claim: Claim) -> bool:
    """Whether the print has a figure of the claim's kind, and only other ones."""
    ours = _figures(str(claim.promise))
    theirs = _figures(printed)
    for dimension, values in ours.items():
        beside = theirs.get(dimension)
        if beside and not any(abs(one - two) <= _ALIKE * two for one in beside for two in values):
            return True
    return False


def _figures(text: str) -> dict[Dimension, list[float]]:
    found: dict[Dimension, list[float]] = {}
    for match in _FIGURE.finditer(text[:500]):
        unit = find_unit(match[2]) or find_unit(_LABELS.get(match[2].lower(), match[2]))
        if unit is not None:
            dimension = Dimension.BIT_RATE if unit.dimension in _RATES else unit.dimension
            found.setdefault(dimension, []).append(float(match[1]) * unit.in_si)
    return found


_LABELS = {"gbps": "Gb/s", "mbps": "Mb/s", "g": "Gb/s", "w": "W"}
"""How rates and watts are printed on a case."""

PRINTS = Cause(
    "two sources", "two statements of one figure", "two claims of one kind with their sources, or a print on the case",
    _find, Role.CONTRADICTION,
)  # fmt: skip
