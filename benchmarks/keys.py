"""How soon a key is painted, on each stage of a finished audit, beside the smallest Textual application as it comes.

A pseudo-terminal of this process stands in for the terminal. A key is written, and the clock runs until the words that
it brings have come; the next key follows at once. Then again with a rest after each key, until its whole picture came.
"""

from __future__ import annotations

import contextlib
import fcntl
import io
import os
import pty
import select
import statistics
import struct
import sys
import tempfile
import termios
import time
from pathlib import Path

from auditra.cli.composition import LibraryHandle, make_services
from auditra.cli.run import run_sheet
from benchmarks.pairs import p95

KEYS, COLUMNS, ROWS = 120, 160, 50
REST_S = 0.12
"""A picture is complete once nothing has come for so long."""
SMALLEST = """
from textual.app import App
from textual.widgets import Label
class Smallest(App):
    count = 0
    def compose(self):
        yield Label("ready 0")
    def on_key(self):
        self.count += 1
        self.query_one(Label).update(f"ready {self.count}")
Smallest().run()
"""
OURS = "from auditra.cli import main; import sys; sys.argv = ['auditra']; main()"
RIGHT, LEFT, ENTER = b"\x1b[C", b"\x1b[D", b"\r"


class Application:
    """A program on a pseudo-terminal of its own."""

    def __init__(self, program: str, environment: dict[str, str]) -> None:
        self.process, self._terminal = pty.fork()
        if self.process == 0:
            os.execve(
                sys.executable, [sys.executable, "-c", program], os.environ | environment | {"TERM": "xterm-256color"}
            )
        fcntl.ioctl(self._terminal, termios.TIOCSWINSZ, struct.pack("HHHH", ROWS, COLUMNS, 0, 0))
        self.rest(1.5)

    def rest(self, seconds: float) -> float:
        """Read until nothing has come for so long; when the last byte came, by the clock."""
        last = time.perf_counter()
        while select.select([self._terminal], [], [], seconds)[0]:
            try:
                os.read(self._terminal, 1 << 16)
            except OSError:
                break
            last = time.perf_counter()
        return last

    def press_until(self, key: bytes, words: bytes) -> float:
        """Milliseconds until these words came."""
        begun, seen = time.perf_counter(), b""
        os.write(self._terminal, key)
        while words not in seen:
            if not select.select([self._terminal], [], [], 5.0)[0]:
                sys.exit(f"{words!r} did not come after {key!r}")
            seen += os.read(self._terminal, 1 << 16)
        return (time.perf_counter() - begun) * 1e3

    def press(self, key: bytes) -> float:
        """Milliseconds until its picture was complete."""
        begun = time.perf_counter()
        os.write(self._terminal, key)
        return (self.rest(REST_S) - begun) * 1e3

    def close(self) -> None:
        with contextlib.suppress(OSError):
            os.kill(self.process, 9)
            os.waitpid(self.process, 0)
            os.close(self._terminal)


def finished_audit(folder: Path) -> dict[str, str]:
    """A library with the demo's dock, all its trials done and first on the shelf; the environment that names it."""
    handle = LibraryHandle(folder)
    handle.put_demos_on_shelf()
    with contextlib.redirect_stdout(io.StringIO()):
        run_sheet("BW-11", make_services(handle, pace=None))
    handle.shelf.rows()
    return {"AUDITRA_LIBRARY": str(folder)}


PORTS = (b"C2", b"S1", b"J1", b"S1", b"C2", b"C1")
SOCKETS = tuple(zip((RIGHT, RIGHT, RIGHT, LEFT, LEFT, LEFT), (b"SOCKET " + port for port in PORTS), strict=True))
CLAIMS = (
    b"C1 data 10 Gb/s",
    b"C2 data 10 Gb/s",
    b"C1 gives 27 W",
    b"C2 data 10 Gb/s",
    b"C1 data 10 Gb/s",
    b"UP charges",
)
WALKS: dict[str, tuple[bytes, tuple[tuple[bytes, bytes], ...]]] = {
    "Run": (b"4", SOCKETS),
    "Score": (b"7", SOCKETS),
    "Claims": (b"1", tuple(zip((b"j", b"j", b"j", b"k", b"k", b"k"), CLAIMS, strict=True))),
    "stage switches": (b"4", tuple((key, b"") for key in (b"1", b"2", b"3", b"4", b"7", b"8"))),
}


def told(what: str, small: list[float], our: list[float]) -> str:
    p50, p95_ = statistics.median(our) / statistics.median(small), p95(our) / p95(small)
    return (
        f"key to paint, {what}: smallest {statistics.median(small):.1f}, p95 {p95(small):.1f} ms; "
        f"ours {statistics.median(our):.1f}, p95 {p95(our):.1f} ms; ratio {p50:.2f}, p95 {p95_:.2f}"
    )


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        environment = finished_audit(Path(name))
        smallest, ours = Application(SMALLEST, {}), Application(OURS, environment)
        try:
            for key in (b"\x1b[B", ENTER):
                ours.press(key)
                ours.rest(1.0)
            at_once = [smallest.press_until(b"x", f"ready {n}".encode()) for n in range(1, KEYS + 1)]
            for stage, (opens, walk) in WALKS.items():
                ours.press(opens)
                for _ in range(12):
                    ours.press(b"k" if stage == "Claims" else LEFT)
                steps = [walk[n % len(walk)] for n in range(KEYS)]
                if walk[0][1]:
                    taken = [ours.press_until(key, words) for key, words in steps]
                    ours.rest(0.5)
                    print(told(f"{stage}, the next at once", at_once, taken))
                pairs = [(smallest.press(b"x"), ours.press(key)) for key, _ in steps]
                print(told(f"{stage}, whole picture", [one for one, _ in pairs], [other for _, other in pairs]))
        finally:
            smallest.close()
            ours.close()


if __name__ == "__main__":
    main()
