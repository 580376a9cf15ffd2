"""A team's library: what only a database with several users has to promise."""

from __future__ import annotations

import re
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import psycopg
import pytest
from sqlalchemy import Engine, event

from auditra.bench.clock import SystemClock
from auditra.cli.composition import LibraryHandle
from auditra.core.errors import FactRefused, InputError, LibraryReadOnly, LibraryUnreachable, StaleHead, StoreError
from auditra.core.journal.facts import NoteWritten, Undone
from auditra.core.model.table_use import ColumnUse, TableUse
from auditra.store.demos import DEMOS
from auditra.store.dialects.evidence_rows import CHUNK_BYTES
from auditra.store.dialects.postgresql import grant_role, upgrade_database
from auditra.store.library import Library
from auditra.store.place import LibraryPlace, place_of
from auditra.store.schema import SCHEMA_VERSION
from auditra.workflows.audits.audit_session import AuditSession
from tests.store.conftest import Shelf
from tests.support.audits import BEGIN, PROFILE
from tests.support.postgres import PASSWORD, TeamServer


@pytest.fixture
def team(team_server: TeamServer, tmp_path: Path) -> Shelf:
    database = team_server.new_database()
    return Shelf(team_server.place(database, tmp_path), team_server, database)


def test_a_new_database_is_refused_until_its_tables_are_made(team_server: TeamServer, tmp_path: Path) -> None:
    place = team_server.place(team_server.new_database(empty=True), tmp_path)
    with pytest.raises(StoreError, match=r"it is empty.*auditra library upgrade"):
        Library(place)
    assert upgrade_database(place) == (0, SCHEMA_VERSION)
    assert upgrade_database(place) == (SCHEMA_VERSION, SCHEMA_VERSION)
    assert Library(place).names() == ()


def test_an_older_database_is_refused_and_brought_up_to_date(team: Shelf) -> None:
    team.change("UPDATE alembic_version SET version_num = '0002'")
    for statement in (
        "DROP TRIGGER append_only ON entry", "DROP TRIGGER append_only ON trace", "DROP TRIGGER checked ON entry",
        "DROP FUNCTION check_added", "ALTER TABLE audit DROP COLUMN closed_by", "DROP FUNCTION refuse_change",
        "DROP TABLE judged", "DROP FUNCTION note_who", "DROP TRIGGER bell ON audit",
        "DROP FUNCTION ring",
        "DROP TABLE evidence_chunk", "DROP TABLE evidence", "DROP TABLE shared_text",
        "ALTER TABLE entry DROP COLUMN writer",
    ):  # fmt: skip
        team.change(statement)
    with pytest.raises(StoreError, match="it is of version 2; this Auditra needs"):
        team.open()
    assert upgrade_database(team.place) == (2, SCHEMA_VERSION)
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)


@pytest.mark.parametrize(
    "statement",
    ["UPDATE entry SET body = '{}' WHERE number = 2", "DELETE FROM entry", "TRUNCATE entry", "DELETE FROM trace",
     "INSERT INTO entry SELECT audit, 99, at, action, kind, body, link FROM entry WHERE number = 1"],
)  # fmt: skip
def test_the_database_itself_keeps_a_journal_append_only(team: Shelf, statement: str) -> None:
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    assert team.server is not None
    with team.server.connect(team.database) as db, pytest.raises(psycopg.Error):
        db.execute(statement.encode())
    assert len(team.open().journal("OP-6").entries()) == len(DEMOS[0].facts())


def test_each_entry_says_who_wrote_it_and_the_chain_holds_that_too(team: Shelf) -> None:
    team.open("Ada").create("OP-6", DEMOS[0].facts(), BEGIN)
    team.open("Bo").journal("OP-6").append([NoteWritten("seen")], action="n", at=BEGIN)
    entries = team.open().journal("OP-6").entries()
    assert {entry.writer for entry in entries[:-1]} == {"Ada"}
    assert entries[-1].writer == "Bo"
    team.change("UPDATE entry SET writer = 'Ada' WHERE writer = 'Bo'")
    with pytest.raises(StoreError, match="it was changed"):
        team.open().journal("OP-6").entries()


