"""The real application in tmux: a private server, a fixed size, keys in, words out."""

from __future__ import annotations

import os
import shlex
import shutil
import subprocess
import sys
import time
from pathlib import Path

import pytest

QUICK = (
    "from auditra.bench.simulated import doors; from auditra.workflows.trials.measure import network, storage; "
    "storage.SECONDS_A_PASS = network.SECONDS_A_PASS = 0.1; network.SOAK_CHUNK_BYTES = 1 << 30; "
    "doors.FLUSH_S = 0.0003; "
    "from auditra.tui import ending; ending.GRACE_S = 1.0; "
    "from auditra.cli import main; main()"
)


def need_tmux() -> None:
    """Without tmux these tests are skipped; in CI that is a failure."""
    if shutil.which("tmux") is None:
        missing = "tmux is not here: install it with your system's packages"
        if os.environ.get("CI"):
            pytest.fail(missing)
        pytest.skip(missing)


_TRIES_TO_OPEN = 10


class Terminal:
    """One pane with the application in it, on a tmux server of its own; its library is in `folder`, or `library`."""

    def __init__(
        self, folder: Path, columns: int, rows: int, *words: str, deaf_to_hang_up: bool = False,
        library: Path | None = None,
    ) -> None:  # fmt: skip
        need_tmux()
        self.folder = folder
        folder.mkdir(exist_ok=True)
        self._tmux = ["tmux", "-S", str(folder / "tmux"), "-f", "/dev/null"]
        kept = {name: value for name, value in os.environ.items() if name not in ("COLUMNS", "LINES", "TMUX")}
        places = {"AUDITRA_LIBRARY": str(library or folder / "library"), "XDG_STATE_HOME": str(folder / "state")}
        self._environment = kept | places
        program = [sys.executable, "-c", QUICK, *words]
        deaf = "trap '' HUP; " if deaf_to_hang_up else ""
        shell = f"cd {folder}; echo $$ > pid; {deaf}exec {shlex.join(program)}"
        self._open(columns, rows, shell)

    def _open(self, columns: int, rows: int, shell: str) -> None:
        """A server that was told to end may still be ending: a session on it would go with it, so it is looked for."""
        for _ in range(_TRIES_TO_OPEN):
            size = ("-x", str(columns), "-y", str(rows))
            self.tmux("new-session", "-d", *size, shell, ";", "set-option", "-g", "remain-on-exit", "on")
            time.sleep(0.2)
            if self.tmux("list-sessions", "-F", "#{session_id}").strip():
                return

    def tmux(self, *words: str) -> str:
        ran = subprocess.run([*self._tmux, *words], env=self._environment, capture_output=True, text=True, check=False)
        return ran.stdout

    @property
    def process(self) -> int:
        return int((self.folder / "pid").read_text())

    def screen(self) -> str:
        return self.tmux("capture-pane", "-p")

    def press(self, *keys: str) -> None:
        self.tmux("send-keys", *keys)

    def press_until(self, key: str, text: str, at_most: int = 40) -> str:
        """A key again and again, until these words stand on the screen."""
        for _ in range(at_most):
            if text in (before := self.screen()):
                return before
            self.press(key)
            deadline = time.monotonic() + 2.0
            while self.screen() == before and time.monotonic() < deadline:
                time.sleep(0.02)
            self._wait_until_still(deadline)
        return self.wait_for(text)

    def _wait_until_still(self, deadline: float) -> None:
        """Panels are painted one after another: a key more too soon would go past what is looked for."""
        last = ""
        while (now := self.screen()) != last and time.monotonic() < deadline:
            last = now
            time.sleep(0.1)

    def wait_for(self, text: str, within_s: float = 40.0) -> str:
        """The screen once these words stand on it."""
        deadline = time.monotonic() + within_s
        while text not in (screen := self.screen()):
            if time.monotonic() > deadline:
                pytest.fail(f"{text!r} did not appear in {within_s} s; the screen was:\n{screen}")
            time.sleep(0.05)
        return screen

    def wait_for_end(self, within_s: float = 15.0) -> None:
        deadline = time.monotonic() + within_s
        while self.is_running:
            if time.monotonic() > deadline:
                pytest.fail(f"process {self.process} still runs after {within_s} s")
            time.sleep(0.05)

    @property
    def is_running(self) -> bool:
        try:
            state = Path(f"/proc/{self.process}/stat").read_text().rpartition(")")[2].split()[0]
        except OSError:
            return False
        return state != "Z"

    def close(self) -> None:
        self.tmux("kill-server")
