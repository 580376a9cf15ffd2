"""A real PostgreSQL server for tests: made in a temporary folder, on a free port of the loopback interface."""

from __future__ import annotations

import itertools
import os
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from collections.abc import Iterator, Sequence
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass, field
from pathlib import Path

import psycopg
import pytest

from auditra.store.dialects.postgresql import upgrade_database
from auditra.store.place import LibraryPlace, place_of

USER, PASSWORD = "owner", "a word that nobody may see"
_TEMPLATE = "made"
_STARTS_WITHIN_S = 120.0


def programs() -> Path | None:
    """The folder of the server's programs; None where there is no server."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"))
    if found:
        return found[-1].parent
    on_path = shutil.which("initdb")
    return Path(on_path).resolve().parent if on_path else None


@dataclass
class TeamServer:
    """One server with as many databases as tests want."""

    folder: Path
    programs: Path
    host: str = "127.0.0.1"
    inside: Sequence[str] = ()
    """What its own command begins with, where it runs on another machine."""
    port: int = 0
    process: subprocess.Popen[bytes] | None = None
    _numbers: Iterator[int] = field(default_factory=itertools.count)

    def make(self) -> None:
        data, secret = self.folder / "data", self.folder / "secret"
        secret.write_text(PASSWORD)
        self.give(secret)
        self._as_owner(
            "initdb", "--pgdata", data, "--username", USER, "--pwfile", secret, "--auth", "scram-sha-256",
            "--encoding", "UTF8", "--no-sync",
        )  # fmt: skip
        with (data / "pg_hba.conf").open("a") as rules:
            rules.write("host all all samenet scram-sha-256\n")
        with closing(socket.socket()) as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.start()
        with self.connect("postgres") as db:
            db.execute(f"CREATE DATABASE {_TEMPLATE}")
        upgrade_database(self.place(_TEMPLATE))

    def give(self, file: Path) -> None:
        """Let the server have a file."""
        if self._owner:
            shutil.chown(file, *self._owner)

    def start(self) -> None:
        options = (
            "-c",
            "unix_socket_directories=",
            "-c",
            f"listen_addresses={self.host}",
            "-c",
            "log_min_messages=fatal",
        )
        command = [*self.inside, *self._command("postgres", "-D", self.folder / "data", "-p", str(self.port), *options)]
        with (self.folder / "log").open("ab") as log:
            self.process = subprocess.Popen(command, stdout=log, stderr=log)
        until = time.monotonic() + _STARTS_WITHIN_S
        while True:
            try:
                self.connect("postgres").close()
                return
            except psycopg.OperationalError:
                if time.monotonic() > until:
                    raise
                time.sleep(0.05)

    @property
    def _main(self) -> int:
        return int((self.folder / "data" / "postmaster.pid").read_text().split()[0])

    def read_settings_again(self) -> None:
        os.kill(self._main, signal.SIGHUP)

    def kill(self) -> None:
        """As a crash does: no process of it ends by itself."""
        main = self._main
        children = subprocess.run(["pgrep", "-P", str(main)], capture_output=True, text=True, check=False).stdout
        for each in (main, *map(int, children.split())):
            with suppress(ProcessLookupError):
                os.kill(each, signal.SIGKILL)
        assert self.process is not None
        self.process.wait()
        (self.folder / "data" / "postmaster.pid").unlink(missing_ok=True)

    def stop(self) -> None:
        if self.process is not None and self.process.poll() is None:
            os.kill(self._main, signal.SIGQUIT)
            self.process.wait()

    def url(self, database: str, user: str = USER, password: str = PASSWORD, port: int = 0) -> str:
        return f"postgresql://{user}:{password.replace(' ', '%20')}@{self.host}:{port or self.port}/{database}"

    def connect(self, database: str) -> psycopg.Connection[tuple[object, ...]]:
        return psycopg.connect(self.url(database), autocommit=True, connect_timeout=5)

    def place(self, database: str, local: Path | None = None, **of_url: object) -> LibraryPlace:
        return place_of(self.url(database, **of_url), local or self.folder / "local")  # type: ignore[arg-type]

    def new_database(self, *, empty: bool = False) -> str:
        """The name of a database that nothing else uses: with the library's tables in it, or with none."""
        name = f"team{next(self._numbers)}"
        with self.connect("postgres") as db:
            db.execute(f"CREATE DATABASE {name}" + ("" if empty else f" TEMPLATE {_TEMPLATE}"))
        return name

    @property
    def _owner(self) -> tuple[str, str] | None:
        """The server refuses to run as root."""
        return ("postgres", "postgres") if os.geteuid() == 0 else None

    def _command(self, program: str, *arguments: object) -> list[str]:
        command = [str(self.programs / program), *map(str, arguments)]
        return ["runuser", "-u", "postgres", "--", *command] if self._owner else command

    def _as_owner(self, program: str, *arguments: object) -> None:
        subprocess.run(self._command(program, *arguments), check=True, capture_output=True, cwd=self.folder)


@contextmanager
def running_server(folder: Path, host: str = "127.0.0.1", inside: Sequence[str] = ()) -> Iterator[TeamServer]:
    """A server in a folder. Skips where none is installed, except in CI."""
    found = programs()
    if found is None:
        why = "no PostgreSQL server is installed (Debian: apt-get install postgresql)"
        if os.environ.get("CI"):
            pytest.fail(why)
        pytest.skip(why)
    server = TeamServer(folder, found, host, inside)
    if server._owner:
        shutil.chown(folder, *server._owner)
    try:
        server.make()
        yield server
    finally:
        server.stop()


@contextmanager
def temporary_server(host: str = "127.0.0.1", inside: Sequence[str] = ()) -> Iterator[TeamServer]:
    """A server in a folder that goes with it."""
    folder = Path(tempfile.mkdtemp(prefix="auditra-team-"))  # pytest's own folders are shut to the server's user
    os.chmod(folder, 0o755)
    try:
        with running_server(folder, host, inside) as server:
            yield server
    finally:
        shutil.rmtree(folder, ignore_errors=True)
