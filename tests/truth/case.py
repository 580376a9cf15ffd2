"""One audit with its truth: what a device really does, and when it does not."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field, replace

from auditra.core.claims.language import parse_claim
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import EventNoted, TrialRuled
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judgement import judge
from auditra.core.model.circumstance import Circumstance
from auditra.core.model.device import DEVICE, Device, Face, Port, Role
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Value, Words, YesNo
from auditra.core.model.rig import Drive, Host, HostSocket, Lead, Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import DIRECT, Outcome, Trial
from auditra.core.model.verdict import Verdict
from tests.support.audits import PROFILE


@dataclass(frozen=True)
class Truth:
    """Whether a promise is kept; where it is kept except under circumstances, those."""

    kept: bool
    unless: frozenset[Circumstance] = frozenset()


@dataclass(frozen=True)
class Case:
    """An audit, and the truth of each of its claims, by id."""

    kind: str
    audit: Audit
    truths: dict[str, Truth]


def contradictions(case: Case) -> Iterable[str]:
    """Where the judge accuses what keeps its word, or praises what does not; and where it names a wrong condition."""
    judgement = judge(case.audit, PROFILE)
    for verdict in judgement.claims:
        truth = case.truths[verdict.claim.id]
        if (words := _contradiction(verdict, truth)) is not None:
            yield f"{case.kind}: {verdict.claim} {words} ({verdict.shown}: {verdict.why})"


def _contradiction(verdict: ClaimVerdict, truth: Truth) -> str | None:
    if verdict.verdict is Verdict.HOLDS_IF:
        if truth.unless and set(verdict.unless) <= truth.unless:
            return None
        return f"is said to hold {verdict.condition}, which is not so"
    if verdict.verdict.accuses and truth.kept and not truth.unless:
        return "is accused and keeps its word"
    if verdict.verdict is Verdict.HOLDS and not truth.kept:
        return "is praised and does not keep its word"
    failed = {each for set_up in verdict.set_ups if set_up.trials for each in set_up.seen.circumstances}
    if verdict.verdict is Verdict.HOLDS and truth.unless and truth.unless <= failed:
        return "is praised though it was tried where it does not keep its word"
    return None


@dataclass
class Bench:
    """Puts an audit together: a device of a few ports, a rig, trials."""

    dice: random.Random
    sentences: tuple[str, ...]
    rig: Rig
    ports: tuple[Port, ...] = tuple(Port(f"A{n}", "usb-a") for n in (1, 2, 3))
    records: list[TrialRecord] = field(default_factory=list)
    devices: tuple[str, ...] = (DEVICE,)
    """The devices of a kit by their ids; the claims are theirs in turn."""

    def audit(self) -> Audit:
        claims = tuple(parse_claim(words, claim_id=f"claim{n}") for n, words in enumerate(self.sentences, start=1))
        faces = (Face("front", (*self.ports, Port("UP", "usb-c plug", Role.UPSTREAM))),)
        devices = tuple(Device("Made", f"M-{n}", "hub", faces, id=id) for n, id in enumerate(self.devices, start=1))
        claims = tuple(
            replace(claim, device=device) for claim, device in zip(claims, self.devices * len(claims), strict=False)
        )
        return Audit("made", devices[0], self.rig, claims, tuple(self.records), devices=devices)

    def setup(self, port: str | None, gear: str, lead: str | None = None, **noted: object) -> SetUp:
        """The gear in a port of the device on the first host, or direct; anything else that is noted of it."""
        host = str(noted.pop("host", self.rig.hosts[0].id))
        socket = str(noted.pop("host_socket", self.rig.host(host).sockets[0].id))  # type: ignore[union-attr]
        to_host = noted.pop("host_lead", None)
        more = noted.pop("more", ())
        plugged = (Plugged(host, socket, gear, lead),)
        if port is not None:
            upstream = Plugged(host, socket, "device", to_host if isinstance(to_host, str) else None)
            plugged = (upstream, *((Plugged("device", port, gear, lead),) if gear != "device" else ()))
        extra = more if isinstance(more, tuple) else ()
        return replace(SetUp(host, socket, (*plugged, *extra)), **noted)  # type: ignore[arg-type]

    def trial(
        self,
        procedure: str,
        setup: SetUp,
        gear: str,
        port: str | None,
        readings: Iterable[tuple[Quantity | str, Value] | Reading],
        *,
        claims: Iterable[int] = (1,),
        outcome: Outcome = Outcome.COMPLETE,
        ruling: bool | None = None,
        events: tuple[EventNoted, ...] = (),
    ) -> None:
        name = f"T{len(self.records) + 1}"
        trial = Trial(name, procedure, tuple(f"claim{n}" for n in claims), setup, gear, port)
        taken = tuple(
            replace(each, trial=name) if isinstance(each, Reading) else _reading(name, port or DIRECT, *each)
            for each in readings
        )
        ruled = TrialRuled(name, ruling, "as told") if ruling is not None else None
        self.records.append(TrialRecord(trial, taken, outcome, ruling=ruled, events=events))

    def repeats(self, true_value: float, scatter: float = 0.004) -> Number:
        """What a few repeats of a value give."""
        count = self.dice.choice((3, 3, 4, 5, 7))
        return Number(tuple(true_value * (1 + self.dice.gauss(0, scatter)) for _ in range(count)))

    def count(self, chance: float, tries: int) -> Count:
        return Count(sum(self.dice.random() < chance for _ in range(tries)), tries)


def _reading(trial: str, at: str, quantity: Quantity | str, value: Value) -> Reading:
    grades = {Number: Grade.MEASURED, Count: Grade.SEEN, Words: Grade.READ, YesNo: Grade.TYPED}
    grade = Grade.READ if quantity is Quantity.LINK else grades[type(value)]
    return Reading(trial, quantity, at, "engine", grade, value)


def computers(*rates_bps: float) -> tuple[Host, ...]:
    """Hosts, each with two C sockets of a rate."""
    return tuple(
        Host(f"host{n}", f"host {n}", tuple(HostSocket(f"C{m}", "usb-c", rate, display=True) for m in (1, 2)))
        for n, rate in enumerate(rates_bps, start=1)
    )


def drive(name: str, mb: float) -> Drive:
    return Drive(name, name, "usb-c", mb * 8e6, mb * 8e6)


def lead(name: str, **noted: object) -> Lead:
    return replace(Lead(name, ("usb-a", "usb-c")), **noted)  # type: ignore[arg-type]


World = Callable[[random.Random], Case]
