"""A cable drawer: many leads under audit, a row each: class, power, marker, ohms, length, pairs, price."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from auditra.core.decide.estimates import estimate
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.reasoning.loops import loops_of
from auditra.core.model.device import Price
from auditra.core.model.reading import Quantity, Reading
from auditra.core.quantities.display import bit_rate, length, power

COLUMNS = ("data", "power", "marker", "loop", "length", "display", "price", "score")


@dataclass(frozen=True)
class Drawer:
    """Leads with a text a column; empty where nothing was shown."""

    audits: tuple[JudgedAudit, ...]
    rows: tuple[tuple[str, ...], ...]


def is_cable(judged: JudgedAudit) -> bool:
    return "cable" in judged.audit.device.kind.casefold()


def drawer_of(audits: Sequence[JudgedAudit]) -> Drawer:
    """The drawer of these leads: what was measured through each, best first where several were."""
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
    price = judged.audit.device.price
    return f"{price.amount:.2f} {price.money}" if isinstance(price, Price) else ""


def _score(judged: JudgedAudit) -> str:
    value = judged.judgement.score.value
    return "" if value is None else f"{value}"


_COLUMNS: tuple[Callable[[JudgedAudit], str], ...] = (
    _data, _power, _marker, _loop, _length, _display, _price, _score,
)  # fmt: skip
