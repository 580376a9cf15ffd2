"""Whether a fact fits what was said before it: its references, units and numbers."""

from __future__ import annotations

import math
from collections.abc import Hashable, Iterator
from dataclasses import fields, is_dataclass
from functools import cache
from typing import Any, get_type_hints

from auditra.core.claims.feasibility import problems_of
from auditra.core.claims.language import parse_claim
from auditra.core.errors import ClaimError, QuantityError
from auditra.core.journal.facts import (
    ClaimDropped,
    ClaimEdited,
    ClaimMade,
    DeviceNoted,
    DoubtEnded,
    DoubtRaised,
    Entry,
    EvidenceKept,
    Fact,
    LinkSeen,
    NoteWritten,
    PathTraced,
    ReadingTaken,
    RigNoted,
    TrialBegun,
    TrialEnded,
    TrialPlanned,
    TrialRuled,
    TrialSkipped,
    Undone,
)
from auditra.core.journal.fold import AuditFold
from auditra.core.links.display import parse_mode
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.rig import Rig
from auditra.core.model.trial import Trial
from auditra.core.model.type_hints import leaves
from auditra.core.sanitize import sanitize

_BOUNDS: dict[Quantity, tuple[float, float]] = {
    Quantity.LOSS: (0, 100),
    Quantity.BATTERY: (0, 100),
    Quantity.CASE_TEMPERATURE: (-273.15, math.inf),
    Quantity.AMBIENT_TEMPERATURE: (-273.15, math.inf),
    **dict.fromkeys(
        (
            Quantity.WRITE, Quantity.READ, Quantity.SEND, Quantity.RECEIVE, Quantity.LINK, Quantity.SOAK_RATE,
            Quantity.LENGTH, Quantity.MASS, Quantity.WRONG_BYTES, Quantity.LATENCY, Quantity.RESISTANCE,
            Quantity.TIME_TO_APPEAR, Quantity.TIME_TO_SWITCH, Quantity.DROPPED_OUT, Quantity.SOAKED, Quantity.CAPACITY,
            Quantity.LARGEST_FRAME, Quantity.DEPTH, Quantity.SLOT_WIDTH, Quantity.OFFERED,
            Quantity.AGREED, Quantity.TIME_TO_FAILURE, Quantity.TIME_TO_RECOVERY,
        ),
        (0, math.inf),
    ),
}  # fmt: skip
"""What values of a quantity can be at all, in its unit."""


