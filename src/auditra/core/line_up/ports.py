"""Rows of ports: claims of one kind at one connector and class, with what each device showed of it plainly."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from auditra.core.claims.kinds.shows import Shows
from auditra.core.claims.promise import Scale, Sense
from auditra.core.decide.estimates import estimate
from auditra.core.judge.claim_verdict import LEAST_TO_WORST, ClaimVerdict, SetUpVerdict
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.line_up.line_up import Cell, Gap, Row
from auditra.core.links.cards import slowest_bus_for
from auditra.core.model.device import BODY
from auditra.core.model.reading import Quantity, Reading
from auditra.core.quantities.display import Format, amount
from auditra.core.quantities.units import Dimension

_POWER_IS_COMPARED = ("charges host", "passes", "gives", "takes", "plays", "records", "at once", "one at a time")
"""Kinds whose figure makes no class: what gives more watts gives more of the same."""


@dataclass(frozen=True, order=True)
class _Class:
    """What is alike about ports: the connector, the kind of promise, and its class."""

    kind: str
    connector: str
    level: str

    @property
    def title(self) -> str:
        return " ".join(filter(None, (self.connector, self.kind, self.level)))


def port_rows(audits: Sequence[JudgedAudit]) -> tuple[Row, ...]:
    """A row for each class and measured quantity; a class that no device promises has none."""
    kept: dict[_Class, list[list[ClaimVerdict]]] = {}
    for number, judged in enumerate(audits):
        for verdict in judged.judgement.of_device:
            if verdict.claim.port != BODY:
                groups = kept.setdefault(_class_of(verdict, judged), [[] for _ in audits])
                groups[number].append(verdict)
    return tuple(row for each in sorted(kept) for row in _rows(each, kept[each], audits))


def _class_of(verdict: ClaimVerdict, judged: JudgedAudit) -> _Class:
    promise, port = verdict.claim.promise, judged.audit.device.port(verdict.claim.port)
    connector = port.connector.removesuffix(" plug") if port is not None else ""
    scale = promise.scale()
    if isinstance(promise, Shows):
        level = str(promise.mode)
    elif promise.words == "cards" and scale is not None:
        level = slowest_bus_for(scale.limit) or ""
    elif promise.words in _POWER_IS_COMPARED or scale is None:
        level = ""
    else:
        level = promise.brief
    return _Class(promise.words, connector, level)


def _rows(alike: _Class, groups: Sequence[Sequence[ClaimVerdict]], audits: Sequence[JudgedAudit]) -> Iterator[Row]:
    scales = [scale for group in groups for each in group if (scale := each.claim.promise.scale()) is not None]
    if not scales:
        yield Row(alike.title, tuple(map(_answer, groups)), Sense.SIZE)
        return
    scale = scales[0]
    fmt = next(each.claim.promise.format for group in groups for each in group)
    for quantity in scale.quantities:
        cells = tuple(
            _measured(group, judged, quantity, scale, fmt) for group, judged in zip(groups, audits, strict=True)
        )
        yield Row(f"{alike.title}, {quantity}", cells, scale.sense, fmt)


def _answer(group: Sequence[ClaimVerdict]) -> Cell | Gap:
    """A promise without a figure: the worst of its ports answers for the device."""
    if not group:
        return Gap.HAS_NONE
    worst = _worst(group)
    ports = ", ".join(dict.fromkeys(port for each in group for port in each.claim.ports))
    return Cell(f"{ports}", None, worst.verdict, ports, "", worst.claim.id, worst.trials)


def _measured(
    group: Sequence[ClaimVerdict], judged: JudgedAudit, quantity: Quantity | str, scale: Scale, fmt: Format
) -> Cell | Gap:
    """What the weakest of like ports showed by itself: whoever buys it may get that one."""
    if not group:
        return Gap.HAS_NONE
    found = [
        (value, each, reading)
        for each in group
        for reading in _plain_readings(each, quantity)
        if (value := estimate(reading)).founded
    ]
    if not found:
        worst = _worst(group)
        return Gap.NOT_TRIED if not worst.trials else Cell(worst.shown, None, worst.verdict, worst.claim.port, "",
                                                               worst.claim.id, worst.trials)  # fmt: skip
    pick = max if scale.sense is Sense.AT_MOST else min
    value, verdict, reading = pick(found, key=lambda each: each[0].value)
    words = fmt.pair(value.value, value.expanded)
    return Cell(words, value, verdict.verdict, reading.at, _under(reading, judged), verdict.claim.id, (reading.trial,))


def _plain_readings(verdict: ClaimVerdict, quantity: Quantity | str) -> Iterator[Reading]:
    """Those of the plainest set-up that was tried: with nothing else at work, where there was such a trial."""
    tried = [each for each in verdict.set_ups if each.trials]
    plainest = min(tried, key=lambda each: len(each.beside), default=None)
    names = set(plainest.trials) if isinstance(plainest, SetUpVerdict) else set()
    yield from (each for each in verdict.rests_on if each.trial in names and each.quantity == quantity and each.values)


def _under(reading: Reading, judged: JudgedAudit) -> str:
    """Gear and host, by what they are and can do: two rigs may call one drive by two names."""
    audit = judged.audit
    record = next((each for each in audit.trials if each.trial.id == reading.trial), None)
    if record is None:
        return ""
    setup = record.trial.setup
    gear = setup.gear_at(reading.at) or record.trial.gear
    host = audit.rig.host(setup.host)
    socket = host.socket(setup.host_socket) if host is not None else None
    rate = f" {amount(socket.data_bps, Dimension.BIT_RATE)}" if socket is not None else ""
    return f"{audit.rig.name_of(gear)} on {audit.rig.name_of(setup.host)}{rate}"


def _worst(group: Iterable[ClaimVerdict]) -> ClaimVerdict:
    return max(group, key=lambda each: LEAST_TO_WORST.index(each.verdict))
