"""Cases for causes, read from vectors: a device, a rig and some trials, written down shortly."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

from auditra.core.claims.language import parse_claim
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import EventNoted
from auditra.core.model.device import Device, Extra, Face, Port, Price, Role
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Trace, Value, Words, YesNo
from auditra.core.model.rig import (
    Accuracy,
    Adapter,
    Display,
    Drive,
    Host,
    HostSocket,
    Lead,
    Load,
    Meter,
    Peer,
    Rig,
    Supply,
)
from auditra.core.model.setup import NetworkPath, Plugged, SetUp
from auditra.core.model.source import Source
from auditra.core.model.storage_path import PathTrace, UsbStep
from auditra.core.model.trial import Outcome, ProcedureId, Trial
from tests.support.vectors import vectors

_SOCKETS = (
    HostSocket("C1", "usb-c", 10e9, display=True, modes=("3840x2160@60",)),
    HostSocket("C2", "usb-c", 10e9, display=True),
)
RIG = Rig(
    "bench",
    (
        Host("host1", "host 1", _SOCKETS, wants_w=60.0, battery_wh=50.0),
        Host("host2", "host 2", _SOCKETS, wants_w=100.0),
        Host("strict", "strict host", _SOCKETS, policy="no external drives"),
    ),
    drives=(
        Drive("ssd", "fast SSD", "usb-c", 480 * 8e6, 480 * 8e6, usb_id="1f6e:0701"),
        Drive("ssd2", "other SSD", "usb-c", 480 * 8e6, 480 * 8e6),
        Drive("cached", "cached drive", "usb-c", 480 * 8e6, 480 * 8e6, cache_bytes=10_000_000_000),
        Drive("racer", "racing SSD", "usb-c", 2000 * 8e6, 2000 * 8e6),
    ),
    displays=(Display("screen", "screen", "hdmi plug", ("3840x2160@60",)),),
    supplies=(Supply("wall", "wall supply", "usb-c", 20.0, 100.0),),
    peers=(Peer("peer", "peer", "rj45 plug", 2.5e9),),
    meters=(Meter("meter", "meter", "usb-c", accuracy=(Accuracy("voltage", error_percent=1.0),)),),
    loads=(
        Load("load", "load", "usb-c", watts=100.0, asks_v=20.0),
        Load("plain-load", "plain load", "usb-c", watts=100.0, asks_v=None),
    ),
    adapters=(Adapter("hub", "hub", "usb-a plug", ("usb-a",)), Adapter("bend", "bend", "usb-a plug", ("usb-a",))),
    leads=(
        Lead("good", ("usb-a", "usb-c"), data_bps=10e9), Lead("other", ("usb-a", "usb-c")),
        Lead("slow", ("usb-a", "usb-c"), data_bps=480e6),
        Lead("wire", ("usb-c", "usb-c"), length_m=2.0, amperes=5.0),
    ),
)  # fmt: skip
_PORTS = (
    Port("A1", "usb-a"), Port("A2", "usb-a"), Port("A3", "usb-a"), Port("C1", "usb-c"), Port("H1", "hdmi"),
    Port("N1", "rj45"), Port("P1", "usb-c", Role.INLET), Port("UP", "usb-c plug", Role.UPSTREAM),
)  # fmt: skip


@dataclass(frozen=True)
class CauseCase:
    """One audit, and what must be found in it: words of the subject; nothing where it must not be found."""

    cause: str
    expected: str | None
    audit: Audit
    name: str


def cause_cases() -> Iterator[CauseCase]:
    """Every case of the vectors, true and false ones."""
    for row in vectors("causes")["causes"]:
        for number, case in enumerate(row["found"], start=1):
            yield CauseCase(row["cause"], case["subject"], _audit(row, case), f"{row['cause']} found {number}")
        for number, case in enumerate(row["not found"], start=1):
            yield CauseCase(row["cause"], None, _audit(row, case), f"{row['cause']} not found {number}")


def _audit(row: Mapping[str, Any], case: Mapping[str, Any]) -> Audit:
    return audit_from({**row, **case})


def audit_from(merged: Mapping[str, Any]) -> Audit:
    """The audit of one case."""
    claims = tuple(
        replace(parse_claim(words, claim_id=f"claim{n}"), source=_source(merged, n))
        for n, words in enumerate(merged.get("claims", ["A1 data 5 Gb/s"]), start=1)
    )
    printed = merged.get("printed", {})
    ports = tuple(replace(port, printed=printed[port.id]) if port.id in printed else port for port in _PORTS)
    device = Device("Made", "M-1", "hub", (Face("front", ports),))
    if "extra" in merged:
        device = replace(device, extras=(Extra(merged["extra"], Price(20.0, "EUR")),))
    records = tuple(_record(n, each) for n, each in enumerate(merged["trials"], start=1))
    return Audit("made", device, RIG, claims, records, devices=(device,))


def _source(case: Mapping[str, Any], number: int) -> Source:
    kinds, quoted = case.get("sources", []), case.get("quoted")
    source = Source(quoted=quoted) if quoted else Source()
    return replace(source, kind=kinds[number - 1]) if len(kinds) >= number else source


def _record(number: int, told: Mapping[str, Any]) -> TrialRecord:
    port, gear = told.get("port"), told.get("gear", "ssd")
    host, socket = told.get("host", "host1"), told.get("socket", "C1")
    noted = dict(told.get("noted", {}))
    if "network" in noted:
        noted["network"] = NetworkPath(**noted["network"])
    for name in ("order", "running", "arranged"):
        if name in noted:
            noted[name] = tuple(noted[name])
    setup = SetUp(host, socket, tuple(_plugged(told, port, gear, host, socket)), **noted)
    trial = Trial(
        f"T{number}", ProcedureId[told.get("procedure", "STORAGE")],
        tuple(f"claim{n}" for n in told.get("claims", [1])), setup, gear, port,
    )  # fmt: skip
    events = tuple(EventNoted(what, about, port=about) for what, about in told.get("events", []))
    readings = tuple(_readings(trial, told))
    outcome = Outcome(told.get("outcome", "complete"))
    answered = (UsbStep("2-1", told["answered"], 5e9),) if "answered" in told else ()
    path = PathTrace("/m", "/m", "ext4", "/dev/sdb1", answered) if answered else None
    return TrialRecord(trial, readings, outcome, events=events, path=path)


def _plugged(told: Mapping[str, Any], port: str | None, gear: str, host: str, socket: str) -> Iterator[Plugged]:
    lead, through = told.get("lead", "good"), tuple(told.get("through", []))
    if port is None:
        yield Plugged(host, socket, gear, lead, through)
        return
    yield Plugged(host, socket, "device", told.get("host_lead"))
    if gear != "device":
        yield Plugged("device", port, gear, lead, through)
    for at, what in told.get("beside", {}).items():
        yield Plugged("device", at, what)


def _readings(trial: Trial, told: Mapping[str, Any]) -> Iterator[Reading]:
    if "mb" in told:
        for quantity in (Quantity.WRITE, Quantity.READ):
            values = Number(tuple(told["mb"] * 8e6 * share for share in (0.999, 1.0, 1.001)))
            trace = _trace(told["curve"]) if "curve" in told and quantity is Quantity.WRITE else None
            yield Reading(trial.id, quantity, trial.place, "engine", Grade.MEASURED, values, trace=trace)
        link = Number((told.get("link", 5e9),))
        yield Reading(trial.id, Quantity.LINK, trial.place, "kernel", Grade.READ, link)
        wrong = Number((float(told.get("wrong", 0)),))
        yield Reading(trial.id, Quantity.WRONG_BYTES, trial.place, "engine", Grade.MEASURED, wrong)
    for quantity, value, *more in told.get("readings", []):
        noted = dict(more[0]) if more else {}
        grade = Grade(noted.pop("grade", 2 if isinstance(value, str) and "/" in value else 5))
        trace = _trace(noted.pop("trace")) if "trace" in noted else None
        at, instrument = noted.pop("at", trial.place), noted.pop("instrument", "meter")
        yield Reading(trial.id, quantity, at, instrument, grade, _value(value), trace=trace, **noted)


def _value(told: object) -> Value:
    if isinstance(told, bool):
        return YesNo(told)
    if isinstance(told, str):
        seen, _, tries = told.partition("/")
        return Count(int(seen), int(tries)) if tries.isdigit() and seen.isdigit() else Words(told)
    return Number(tuple(map(float, told)) if isinstance(told, Sequence) else (float(str(told)),))


def _trace(told: Sequence[Sequence[float]]) -> Trace:
    """Pairs of seconds and a value: each value holds from its time on, a point a second, until the last time."""
    points = [(second, value) for (begin, value), (end, _) in pairwise(told)
              for second in range(int(begin), int(end))]  # fmt: skip
    wander = (1.0, 1.002, 0.999, 1.001, 0.998)
    return Trace(
        tuple(float(second) for second, _ in points),
        tuple(value * wander[n % 5] for n, (_, value) in enumerate(points)),
    )
