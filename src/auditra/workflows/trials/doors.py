"""The doors: what workflows need of the world. The simulated bench and the live one stand behind the same ones.

Every door may raise BenchError, which ends a trial and leaves it repeatable; none blocks without a time limit.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass, field
from datetime import datetime
from typing import Protocol, runtime_checkable

from auditra.core.claims.promise import Look
from auditra.core.host.snapshot import Snapshot
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Entry, Fact
from auditra.core.links.display import Mode
from auditra.core.model.storage_path import PathTrace
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import PlugMove
from auditra.workflows.trials.network_doors import NetworkPeers


class Clock(Protocol):
    """Time on the bench."""

    def now_s(self) -> float:
        """Seconds since some beginning, never backwards."""
        ...

    def moment(self) -> datetime:
        """The date and time, in UTC."""
        ...

    def sleep(self, seconds: float) -> None: ...


@dataclass(frozen=True)
class VoltsAmperes:
    """Volts and amperes taken in one go, with the limits of their errors where these are described."""

    volts: float
    amperes: float
    error_v: float | None = None
    error_a: float | None = None

    @property
    def watts(self) -> float:
        return self.volts * self.amperes

    @property
    def error_w(self) -> float | None:
        """The limit of error of the watts: both limits at once, as they are limits (JCGM 100:2008, 5.1.2, note 1)."""
        if self.error_v is None or self.error_a is None:
            return None
        return abs(self.amperes) * self.error_v + abs(self.volts) * self.error_a


@dataclass(frozen=True)
class Volts:
    """A voltage alone, with the limit of its error where that is described."""

    volts: float
    error_v: float | None = None


class Meter(Protocol):
    """A meter in line, or at an end of it. Raises: InstrumentError when it is silent or talks nonsense."""

    def measure(self) -> VoltsAmperes: ...

    def volts(self) -> Volts:
        """What a voltmeter can tell too, and sooner."""
        ...


class Load(Meter, Protocol):
    """An electronic load."""

    @property
    def highest_a(self) -> float:
        """The most that it can be set to."""
        ...

    def set_current(self, amperes: float) -> None: ...

    def switch(self, on: bool) -> None: ...


@dataclass(frozen=True)
class UsbDevice:
    """One USB device as the kernel names it. `speed_mbps` is None where the kernel does not say."""

    name: str
    speed_mbps: float | None
    usb_id: str
    is_hub: bool
    product: str = ""


@dataclass(frozen=True)
class NetworkInterface:
    """One network interface; `speed_mbps` is None while there is no link."""

    name: str
    speed_mbps: float | None


@dataclass(frozen=True)
class Connector:
    """One display connector, with the untouched description that the display sent."""

    name: str
    connected: bool
    edid: bytes


@dataclass(frozen=True)
class Links:
    """What the kernel shows at one moment."""

    usb: tuple[UsbDevice, ...] = ()
    network: tuple[NetworkInterface, ...] = ()
    connectors: tuple[Connector, ...] = ()


class KernelAttributes(Protocol):
    """The host's own word on its links."""

    def links(self) -> Links:
        """What changes while a trial waits, quickly."""
        ...

    def snapshot(self) -> Snapshot:
        """Everything, with what could not be read."""
        ...


class DisplayState(Protocol):
    """The mode that a display is running, read back from the machine; None without a picture."""

    def mode_of(self, display: str) -> Mode | None: ...

    def still_shows(self, display: str) -> bool:
        """Whether a display that was read back before has a picture where it was then. Asks nothing."""
        ...


@runtime_checkable
class FarEnd(Protocol):
    """Where what is read back is what the host sends, the display's own menu says what arrives."""

    def told_by_display(self, display: str, sent: Mode) -> Mode | None:
        """None if it was not read. Raises: TrialStopped."""
        ...


class DataTarget(Protocol):
    """Room on a drive or card, written and read in blocks. Raises: TargetError when it vanishes or is full."""

    @property
    def note(self) -> str:
        """What a reader of its figures must know; empty where nothing is odd."""
        ...

    def write(self, offset: int, block: memoryview) -> None: ...

    def read_into(self, offset: int, block: memoryview) -> None: ...

    def flush(self) -> None:
        """What was written is on the medium, and later reads come from there."""
        ...

    def close(self) -> None:
        """Give the room back."""
        ...


@runtime_checkable
class StampTarget(DataTarget, Protocol):
    """A stand-in that answers for what each block is stamped with, instead of moving its bytes."""

    def write_stamp(self, offset: int, size: int, turn: int) -> None:
        """Store the engine's blocks of this pass from this offset on."""
        ...

    def read_stamp(self, offset: int, size: int) -> tuple[int, int, int]:
        """The offset and pass that blocks written at once are stamped with, and how many bytes came back wrong."""
        ...