def test_one_bench_sees_what_another_wrote_within_a_second_and_asks_nothing_meanwhile(team: Shelf) -> None:
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    here, there = team.open().journal("OP-6"), team.open().journal("OP-6")
    _, head = here.read()
    until = time.monotonic() + 5
    while here.has_grown(head) or here._still is None:  # until it listens
        assert time.monotonic() < until
    asked = threading.Event()
    here._row = lambda db, row=here._row: (asked.set(), row(db))[1]  # type: ignore[method-assign, misc, func-returns-value]
    for _ in range(50):
        assert not here.has_grown(head)
    assert not asked.is_set()
    there.append([NoteWritten("from the other bench")], action="n", at=BEGIN)
    begun = time.monotonic()
    while not here.has_grown(head):
        assert time.monotonic() - begun < 1
        time.sleep(0.005)
    assert here.read()[0].notes[-1].text == "from the other bench"


@contextmanager
def questions() -> Iterator[list[str]]:
    """What is asked of any database in this block."""
    asked: list[str] = []

    def note(_db: object, _cursor: object, statement: str, *_: object) -> None:
        asked.append(statement)

    event.listen(Engine, "before_cursor_execute", note)
    try:
        yield asked
    finally:
        event.remove(Engine, "before_cursor_execute", note)


def test_what_is_recorded_takes_one_question(team: Shelf) -> None:
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    journal = team.open().journal("OP-6")
    journal.read()
    with questions() as asked:
        journal.append([NoteWritten("one"), NoteWritten("two")], action="n1", at=BEGIN)
    assert len(asked) == 1
    assert [note.text for note in journal.read()[0].notes] == ["one", "two"]


def test_a_window_that_listens_knows_its_own_entries_again_and_hears_those_of_others(team: Shelf) -> None:
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    ours, other = (AuditSession("OP-6", team.open().journal("OP-6"), PROFILE) for _ in range(2))
    for each in (ours, other):
        settle(each)
    for number in range(3):
        with questions() as asked:
            write_note(ours, f"{number}")
        assert len(asked) == 1
        settle(ours)
    write_note(other, "other")
    until = time.monotonic() + 5
    while len(ours.refresh().audit.notes) < 4:
        assert time.monotonic() < until
        time.sleep(0.01)
    assert [note.text for note in ours.judged.audit.notes] == ["0", "1", "2", "other"]


def write_note(session: AuditSession, text: str) -> None:
    session.write(lambda _: (NoteWritten(text),), "note", SystemClock())


def settle(session: AuditSession) -> None:
    """Until it listens, and has heard what it wrote itself."""
    until, quiet = time.monotonic() + 10, 0
    while quiet < 5:
        with questions() as asked:
            session.refresh()
        quiet = 0 if asked else quiet + 1
        assert time.monotonic() < until
        time.sleep(0.02)


def test_what_rests_on_another_bench_is_looked_up_before_it_is_refused(team: Shelf) -> None:
    """An append does not ask first what came since; what it knows may be too old to refuse anything by."""
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    one, other = team.open().journal("OP-6"), team.open().journal("OP-6")
    one.read()
    other.append([NoteWritten("a slip")], action="slip", at=BEGIN)
    one.append([Undone("slip")], action="undone", at=BEGIN)
    assert other.read()[0].notes == ()
    with pytest.raises(FactRefused, match="no action"):
        one.append([Undone("never")], action="undone2", at=BEGIN)
    one.append([NoteWritten("goes on")], action="n2", at=BEGIN)
    assert [note.text for note in other.read()[0].notes] == ["goes on"]


def test_one_question_adds_all_of_it_or_nothing(team: Shelf) -> None:
    team.change("ALTER TABLE entry ADD CHECK (body NOT LIKE '%refused%')")
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    journal = team.open().journal("OP-6")
    before = journal.entries()
    with pytest.raises(StaleHead):
        journal.append([NoteWritten("fits"), NoteWritten("refused")], action="n1", at=BEGIN)
    assert journal.entries() == before
    journal.append([NoteWritten("fits")], action="n2", at=BEGIN)
    assert [note.text for note in journal.read()[0].notes] == ["fits"]


