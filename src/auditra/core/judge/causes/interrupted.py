"""A network link over which nothing passes for a while, though it is there before and after."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.circumstance_text import setup_text
from auditra.core.decide.estimates import estimate
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import Circumstances
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.core.plan.factors.supply import PULLED

_WHEN = {PULLED: "when the supply is pulled"}


@dataclass(frozen=True, kw_only=True)
class Interrupted(Finding):
    kind = "interrupted"
    role = Role.UNSTATED

    beside: Circumstances
    arranged: tuple[str, ...]
    longest_s: float

    @property
    def sentence(self) -> str:
        when = " ".join((*(_WHEN.get(words, words) for words in self.arranged), setup_text(self.beside))).strip()
        return f"nothing passes {self.ports[0]} for {self.longest_s:.1f} s{f' {when}' if when else ''}"

    @property
    def arithmetic(self) -> str:
        return f"seen in {', '.join(self.trials)}"


def _find(inquiry: Inquiry) -> Iterator[Interrupted]:
    """By port and set-up. A stream that ended for good is a spoiled trial; gear that pauses without the device tells
    nothing of it."""
    still: dict[tuple[str, tuple[str, ...], Circumstances], list[tuple[str, float]]] = {}
    dropped = [each for each in inquiry.records.with_quantity(Quantity.DROPPED_OUT) if _is_whole_stream(each.record)]
    pauses_anyway = {trial.record.trial.gear for trial in dropped if trial.direct}
    for trial in dropped:
        record, setup = trial.record, trial.setup
        if record.trial.gear in pauses_anyway:
            continue
        for reading in record.taken.of(Quantity.DROPPED_OUT).numbers():
            if (low_s := estimate(reading).low) > 0:
                still.setdefault((reading.at, setup.arranged, setup.circumstances()), []).append((trial.id, low_s))
    for (port, arranged, beside), seen in still.items():
        trials = tuple(dict.fromkeys(trial for trial, _ in seen))
        sure = Sureness.SURE if len(trials) > 1 else Sureness.LIKELY
        longest_s = max(seconds for _, seconds in seen)
        yield Interrupted(
            ports=(port,), trials=trials, sure=sure, arranged=arranged, beside=beside, longest_s=longest_s
        )


def _is_whole_stream(record: TrialRecord) -> bool:
    return record.trial.procedure == ProcedureId.NETWORK and record.outcome is Outcome.COMPLETE


INTERRUPTED = Cause(
    "interrupted", "drop-outs of a network link",
    "seconds in which nothing passed, with the link there before and after", _find, Role.UNSTATED,
)  # fmt: skip
