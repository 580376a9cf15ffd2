"""Facts: everything that an audit knows, as it was written down, one after the other.

A fact is plain data that any program could write. Claims are kept as sentences of the claim language.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from auditra.core.audit.claim import Source
from auditra.core.audit.device import Device
from auditra.core.audit.reading import Reading
from auditra.core.audit.rig import Rig
from auditra.core.audit.trial import Outcome, Trial


@dataclass(frozen=True)
class DeviceNoted:
    """Which device is under audit."""

    device: Device


@dataclass(frozen=True)
class RigNoted:
    """With what it is examined."""

    rig: Rig


@dataclass(frozen=True)
class ClaimMade:
    """The seller promises this; `sentence` is in the claim language."""

    id: str
    sentence: str
    source: Source = Source()


@dataclass(frozen=True)
class TrialBegun:
    """This set-up is being tried."""

    trial: Trial


@dataclass(frozen=True)
class ReadingTaken:
    """A trial gave a value."""

    reading: Reading


@dataclass(frozen=True)
class TrialEnded:
    """A trial is over."""

    trial: str
    outcome: Outcome
    why: str = ""


@dataclass(frozen=True)
class NoteWritten:
    """The reviewer wrote something down, about a port or the whole device."""

    text: str
    port: str | None = None


@dataclass(frozen=True)
class Undone:
    """An earlier action, all its facts together, is not to count. An undone undoing counts again."""

    action: str


Fact = DeviceNoted | RigNoted | ClaimMade | TrialBegun | ReadingTaken | TrialEnded | NoteWritten | Undone

FACT_KINDS: dict[str, type[Fact]] = {
    "device": DeviceNoted,
    "rig": RigNoted,
    "claim": ClaimMade,
    "trial": TrialBegun,
    "reading": ReadingTaken,
    "trial ended": TrialEnded,
    "note": NoteWritten,
    "undo": Undone,
}
KIND_OF_FACT: dict[type[Fact], str] = {fact: kind for kind, fact in FACT_KINDS.items()}


@dataclass(frozen=True)
class Entry:
    """A fact in its place in the journal. Facts of one `action` were written, and can be undone, together."""

    number: int
    at: datetime
    action: str
    fact: Fact
