"""Two trials compared: everything that differs, and whether what is left is still a comparison."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import NamedTuple

from auditra.core.journal.fold import TrialRecord
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.setup import SetUp
from auditra.core.procedures.registry import procedure_of


class Aspect(StrEnum):
    """In what two trials can differ. The words are for people."""

    HOST = "host"
    SOAK = "soaked"
    PROTOCOL = "protocol"
    DRIVER = "driver"
    RECORDER = "recorder"
    WORKLOAD = "workload"
    FILE_SIZE = "file"
    NETWORK = "network"
    PROCEDURE = "procedure"
    DRIVE = "drive"
    HOST_SOCKET = "host socket"
    LEAD = "lead"

    @property
    def may_differ(self) -> bool:
        """What a device in between changes of itself: it has a socket of its own, and that may want another lead.

        Anything else would be a second reason for a difference beside the device.
        """
        return self in (Aspect.HOST_SOCKET, Aspect.LEAD)


_IN_SETUP = {
    Aspect.HOST_SOCKET: "host_socket",
    Aspect.HOST: "host",
    Aspect.SOAK: "soaked_s",
    Aspect.PROTOCOL: "protocol",
    Aspect.DRIVER: "driver",
    Aspect.RECORDER: "recorder",
    Aspect.WORKLOAD: "workload",
    Aspect.FILE_SIZE: "file_bytes",
    Aspect.NETWORK: "network",
}
"""The fields of a set-up that are compared as they are."""


@dataclass(frozen=True)
class Difference:
    """One thing that differs between a trial through the device and the same gear direct."""

    aspect: Aspect
    through: object
    direct: object

    def __str__(self) -> str:
        """``host: laptop, direct older-laptop``."""
        return f"{self.aspect}: {self.through}, direct {self.direct}"


class Comparison(NamedTuple):
    """A trial of a claim beside a direct one, with everything that differs.

    A tuple: there is one for each two trials, and a dataclass takes four times as long to make.
    """

    claim: str
    trial: str
    direct: str
    differences: tuple[Difference, ...]
    refusing: tuple[Difference, ...]
    """Those that make it no comparison; none where it counts."""


def refusal_text(comparison: Comparison) -> str:
    """Why a comparison decides nothing; empty where it counts."""
    refusing = "; ".join(map(str, comparison.refusing))
    return f"more than the device differs: {refusing}" if refusing else ""


def compare(claim: str, port: str, record: TrialRecord, direct: TrialRecord) -> Comparison:
    """What differs besides the device in between. Source: one thing at a time, or the cause stays unknown."""
    ours, theirs = record.trial.setup, direct.trial.setup
    leads = _lead_of(ours, ours.gear_at(port)) or "none", _lead_of(theirs, direct.trial.gear) or "none"
    pairs: dict[Aspect, tuple[object, object]] = {Aspect.LEAD: leads}
    pairs |= {aspect: (getattr(ours, name), getattr(theirs, name)) for aspect, name in _IN_SETUP.items()}
    if record.path is not None and direct.path is not None:
        pairs[Aspect.DRIVE] = record.path.drive_identity, direct.path.drive_identity
    mine, other = procedure_of(record.trial.procedure), procedure_of(direct.trial.procedure)
    if not mine.compares_with(other):
        pairs[Aspect.PROCEDURE] = mine.id, other.id
    found = [Difference(aspect, *pair) for aspect, pair in pairs.items() if _differs(*pair)]
    refusing = tuple(each for each in found if not each.aspect.may_differ)
    return Comparison(claim, record.trial.id, direct.trial.id, tuple(found), refusing)


def _differs(through: object, direct: object) -> bool:
    """What was not noted on one side is not known to differ."""
    return through != direct and NOT_NOTED not in (through, direct)


def _lead_of(setup: SetUp, gear: str | None) -> str | None:
    return next((each.lead for each in setup.plugged if each.gear == gear), None)
