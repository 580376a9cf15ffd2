"""Pictures that are lost while something else is in use or is being connected."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.circumstance_text import setup_text
from auditra.core.decide.estimates import estimate
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Circumstances
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
    times: int

    @property
    def sentence(self) -> str:
        when = setup_text(self.beside)
        return f"{self.ports[0]} loses its picture{f' {when}' if when else ''}"

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
    """Displays whose picture was lost in a trial, by what else was in use."""
    lost: dict[tuple[str, Circumstances], list[str]] = {}
    dropped = inquiry.records.with_quantity(Quantity.DROPPED_OUT)
    eventful = [record for record in inquiry.audit.trials if record.events]
    by_id = {record.trial.id: record for record in (*eventful, *(trial.record for trial in dropped))}
    for record in by_id.values():
        for port in dict.fromkeys(_lost_at(record)):
            lost.setdefault((port, record.trial.setup.circumstances()), []).append(record.trial.id)
    for (port, beside), trials in lost.items():
        sure = Sureness.SURE if len(trials) > 1 else Sureness.LIKELY
        yield Blanking(ports=(port,), trials=tuple(trials), sure=sure, beside=beside, times=len(trials))


def _lost_at(record: TrialRecord) -> Iterator[str]:
    for event in record.events:
        if _LOST.search(event.what):
            yield event.port if isinstance(event.port, str) else event.object or record.trial.place
    shows = record.trial.procedure == ProcedureId.DISPLAY
    for reading in record.taken.of(Quantity.DROPPED_OUT).numbers() if shows else ():
        if estimate(reading).low > 0 and record.trial.port is not None:
            yield reading.at


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
