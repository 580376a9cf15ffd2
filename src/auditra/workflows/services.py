"""Everything that an interface needs, joined by the command line: the shelf, audits, benches and printing."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:  # the shelf is painted before any of these is loaded
    from auditra.core.advice.for_whom import User
    from auditra.core.host.snapshot import Snapshot
    from auditra.core.journal.audit import Audit
    from auditra.core.journal.facts import Fact
    from auditra.core.judge.charts import Chart
    from auditra.core.model.profile import Profile
    from auditra.core.model.rig import Rig
    from auditra.core.model.table_use import TableUse
    from auditra.core.report.document import Document
    from auditra.workflows.audits.audit_session import AuditSession
    from auditra.workflows.audits.claim_rows import ClaimRow
    from auditra.workflows.audits.shelf import ShelfRow
    from auditra.workflows.trials.doors import BenchOpener, Clock


class Shelf(Protocol):
    """All audits at a glance."""

    def kept_rows(self) -> Sequence[ShelfRow]:
        """The rows as they were last seen, at once; without those that are put away."""
        ...

    def kept_claims(self) -> Mapping[str, Sequence[ClaimRow]]:
        """What was last said of the claims of each audit, by its name; takes a moment."""
        ...

    def each_row(self) -> Iterator[tuple[ShelfRow, int]]:
        """The rows as they stand, each as it is judged, and how many there are in all. Raises: StoreError.

        One that cannot be read comes with its reason.
        """
        ...


class Drawer(Protocol):
    """The gear drawer: rigs by name, shared by all audits."""

    def names(self) -> tuple[str, ...]: ...

    def troubles(self) -> tuple[str, ...]:
        """Rig files that cannot be read, each with its reason."""
        ...

    def rig(self, name: str) -> Rig | None: ...

    def save(self, rig: Rig) -> Path:
        """In place of the one of its name. Raises: StoreError."""
        ...

    def take_in(self, path: str) -> Rig:
        """A rig file from elsewhere. Raises: SheetError, InputError, StoreError."""
        ...

    def write_out(self, rig: Rig, path: str) -> Path:
        """A rig file for elsewhere. Raises: InputError, StoreError."""
        ...


class TableUses(Protocol):
    """What was said of logged tables before, by name."""

    def names(self) -> tuple[str, ...]: ...

    def use(self, name: str) -> TableUse:
        """Raises: InputError for a name under which there is nothing."""
        ...

    def fitting(self, columns: Iterable[str]) -> TableUse | None:
        """What was said last of a table with these columns."""
        ...

    def remember(self, use: TableUse, name: str) -> Path:
        """Raises: InputError, StoreError."""
        ...


class Drafts(Protocol):
    """What was typed and not recorded yet, by the name of the form; kept when the application ends."""

    def kept(self, name: str) -> dict[str, str]: ...
    def keep(self, name: str, texts: Mapping[str, str]) -> None: ...
    def drop(self, name: str) -> None: ...


@dataclass(frozen=True)
class Services:
    """What an interface works with. Nothing in it is opened before it is asked for."""

    shelf: Shelf
    open_session: Callable[[str], AuditSession]
    """An audit by name. Raises: StoreError."""
    create_audit: Callable[[str, tuple[Fact, ...]], None]
    """A new audit that begins with these facts. Raises: InputError, StoreError."""
    open_drawer: Callable[[], Drawer]
    table_uses: Callable[[], TableUses]
    instruments: Callable[[], Sequence[str]]
    """The names of the descriptions that instruments may be spoken to by."""
    profiles: Callable[[], Sequence[Profile]]
    """The score profiles that may be chosen."""
    users: Callable[[], Sequence[User]]
    """The kinds of users that a device may be for."""
    drafts: Drafts
    probe: Callable[[], Snapshot]
    """What this machine reports about itself."""
    open_bench: BenchOpener
    hold: Callable[[str], AbstractContextManager[None]]
    """Keeps other processes from running an audit's trials. Raises: LibraryBusy."""
    report: Callable[[AuditSession], Document]
    """The report as it stands; takes a moment. Raises: StoreError."""
    publish: Callable[[AuditSession, Path, str], tuple[Path, ...]]
    """Writes the report as a version that goes out, with the reason where it corrects one. Raises: InputError,
    StoreError."""
    facts_of_bundle: Callable[[AuditSession, Audit, Path], tuple[Fact, ...]]
    """What another reviewer's bundle adds to an audit. Raises: InputError, FactsRefused, StoreError."""
    line_up: Callable[[Sequence[str]], Document]
    """Audits side by side, by their names. Raises: InputError, StoreError."""
    write_line_up: Callable[[Sequence[str], Path], tuple[Path, ...]]
    """The same as files. Raises: InputError, StoreError."""
    write_chart: Callable[[Sequence[Chart], Path], Path]
    """Charts on one pair of axes, as SVG or PDF. Raises: InputError, StoreError."""
    publish_folder: Path
    join: Callable[[AuditSession, str], tuple[str, ...]]
    """The trials of an audit that was exported elsewhere; their names here. Raises: InputError, StoreError."""
    load: Callable[[str], tuple[str, bytes]]
    """A file that the reviewer names: what it is called, and its bytes. Raises: InputError."""
    clock: Clock
    is_demo: bool
    """The shelf is the demo's, and is explained to those who have never done an audit."""
    leave_bench: Callable[[], None]
    """Switches loads off and tidies drives, whatever still runs: the process is about to end."""
    log: Callable[[str, BaseException], None]
    """Puts an unexpected fault into the log file."""
