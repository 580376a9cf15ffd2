"""Pictures that are lost while something else is in use or is being connected."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from auditra.core.decide.circumstance_text import setup_text
from auditra.core.decide.estimates import estimate
from auditra.core.journal.audit import TrialRecord
from auditra.core.journal.facts import EventNoted
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Circumstances
from auditra.core.model.event import EventKind
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import ProcedureId

_LOST = re.compile(r"picture (?:was |is )?(?:lost|gone)|blank|went (?:black|dark)|screen (?:lost|black)", re.IGNORECASE)
_CONFUSED = re.compile(r"arrangement (?:was |is )?(?:lost|forgotten|changed)|windows? moved", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class Blanking(Finding):
    kind = "blanking"
    role = Role.UNSTATED

    beside: Circumstances
    as_hands_moved: bool = False
    """It was lost while something else was plugged or pulled."""
    longest_s: float = 0.0
    """How long it was away at most, where it was seen to come back."""

    @property
    def sentence(self) -> str:
        when = "when something else is plugged or pulled" if self.as_hands_moved else setup_text(self.beside)
        lasts = f"for {self.longest_s:.1f} s" if self.longest_s else ""
        return " ".join(filter(None, (f"{self.ports[0]} loses its picture", lasts, when)))

    @property
    def arithmetic(self) -> str:
        return f"seen in {', '.join(self.trials)}"


@dataclass(frozen=True, kw_only=True)
class ArrangementLost(Finding):
    kind = "arrangement lost"
    role = Role.UNSTATED

    @property
    def sentence(self) -> str:
        return "the arrangement of displays is lost when it is connected again"

    @property
    def arithmetic(self) -> str:
        return f"noted in {', '.join(self.trials)}" if self.trials else "noted in the log"


def _find(inquiry: Inquiry) -> Iterator[Blanking]:
    """Displays whose picture was lost in a trial, by what else was in use, or while hands were busy elsewhere."""
    lost: dict[tuple[str, bool, Circumstances], list[tuple[str, float]]] = {}
    dropped = inquiry.records.with_quantity(Quantity.DROPPED_OUT)
    eventful = [record for record in inquiry.audit.trials if record.events]
    by_id = {record.trial.id: record for record in (*eventful, *(trial.record for trial in dropped))}
    for record in by_id.values():
        for port, as_hands_moved, lasted_s in _lost_at(record):
            beside: Circumstances = () if as_hands_moved else record.trial.setup.circumstances()
            lost.setdefault((port, as_hands_moved, beside), []).append((record.trial.id, lasted_s))
    for (port, as_hands_moved, beside), seen in lost.items():
        yield Blanking(
            ports=(port,), trials=tuple(dict.fromkeys(trial for trial, _ in seen)),
            sure=Sureness.SURE if len(seen) > 1 else Sureness.LIKELY, beside=beside, as_hands_moved=as_hands_moved,
            longest_s=max(seconds for _, seconds in seen),
        )  # fmt: skip


def _lost_at(record: TrialRecord) -> Iterator[tuple[str, bool, float]]:
    """The port, whether hands were at work elsewhere, and for how many seconds; 0 where that is not known."""
    of_hands = record.trial.procedure == ProcedureId.PLUGGED_MEANWHILE
    events = [event for event in record.events if _LOST.search(event.what)]
    for event in events:
        port = event.port if isinstance(event.port, str) else event.object or record.trial.place
        yield port, of_hands or _is_before(record, event), _lasted_s(record, event)
    shows = record.trial.port is not None and (of_hands or record.trial.procedure == ProcedureId.DISPLAY)
    for reading in record.taken.of(Quantity.DROPPED_OUT).numbers() if shows and not events else ():
        if (low_s := estimate(reading).low) > 0:
            yield reading.at, of_hands, low_s


def _is_before(record: TrialRecord, event: EventNoted) -> bool:
    """Whether it happened before everything was connected for its trial."""
    return record.begun_at is not None and isinstance(event.moment, datetime) and event.moment < record.begun_at


def _lasted_s(record: TrialRecord, lost: EventNoted) -> float:
    """Until the picture was seen to be back at the same port."""
    if not isinstance(lost.moment, datetime):
        return 0.0
    later = (event.moment for event in record.events
             if event.what == EventKind.PICTURE_BACK and event.port == lost.port
             and isinstance(event.moment, datetime) and event.moment > lost.moment)  # fmt: skip
    return min(((moment - lost.moment).total_seconds() for moment in later), default=0.0)


def _find_arrangement(inquiry: Inquiry) -> Iterator[ArrangementLost]:
    """Once, with the trials that it was noted in."""
    noted = [event for event in inquiry.audit.events if _CONFUSED.search(event.what)]
    trials = [event.trial for event in noted if event.trial is not NOT_NOTED]
    eventful = [record for record in inquiry.audit.trials if record.events]
    trials += [each.trial.id for each in eventful if any(_CONFUSED.search(event.what) for event in each.events)]
    if noted or trials:
        yield ArrangementLost(trials=tuple(dict.fromkeys(map(str, trials))), sure=Sureness.LIKELY)


BLANKING = Cause(
    "blanking", "events and drop-outs of a display", "picture lost, noted or measured", _find, Role.UNSTATED
)
ARRANGEMENT_LOST = Cause(
    "arrangement lost", "events", "an arrangement that was noted as lost", _find_arrangement, Role.UNSTATED
)
