"""A trial: one set-up tried, for the claims it bears on; it yields readings."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.setup import SetUp


class ProcedureId(StrEnum):
    """The procedures that kinds of claims name; each is a file of core/procedures, and there may be others."""

    STORAGE = "write and read back"
    NETWORK = "send and receive"
    TOGETHER = "measure several at once"
    POWER_OUT = "draw from the port"
    POWER_IN = "feed the inlet"
    CHARGE = "draw at the host plug"
    DISPLAY = "read the mode back"
    APPEARANCE = "see whether it appears"
    RULE = "measure with a rule"
    LOOK = "look, and tell"


class Outcome(StrEnum):
    """How a trial ended."""

    COMPLETE = "complete"
    DID_NOT_APPEAR = "did not appear"
    STOPPED = "stopped"
    FAILED = "failed"


DIRECT = "direct"
"""The place of a direct trial and its readings: no port of the device."""


@dataclass(frozen=True)
class Trial:
    """One set-up tried. `gear` is what is measured with; `port` is where, None for a direct trial.

    `key` names the planned trial it carries out, so that a repeat is known as one.
    """

    id: str
    key: str
    procedure: str
    claims: tuple[str, ...]
    setup: SetUp
    gear: str
    port: str | None
    target: float = 0.0
    """What the procedure works towards, in the unit of the claim: the watts to be drawn."""
    bench: Noted[str] = NOT_NOTED
    """What it ran on, such as "simulated bench"; a simulated reading never passes for a real one."""

    @property
    def place(self) -> str:
        """The port that it was of, or DIRECT."""
        return self.port or DIRECT
