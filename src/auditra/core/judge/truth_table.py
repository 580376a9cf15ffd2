"""What a press of a button does, by lid and by state of the host, with what happens without it; gaps stay visible."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.claims.kinds.control import Button
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.model.reading import Quantity
from auditra.core.model.verdict import Verdict

LIDS, STATES = ("lid open", "lid closed"), ("awake", "asleep", "off")
ANY = ""
"""A claim that names no lid, or no state, is of any."""


@dataclass(frozen=True)
class Press:
    """What one claim says of one cell, what was shown, and how often it happened without the press."""

    what: str
    verdict: Verdict
    worked: str
    by_itself: str
    """``0 of 3``; empty where the control was not tried."""


@dataclass(frozen=True)
class TruthTable:
    """One button: for every lid and state what is claimed of a press there."""

    port: str
    lids: tuple[str, ...]
    states: tuple[str, ...]
    cells: dict[tuple[str, str], tuple[Press, ...]]


def truth_tables(claims: Sequence[ClaimVerdict]) -> tuple[TruthTable, ...]:
    """A table for every button that something is claimed of."""
    pressed = [(verdict, verdict.claim.promise) for verdict in claims if isinstance(verdict.claim.promise, Button)]
    ports = dict.fromkeys(verdict.claim.port for verdict, _ in pressed)
    return tuple(_table(port, [pair for pair in pressed if pair[0].claim.port == port]) for port in ports)


def _table(port: str, pressed: Sequence[tuple[ClaimVerdict, Button]]) -> TruthTable:
    cells: dict[tuple[str, str], tuple[Press, ...]] = {}
    for verdict, button in pressed:
        place = (button.lid, button.state)
        cells[place] = (*cells.get(place, ()), _press(verdict, button))
    lids = (*((ANY,) if any(lid == ANY for lid, _ in cells) else ()), *LIDS)
    states = (*((ANY,) if any(state == ANY for _, state in cells) else ()), *STATES)
    return TruthTable(port, lids, states, cells)


def _press(verdict: ClaimVerdict, button: Button) -> Press:
    counts = {quantity: _counted(verdict, quantity) for quantity in (Quantity.WORKS, Quantity.WORKS_WITHOUT)}
    return Press(button.what, verdict.verdict, counts[Quantity.WORKS], counts[Quantity.WORKS_WITHOUT])


def _counted(verdict: ClaimVerdict, quantity: Quantity) -> str:
    counts = [
        reading.count for reading in verdict.rests_on if reading.quantity is quantity and reading.count is not None
    ]
    return f"{sum(each.seen for each in counts)} of {sum(each.tries for each in counts)}" if counts else ""
