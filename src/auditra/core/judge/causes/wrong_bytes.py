"""Other bytes came back than were written, though the gear itself is sound: whoever copies through this loses data."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.rules import CONTENT
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.verdict import Verdict


@dataclass(frozen=True, kw_only=True)
class WrongBytes(Finding):
    kind = "wrong bytes"
    role = Role.DANGER

    shown: str
    compared: str

    @property
    def sentence(self) -> str:
        return f"{self.ports[0]} returns other bytes than were written: {self.shown}"

    @property
    def arithmetic(self) -> str:
        return self.compared


def _find(inquiry: Inquiry) -> Iterator[WrongBytes]:
    """Once for each port whose content is broken."""
    seen: set[str] = set()
    for verdict in inquiry.verdicts:
        for set_up in verdict.set_ups:
            for part in set_up.parts:
                port = verdict.claim.port
                if part.name == CONTENT and part.verdict is Verdict.BROKEN and port not in seen:
                    seen.add(port)
                    yield WrongBytes(
                        ports=(port,), trials=set_up.trials, claims=(verdict.claim.id,), shown=part.shown,
                        compared=part.arithmetic,
                    )  # fmt: skip


WRONG_BYTES = Cause(
    "wrong bytes", "every byte read back is compared with what was written", "a storage trial with its content checked",
    _find, Role.DANGER,
)  # fmt: skip
