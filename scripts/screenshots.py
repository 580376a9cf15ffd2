"""Pictures of every main view at 1280x800 from the demo data, into docs/screenshots/.

The application runs in tmux inside xterm under Xvfb: tmux takes the keys and tells what stands on the screen, so that a
picture is taken when the words are there and not after some seconds. `make screenshots` installs what is missing.
"""

from __future__ import annotations

import argparse
import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path

HOME = Path(__file__).resolve().parent.parent
POWER_LOG = HOME / "src" / "auditra" / "data" / "demo" / "osierpell-op-6-p1.power.log"
SCREEN = "1280x800"
FONT = "DejaVu Sans Mono:pixelsize=13"
WITHIN_S = 120.0
SETTLES_IN_S = 0.8


@dataclass(frozen=True)
class View:
    """A picture: its name, and the keys that lead to it, each with words to wait for; with neither, a moment passes."""

    name: str
    steps: Sequence[tuple[str, str]] = ()
    done: bool = False
    """All trials of the first two audits, and of the stand dock, were done before."""
    prepared: bool = False
    """The shelf is as the demo begins with it."""
    columns: int = 160
    rows: int = 47


OPEN = ("Enter", "trial 1 of")
OPEN_DONE = ("Enter", "trials are done")
FIRST_SOCKET = [("Left", "")] * 6
NEXT_MOVE = [("j", "")] * 7 + [("", "A1 write and read back")]
MEASURE = ("Enter", "reading back, pass 2")
DOCK = [("Down", ""), OPEN]
DOCK_DONE = [("Down", ""), OPEN_DONE]
STAND_DONE = [*[("Down", "")] * 5, OPEN_DONE]
TYPED = [
    *DOCK,
    ("1", "PORT CAPABILITIES"),
    ("n", "new claim"),
    ("gives 18 W while C2 gi", "accept the suggestion"),
    ("", "while C2 gi"),
]
LINED_UP = [
    ("m", "Mark another"), ("Down", ""), ("m", "lines them up"), *[("Down", "")] * 4, ("m", "H6. l lines"),
    ("l", "Rows won"),
    ("j", ""), ("j", "a tie"),
]  # fmt: skip
LOGGED = [
    ("a", "T7 complete"),
    ("Escape", "stopped"),
    ("Space", "TIMELINE"),
    *[("Left", "")] * 6,
    *[("Right", "")] * 4,
    ("c", "connected"),
    *[("", "")] * 4,
    ("p", "time to picture"),
    *[("", "")] * 3,
    ("l", "picture lost"),
    ("", ""),
    ("b", "time without picture"),
    ("n", "A note about"),
    ("blank for a moment whenever the drive starts", "blank for a moment"),
    ("C-s", "note: blank"),
]
PASTED = [
    "Two USB-A sockets at 5 Gbps, 4.5 W each.",
    "Enter",
    "Picture: HDMI 4K@30Hz. Gigabit network. SD slot UHS-I 104MB/s.",
    "Enter",
    "Feed it with up to 90 W PD (power only, no data). Charming on every table.",
    "Enter",
]
VIEWS = (
    View("shelf", prepared=True),
    View("narrated", [("Down", ""), ("Enter", "BW-11"), ("", ""), ("?", "WHAT HAPPENS HERE")], prepared=True),
    View("line-up", LINED_UP, done=True),
    View("claims", [*DOCK_DONE, ("1", "PORT CAPABILITIES")], done=True),
    View("claims-typing", TYPED),
    View(
        "read-a-text",
        [
            OPEN,
            *FIRST_SOCKET,
            ("1", "CLAIMS"),
            ("g", "ctrl+r"),
            *[(line, "") for line in PASTED],
            ("C-r", "0 decided"),
            *[("j", "")] * 3,
        ],
    ),
    View("paper-check", [*DOCK_DONE, ("2", "BEFORE ANY TESTING"), ("j", "")], done=True),
    View("rig", [OPEN, ("a", "T6 complete"), ("Escape", "stopped"), ("3", "REACH"), ("h", "as probed")]),
    View("run-next-move", [OPEN, *NEXT_MOVE]),
    View(
        "traces",
        [
            *DOCK_DONE,
            *[("Right", "")] * 7,
            ("5", "TRACES OF N1"),
            *[("j", "")] * 3,
            ("m", ""),
            *[("k", "")] * 3,
            *[("h", "")] * 4,
        ],
        done=True,
    ),
    View(
        "why",
        [
            *DOCK_DONE,
            ("6", "CONTENTION"),
            *[("k", "")] * 4,
            ("j", ""),
            ("", "A1 and S1 share an internal link."),
        ],
        done=True,
    ),
    View("run-measuring", [OPEN, ("a", "T6 complete"), ("", "reading back, pass 2")]),
    View("score", [OPEN_DONE, ("7", "FOR WHOM")], done=True),
    View("score-stand-dock", [*STAND_DONE, ("7", "FOR WHOM")], done=True),
    View("publish", [*DOCK_DONE, ("8", "What was found"), ("j", ""), ("j", ""), ("j", "evidence")], done=True),
    View("run-100x30", [OPEN, *NEXT_MOVE, MEASURE], columns=100, rows=30),
    View("run-80x24", [OPEN, *NEXT_MOVE], columns=80, rows=24),
    View("own-trial", [OPEN, *[("j", "")] * 10, ("", "A1 write and read back"), ("o", "Own trial"), ("Down", "")]),
    View("log", [OPEN, *LOGGED]),
)


