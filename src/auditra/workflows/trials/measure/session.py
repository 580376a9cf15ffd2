"""What every procedure is given: the planned trial, the doors, and where its readings go."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Protocol, TypeVar

from auditra.core.claims.promise import Look, Scale
from auditra.core.errors import BenchError
from auditra.core.journal.facts import Fact
from auditra.core.model.device import Device
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Trace, Value
from auditra.core.model.rig import Rig
from auditra.core.model.trial import Outcome
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Bench, Links, Person, Progress

Door = TypeVar("Door")
HOST_WITNESS = "kernel attributes"


YES, NO = ("yes", "y"), ("no", "n", "x")
MAX_TRIES = 5
"""How often a question is asked again before the trial is given up."""


@dataclass(frozen=True)
class EarlierSoak:
    """How long a trial that was left had been at full load by then."""

    seconds: float
    until: datetime


class Take(Protocol):
    """Records readings, all of them at once; they are on disk when this returns."""

    def __call__(self, *readings: Reading) -> None: ...


@dataclass(frozen=True)
class TrialSession:
    """One trial under way. `before` is what the kernel showed before the gear was plugged."""

    trial: str
    planned: PlannedTrial
    rig: Rig
    bench: Bench
    before: Links
    device: Device
    take: Take
    put: Callable[[Fact], None]
    """Puts any other fact of the trial on disk."""
    watch: Callable[[Progress], None]
    """Shows how it gets on. Raises: TrialStopped when the reviewer has had enough."""
    device_came: bool = False
    """The device itself was plugged for this trial, so that hubs which are new are its own."""
    stayed: frozenset[str] = frozenset()
    """The gear under trial that was there already, and is known again where it is."""
    scales: tuple[Scale, ...] = ()
    """What is promised of what is tried, as scales."""
    looks: tuple[Look, ...] = ()
    """What a person is asked, where the trial is one of looking."""
    looks_besides: tuple[Look, ...] = ()
    """What a person is asked besides what is measured."""
    tried_at: Mapping[str, str] = field(default_factory=dict)
    """The ports at which drives were, by the kernel's name for the place."""

    measured_behind: set[float] = field(default_factory=set)
    """The currents under which instruments took something in this trial, in amperes."""

    earlier_soak: EarlierSoak | None = None
    """What an earlier try of this trial soaked before it was left."""

    @property
    def spot(self) -> str:
        return self.planned.place

    def need(self, door: Door | None, words: str) -> Door:
        """The door. Raises: BenchError when this bench has none."""
        if door is None:
            raise BenchError(f"the {self.bench.name}", why=f"it has no {words}", do="Use a bench that has one")
        return door

    def ask_yes_or_no(self, question: str) -> bool:
        """Asked again until it is one of the two, the question always in sight.

        Raises: TrialStopped; BenchError where neither was answered: silence is no answer.
        """
        return ask_yes_or_no(self.bench.person, question)

    def wait_for(
        self, look: Callable[[], Door | None], doing: str, within_s: float, every_s: float = 0.25
    ) -> Door | None:
        """What `look` finds once it finds something; None when the time is up."""
        clock = self.bench.clock
        started = clock.now_s()
        while (found := look()) is None and clock.now_s() - started < within_s:
            self.watch(Progress(doing, time_s=clock.now_s() - started))
            clock.sleep(every_s)
        return found

    def appeared(self, seen: bool, witness: str = HOST_WITNESS) -> Outcome:
        """Record whether the gear appeared, as one try; that it is still there from the trial before is none."""
        if not seen or self.planned.gear not in self.stayed:
            self.take(self.reading(Quantity.APPEARED, witness, Grade.READ, Count(int(seen), 1)))
        return Outcome.COMPLETE if seen else Outcome.DID_NOT_APPEAR

    def number(
        self,
        quantity: Quantity,
        instrument: str,
        values: tuple[float, ...],
        *,
        grade: Grade = Grade.MEASURED,
        error: float = 0.0,
        resolution: float = 0.0,
        at: str | None = None,
        trace: Trace | None = None,
        note: str = "",
    ) -> Reading:
        return Reading(
            self.trial,
            quantity,
            at or self.spot,
            instrument,
            grade,
            Number(values),
            error=error,
            resolution=resolution,
            trace=trace,
            note=note,
        )

    def reading(self, quantity: Quantity, instrument: str, grade: Grade, value: Value) -> Reading:
        return Reading(self.trial, quantity, self.spot, instrument, grade, value)


def ask_yes_or_no(person: Person, question: str) -> bool:
    """Asked again until it is one of the two. Raises: TrialStopped; BenchError where neither was answered."""
    asked = f"{question} (yes, or no)"
    for _ in range(MAX_TRIES):
        answer = person.ask(asked, "yes").strip().lower()
        if answer in (*YES, *NO):
            return answer in YES
        asked = f"{neither(answer)} {question} (yes, or no)"
    raise BenchError("the question", why="neither yes nor no was answered", do="Start the trial again")


def neither(answer: str) -> str:
    """What is said of an answer that is neither yes nor no."""
    return f'"{sanitize(answer, 20)}" is neither yes nor no.' if answer else "Nothing was answered."