class Known:
    """What the facts so far have named, and the audit that they make. A fact is checked, then taken."""

    def __init__(self, name: str) -> None:
        self.fold = AuditFold(name)
        self.claims: set[str] = set()
        self.trials: set[str] = set()
        self.doubts: set[str] = set()
        self.actions: set[str] = set()
        self.gear: set[str] = set()
        """Parts of the rig that trials were run with."""

    def take(self, entry: Entry) -> None:
        """Add a recorded fact without checking it: recorded facts are kept."""
        self.actions.add(entry.action)
        match entry.fact:
            case ClaimMade(claim):
                self.claims.add(claim)
            case TrialBegun(trial):
                self.trials.add(trial.id)
                self.gear |= _gear_of(trial) & {part.id for part in self.rig.parts()} if self.rig else set()
            case DoubtRaised(doubt):
                self.doubts.add(doubt)
            case _:
                pass
        self.fold.add((entry,))

    def problems(self, fact: Fact) -> tuple[str, ...]:
        """What is wrong with a fact that would come next, in words; nothing where it fits."""
        return (*_of_amounts(fact), *self._of(fact))

    @property
    def devices(self) -> dict[str, Device]:
        """The devices as they are known now, by id."""
        return {device.id: device for device in self.fold.things[0]}

    @property
    def rig(self) -> Rig | None:
        return self.fold.things[1]

    def _of(self, fact: Fact) -> Iterator[str]:
        match fact:
            case DeviceNoted(device):
                yield from _of_device(device)
                known = self.devices.get(device.id)
                if known is not None and self.trials and not known.same_thing_as(device):
                    yield "the trials so far are of another variant, revision or firmware: that is another audit"
            case RigNoted(rig):
                yield from _of_rig(rig)
                yield from self._of_missing_gear(rig)
            case ClaimMade() | ClaimEdited() | ClaimDropped():
                yield from self._of_claim_fact(fact)
            case TrialBegun(trial):
                if trial.id in self.trials:
                    yield f'another trial has the id "{sanitize(trial.id, 40)}"'
                yield from self._of_trial(trial)
            case TrialPlanned(trial) | TrialSkipped(trial):
                yield from self._of_trial(trial)
            case ReadingTaken(reading):
                yield from self._of_named(reading.trial)
                yield from _of_reading(reading)
            case PathTraced() | TrialEnded() | LinkSeen() | TrialRuled():
                yield from self._of_named(fact.trial)
            case _:
                yield from self._of_aside(fact)

    def _of_aside(self, fact: Fact) -> Iterator[str]:
        match fact:
            case DoubtRaised(doubt):
                if doubt in self.doubts:
                    yield f'another doubt has the id "{sanitize(doubt, 40)}"'
            case DoubtEnded(doubt) if doubt not in self.doubts:
                yield f'no doubt "{sanitize(doubt, 40)}" was raised before this'
            case EvidenceKept(sha256) if len(sha256) != 64 or set(sha256) - set("0123456789abcdef"):
                yield "sha256 must be 64 digits of 0-9 and a-f"
            case Undone(action) if action not in self.actions:
                yield f'there is no action "{sanitize(action, 40)}" before this to undo'
            case NoteWritten(_, port) if port is not None and not self._has_port(port):
                yield f"no device has a port {sanitize(port, 20)}"
            case _:
                pass

    def _of_claim_fact(self, fact: ClaimMade | ClaimEdited | ClaimDropped) -> Iterator[str]:
        if isinstance(fact, ClaimMade):
            if fact.id in self.claims:
                yield f'another claim has the id "{sanitize(fact.id, 40)}"'
        elif fact.claim not in self.claims:
            yield f'no claim "{sanitize(fact.claim, 40)}" was made before this'
        if not isinstance(fact, ClaimDropped):
            yield from self._of_claim(fact)

    def _of_claim(self, claim: ClaimMade | ClaimEdited) -> Iterator[str]:
        try:
            parsed = parse_claim(claim.sentence, claim_id="", device=claim.device)
        except ClaimError as error:
            yield sanitize(str(error), 300)
            return
        device = self.devices.get(parsed.device)
        if device is None:
            yield f'no device "{sanitize(parsed.device, 40)}" was named before this claim'
        else:
            yield from problems_of(parsed, device)

    def _of_trial(self, trial: Trial) -> Iterator[str]:
        for claim in trial.claims:
            if claim not in self.claims:
                yield f'no claim "{sanitize(claim, 40)}" was made before this trial'
        if trial.port is not None and not self._has_port(trial.port):
            yield f"no device has a port {sanitize(trial.port, 20)}"
        rig = self.rig
        if rig is None:
            yield "no rig was named before this trial"
            return
        yield from self._of_gear(trial, rig)

    def _of_missing_gear(self, rig: Rig) -> Iterator[str]:
        """What trials were run with stays in the rig: where it is gone, it is retired."""
        known = {part.id for part in rig.parts()}
        for part in sorted(self.gear - known)[:3]:
            yield f"trials were run with {sanitize(part, 40)}: retire it instead of removing it"

    def _of_gear(self, trial: Trial, rig: Rig) -> Iterator[str]:
        if rig.host(trial.setup.host) is None:
            yield f'the rig has no host "{sanitize(trial.setup.host, 40)}"'
        leads = {lead.id for lead in rig.leads}
        named = {trial.gear, *(each.gear for each in trial.setup.plugged)} - {DEVICE} - self.devices.keys()
        for gear in sorted(named):
            if rig.find(gear) is None:
                yield f'the rig has no gear "{sanitize(gear, 40)}"'
        for each in trial.setup.plugged:
            if each.lead is not None and each.lead not in leads:
                yield f'the rig has no lead "{sanitize(each.lead, 40)}"'

    def _of_named(self, trial: str) -> Iterator[str]:
        if trial not in self.trials:
            yield f'no trial "{sanitize(trial, 40)}" was begun before this'

    def _has_port(self, port: str) -> bool:
        return any(device.has(port) for device in self.devices.values())


