"""The live bench: this machine, its drives, its instruments, and the person at it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import ExitStack, closing, contextmanager
from dataclasses import dataclass
from pathlib import Path

from auditra.bench.clock import SystemClock
from auditra.bench.displays import HostDisplays
from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.load import LiveLoad
from auditra.bench.instruments.on_demand import Describe, OnDemand, built_in
from auditra.bench.instruments.thermometers import LiveThermometers, answering, is_sensor
from auditra.bench.kernel.modes import CARDS, open_modes
from auditra.bench.kernel.tree import KernelTree
from auditra.bench.network.live_peers import LivePeers
from auditra.bench.path import MOUNTS, SYS, device_of, mounted_below, trace_folder
from auditra.bench.storage import FileTarget, free_bytes
from auditra.bench.trial_folder import leftovers, remove_leftover
from auditra.core.errors import TargetError
from auditra.core.journal.audit import Audit
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.storage_path import PathTrace
from auditra.core.quantities.display import byte_size
from auditra.workflows.trials.doors import Bench, Clock, DataTarget, Person
from auditra.workflows.trials.measure.session import MAX_TRIES, NO, ask_yes_or_no

_MAX_SHARE_UNASKED = 0.5
"""The part of a drive's free room that a trial takes without asking."""
PASS_S = 5.0
"""A real drive is written for longer than a simulated one, so that its cache does not pass for it."""
WHATEVER_IS_TRIED = ""
"""The key of a folder that was named without saying which gear it is on."""


@dataclass
class FolderTargets:
    """Folders on drives: those that were named, those that the kernel shows below a drive, or one asked for."""

    person: Person
    named: Mapping[str, Path]
    sys_root: Path = SYS
    mounts: Path = MOUNTS

    def __post_init__(self) -> None:
        self._found: dict[str, PathTrace] = {}

    def trace(self, gear: str, usb: str | None) -> PathTrace | None:
        folder = self.named.get(gear) or self.named.get(WHATEVER_IS_TRIED)
        if folder is None and usb is None:
            self._found.pop(gear, None)  # what an earlier trial found proves nothing of this one
            return None
        trace = trace_folder(folder or self._folder_on(gear, usb or ""), self.sys_root, self.mounts)
        self._found[gear] = trace
        return trace

    def ask(self, gear: str) -> PathTrace | None:
        question = f"Auditra did not detect the {gear}. Enter a folder on it, or no if it did not appear."
        for _ in range(MAX_TRIES):
            answer = self.person.ask(question, "/media/...").strip()
            if answer.lower() in NO:
                return None
            if answer:
                self._found[gear] = trace_folder(Path(answer).expanduser(), self.sys_root, self.mounts)
                return self._found[gear]
        raise TargetError(gear, why="no answer whether it appeared", do="Start the trial again")

    def open(self, gear: str, room_bytes: int) -> DataTarget:
        trace = self._found.get(gear)
        if trace is None:
            raise TargetError(gear, why="no folder on it is known", do="Name one")
        folder = Path(trace.folder)
        self._offer_to_tidy(folder)
        self._ask_before_filling(gear, folder, room_bytes)
        return FileTarget(folder, room_bytes, device_of(trace.folder, self.mounts))

    def _offer_to_tidy(self, folder: Path) -> None:
        """Remove leftovers of an interrupted trial, each by name, if the reviewer agrees."""
        for left in leftovers(folder):
            size = byte_size(left.size_bytes)
            question = f"{left.path} ({size}) was left by an interrupted trial of Auditra. Remove it?"
            if ask_yes_or_no(self.person, question) and not remove_leftover(left):
                raise TargetError(f"{left.path}", why="it could not be removed", do="Remove it yourself, then go on")

    def _ask_before_filling(self, gear: str, folder: Path, room_bytes: int) -> None:
        """Raises: TargetError where the reviewer does not want the drive so full."""
        try:
            free = free_bytes(folder)
        except OSError:
            return  # opening it says why
        if room_bytes > _MAX_SHARE_UNASKED * free and room_bytes < free:
            sizes = f"{byte_size(room_bytes)} to {folder}, where {byte_size(free)} are free"
            question = f"This trial writes {sizes}. Go on?"
            if not ask_yes_or_no(self.person, question):
                raise TargetError(gear, why="it would be nearly full", do="Make room, or name less with --size")

    def _folder_on(self, gear: str, usb: str) -> Path:
        """Where the drive is mounted, or what the person says. Raises: TargetError for neither."""
        places = mounted_below(usb, self.sys_root, self.mounts) if usb else ()
        if len(places) == 1:
            return places[0]
        hint = str(places[0]) if places else "/media/..."
        said = self.person.ask(f"Which folder on the {gear} may be written to?", hint).strip()
        if not said:
            raise TargetError(gear, why="no folder on it was named", do="Mount it, then start the trial again")
        return Path(said).expanduser()


@contextmanager
def open_live_bench(
    audit: Audit,
    person: Person,
    *,
    folders: Mapping[str, Path] | None = None,
    file_bytes: int | None = None,
    sys_root: Path = SYS,
    mounts: Path = MOUNTS,
    cards: Path = CARDS,
    clock: Clock | None = None,
    describe: Describe = built_in,
) -> Iterator[Bench]:
    """The live bench. Instruments whose address the rig names are opened when a trial needs them; without one, their
    values are typed, and so are the modes of displays where no graphics card may be asked.

    Raises: InstrumentError where an address cannot be one.
    """
    with ExitStack() as stack:
        meters = stack.enter_context(closing(OnDemand(LiveInstrument, audit.rig.meters, describe)))
        loads = stack.enter_context(closing(OnDemand(LiveLoad, audit.rig.loads, describe)))
        at_spots = answering(audit.rig.thermometers)
        on_lines = [each for each in at_spots.values() if not is_sensor(each)]
        thermometers = stack.enter_context(closing(OnDemand(LiveInstrument, on_lines, describe)))
        modes = stack.enter_context(open_modes(cards))
        kernel = KernelTree(sys_root, modes)
        yield Bench(
            name=LIVE_BENCH,
            clock=clock or SystemClock(),
            person=person,
            kernel=kernel,
            displays=HostDisplays(kernel, person) if modes.are_told else None,
            targets=FolderTargets(person, folders or {}, sys_root, mounts),
            peers=LivePeers(person, audit.rig.peers),
            meters=meters,
            loads=loads,
            thermometers=LiveThermometers(at_spots, thermometers, kernel.sensors) if at_spots else None,
            pass_s=PASS_S,
            file_bytes=file_bytes,
        )
