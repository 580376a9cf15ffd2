"""The capability grid: every socket by data, picture, power in and power out; what it must not do; what looks alike."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from auditra.core.judge.causes.wrong_plug import WrongPlug
from auditra.core.judge.claim_verdict import LEAST_TO_WORST
from auditra.core.judge.judgement import Judgement
from auditra.core.model.capability import Capability
from auditra.core.model.device import Device, Port
from auditra.core.model.verdict import Verdict


@dataclass(frozen=True)
class Cell:
    """What is promised of a socket in one respect; `forbidden` where it is said not to do it, else maybe nothing.

    Words without a verdict are what was seen where no claim says anything.
    """

    words: str = ""
    verdict: Verdict | None = None
    forbidden: bool = False

    @property
    def silent(self) -> bool:
        return self.verdict is None


@dataclass(frozen=True)
class Row:
    """One socket with a cell for each capability."""

    port: Port
    cells: tuple[Cell, ...]

    def cell(self, capability: Capability) -> Cell:
        return self.cells[tuple(Capability).index(capability)]


def capability_grid(device: Device, judgement: Judgement) -> tuple[Row, ...]:
    """A row a socket, in the order of the faces; a port without claims has a row too."""
    return tuple(
        Row(port, tuple(_cell(port, capability, judgement) for capability in Capability)) for port in device.ports()
    )


def _cell(port: Port, capability: Capability, judgement: Judgement) -> Cell:
    here = [each for each in judgement.of_port(port.id) if each.claim.promise.capability is capability]
    if not here:
        return Cell(_seen_all_the_same(port, capability, judgement))
    worst = max((each.verdict for each in here), key=LEAST_TO_WORST.index)
    first = here[0].claim.promise
    more = f" +{len(here) - 1}" if len(here) > 1 else ""
    return Cell(f"{first.brief}{more}", worst, first.forbids)


def _seen_all_the_same(port: Port, capability: Capability, judgement: Judgement) -> str:
    """What was tried there though no claim speaks of it; empty for nothing."""
    tried = (each for each in judgement.unstated if isinstance(each, WrongPlug) and port.id in each.ports)
    works = next((each.works for each in tried if each.capability is capability), None)
    return "" if works is None else "works" if works else "tried, no"


def look_alikes(rows: Iterable[Row]) -> tuple[str, ...]:
    """Sockets of one kind of connector that do not do the same: a plug goes in, and something does not work."""
    by_connector: dict[str, list[Row]] = {}
    for row in rows:
        by_connector.setdefault(row.port.connector, []).append(row)
    return tuple(
        f"{connector}: {_in_words(capability, doing, rest)}"
        for connector, alike in by_connector.items()
        if len(alike) > 1
        for capability in (Capability.DATA, Capability.PICTURE, Capability.POWER_IN, Capability.POWER_OUT)
        for doing in [[row for row in alike if not row.cell(capability).silent and not row.cell(capability).forbidden]]
        for rest in [[row for row in alike if row not in doing]]
        if doing and rest
    )


def _in_words(capability: Capability, doing: list[Row], rest: list[Row]) -> str:
    forbidden = [row.port.id for row in rest if row.cell(capability).forbidden]
    silent = [row.port.id for row in rest if row.cell(capability).silent]
    parts = [f"{capability} on {', '.join(row.port.id for row in doing)}"]
    parts += [f"not on {', '.join(forbidden)}"] if forbidden else []
    parts += [f"no claim for {', '.join(silent)}"] if silent else []
    return "; ".join(parts)