@pytest.mark.parametrize("size", [0, 1, CHUNK_BYTES, CHUNK_BYTES + 1, 3 * CHUNK_BYTES + 7])
def test_evidence_is_kept_in_pieces_and_once(team: Shelf, size: int) -> None:
    library, data = team.open(), bytes(range(256)) * (size // 256) + b"x" * (size % 256)
    sha256 = library.evidence.keep(data)
    assert library.evidence.keep(data) == sha256
    assert team.open().evidence.read(sha256) == data


def test_evidence_that_was_changed_or_removed_is_told(team: Shelf) -> None:
    library = team.open()
    sha256 = library.evidence.keep(b"a photo of the label")
    team.change("UPDATE evidence_chunk SET data = 'a photo of another'")
    with pytest.raises(StoreError, match="it was changed after it was kept"):
        library.evidence.read(sha256)
    team.change("DELETE FROM evidence_chunk")
    with pytest.raises(StoreError, match="it was changed after it was kept"):
        library.evidence.read(sha256)
    team.change("DELETE FROM evidence")
    with pytest.raises(StoreError, match="it is not there"):
        library.evidence.read(sha256)
    with pytest.raises(StoreError, match="this is no SHA-256"):
        library.evidence.read("../../etc/passwd")


def wrong_places(server: TeamServer, local: Path) -> list[LibraryPlace]:
    return [
        server.place("postgres", local, password="another secret"), server.place("no-such-database", local),
        server.place("postgres", local, port=1), server.place("postgres", local, user="nobody"),
    ]  # fmt: skip


@pytest.mark.parametrize("which", range(4))
def test_no_error_shows_a_password_or_a_user(team_server: TeamServer, tmp_path: Path, which: int) -> None:
    place = wrong_places(team_server, tmp_path)[which]
    with pytest.raises(LibraryUnreachable) as told:
        Library(place)
    shown = f"{told.value} {told.value!r} {place!r} {place.words} {told.value.__cause__!r}"
    for secret in (PASSWORD, PASSWORD.replace(" ", "%20"), "another", place.url):
        assert secret not in shown


@pytest.mark.parametrize(
    "text",
    ["mysql://host/x", "postgresql://host", "postgresql://host:port/x", "postgresql://u:geheim@h/a/b",
     "sqlite:///x", "postgresql://[::1/x"],
)  # fmt: skip
def test_a_url_that_is_none_is_told_without_what_is_in_it(text: str, tmp_path: Path) -> None:
    with pytest.raises(InputError) as told:
        place_of(text, tmp_path)
    assert "geheim" not in str(told.value)


def test_two_names_of_one_database_share_a_folder_and_two_databases_do_not(tmp_path: Path) -> None:
    one, same, other = (
        place_of(f"postgresql{text}", tmp_path)
        for text in ("://ada:secret@db.example/audits", "+psycopg://bo@db.example:5432/audits", "://db.example/other")
    )
    assert one.folder == same.folder != other.folder
    assert one.words == 'library "audits" on db.example'
    assert re.fullmatch(r"audits-[0-9a-f]{8}", one.folder.name)
    assert place_of("some/folder", tmp_path) == LibraryPlace(Path("some/folder"), words="some/folder")


def user_of(team: Shelf, name: str) -> LibraryPlace:
    assert team.server is not None
    with team.server.connect("postgres") as db:
        found = db.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", (name,)).fetchone()
        if found is None:
            db.execute(f"CREATE ROLE \"{name}\" LOGIN PASSWORD 'word'".encode())
    return team.server.place(team.database, team.folder.parent.parent, user=name, password="word")


def test_a_reader_sees_all_of_it_and_records_nothing(team: Shelf) -> None:
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    place = user_of(team, "ro")
    grant_role(team.place, "ro", "reader")
    reading = Library(place)
    assert not reading.writable
    assert len(reading.journal("OP-6").entries()) == len(DEMOS[0].facts())
    with pytest.raises(LibraryReadOnly, match="you may only read it"):
        reading.journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)
    reading.close()


def test_a_reviewer_records_and_can_change_nothing_that_is_recorded(team: Shelf) -> None:
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    place = user_of(team, "re-viewer")
    with pytest.raises(StoreError):
        Library(place).names()
    grant_role(team.place, "re-viewer", "reviewer")
    own = Library(place, "Bo")
    own.create("of Bo", DEMOS[0].facts(), BEGIN)
    own.journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)
    own.evidence.keep(b"a photo")
    for statement in (
        "UPDATE entry SET body = '{}'", "DELETE FROM entry", "UPDATE audit SET name = 'x'", "DROP TABLE trace",
        "DROP TRIGGER checked ON entry", "UPDATE audit SET closed_by = NULL", "DELETE FROM evidence_chunk",
    ):  # fmt: skip
        with psycopg.connect(place.url.replace("+psycopg", ""), autocommit=True) as db, pytest.raises(psycopg.Error):
            db.execute(statement.encode())
    own.close()


