"""A cable drawer: many leads under audit, a row each: class, power, marker, ohms, length, pairs, price."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from auditra.core.decide.estimates import estimate
from auditra.core.decode.identity import LANE_SPEEDS
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.reasoning.loops import loops_of
from auditra.core.links.ethernet import TWO_PAIRS_BPS
from auditra.core.model.reading import Quantity, Reading
from auditra.core.quantities.display import bit_rate, length, power

COLUMNS = ("data", "pairs", "power", "marker", "loop", "length", "display", "price", "score")


@dataclass(frozen=True)
class Drawer:
    """Leads with a text a column; empty where nothing was shown."""

    audits: tuple[JudgedAudit, ...]
    rows: tuple[tuple[str, ...], ...]


def drawer_of(audits: Sequence[JudgedAudit]) -> Drawer:
    """The drawer of these leads, in their order: what was shown through each."""
    return Drawer(tuple(audits), tuple(tuple(column(judged) for column in _COLUMNS) for judged in audits))


def _readings(judged: JudgedAudit, quantity: Quantity) -> list[Reading]:
    trials = (each for each in judged.audit.trials if each.trial.port is not None)
    return [reading for record in trials for reading in record.readings if reading.quantity is quantity]


def _most(judged: JudgedAudit, quantity: Quantity) -> float | None:
    values = [estimate(each).value for each in _readings(judged, quantity) if each.values]
    return max(values, default=None)


def _data(judged: JudgedAudit) -> str:
    rate = _most(judged, Quantity.LINK)
    return bit_rate(rate) if rate is not None else ""


def _pairs(judged: JudgedAudit) -> str:
    """What a link proves of the wires: a lane takes a pair each way, and one lane carries no more than `_LANE_BPS`."""
    rate, connectors = _most(judged, Quantity.LINK), {port.connector for port in judged.audit.device.ports()}
    if rate is None:
        return ""
    if any(each.startswith("rj45") for each in connectors):
        return "4" if rate > TWO_PAIRS_BPS else "2 at least"
    return f"{2 * math.ceil(rate / _LANE_BPS)} fast at least" if rate > _USB_2_BPS else "none fast shown"


_USB_2_BPS = LANE_SPEEDS[0].lane_mbps * 1e6
_LANE_BPS = max(each.lane_mbps for each in LANE_SPEEDS.values()) * 1e6


def _power(judged: JudgedAudit) -> str:
    watts = _most(judged, Quantity.POWER)
    return power(watts) if watts is not None else ""


def _marker(judged: JudgedAudit) -> str:
    found = [each.text for each in _readings(judged, Quantity.MARKER) if each.text]
    return found[-1] if found else ""


def _loop(judged: JudgedAudit) -> str:
    inquiry = judged.judgement.inquiry
    loops = list(loops_of(inquiry.records)) if inquiry is not None else []
    if not loops:
        return ""
    return f"{1e3 * loops[-1].ohm:.0f} ± {max(1.0, 1e3 * loops[-1].ohm_expanded):.0f} mohm"


def _length(judged: JudgedAudit) -> str:
    found = [each for each in _readings(judged, Quantity.LENGTH) if each.values]
    return length(estimate(found[-1]).value) if found else ""


def _display(judged: JudgedAudit) -> str:
    found = [each.text for each in _readings(judged, Quantity.MODE) if each.text]
    return found[-1] if found else ""


def _price(judged: JudgedAudit) -> str:
    price = next(iter(judged.audit.device.prices), None)
    return f"{price.amount:.2f} {price.money}" if price is not None else ""


def _score(judged: JudgedAudit) -> str:
    value = judged.judgement.score.value
    return "" if value is None else f"{value}"


_COLUMNS: tuple[Callable[[JudgedAudit], str], ...] = (
    _data, _pairs, _power, _marker, _loop, _length, _display, _price, _score,
)  # fmt: skip
