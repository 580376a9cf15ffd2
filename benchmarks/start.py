"""How soon the shelf's rows stand on the screen, beside the first words of the smallest Textual application.

Both are started turn about in a tmux of their own, and the median of the paired ratios is what counts: a shared
machine's absolute times are worth little. ``make bench`` runs it.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from auditra.cli.composition import LibraryHandle
from auditra.store.demos import DEMOS
from benchmarks.pairs import take_pairs

PAIRS = 9
WITHIN_S = 30.0
SMALLEST = """
import os
os.environ.setdefault("TEXTUAL_FPS", "240")
from textual.app import App
from textual.widgets import Label
class Smallest(App):
    def compose(self):
        yield Label("Osierpell")
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

    def close(self) -> None:
        self._run("kill-server")
        time.sleep(0.1)


def start_seconds(program: str, folder: Path) -> float:
    screen = Screen(folder / f"s{time.monotonic_ns()}", program)
    try:
        return screen.wait("Osierpell") - screen.started
    finally:
        screen.close()


def shelf_of(folder: Path, audits: int) -> Path:
    """A library with so many audits on its shelf, all of them the demo's hub, and the shelf seen once."""
    library = folder / f"library-{audits}"
    handle = LibraryHandle(library)
    handle.put_demos_on_shelf()
    for number in range(audits - len(DEMOS)):
        handle.library.create(f"OP-6 no {number}", DEMOS[0].facts(), DEMOS[0].made_at)
    handle.shelf.rows()
    return library


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for audits in (len(DEMOS), 1000):
            os.environ["AUDITRA_LIBRARY"] = str(shelf_of(folder, audits))
            start_seconds(OURS, folder)
            pairs = take_pairs(lambda: start_seconds(SMALLEST, folder), lambda: start_seconds(OURS, folder), PAIRS)
            print(pairs.told(f"start to shelf rows, {audits} audits", "ms", 1e3, "at most 1.2"))


if __name__ == "__main__":
    main()