class DataTargets(Protocol):
    """Opens targets on gear that is plugged in."""

    def trace(self, gear: str, usb: str | None) -> PathTrace | None:
        """The way from the folder on a gear to the host. `usb` is the kernel's name for it, once it has appeared.

        None where no folder takes part, or, while `usb` is None, where none was named beforehand. Raises: TargetError.
        """
        ...

    def ask(self, gear: str) -> PathTrace | None:
        """The way of a folder that the person names, on gear that cannot be seen to come; None where there is none.

        Raises: TargetError, TrialStopped.
        """
        ...

    def open(self, gear: str, room_bytes: int) -> DataTarget:
        """Raises: TargetError when the gear is not there or has no room."""
        ...


class Companions(Protocol):
    """Keeps gear at work beside a trial. Raises: BenchError when it cannot."""

    def busy(self, gear: str) -> AbstractContextManager[None]:
        """The gear is read and written, or sent to, as fast as it goes until the end of the block."""
        ...


@dataclass(frozen=True)
class Celsius:
    """A temperature, the instrument's name, and how far it may be off, in K."""

    value: float
    instrument: str
    error_k: float
    resolution_k: float = 0.1


class Thermometers(Protocol):
    """Temperatures of the case, the room, and other spots."""

    def spots(self) -> tuple[str, ...]:
        """Where there is one."""
        ...

    def read(self, spot: str) -> Celsius:
        """Raises: InstrumentError when it is silent or talks nonsense."""
        ...


class Person(Protocol):
    """The reviewer's hands and eyes."""

    def make(self, moves: Sequence[PlugMove], seen: Callable[[], bool] | None = None) -> None:
        """Do the plug moves; where `seen` reports them done, no confirmation is needed. Raises: TrialStopped."""
        ...

    def read_rule(self, port: str, words: str) -> float:
        """A length in metres, off a rule. Raises: TrialStopped."""
        ...

    def wait(self, words: str, about_s: float) -> None:
        """Come back once the person says that this is done, after about so many seconds. Raises: TrialStopped."""
        ...

    def ask(self, question: str, hint: str) -> str:
        """What the person types; empty for nothing to say. Raises: TrialStopped."""
        ...

    def look(self, spot: str, look: Look, question: str) -> str:
        """What the person saw at a spot of the device, typed; empty for nothing to say. Raises: TrialStopped."""
        ...


@dataclass(frozen=True)
class Bench:
    """Every door of one bench. A door that is None is not there; trials that need it cannot be done."""

    name: str
    clock: Clock
    person: Person
    kernel: KernelAttributes
    displays: DisplayState | None = None
    targets: DataTargets | None = None
    peers: NetworkPeers | None = None
    companions: Companions | None = None
    meters: Mapping[str, Meter] = field(default_factory=dict)
    """By the ids of the rig; one that is missing is read by eye, and typed. Looking one up may open its line."""
    loads: Mapping[str, Load] = field(default_factory=dict)
    thermometers: Thermometers | None = None
    pass_s: float | None = None
    """How long a drive is written in one pass, in seconds; None for the engine's own."""
    file_bytes: int | None = None
    """How much is written in one pass, where that was asked for."""


BenchOpener = Callable[[Audit, Person | None], AbstractContextManager[Bench]]
"""Opens a bench for an audit. The person is whose keys confirm plug moves; None leaves them to the bench."""


@dataclass(frozen=True)
class Head:
    """How far a journal goes: the number of its entries, and the link that ties the last to all before it."""

    entries: int
    link: str


class EvidenceKeeper(Protocol):
    """Keeps the bytes of evidence. Raises: StoreError."""

    def keep(self, data: bytes) -> str:
        """Once this returns, the bytes of a piece of evidence are on disk; what they are named by, their SHA-256."""
        ...


class Journal(EvidenceKeeper, Protocol):
    """The facts of one audit. Raises: StoreError."""

    @property
    def writer(self) -> str:
        """Whose name is on what is recorded; empty for none."""
        ...

    @property
    def waiting(self) -> int:
        """How many facts wait on this machine for a database that does not answer."""
        ...

    def read(self) -> tuple[Audit, Head]:
        """The audit that the facts on disk make, and how far they go; only new ones are read and folded."""
        ...

    def has_grown(self, since: Head) -> bool:
        """Whether there is more on disk than was known then."""
        ...

    def append(self, facts: Iterable[Fact], *, action: str, at: datetime, after: Head | None = None) -> None:
        """Once this returns, the facts are on disk, all or none.

        Raises: StaleHead where the journal goes on after `after`; FactRefused for a fact that does not fit.
        """
        ...

    def evidence_of(self, sha256: str) -> bytes:
        """The bytes of a piece of evidence, as they were kept."""
        ...

    def entries(self) -> tuple[Entry, ...]: ...


@dataclass(frozen=True)
class Progress:
    """How a trial is getting on: what it is doing, the value now and the trace so far."""

    doing: str
    value: float | None = None
    time_s: float = 0.0
    restarts_trace: bool = False
    at: str | None = None
    """The port that is measured, where a trial measures several."""
    lasts_s: float | None = None
    """How long it takes in all, where that is known: a soak, or a case that cools."""


class Watcher(Protocol):
    """Whoever looks on while a trial runs. Any call may raise TrialStopped, which ends the trial."""

    def begun(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None: ...

    def progress(self, progress: Progress) -> None: ...

    def taken(self, fact: Fact) -> None:
        """A fact is on disk."""
        ...
