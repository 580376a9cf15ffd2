"""The worked examples of docs/judging.md, made into audits and judged."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from auditra.core.claims.language import parse_claim
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import TrialRuled
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judgement import Judgement, judge
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Value, Words, YesNo
from auditra.core.model.rig import Display, Drive, Host, HostSocket, Lead, Load, Meter, Origin, Peer, Rig, Supply
from auditra.core.model.setup import NetworkPath, Plugged, SetUp
from auditra.core.model.trial import DIRECT, Outcome, Trial
from auditra.core.quantities.parsing import parse_typed
from auditra.core.quantities.units import Dimension
from tests.support.audits import PROFILE

DOCUMENT = Path(__file__).parents[2] / "docs" / "judging.md"
_BLOCK = re.compile(r"^### (?P<title>[^\n]+)\n.*?^```toml\n(?P<toml>.*?)^```", re.MULTILINE | re.DOTALL)
_COUNT = re.compile(r"(\d+) of (\d+)")
_BOTH = ("usb-a", "usb-c")
DEVICE = Device("Made", "M-1", "dock", (Face("front", (
    Port("A1", "usb-a"), Port("A2", "usb-a"), Port("C1", "usb-c"), Port("H1", "hdmi"), Port("N1", "rj45"),
    Port("B1", "button"), Port("P1", "usb-c", Role.INLET), Port("UP", "usb-c plug", Role.UPSTREAM),
)),))  # fmt: skip
RIG = Rig(
    "desk",
    tuple(
        Host(name, name, (HostSocket("C1", "usb-c", 10e9, display=True), HostSocket("C2", "usb-c", 10e9)))
        for name in ("laptop", "tablet")
    ),
    drives=(Drive("ssd", "ssd", "usb-c", 480 * 8e6, 480 * 8e6),),
    displays=(Display("tv", "tv", "hdmi", ("3840x2160@60",)),),
    supplies=(Supply("wall", "wall supply", "usb-c", 20.0, 140.0), Supply("weak", "weak supply", "usb-c", 20.0, 30.0)),
    peers=(Peer("server", "server", "rj45", 10e9),),
    meters=(Meter("meter", "meter", "usb-c", power_error_percent=0.5),),
    loads=(Load("load", "load", "usb-c", watts=150.0, asks_v=20.0, power_error_percent=0.5),),
    leads=(
        Lead("good", _BOTH, data_bps=10e9, amperes=5.0), Lead("slow", _BOTH, data_bps=480e6), Lead("old", _BOTH),
        Lead("own", _BOTH, origin=Origin.SHIPPED), Lead("hdmi", ("hdmi", "hdmi"), data_bps=18e9),
        Lead("short", _BOTH, length_m=3.0), Lead("cat", ("rj45", "rj45"), data_bps=10e9),
    ),
)  # fmt: skip


@dataclass(frozen=True)
class Example:
    """A heading with its block."""

    title: str
    given: Mapping[str, Any]

    def judgement(self) -> Judgement:
        records = tuple(_record(n, each, self.given) for n, each in enumerate(self.given.get("trial", ()), start=1))
        claim = parse_claim(self.given["claim"], claim_id="claim1")
        answers = dict.fromkeys(self.given.get("answered", ()), "confirmed")
        return judge(Audit("worked", DEVICE, RIG, (claim,), records, answers=answers), PROFILE)

    def verdict(self) -> ClaimVerdict:
        return self.judgement().claims[0]


def examples() -> Iterator[Example]:
    """Every worked example, in the order of the document."""
    for found in _BLOCK.finditer(DOCUMENT.read_text(encoding="utf-8")):
        yield Example(found["title"], tomllib.loads(found["toml"]))


def _record(number: int, given: Mapping[str, Any], example: Mapping[str, Any]) -> TrialRecord:
    claim = parse_claim(example["claim"], claim_id="claim1")
    name, at = f"T{number}", given.get("at", claim.port)
    port = None if at == DIRECT else at
    gear = given.get("gear", "ssd" if claim.promise.procedure.startswith("write") else "device")
    trial = Trial(name, claim.promise.procedure, ("claim1",), _set_up(given, port, gear), gear, port)
    readings = tuple(_reading(name, given.get("spot", port or DIRECT), words, each, given)
                     for words, each in given.get("read", {}).items())  # fmt: skip
    ruled = TrialRuled(name, given["counts"], "as decided") if "counts" in given else None
    return TrialRecord(trial, readings, Outcome(given.get("outcome", "complete")), ruling=ruled)


def _set_up(given: Mapping[str, Any], port: str | None, gear: str) -> SetUp:
    host, lead = given.get("host", "laptop"), given.get("lead", "good")
    plugged = [Plugged(host, "C1", gear, lead)]
    if port is not None:
        plugged = [Plugged(host, "C1", "device", given.get("host_lead"))]
        plugged += [Plugged("device", port, gear, lead)] if gear != "device" else []
    if supply := given.get("supply"):
        plugged.append(Plugged("device", "P1", supply, "good", ("meter",) if given.get("meter") else ()))
    noted = {name: given[name] for name in ("soaked_s", "flipped", "recorder", "driver", "battery_percent")
             if name in given}  # fmt: skip
    made = replace(SetUp(host, "C1", tuple(plugged), tuple(given.get("running", ()))), **noted)
    return replace(made, network=NetworkPath(wireless=given["wireless"])) if "wireless" in given else made


def _reading(trial: str, at: str, words: str, text: str, given: Mapping[str, Any]) -> Reading:
    """``"450 451 452 MB/s"``, ``"3 of 5"``, ``"yes"``, ``"3840x2160@60"``; ``"41.0 W by load"`` names an instrument."""
    text, _, instrument = text.partition(" by ")
    value, error, digit = _value(text)
    grade = {Count: Grade.SEEN, YesNo: Grade.SEEN, Words: Grade.READ, Number: Grade.MEASURED}[type(value)]
    grade = Grade.READ if words == Quantity.LINK else Grade.TYPED if instrument or given.get("typed") else grade
    reading = Reading(trial, words, at, instrument or "engine", grade, value, error=error)
    reading = replace(reading, resolution=digit) if grade is Grade.TYPED else reading
    behind = given.get("behind")
    return replace(reading, behind_a=parse_typed(behind, Dimension.CURRENT)[0]) if behind else reading


def _value(text: str) -> tuple[Value, float, float]:
    if found := _COUNT.fullmatch(text):
        return Count(int(found[1]), int(found[2])), 0.0, 0.0
    if text in ("yes", "no"):
        return YesNo(text == "yes"), 0.0, 0.0
    if "@" in text:
        return Words(text), 0.0, 0.0
    text, _, give = text.partition(" ± ")
    *numbers, unit = text.split()
    if give:
        numbers, unit = [*numbers, unit], give.split()[-1]
    typed = [parse_typed(f"{number} {unit}", *Dimension) for number in numbers]
    error = parse_typed(give, *Dimension)[0] if give else 0.0
    return Number(tuple(value for value, _ in typed)), error, typed[0][1]
