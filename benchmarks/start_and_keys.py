"""How fast the application is felt: start to shelf rows, and key to paint, beside the smallest Textual application.

Both are run turn about in one process's tmux, and the median of the paired ratios is what counts: a shared machine's
absolute times are worth little. ``make bench`` runs it.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from auditra.cli.workshop import Opened
from auditra.store.demos import DEMOS
from benchmarks.pairs import p95, take_pairs

PAIRS = 9
KEYS = 60
WITHIN_S = 30.0
SMALLEST = """
import os
os.environ.setdefault("TEXTUAL_FPS", "240")
from textual.app import App
from textual.widgets import Label
class Smallest(App):
    count = 0
    def compose(self):
        yield Label("Osierpell 0")
    def on_key(self):
        self.count += 1
        self.query_one(Label).update(f"Osierpell {self.count}")
Smallest().run()
"""
OURS = "from auditra.cli import main; import sys; sys.argv = ['auditra', 'demo']; main()"


class Screen:
    """A program in a tmux pane of its own."""

    def __init__(self, socket: Path, program: str) -> None:
        self._tmux = ["tmux", "-S", str(socket), "-f", "/dev/null"]
        self.started = time.perf_counter()
        self._run("new-session", "-d", "-x", "160", "-y", "50", sys.executable, "-c", program)

    def _run(self, *words: str) -> str:
        return subprocess.run([*self._tmux, *words], capture_output=True, text=True, check=False).stdout

    def wait(self, words: str, absent: bool = False) -> float:
        """Seconds of the clock when the words stood on the screen."""
        deadline = time.perf_counter() + WITHIN_S
        while (words in self._run("capture-pane", "-p")) is absent:
            if time.perf_counter() > deadline:
                sys.exit(f"{words!r} did not appear:\n{self._run('capture-pane', '-p')}")
        return time.perf_counter()

    def press(self, key: str, words: str) -> float:
        """Milliseconds until the words stand there."""
        begun = time.perf_counter()
        self._run("send-keys", key)
        return (self.wait(words) - begun) * 1e3

    def close(self) -> None:
        self._run("kill-server")
        time.sleep(0.1)


def start_seconds(program: str, folder: Path) -> float:
    screen = Screen(folder / f"s{time.monotonic_ns()}", program)
    try:
        return screen.wait("Osierpell") - screen.started
    finally:
        screen.close()


def key_milliseconds(ours: bool, folder: Path) -> list[float]:
    screen = Screen(folder / f"k{time.monotonic_ns()}", OURS if ours else SMALLEST)
    try:
        screen.wait("Osierpell")
        if ours:
            screen.press("Enter", "trial 1 of 19")
            ports = ("A2", "S1", "N1", "H1", "P1", "UP")
            steps = [("Right", f"SOCKET {port}") for port in ports]
            steps += [("Left", f"SOCKET {port}") for port in ("P1", "H1", "N1", "S1", "A2", "A1")]
            walk = [steps[n % len(steps)] for n in range(KEYS)]
        else:
            walk = [("x", f"Osierpell {n}") for n in range(1, KEYS + 1)]
        return [screen.press(key, words) for key, words in walk]
    finally:
        screen.close()


def shelf_of(folder: Path, audits: int) -> Path:
    """A library with so many audits on its shelf, all of them the demo's hub, and the shelf seen once."""
    library = folder / f"library-{audits}"
    opened = Opened(library)
    opened.put_demos_on_shelf()
    for number in range(audits - len(DEMOS)):
        opened.library.create(f"OP-6 no {number}", DEMOS[0].facts(), DEMOS[0].made_at)
    opened.rows()
    return library


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for audits in (len(DEMOS), 1000):
            os.environ["AUDITRA_LIBRARY"] = str(shelf_of(folder, audits))
            start_seconds(OURS, folder)
            pairs = take_pairs(lambda: start_seconds(SMALLEST, folder), lambda: start_seconds(OURS, folder), PAIRS)
            print(pairs.told(f"start to shelf rows, {audits} audits", "ms", 1e3, "at most 1.2"))
        os.environ["AUDITRA_LIBRARY"] = str(folder / f"library-{len(DEMOS)}")
        for label, ours in (("smallest", False), ("ours", True)):
            keys = key_milliseconds(ours, folder)
            print(f"key to paint, {label}: p50 {statistics.median(keys):.1f} ms, p95 {p95(keys):.1f} ms, through tmux")


if __name__ == "__main__":
    main()