@dataclass
class Terminal:
    """tmux in xterm on a screen that nobody sees."""

    screen: str
    socket: Path
    environment: dict[str, str] = field(default_factory=dict)

    def tmux(self, *words: str) -> str:
        command = ["tmux", "-S", str(self.socket), *words]
        return subprocess.run(command, env=self.environment, capture_output=True, text=True, check=False).stdout

    def wait_for(self, words: str) -> None:
        deadline = time.monotonic() + WITHIN_S
        while words not in self.tmux("capture-pane", "-p"):
            if time.monotonic() > deadline:
                sys.exit(f'"{words}" did not appear; the screen was:\n{self.tmux("capture-pane", "-p")}')
            time.sleep(0.05)


@contextmanager
def hidden_screen(number: int) -> Iterator[str]:
    """An X display of its own."""
    server = subprocess.Popen(["Xvfb", f":{number}", "-screen", "0", f"{SCREEN}x24"], stderr=subprocess.DEVNULL)
    try:
        time.sleep(1.0)
        yield f":{number}"
    finally:
        server.terminate()
        server.wait()


@contextmanager
def terminal(view: View, screen: str, folder: Path, done: Path) -> Iterator[Terminal]:
    """The application on a library of its own, in a terminal of the view's size."""
    environment = os.environ | {"DISPLAY": screen, "AUDITRA_LIBRARY": str(folder / "library")}
    opened = Terminal(screen, folder / "tmux", environment)
    if view.done or view.prepared:
        shutil.copytree(done / ("done" if view.done else "prepared"), folder / "library")
    settings = folder / "tmux.conf"
    settings.write_text('set -g status off\nset -ga terminal-overrides ",*:Tc"\nset -g escape-time 0\n')
    shown = f"env COLORTERM=truecolor {sys.executable} -m auditra demo"
    look = ["-fa", FONT, "-b", "0", "-bw", "0", "+sb", "-bg", "#14181a", "-fg", "#e8dfcf", "-tn", "xterm-256color"]
    inner = ["tmux", "-S", str(opened.socket), "-f", str(settings), "new-session", shown]
    command = ["xterm", *look, "-geometry", f"{view.columns}x{view.rows}+0+0", "-e", *inner]
    xterm = subprocess.Popen(command, env=environment, cwd=HOME)
    try:
        yield opened
    finally:
        opened.tmux("kill-server")
        xterm.terminate()
        xterm.wait()


def take(view: View, screen: str, out: Path, done: Path) -> Path:
    """One picture."""
    path = out / f"{view.name}.png"
    with (
        tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder,
        terminal(view, screen, Path(folder), done) as shown,
    ):
        shown.wait_for("Osierpell")
        for key, words in view.steps:
            if key:
                shown.tmux("send-keys", key)
            elif not words:
                time.sleep(SETTLES_IN_S)
            shown.wait_for(words)
        time.sleep(SETTLES_IN_S)
        subprocess.run(["import", "-window", "root", str(path)], env=shown.environment, check=True)
    return path


def make_libraries(folder: Path) -> None:
    """The demo as it begins, and the same with the dock run to its end and a power log beside the hub's charging."""

    def auditra(library: str, *words: str) -> None:
        command = [sys.executable, "-m", "auditra", "--library", str(folder / library), *words]
        subprocess.run(command, check=True, capture_output=True)

    auditra("prepared", "demo", "--prepare")
    shutil.copytree(folder / "prepared", folder / "done")
    auditra("done", "run", "BW-11")
    auditra("done", "attach", "OP-6", "T2", str(POWER_LOG))


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("views", nargs="*", help="names of views; all when none is given")
    parser.add_argument("--out", type=Path, default=HOME / "docs" / "screenshots")
    wanted = parser.parse_args()
    wanted.out.mkdir(parents=True, exist_ok=True)
    with hidden_screen(97) as screen, tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
        done = Path(folder)
        make_libraries(done)
        for view in VIEWS:
            if not wanted.views or view.name in wanted.views:
                print(take(view, screen, wanted.out, done))


if __name__ == "__main__":
    main()
