"""Measuring that costs what it measures: a recorder, or a processor that is busy."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.comparison import Measured, compare_in, measured_text
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Aspect
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import PAYLOAD_RATES, Quantity

BUSY_PERCENT = 95.0
"""A processor this busy may limit how fast data moves."""


@dataclass(frozen=True, kw_only=True)
class Recording(Finding):
    kind = "observer"
    role = Role.CAUSE

    recorder: str
    measured: Measured

    @property
    def subject(self) -> str:
        return self.recorder

    @property
    def sentence(self) -> str:
        lost = 1 - (self.measured.ratio or 0.0)
        return f"recording with {self.recorder} costs {lost:.0%} of the {self.measured.quantity} at {self.ports[0]}"

    @property
    def arithmetic(self) -> str:
        return measured_text(self.measured)


@dataclass(frozen=True, kw_only=True)
class BusyProcessor(Finding):
    kind = "busy processor"
    role = Role.RIG_LIMIT

    host: str
    load: Estimate

    @property
    def subject(self) -> str:
        return f"processor of {self.host}"

    @property
    def sentence(self) -> str:
        return f"the processor of {self.host} was {self.load.value:.0f} % busy: it may be what limits {self.ports[0]}"


def _find_recording(inquiry: Inquiry) -> Iterator[Recording]:
    """Trials that were recorded beside the same without a recorder."""
    seen: set[tuple[str, str]] = set()
    for record in inquiry.audit.trials:
        recorder = record.trial.setup.recorder
        if not isinstance(recorder, str) or (recorder, record.trial.place) in seen:
            continue
        found = next(_costs(inquiry, record, recorder), None)
        if found is not None:
            seen.add((recorder, record.trial.place))
            yield found


def _costs(inquiry: Inquiry, record: TrialRecord, recorder: str) -> Iterator[Recording]:
    plain = replace(record.trial.setup, recorder=NOT_NOTED)
    for other in inquiry.audit.trials:
        quiet = other.trial.setup.recorder
        if isinstance(quiet, str) or other.trial.port != record.trial.port:
            continue
        if other.trial.gear != record.trial.gear or replace(other.trial.setup, recorder=NOT_NOTED) != plain:
            continue
        compared = compare_in(inquiry.audit, record.trial.id, other.trial.id)
        if compared is None or any(each.aspect is not Aspect.RECORDER for each in compared.differences):
            continue
        for each in compared.measured:
            if each.quantity in PAYLOAD_RATES and each.is_real and (each.ratio or 1.0) < 1.0:
                yield Recording(
                    ports=(record.trial.place,), trials=(record.trial.id, other.trial.id), claims=record.trial.claims,
                    sure=Sureness.SURE if quiet is None else Sureness.LIKELY, recorder=recorder, measured=each,
                )  # fmt: skip


def _find_busy(inquiry: Inquiry) -> Iterator[BusyProcessor]:
    """Claims that seem to fail while the processor was at its end."""
    for verdict in inquiry.investigated:
        for name in (name for set_up in verdict.set_ups for name in set_up.trials):
            record = inquiry.record(name)
            reading = record.taken.of(Quantity.PROCESSOR).numbers().last() if record is not None else None
            if record is not None and reading is not None and estimate(reading).low >= BUSY_PERCENT:
                host = inquiry.audit.rig.name_of(record.trial.setup.host)
                yield BusyProcessor(
                    ports=(verdict.claim.port,), trials=(name,), claims=(verdict.claim.id,), sure=Sureness.LIKELY,
                    host=host, load=estimate(reading),
                )  # fmt: skip
                break


OBSERVER = Cause("observer", "the same trial with and without a recorder", "a trial of each", _find_recording)
BUSY_PROCESSOR = Cause(
    "busy processor", "what is shared with the measurement", "the processor's load in a trial that fell short",
    _find_busy, Role.RIG_LIMIT,
)  # fmt: skip
