"""Facts: everything that an audit knows, as it was written down, one after the other.

A fact is plain data that any program could write. Claims are kept as sentences of the claim language.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.link_answer import LinkAnswer
from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.profile import Profile
from auditra.core.model.reading import Reading
from auditra.core.model.rig import Rig
from auditra.core.model.source import Source
from auditra.core.model.storage_path import PathTrace
from auditra.core.model.trial import Outcome, Trial


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
    device: str = DEVICE


@dataclass(frozen=True)
class ClaimEdited:
    """A claim is put otherwise from here on; what was tried for it stays."""

    claim: str
    sentence: str
    source: Source = Source()
    device: str = DEVICE


@dataclass(frozen=True)
class ClaimDropped:
    """A claim no longer counts: it was read wrongly, or it was recorded twice."""

    claim: str
    why: str = ""


@dataclass(frozen=True)
class RemarkAnswered:
    """What the paper check said was looked into; `remark` is its key."""

    remark: str
    note: str


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
class TrialRuled:
    """The reviewer decided whether a trial counts, whatever else speaks for or against it."""

    trial: str
    counts: bool
    why: str = ""


@dataclass(frozen=True)
class TrialPlanned:
    """The reviewer wants this trial too: it stands on the run sheet beside those that follow from the claims."""

    trial: Trial
    title: str = ""
    why: str = ""


@dataclass(frozen=True)
class TrialSkipped:
    """The reviewer will not run a trial of the run sheet. What it would have shown stays open.

    Without `skips` it is wanted again.
    """

    trial: Trial
    why: str
    skips: bool = True


@dataclass(frozen=True)
class SheetChosen:
    """How deep the reviewer goes: the quick, the full or the forensic run sheet."""

    depth: Depth


@dataclass(frozen=True)
class ProfileChosen:
    """What the score weighs and charges from here on, whole: another machine scores the audit the same."""

    profile: Profile


@dataclass(frozen=True)
class NoteWritten:
    """The reviewer wrote something down, about a port or the whole device.

    `about` is what it is about, such as build, fit or repair. An opinion is marked as one, and decides nothing.
    """

    text: str
    port: str | None = None
    about: Noted[str] = NOT_NOTED
    is_opinion: Noted[bool] = NOT_NOTED
    evidence: tuple[str, ...] = ()
    """SHA-256 of the photos that show it."""
    moment: Noted[datetime] = NOT_NOTED


@dataclass(frozen=True)
class BenchNoted:
    """Where the trials of this audit are run: "simulated bench" or "live bench"."""

    bench: str


@dataclass(frozen=True)
class PathTraced:
    """The way from the folder that a trial writes to, to the socket that it hangs on, as the kernel reports it."""

    trial: str
    trace: PathTrace


@dataclass(frozen=True)
class LinkSeen:
    """What a USB link negotiated during a trial, against what its two ends could do, as the host reports it.

    `at` is the port, or "direct"; `device` is the kernel's name of the place. Rates are in bits per second, None where
    the host does not say.
    """

    trial: str
    at: str
    device: str
    rate_bps: float | None
    device_could_bps: float | None
    socket_could_bps: float | None
    answer: LinkAnswer
    why: str = ""


@dataclass(frozen=True)
class EventNoted:
    """Something was done, or happened: plugged, pulled, swapped, a chime, a lamp that went out.

    `what` is a kind of the log (`core.model.event`), a change that the host saw, or any other words.
    """

    what: str
    object: str
    port: Noted[str] = NOT_NOTED
    trial: Noted[str] = NOT_NOTED
    moment: Noted[datetime] = NOT_NOTED


@dataclass(frozen=True)
class EvidenceKept:
    """A photo or another file that a reading, a note or a claim came from, by the SHA-256 of its bytes."""

    sha256: str
    name: str
    size_bytes: int
    media_type: Noted[str] = NOT_NOTED
    about: Noted[str] = NOT_NOTED
    moment: Noted[datetime] = NOT_NOTED
    """When the reviewer took it, where that is worth a line of the log."""


@dataclass(frozen=True)
class DoubtRaised:
    """A question, a reader's or one's own, with the trial that would settle it."""

    id: str
    question: str
    raised_by: Noted[str] = NOT_NOTED
    settled_by: Noted[str] = NOT_NOTED
    port: Noted[str] = NOT_NOTED
    suspect: Noted[str] = NOT_NOTED
    """The kind of cause that it suspects, such as "rig part" or "heat"."""
    about: Noted[str] = NOT_NOTED
    """What it suspects: a lead, a host, a port, what else was in use."""
    moment: Noted[datetime] = NOT_NOTED


class DoubtEnd(StrEnum):
    """How a doubt ended."""

    CONFIRMED = "confirmed"
    REFUTED = "refuted"
    OPEN = "still open"


@dataclass(frozen=True)
class DoubtEnded:
    """What became of a doubt, and which trials showed it."""

    doubt: str
    end: DoubtEnd
    why: str = ""
    trials: tuple[str, ...] = ()


@dataclass(frozen=True)
class FollowUpNoted:
    """This audit follows an earlier one of the same device: its claims and rig were kept, its trials were not.

    `changed` is the one thing that is different now, in the reviewer's words; `head` is where the journal of the
    earlier one ended.
    """

    earlier: str
    changed: str
    head: str = ""


@dataclass(frozen=True)
class ReplicationKept:
    """Another reviewer's audit of the same device stands beside this one; `facts` is the SHA-256 of its journal, which
    ends in `head`. Its verdicts are worked out from that journal, and count for nothing here."""

    name: str
    reviewer: str
    head: str
    facts: str


@dataclass(frozen=True)
class Archived:
    """The audit is put away, or taken out again; nothing in it changes."""

    put_away: bool


@dataclass(frozen=True)
class SignedOff:
    """The audit is done, says the one who writes this, and closed to all others; or open again, says the same one."""

    by: str
    is_open: bool = False


@dataclass(frozen=True)
class ReportPublished:
    """A report of the audit went out: its version, how many entries it was made of, and from the second on why."""

    version: int
    entries: int
    why: str = ""


@dataclass(frozen=True)
class Undone:
    """An earlier action, all its facts together, is not to count. An undone undoing counts again."""

    action: str


Fact = (
    DeviceNoted | RigNoted | BenchNoted | ClaimMade | ClaimEdited | ClaimDropped | RemarkAnswered | TrialBegun
    | PathTraced | LinkSeen | ReadingTaken | TrialEnded | TrialRuled | TrialPlanned | TrialSkipped | SheetChosen
    | ProfileChosen | EventNoted | NoteWritten | EvidenceKept
    | DoubtRaised | DoubtEnded | FollowUpNoted | ReplicationKept | Archived | SignedOff | ReportPublished
    | Undone
)  # fmt: skip

FACT_KINDS: dict[str, type[Fact]] = {
    "device": DeviceNoted,
    "rig": RigNoted,
    "bench": BenchNoted,
    "claim": ClaimMade,
    "claim mended": ClaimEdited,
    "claim dropped": ClaimDropped,
    "remark answered": RemarkAnswered,
    "trial": TrialBegun,
    "path": PathTraced,
    "link": LinkSeen,
    "reading": ReadingTaken,
    "trial ended": TrialEnded,
    "trial ruled": TrialRuled,
    "trial planned": TrialPlanned,
    "trial skipped": TrialSkipped,
    "event": EventNoted,
    "note": NoteWritten,
    "evidence": EvidenceKept,
    "doubt": DoubtRaised,
    "doubt ended": DoubtEnded,
    "follow-up": FollowUpNoted,
    "sheet": SheetChosen,
    "profile": ProfileChosen,
    "replication": ReplicationKept,
    "archived": Archived,
    "signed off": SignedOff,
    "published": ReportPublished,
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
    writer: str = ""
    """Who wrote it down; empty where that was not noted."""
