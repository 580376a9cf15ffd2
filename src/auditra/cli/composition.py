"""Joins library, simulated bench and printing into the workshop that commands and screens work with."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import AbstractContextManager, contextmanager, suppress
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from auditra.bench.clock import SystemClock
from auditra.bench.leaving import leave_bench
from auditra.cli.log import log_fault
from auditra.core.errors import StoreError
from auditra.store.demos import DEMOS
from auditra.store.drafts import FOLDER as DRAFTS
from auditra.store.drafts import DraftFolder
from auditra.store.library_shelf import LibraryShelf
from auditra.store.place import LibraryPlace
from auditra.workflows.services import Drawer, Services

if TYPE_CHECKING:
    from auditra.core.advice.for_whom import User
    from auditra.core.host.snapshot import Snapshot
    from auditra.core.instruments.description import Description
    from auditra.core.journal.audit import Audit
    from auditra.core.journal.facts import Entry, Fact
    from auditra.core.judge.charts import Chart
    from auditra.core.judge.judged_audit import JudgedAudit
    from auditra.core.line_up.line_up import LineUp
    from auditra.core.model.profile import Profile
    from auditra.core.report.document import Document
    from auditra.store.library import Library
    from auditra.store.named_files import NamedFiles
    from auditra.store.table_uses import TableUses
    from auditra.workflows.audits.audit_session import AuditSession
    from auditra.workflows.audits.publishing import Surroundings
    from auditra.workflows.trials.doors import Bench, Person


class LibraryHandle:
    """A library; SQLAlchemy and the rest are loaded when something in it is first asked for."""

    def __init__(self, place: LibraryPlace | Path, writer: str = "") -> None:
        self.place = LibraryPlace(place) if isinstance(place, Path) else place
        self.folder, self.writer = self.place.folder, writer
        self.shelf = LibraryShelf(self.folder, lambda: self.library, lambda name: self.session(name).judged, log_fault)

    @cached_property
    def library(self) -> Library:
        from auditra.store.library import Library

        return Library(self.place, self.writer)

    @cached_property
    def profile(self) -> Profile:
        from auditra.store.profiles import load_profile

        return load_profile()

    @property
    def profiles(self) -> NamedFiles[Profile]:
        from auditra.store.profiles import FOLDER, profile_files

        self.share(FOLDER)
        return profile_files(self.folder / FOLDER)

    @property
    def instruments(self) -> NamedFiles[Description]:
        from auditra.store.instruments import FOLDER, instrument_files

        self.share(FOLDER)
        return instrument_files(self.folder / FOLDER)

    @property
    def table_uses(self) -> TableUses:
        from auditra.store.table_uses import FOLDER, TableUses

        self.share(FOLDER)
        return TableUses(self.folder / FOLDER, lambda: self.share(FOLDER))

    @property
    def templates(self) -> Path:
        """The folder of the reviewer's own templates."""
        from auditra.publish.templates import FOLDER

        self.share(FOLDER)
        return self.folder / FOLDER

    @cached_property
    def users(self) -> tuple[User, ...]:
        """For whom devices may be, by the rules that ship with the product or the reviewer's own beside the library."""
        from auditra.store.files import load_users

        return load_users(self.folder)

    def share(self, folder: str) -> None:
        """Files that a team has in common; while its database does not answer, they are as they were last."""
        if self.place.is_of_team:
            with suppress(StoreError):
                self.library.share(self.folder / folder, folder)

    def session(self, name: str) -> AuditSession:
        from auditra.workflows.audits.audit_session import AuditSession

        return AuditSession(name, self.library.journal(name), self.profile)

    def hold(self, name: str) -> AbstractContextManager[None]:
        return self.library.held_for_trials(name)

    def put_demos_on_shelf(self) -> None:
        """Every demo audit that is not there yet."""
        for demo in DEMOS:
            self.shelve_if_demo(demo.name)

    def surroundings(self, name: str) -> Surroundings:
        """What a report of this audit needs of the rest of the library."""
        from auditra.workflows.audits.publishing import Surroundings
        from auditra.workflows.audits.shelf import peers_of

        return Surroundings(self.users, peers_of(self.shelf.kept_rows(), name), self.session, self.read_facts)

    @staticmethod
    def read_facts(data: bytes) -> tuple[str, Sequence[Entry]]:
        """The journal of a facts file whose chain holds. Raises: InputError, FactsRefused."""
        from auditra.store.exchange import read_facts

        came, _ = read_facts(data, "the journal of another reviewer", SystemClock().moment())
        return came.name, came.entries

    def merge(self, session: AuditSession, path: Path) -> JudgedAudit:
        """Set the audit of a bundle beside one's own. Raises: InputError, FactsRefused, StoreError."""
        return session.write(lambda audit: self.facts_of_bundle(session, audit, path), "merge", SystemClock())

    def facts_of_bundle(self, session: AuditSession, audit: Audit, path: Path) -> tuple[Fact, ...]:
        """What a bundle adds to an audit, its journal kept as evidence already. Raises: as `merge`."""
        from auditra.store.bundle import load_bundle
        from auditra.workflows.audits.replicating import facts_of_bundle

        bundle = load_bundle(path, SystemClock().moment())
        return facts_of_bundle(audit, bundle, self.read_facts, session.evidence_keeper)

    def report(self, session: AuditSession) -> Document:
        """The report of an audit as it stands. Raises: StoreError."""
        from auditra.workflows.audits.publishing import document_of

        return document_of(session, self.surroundings(session.name))[0]

    def publish(self, session: AuditSession, folder: Path, why: str) -> tuple[Path, ...]:
        """Record a version, and write it. Raises: InputError, StoreError."""
        from auditra.workflows.audits.publishing import record_version

        record_version(session, why, SystemClock())
        return self.write_report(session, folder)

    def line_up(self, names: Sequence[str]) -> Document:
        """Audits side by side. Raises: InputError, StoreError."""
        from auditra.core.line_up.make import document_of_line_up

        return document_of_line_up(self.lined_up(names))

    def lined_up(self, names: Sequence[str]) -> LineUp:
        """The rows of a line-up. Raises: InputError, StoreError."""
        from auditra.core.line_up.make import line_up_of

        return line_up_of([self.session(name).judged for name in names])

    def write_line_up(self, names: Sequence[str], folder: Path) -> tuple[Path, ...]:
        """The line-up as HTML, PDF, Markdown and CSV. Raises: InputError, StoreError."""
        from auditra.core.line_up.make import document_of_line_up
        from auditra.publish import line_up_files, stem_of, write_files

        made = self.lined_up(names)
        stem = "-".join(stem_of(name) for name in names)[:80]
        return write_files(line_up_files(made, document_of_line_up(made), stem, self.templates), folder)

    def write_report(self, session: AuditSession, folder: Path) -> tuple[Path, ...]:
        """The report of an audit as it stands, in every format. Raises: InputError, StoreError."""
        from auditra.publish import write_files

        return write_files(self.report_of(session), folder)

    def report_of(self, session: AuditSession) -> dict[str, bytes]:
        """The files of a report by their names. Raises: InputError, StoreError."""
        from auditra.publish import report_files, stem_of
        from auditra.workflows.audits.publishing import document_of

        document, judged = document_of(session, self.surroundings(session.name))
        return report_files(document, judged, stem_of(session.name), session.evidence_of, self.templates)

    def shelve_if_demo(self, name: str) -> None:
        """Put a demo audit on the shelf when it is first named; another window may be doing the same."""
        demo = next((demo for demo in DEMOS if demo.name == name), None)
        if demo is None or name in self.library.names():
            return
        try:
            self.library.create(name, demo.facts(), demo.made_at)
        except StoreError:
            if name not in self.library.names():
                raise

    def has_demos(self) -> bool:
        """Whether the shelf was seen with all demos on it, found without opening the library."""
        return {*self.shelf.all_kept().names} >= {demo.name for demo in DEMOS}


