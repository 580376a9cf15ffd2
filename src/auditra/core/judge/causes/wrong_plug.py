"""What happens where a buyer plugs something that no claim speaks of: it stays dark, or it works all the same."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.counts import MIN_TRIES_THAT_ACCUSE
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.records import Counted
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Display, Drive
from auditra.core.model.trial import Outcome, ProcedureId


@dataclass(frozen=True, kw_only=True)
class WrongPlug(Finding):
    kind = "wrong plug"
    role = Role.UNSTATED

    what: str
    capability: Capability | None
    works: bool
    count: str

    @property
    def sentence(self) -> str:
        does = "works" if self.works else "does not work"
        return f"{self.what} {does}; nothing is stated for it"

    @property
    def box_line(self) -> str:
        port, thing = self.ports[0], self.what.removesuffix(f" in {self.ports[0]}")
        return f"{port} works with {thing}" if self.works else f"{port} does not work with {thing}"

    @property
    def arithmetic(self) -> str:
        return f"it responded in {self.count}"


def _find(inquiry: Inquiry) -> Iterator[WrongPlug]:
    """One for each such trial of the first device, whose ports are shown. That something does not work is said only
    where the same gear worked elsewhere."""
    for trial in inquiry.records.with_quantity(Quantity.RESPONDS):
        count = trial.taken.of(Quantity.RESPONDS).count()
        port = trial.port if trial.setup.device == inquiry.audit.device.id else None
        if port is None or not count.tries or (not count.seen and not _works_elsewhere(trial, inquiry)):
            continue
        yield WrongPlug(
            ports=(port,), trials=(trial.id,), what=_what(trial, port, inquiry), works=bool(count.seen),
            capability=_capability(trial, inquiry),
            sure=Sureness.SURE if count.seen or count.tries >= MIN_TRIES_THAT_ACCUSE else Sureness.LIKELY,
            count=f"{count.seen} of {count.tries} {'try' if count.tries == 1 else 'tries'}",
        )  # fmt: skip


def _what(trial: Counted, port: str, inquiry: Inquiry) -> str:
    gear = inquiry.audit.rig.find(trial.record.trial.gear)
    match gear:
        case Drive():
            return f"a drive in {port}"
        case Display():
            return f"a display in {port}"
    return f"the host's lead in {port}"


def _capability(trial: Counted, inquiry: Inquiry) -> Capability | None:
    gear = inquiry.audit.rig.find(trial.record.trial.gear)
    return Capability.DATA if isinstance(gear, Drive) else Capability.PICTURE if isinstance(gear, Display) else None


def _works_elsewhere(trial: Counted, inquiry: Inquiry) -> bool:
    """The gear was there in some other trial; what is no gear of the rig needs no such proof."""
    gear = trial.record.trial.gear
    return inquiry.audit.rig.find(gear) is None or any(
        record.outcome is Outcome.COMPLETE
        and record.trial.gear == gear
        and record.trial.procedure not in (ProcedureId.WRONG_PLUG, ProcedureId.APPEARANCE)
        for record in inquiry.audit.trials
    )


WRONG_PLUG = Cause(
    "wrong plug",
    "the tries that were counted",
    "something tried where no claim speaks of it, and the same gear elsewhere",
    _find,
    Role.UNSTATED,
)