def test_the_database_itself_refuses_others_what_is_signed_off(team: Shelf) -> None:
    """Whatever name they give: another user of the database is another person."""
    team.open("Ada").create("OP-6", DEMOS[0].facts(), BEGIN)
    place = user_of(team, "bo")
    grant_role(team.place, "bo", "reviewer")
    AuditSession("OP-6", team.open("Ada").journal("OP-6"), PROFILE).sign_off(SystemClock())
    pretender = Library(place, "Ada")
    with pytest.raises(LibraryReadOnly, match="the audit is signed off"):
        pretender.journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)
    with (
        psycopg.connect(place.url.replace("+psycopg", ""), autocommit=True) as db,
        pytest.raises(psycopg.errors.InsufficientPrivilege, match="the audit is signed off"),
    ):
        db.execute(_ADDED % ("signed off", '{"is_open": true}'))  # nor may they open it themselves
    AuditSession("OP-6", team.open("Ada").journal("OP-6"), PROFILE).sign_off(SystemClock())
    pretender.journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)
    pretender.close()


_ADDED = (
    "INSERT INTO entry SELECT audit, max(number) + 1, max(at), 'n', '%s', '%s', 'link', 'Ada' FROM entry GROUP BY audit"
)


@pytest.mark.parametrize("number", ["entry.number + 2 * last.number", "last.number + 2 * entry.number - 1"])
def test_the_database_itself_refuses_gaps_before_and_within_what_is_added(team: Shelf, number: str) -> None:
    team.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    assert team.server is not None
    added = (
        f"INSERT INTO entry SELECT audit, {number}, at, 'n', kind, body, link, ''"
        " FROM entry, (SELECT max(number) AS number FROM entry) AS last WHERE entry.number IN (1, 2)"
    )
    with (
        team.server.connect(team.database) as db,
        pytest.raises(psycopg.errors.CheckViolation, match="does not follow the one before"),
    ):
        db.execute(added.encode())


def test_a_missing_driver_is_told_with_what_to_install(
    team_server: TeamServer, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setitem(sys.modules, "psycopg", None)
    with pytest.raises(StoreError, match=r"pip install 'auditra\[team\]'"):
        Library(team_server.place("made", tmp_path))


def test_a_team_has_its_rigs_and_profiles_in_common(team: Shelf, tmp_path: Path) -> None:
    here, there = tmp_path / "here", tmp_path / "there"
    one, other = team.open("Ada"), team.open("Bo")

    def put(folder: Path, text: str) -> None:
        folder.mkdir(exist_ok=True)
        (folder / "galley.toml").write_text(text, encoding="utf-8")

    def seen(folder: Path) -> str:
        return (folder / "galley.toml").read_text(encoding="utf-8")

    put(here, "first")
    one.share(here, "rigs")
    other.share(there, "rigs")
    assert seen(there) == "first"
    other.share(tmp_path / "profiles", "profiles")
    assert not (tmp_path / "profiles").exists()
    put(there, "second")
    other.share(there, "rigs")
    one.share(here, "rigs")
    assert seen(here) == "second"
    put(here, "of Ada")
    put(there, "of Bo")
    one.share(here, "rigs")
    other.share(there, "rigs")
    assert seen(there) == seen(here) == "of Ada"
    assert (there / "galley.toml.mine").read_text(encoding="utf-8") == "of Bo"
    team.change("INSERT INTO shared_text VALUES ('rigs', '../evil.toml', 'x', '', '')")
    one.share(here, "rigs")
    assert not (tmp_path / "evil.toml").exists()


def test_a_team_has_what_was_said_of_tables_and_its_templates_in_common(team: Shelf, tmp_path: Path) -> None:
    assert team.server is not None
    ada, bo = (LibraryHandle(team.server.place(team.database, tmp_path / name)) for name in ("ada", "bo"))
    ada.table_uses.remember(TableUse((ColumnUse("V", "voltage"),), "meter"), "bench logger")
    assert bo.table_uses.use("bench logger").witness == "meter"
    ada.templates.mkdir()
    (ada.templates / "report.md.j2").write_text("# {{ document.title }}", encoding="utf-8")
    (ada.templates / "notes.txt").write_text("not a template", encoding="utf-8")
    assert ada.templates.is_dir()
    assert (bo.templates / "report.md.j2").read_text(encoding="utf-8") == "# {{ document.title }}"
    assert not (bo.templates / "notes.txt").exists()