@dataclass(frozen=True)
class OnThisMachine:
    """What a live bench is reported beforehand: folders by the gear they are on, the size of a file, where to look."""

    folders: Mapping[str, Path] = field(default_factory=dict)
    file_bytes: int | None = None


def _open_live(
    audit: Audit, person: Person | None, here: OnThisMachine, handle: LibraryHandle
) -> AbstractContextManager[Bench]:
    from auditra.bench.live import open_live_bench
    from auditra.core.errors import BenchError

    if person is None:
        do = "Use auditra trial, or open it from the shelf"
        raise BenchError(
            "the live bench", why="the live bench needs a person to plug cables, and this command cannot ask one", do=do
        )
    return open_live_bench(
        audit, person, folders=here.folders, file_bytes=here.file_bytes, describe=handle.instruments.named
    )


def make_services(
    handle: LibraryHandle,
    *,
    pace: float | None,
    seed: int = 1,
    here: OnThisMachine | None = None,
    is_demo: bool = False,
) -> Services:
    """The workshop on a library, with the bench that each audit names."""

    @contextmanager
    def open_bench(audit: Audit, person: Person | None) -> Iterator[Bench]:
        from auditra.core.model.bench_kind import LIVE_BENCH

        if audit.bench == LIVE_BENCH:
            with _open_live(audit, person, here or OnThisMachine(), handle) as bench:
                yield bench
            return
        from auditra.bench.simulated.bench import open_simulated_bench

        with open_simulated_bench(audit, person, seed=seed, pace=pace) as bench:
            yield bench

    def write_chart(charts: Sequence[Chart], path: Path) -> Path:
        from auditra.publish.chart import write_chart as write

        return write(charts, path)

    def create_audit(name: str, facts: tuple[Fact, ...]) -> None:
        from auditra.workflows.audits.beginning import check_name

        check_name(name)
        handle.library.create(name, facts, SystemClock().moment())

    def probe() -> Snapshot:
        from auditra.cli.probe import SYS, snapshot_of

        return snapshot_of(SYS)

    def open_drawer() -> Drawer:
        from auditra.store.gear_drawer import FOLDER, GearDrawer

        handle.share(FOLDER)
        return GearDrawer(handle.folder / FOLDER, lambda: handle.share(FOLDER))

    def join(session: AuditSession, path: str) -> tuple[str, ...]:
        from auditra.cli.exchange import join_facts

        return join_facts(handle, session, Path(path.strip()).expanduser())

    def load(path: str) -> tuple[str, bytes]:
        from auditra.store.files import load_evidence

        return load_evidence(path)

    return Services(
        shelf=handle.shelf,
        open_session=handle.session,
        create_audit=create_audit,
        open_drawer=open_drawer,
        table_uses=lambda: handle.table_uses,
        instruments=lambda: [each.name for each in handle.instruments.every()],
        profiles=lambda: handle.profiles.every(),
        users=lambda: handle.users,
        drafts=DraftFolder(handle.folder / DRAFTS),
        probe=probe,
        open_bench=open_bench,
        hold=handle.hold,
        report=handle.report,
        publish=handle.publish,
        facts_of_bundle=handle.facts_of_bundle,
        line_up=handle.line_up,
        write_line_up=handle.write_line_up,
        write_chart=write_chart,
        publish_folder=Path.cwd() / "auditra-reports",
        join=join,
        load=load,
        clock=SystemClock(),
        is_demo=is_demo,
        leave_bench=leave_bench,
        log=log_fault,
    )
