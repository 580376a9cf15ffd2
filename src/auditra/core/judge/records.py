"""The trials of an audit by what a judgement asks of them: looked up, never searched for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from operator import is_
from typing import Any

from auditra.core.decide.estimates import estimate
from auditra.core.decide.evidence import Evidence, NoRig
from auditra.core.decide.instrument_error import instruments_of, limit_of_error
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.host.difference import FOUND_BY_HOST
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.counting import SetAside, aside
from auditra.core.model.circumstance import Aspect, Circumstance, Under
from auditra.core.model.device import DEVICE
from auditra.core.model.event import EventKind
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.rig import Lead, Rig
from auditra.core.model.setup import SetUp
from auditra.core.wiring.trial_profile import TrialProfile, host_lead, plugged_gear, profile_of

_NO_CIRCUMSTANCE = FOUND_BY_HOST | frozenset(EventKind)
"""Events that make no other set-up of a trial: they follow from the wiring, or are what the trial showed."""


@dataclass(frozen=True, eq=False)
class Counted:
    """A trial that counts, with what was worked out of it once."""

    record: TrialRecord
    taken: ReadingSet
    """Its readings, those off an instrument of the rig with its limit of error."""
    only_what_it_reached: bool = False
    wiring: int = -1
    """The same number for trials of the same set-up, gear and port."""

    @property
    def id(self) -> str:
        return self.record.trial.id

    @property
    def port(self) -> str | None:
        return self.record.trial.port

    @property
    def setup(self) -> SetUp:
        return self.record.trial.setup

    @property
    def direct(self) -> bool:
        return self.record.trial.port is None

    def gear_at(self, port: str) -> str:
        """What is measured with at a port."""
        return self.setup.gear_at(port) or self.record.trial.gear

    def at(self, place: str) -> ReadingSet:
        """Its readings at a place."""
        found = self._at.get(place)
        if found is None:
            found = self._at[place] = self.taken.at(place)
        return found

    @cached_property
    def _at(self) -> dict[str, ReadingSet]:
        return {}

    @cached_property
    def places(self) -> tuple[str, ...]:
        """Where it took readings."""
        return tuple(dict.fromkeys(reading.at for reading in self.taken))

    @cached_property
    def gear(self) -> frozenset[str]:
        """Everything that is plugged in, and what is measured with."""
        return frozenset((self.record.trial.gear, *(each.gear for each in self.setup.plugged)))

    @cached_property
    def parts(self) -> frozenset[str]:
        """The parts of the rig on the way: host sockets, leads and adapters, each with its kind before it."""
        found = {socket_part(self.setup)}
        for plugged in self.setup.plugged:
            found.update({lead_part(plugged.lead)} if plugged.lead is not None else ())
            found.update(map(adapter_part, plugged.through))
        return frozenset(found)

    def parts_at(self, port: str | None) -> tuple[str, ...]:
        """The parts between the host and the gear at one port."""
        plugged = plugged_gear(self.setup, self.record.trial.gear, port)
        upstream = next((each for each in self.setup.plugged if each.gear == DEVICE), None)
        leads = [lead for lead in (host_lead(self.setup), plugged.lead if plugged else None) if lead is not None]
        through = [*(upstream.through if upstream else ()), *(plugged.through if plugged else ())]
        return tuple(dict.fromkeys((socket_part(self.setup), *map(lead_part, leads), *map(adapter_part, through))))


def socket_part(setup: SetUp) -> str:
    """``socket laptop/C1``: what a host socket is known by among the parts of the rig."""
    return f"socket {setup.host}/{setup.host_socket}"


def lead_part(lead: str) -> str:
    return f"lead {lead}"


def adapter_part(adapter: str) -> str:
    return f"adapter {adapter}"


class Records:
    """Trials, indexed as they come. A trial that changes, as the one that runs does, is taken out and put in again."""

    def __init__(
        self, rig: Rig, questioned: frozenset[str] = frozenset(), hub_ids: frozenset[str] = frozenset()
    ) -> None:
        self.rig, self.questioned, self.hub_ids = rig, questioned, hub_ids
        self.version = 0
        """Grows with each change."""
        self.asides: dict[str, SetAside] = {}
        self._aside_claims: dict[str, frozenset[str]] = {}
        self._all: list[TrialRecord] = []
        self._put: list[list[list[Counted]]] = []
        """For each trial, the lists that it was put into."""
        self._by_claim: dict[str, list[Counted]] = {}
        self._directs: dict[str, list[Counted]] = {}
        self._searched: dict[tuple[str, str], list[Counted]] = {}
        """What was searched for since the last change, by gear or by part."""
        self._counted: list[Counted] = []
        self._by_quantity: dict[Quantity | str, list[Counted]] = {}
        self._lists_by_kind: dict[tuple[Quantity | str, ...], list[list[Counted]]] = {}
        self._wirings: dict[tuple[SetUp, str, str | None], int] = {}
        self.kept: dict[tuple[object, ...], Any] = {}
        """What was worked out of a wiring and the rig alone, by what it is and the wiring's number."""
        self._instruments = {
            name: instrument for instrument in instruments_of(rig) for name in (instrument.id, instrument.name)
        }
        self._leads = {lead.id: lead for lead in rig.leads}
        self._supplies = {supply.id for supply in rig.supplies}

    def grown_to(self, records: tuple[TrialRecord, ...], rig: Rig, questioned: frozenset[str]) -> Records:
        """These trials indexed: only those that are not the very same as before.

        `questioned` are direct trials with a question open, which are no baseline until it is answered.
        """
        if rig is not self.rig or questioned != self.questioned:
            fresh = Records(rig, questioned, self.hub_ids)
            fresh.version = self.version
            return fresh.grown_to(records, rig, questioned)
        same = _same_beginning(self._all, records)
        if same == len(records) == len(self._all):
            return self
        self.version += 1
        self._searched.clear()
        while len(self._all) > same:
            self._take_out()
        for record in records[same:]:
            self._put_in(record)
        return self

    def _put_in(self, record: TrialRecord) -> None:
        self._all.append(record)
        lists: list[list[Counted]] = []
        self._put.append(lists)
        why = aside(record, self.rig, self.hub_ids)
        if why is None and record.trial.id in self.questioned:
            why = SetAside(record.trial.id, "a question about it is open: it is no baseline until that is answered")
        if why is not None:
            self.asides[record.trial.id] = why
            self._aside_claims[record.trial.id] = frozenset(record.trial.claims)
            if not why.what_it_reached_counts:
                return
        trial = record.trial
        wiring = self._wirings.setdefault((trial.setup, trial.gear, trial.port), len(self._wirings))
        counted = Counted(record, self._prepared(record), why is not None, wiring)
        if not counted.direct:
            lists += [self._by_claim.setdefault(claim, []) for claim in dict.fromkeys(trial.claims)]
        if counted.direct:
            lists.append(self._directs.setdefault(trial.gear, []))
        lists.append(self._counted)
        lists += self._lists_of(tuple([reading.quantity for reading in record.readings]))
        for each in lists:
            each.append(counted)

    def _lists_of(self, quantities: tuple[Quantity | str, ...]) -> list[list[Counted]]:
        """The lists of trials that have readings of these; most trials of an audit read the same."""
        kept = self._lists_by_kind.get(quantities)
        if kept is None:
            kept = [self._by_quantity.setdefault(quantity, []) for quantity in dict.fromkeys(quantities)]
            self._lists_by_kind[quantities] = kept
        return kept

    def _take_out(self) -> None:
        gone = self._all.pop().trial.id
        self.asides.pop(gone, None)
        self._aside_claims.pop(gone, None)
        for each in self._put.pop():
            each.pop()

    def _prepared(self, record: TrialRecord) -> ReadingSet:
        """Values that were read off an instrument of the rig take its limit of error where they have none."""
        if self._instruments.keys().isdisjoint([reading.instrument for reading in record.readings]):
            return record.taken
        return ReadingSet(tuple(self._with_error(reading) for reading in record.readings))

    def _with_error(self, reading: Reading) -> Reading:
        instrument = self._instruments.get(reading.instrument)
        if instrument is None or reading.error or not reading.values:
            return reading
        error = limit_of_error(instrument, reading.quantity, max(map(abs, reading.values)))
        return replace(reading, error=error) if error else reading

    def measures(self, reading: Reading) -> bool:
        """Whether it was read by eye off an instrument of the rig whose error is known."""
        return reading.instrument in self._instruments and reading.error > 0

    def reading(self, trial: Counted, place: str, quantity: Quantity | str) -> Reading | None:
        """The reading that decides about a quantity; None where there is none, or two contradict each other."""
        found = [reading for reading in trial.at(place) if reading.quantity == quantity and reading.values]
        if len(found) < 2:
            return found[0] if found else None
        witness = Evidence(ReadingSet(tuple(found)), rig=_Instruments(self)).witness(quantity)
        return None if witness is None or witness.against else witness.reading

    def lead(self, name: str) -> Lead | None:
        return self._leads.get(name)

    def asides_of(self, claim: str) -> Iterator[SetAside]:
        """The trials that were made for a claim and do not count."""
        return (self.asides[trial] for trial, claims in self._aside_claims.items() if claim in claims)

    @property
    def counted(self) -> list[Counted]:
        return self._counted

    def bearing_on(self, claim: str) -> list[Counted]:
        """The trials through the device that were made for a claim."""
        return self._by_claim.get(claim, [])

    def with_gear(self, gear: str) -> list[Counted]:
        """The trials that a piece of gear was measured with, or plugged in meanwhile."""
        if (kept := self._searched.get(("gear", gear))) is None:
            kept = self._searched["gear", gear] = [trial for trial in self._counted if gear in trial.gear]
        return kept

    def directs(self, gear: str) -> list[Counted]:
        """The trials of a piece of gear without the device."""
        return self._directs.get(gear, [])

    def with_part(self, part: str) -> list[Counted]:
        """The trials that a part of the rig took part in."""
        if (kept := self._searched.get(("part", part))) is None:
            kept = self._searched["part", part] = [trial for trial in self._counted if part in trial.parts]
        return kept

    @property
    def quantities(self) -> tuple[str, ...]:
        """Everything that was read."""
        return tuple(quantity for quantity, trials in self._by_quantity.items() if trials)

    def with_quantity(self, *quantities: Quantity | str) -> list[Counted]:
        """The trials with readings of any of these."""
        found = (trial for quantity in quantities for trial in self._by_quantity.get(quantity, ()))
        return list(dict.fromkeys(found)) if len(quantities) > 1 else list(found)

    def profile(self, trial: Counted, port: str | None) -> TrialProfile:
        """Everything about a trial that could matter, with what only the rig and the log of events tell."""
        key = ("profile", trial.wiring, port)
        kept: TrialProfile | None = self.kept.get(key)
        if kept is None:
            kept = self.kept[key] = self._profile(trial, port)
        return {**kept, Aspect.EVENTS: frozenset(_events(trial.record))} if trial.record.events else kept

    def _profile(self, trial: Counted, port: str | None) -> TrialProfile:
        profile = dict(profile_of(trial.setup, trial.gear_at(port) if port else trial.record.trial.gear, port))
        feeding = [each for each in trial.setup.plugged if each.gear in self._supplies]
        if trial.setup.charger is NOT_NOTED:
            supply = feeding[0].gear if feeding else None
            profile[Aspect.SUPPLY] = frozenset({Under(Aspect.SUPPLY, supply)})
        fed = {Under(Aspect.IDLE, each.socket) for each in feeding}
        profile[Aspect.IDLE] = profile[Aspect.IDLE] - fed
        profile[Aspect.EVENTS] = frozenset()
        return profile


class _Instruments(NoRig):
    """What is known of the rig for a single reading: which instruments it has."""

    def __init__(self, records: Records) -> None:
        super().__init__()
        self._records = records

    def measures(self, reading: Reading) -> bool:
        return self._records.measures(reading)


def least_of(quantity: Quantity | str, reading: Reading) -> float:
    """The least that a reading shows: a link or a depth is what it says, anything else less its uncertainty."""
    return min(reading.values) if quantity in (Quantity.LINK, Quantity.DEPTH) else estimate(reading).low


def _events(record: TrialRecord) -> Iterator[Circumstance]:
    """What a person noted; what was done to the wiring, and what the trial itself showed, is noted there."""
    for event in (event for event in record.events if event.what not in _NO_CIRCUMSTANCE):
        yield Under(Aspect.EVENTS, f"{event.what} {event.object}".strip())


def _same_beginning(one: list[TrialRecord], other: tuple[TrialRecord, ...]) -> int:
    """How many of the first are the very same objects."""
    if len(one) <= len(other) and all(map(is_, one, other)):
        return len(one)
    return next((index for index, pair in enumerate(zip(one, other, strict=False)) if pair[0] is not pair[1]),
                min(len(one), len(other)))  # fmt: skip
