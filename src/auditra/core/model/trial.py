"""A trial: one set-up tried, for the claims it bears on; it yields readings."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from auditra.core.model.circumstance import Circumstance
from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.setup import SetUp


class ProcedureId(StrEnum):
    """The procedures that kinds of claims name; each is a file of core/procedures, and there may be others."""

    STORAGE = "write and read back"
    NETWORK = "send and receive"
    TOGETHER = "measure several at once"
    POWER_OUT = "draw from the port"
    AFTER_REMOVAL = "pull, and see what is left"
    POWER_IN = "feed the inlet"
    CHARGE = "draw at the host plug"
    DISPLAY = "read the mode back"
    PLUGGED_MEANWHILE = "plug something beside a picture"
    APPEARANCE = "see whether it appears"
    WRONG_PLUG = "try what no seller promises"
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
class TrialIdentity:
    """What a repeat of a trial is known by: the same procedure at the same place with the same gear, all else alike."""

    procedure: str
    at: tuple[str, ...]
    """The ports under trial; none for a direct one."""
    gear: tuple[str, ...]
    circumstances: frozenset[Circumstance]
    claims: tuple[str, ...] = ()
    """Of a trial of looking, whose claims are what is looked at."""


@dataclass(frozen=True)
class Trial:
    """One set-up tried. `gear` is what is measured with; `port` is where, None for a direct trial.

    A repeat is known by its identity, which is worked out of the trial itself (`core.procedures.identity`).
    """

    id: str
    procedure: str
    claims: tuple[str, ...]
    setup: SetUp
    gear: str
    port: str | None
    target: float = 0.0
    """What the procedure works towards, in the unit of the claim: the watts to be drawn."""
    bench: Noted[str] = NOT_NOTED
    """What it ran on, such as "simulated bench"; a simulated reading never passes for a real one."""
    key: str = ""
    """What Auditra up to 0.7 knew a repeat by; since then it writes none (`core.journal.older_trials`)."""

    @property
    def place(self) -> str:
        """The port that it was of, or DIRECT."""
        return self.port or DIRECT
