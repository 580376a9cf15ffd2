"""A team's database that lets nobody in without TLS: the URL says how it is to be trusted, as the driver reads it."""

from __future__ import annotations

import os
import shutil
import subprocess
import time
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

import pytest

from auditra.core.errors import LibraryUnreachable
from auditra.core.journal.facts import NoteWritten
from auditra.store.demos import DEMOS
from auditra.store.library import Library
from auditra.store.place import LibraryPlace
from tests.support.audits import BEGIN
from tests.support.postgres import PASSWORD, USER, TeamServer, temporary_server

pytestmark = pytest.mark.skipif(
    shutil.which("openssl") is None and not os.environ.get("CI"), reason="openssl is not installed to make certificates"
)
_HERE = "IP:127.0.0.1"
_KEY = ("-newkey", "ec", "-pkeyopt", "ec_paramgen_curve:prime256v1")


@dataclass(frozen=True)
class Authority:
    """Whoever signs certificates, in a folder of its own."""

    folder: Path

    def found(self) -> None:
        self._openssl("req", "-x509", "-nodes", *_KEY, "-days", "2", "-subj", "/CN=those who sign",
                      "-keyout", "ca.key", "-out", "ca.crt")  # fmt: skip

    def sign(self, name: str, subject: str, alternative: str) -> None:
        (self.folder / "names").write_text(f"subjectAltName={alternative}\n")
        self._openssl("req", "-nodes", *_KEY, "-subj", f"/CN={subject}", "-keyout", f"{name}.key",
                      "-out", f"{name}.csr")  # fmt: skip
        self._openssl("x509", "-req", "-in", f"{name}.csr", "-CA", "ca.crt", "-CAkey", "ca.key", "-CAcreateserial",
                      "-days", "2", "-extfile", "names", "-out", f"{name}.crt")  # fmt: skip
        (self.folder / f"{name}.key").chmod(0o600)

    def _openssl(self, *words: str) -> None:
        subprocess.run(["openssl", *words], cwd=self.folder, check=True, capture_output=True)


@pytest.fixture(scope="module")
def any_server() -> Iterator[TeamServer]:
    with temporary_server() as made:
        yield made


@pytest.fixture(scope="module")
def authority(tmp_path_factory: pytest.TempPathFactory) -> Authority:
    made = Authority(tmp_path_factory.mktemp("authority"))
    made.found()
    return made


@pytest.fixture
def server(any_server: TeamServer, authority: Authority) -> TeamServer:
    """It lets nobody in but over TLS."""
    let_in(any_server, "hostssl all all 127.0.0.1/32 scram-sha-256", "host all all 127.0.0.1/32 reject")
    trust(any_server, authority, _HERE)
    return any_server


def trust(server: TeamServer, authority: Authority, names: str) -> None:
    """Give the server a certificate for these names."""
    authority.sign("server", "server", names)
    data = server.folder / "data"
    for name in ("server.key", "server.crt", "ca.crt"):
        (data / name).write_bytes((authority.folder / name).read_bytes())
        (data / name).chmod(0o600)
        server.give(data / name)
    (data / "postgresql.auto.conf").write_text("ssl = on\nssl_ca_file = 'ca.crt'\n")
    reload(server)


def let_in(server: TeamServer, *lines: str) -> None:
    """Say who may connect, and how."""
    (server.folder / "data" / "pg_hba.conf").write_text("\n".join((*lines, "")))
    reload(server)


def reload(server: TeamServer) -> None:
    server.read_settings_again()
    time.sleep(0.3)  # each process of the server does it by itself


def place_with(server: TeamServer, local: Path, query: str) -> LibraryPlace:
    place = server.place(server.new_database(), local)
    return replace(place, url=f"{place.url}?{query}")


def test_journal_and_bell_go_over_tls_to_a_server_that_is_who_it_says(
    server: TeamServer, authority: Authority, tmp_path: Path
) -> None:
    library = Library(place_with(server, tmp_path, f"sslmode=verify-full&sslrootcert={authority.folder / 'ca.crt'}"))
    journal = library.create("OP-6", DEMOS[0].facts(), BEGIN)
    _, head = journal.read()
    until = time.monotonic() + 5
    while journal.has_grown(head) or journal._still is None:  # until it listens
        assert time.monotonic() < until
    journal.append([NoteWritten("x")], action="n", at=BEGIN)
    with server.connect("postgres") as db:
        found = db.execute(
            "SELECT ssl FROM pg_stat_ssl JOIN pg_stat_activity USING (pid) WHERE application_name = 'auditra'"
        ).fetchall()
    assert len(found) >= 2
    assert {row[0] for row in found} == {True}
    library.close()


@pytest.mark.parametrize(
    ("query", "words"),
    [("sslmode=disable", "no encryption"), ("sslmode=verify-full&sslrootcert={folder}/other/ca.crt", "certificate"),
     ("sslmode=verify-ca&sslrootcert={folder}/no-such.crt", "root certificate")],
)  # fmt: skip
def test_a_line_that_is_not_to_be_trusted_is_refused_with_words(
    server: TeamServer, tmp_path: Path, query: str, words: str
) -> None:
    other = Authority(tmp_path / "other")
    other.folder.mkdir()
    other.found()
    with pytest.raises(LibraryUnreachable, match=words) as told:
        Library(place_with(server, tmp_path, query.format(folder=tmp_path)))
    assert PASSWORD not in f"{told.value}"


def test_a_server_with_the_certificate_of_another_host_is_refused(
    server: TeamServer, authority: Authority, tmp_path: Path
) -> None:
    trust(server, authority, "DNS:elsewhere.example")
    root = f"sslrootcert={authority.folder / 'ca.crt'}"
    with pytest.raises(LibraryUnreachable, match="certificate"):
        Library(place_with(server, tmp_path, f"sslmode=verify-full&{root}"))
    Library(place_with(server, tmp_path, f"sslmode=verify-ca&{root}")).close()


def test_a_reviewer_may_have_a_certificate_in_place_of_a_password(
    server: TeamServer, authority: Authority, tmp_path: Path
) -> None:
    authority.sign("reviewer", USER, "DNS:reviewer.example")
    folder = authority.folder
    own = f"sslcert={folder}/reviewer.crt&sslkey={folder}/reviewer.key"
    place = place_with(server, tmp_path, f"sslmode=verify-full&sslrootcert={folder}/ca.crt&{own}")
    let_in(server, f"hostssl all {USER} 127.0.0.1/32 cert")
    assert Library(replace(place, url=place.url.replace(f":{PASSWORD.replace(' ', '%20')}@", "@"))).names() == ()
    with pytest.raises(LibraryUnreachable, match="certificate"):
        Library(server.place("made", tmp_path))
