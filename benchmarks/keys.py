"""How soon a key is painted, on each stage of a finished audit, beside the smallest Textual application.

A pseudo-terminal of this process stands in for the terminal: a key is written, and the clock runs until the last byte of
its picture has come, which is when nothing more comes for a while. Both applications take turns, key by key, in pairs.
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

from auditra.cli.run import run_sheet
from auditra.cli.workshop import Opened, make_workshop
from benchmarks.pairs import p95

KEYS, COLUMNS, ROWS = 120, 160, 50
REST_S = 0.12
"""A picture is complete once nothing has come for so long."""
SMALLEST = """
import os
os.environ.setdefault("TEXTUAL_FPS", "240")
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
    opened = Opened(folder)
    opened.put_demos_on_shelf()
    with contextlib.redirect_stdout(io.StringIO()):
        run_sheet("BW-11", make_workshop(opened, pace=None))
    opened.rows()
    return {"AUDITRA_LIBRARY": str(folder)}


WALKS = {
    "Run": (b"4", (RIGHT, RIGHT, RIGHT, LEFT, LEFT, LEFT)),
    "Claims": (b"1", (b"j", b"j", b"j", b"k", b"k", b"k")),
    "Score": (b"7", (RIGHT, RIGHT, RIGHT, LEFT, LEFT, LEFT)),
    "stage switches": (b"4", (b"1", b"2", b"3", b"4", b"7", b"8")),
}


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        environment = finished_audit(Path(name))
        smallest, ours = Application(SMALLEST, {}), Application(OURS, environment)
        try:
            for key in (b"\x1b[B", ENTER):
                ours.press(key)
                ours.rest(1.0)
            for stage, (opens, walk) in WALKS.items():
                ours.press(opens)
                ours.rest(0.5)
                taken = [(smallest.press(b"x"), ours.press(walk[n % len(walk)])) for n in range(KEYS)]
                small, our = ([pair[side] for pair in taken] for side in (0, 1))
                ratios = statistics.median(our) / statistics.median(small), p95(our) / p95(small)
                print(
                    f"key to paint, {stage}: smallest p50 {statistics.median(small):.1f}, p95 {p95(small):.1f} ms; "
                    f"ours {statistics.median(our):.1f}, {p95(our):.1f} ms; ratio {ratios[0]:.2f}, {ratios[1]:.2f}"
                )
        finally:
            smallest.close()
            ours.close()


if __name__ == "__main__":
    main()