def _gear_of(trial: Trial) -> set[str]:
    """Every part of the rig that a trial names."""
    plugged = trial.setup.plugged
    leads = {each.lead for each in plugged if each.lead is not None}
    in_line = {part for each in plugged for part in each.through}
    return {trial.setup.host, trial.gear, *(each.gear for each in plugged), *leads, *in_line}


MAX_PORTS = 256
_NEVER_NEGATIVE = ("_s", "_bps", "_bytes", "_w", "_wh", "_m", "watts", "volts", "amperes", "_mbps", "tries", "seen")
"""Endings of names of fields whose values are sizes, rates, times or amounts."""


def _of_amounts(noun: object) -> list[str]:
    """Amounts below zero, anywhere in a fact. Text is checked where it enters: in sheets, files and on the keyboard."""
    found: list[str] = []
    kind: Any = type(noun)
    for name, is_amount in _fields_with_numbers(kind):
        value = getattr(noun, name)
        for each in value if isinstance(value, tuple) else (value,):
            if not isinstance(each, float | int):
                found += _of_amounts(each)
            elif is_amount and each < 0:
                found.append(f"{name} must not be negative")
                break
    return found


@cache
def _fields_with_numbers(noun: Hashable) -> tuple[tuple[str, bool], ...]:
    """The fields of a noun that hold numbers, or nouns that do, each with whether it must not be negative."""
    if not isinstance(noun, type) or not is_dataclass(noun):
        return ()
    hints = get_type_hints(noun)
    names = [field.name for field in fields(noun) if any(map(_may_hold_numbers, leaves(hints[field.name])))]
    return tuple((name, name.endswith(_NEVER_NEGATIVE)) for name in names)


def _may_hold_numbers(leaf: Any) -> bool:
    return leaf in (float, int) or is_dataclass(leaf)


def _of_device(device: Device) -> Iterator[str]:
    ids = [port.id for port in device.ports()]
    if len(ids) > MAX_PORTS:
        yield f"it has {len(ids)} ports; {MAX_PORTS} are the most"
        return
    for port in sorted({each for each in ids if ids.count(each) > 1}):
        yield f"two ports have the id {sanitize(port, 20)}"


def _of_rig(rig: Rig) -> Iterator[str]:
    ids = [part.id for part in rig.parts()]
    for part_id in sorted({part_id for part_id in ids if ids.count(part_id) > 1}):
        yield f'two parts of the rig have the id "{sanitize(part_id, 40)}"'
    for display in rig.displays:
        yield from (problem for mode in display.modes for problem in _of_mode(mode))


def _of_reading(reading: Reading) -> Iterator[str]:
    numbers = [*reading.values, reading.error, reading.resolution]
    if reading.trace is not None:
        numbers += [*reading.trace.time_s, *reading.trace.values]
        if len(reading.trace.time_s) != len(reading.trace.values):
            yield "trace times and values differ in length"
    if not all(map(math.isfinite, numbers)):
        yield "a number is not finite"
    if reading.error < 0 or reading.resolution < 0:
        yield "error and resolution must not be negative"
    if reading.count is not None and not 0 <= reading.count.seen <= reading.count.tries:
        yield f'"{reading.count.seen} of {reading.count.tries}" is impossible'
    if isinstance(reading.quantity, Quantity):
        yield from _of_known_quantity(reading, reading.quantity)
    elif reading.values and not reading.unit:
        yield f'a value of "{sanitize(reading.quantity, 40)}" needs its unit'


def _of_known_quantity(reading: Reading, quantity: Quantity) -> Iterator[str]:
    if reading.unit and reading.unit != quantity.unit:
        yield f'{quantity} is written in {quantity.unit or "words"}, not in "{sanitize(reading.unit, 20)}"'
    low, high = _BOUNDS.get(quantity, (-math.inf, math.inf))
    for value in reading.values:
        if not low <= value <= high:
            yield f"{quantity} cannot be {value:g} {quantity.unit}"
            break
    if quantity is Quantity.MODE and reading.text is not None:
        yield from _of_mode(reading.text)


def _of_mode(text: str) -> Iterator[str]:
    try:
        parse_mode(text)
    except QuantityError as error:
        yield sanitize(f"{error.what}: {error.why}", 120)
