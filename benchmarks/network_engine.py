"""The network engine beside a minimal C program that does the same over loopback. ``make bench`` runs it."""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
import time
from functools import partial
from pathlib import Path
from typing import IO

from auditra.bench.network.peer_client import Place, open_peer
from benchmarks.pairs import take_pairs

PAIRS, SECONDS, PIECE = 9, 1.0, 1 << 22
AIMS = {1: "0.95", 4: "0.85"}
HERE = Path(__file__).resolve().parent
SERVE = [sys.executable, "-u", "-m", "auditra", "peer", "--host", "127.0.0.1", "--port", "0"]


def reference(program: Path, streams: int) -> float:
    ran = subprocess.run([program, str(streams), str(SECONDS)], capture_output=True, text=True, check=True)
    return float(ran.stdout)


def engine(place: Place, token: str, streams: int) -> float:
    opened = open_peer(place, token, streams)
    try:
        opened.send(1)
        began_s, moved = time.monotonic(), 0
        while (span_s := time.monotonic() - began_s) < SECONDS:
            moved += opened.send(PIECE)
        return moved / span_s
    finally:
        opened.close()


def main() -> None:
    compiler = shutil.which("cc") or shutil.which("gcc")
    if compiler is None:
        sys.exit("The reference needs a C compiler.")
    with tempfile.TemporaryDirectory() as folder, subprocess.Popen(SERVE, stdout=subprocess.PIPE, text=True) as peer:
        program = Path(folder) / "reference"
        subprocess.run([compiler, "-O2", "-pthread", "-o", program, HERE / "network_reference.c"], check=True)
        assert peer.stdout is not None
        try:
            compare(program, *said_by(peer.stdout))
        finally:
            peer.terminate()


def said_by(screen: IO[str]) -> tuple[Place, str]:
    """What the peer's screen shows: its place and its token."""
    token = screen.readline().removeprefix("Token:").strip()
    return Place("peer", "127.0.0.1", int(screen.readline().split(" until")[0].rpartition(" ")[2])), token


def compare(program: Path, place: Place, token: str) -> None:
    for streams, aim in AIMS.items():
        reached = partial(reference, program, streams), partial(engine, place, token, streams)
        print(take_pairs(*reached, PAIRS).told(f"network, streams: {streams}", "Gb/s", 8e-9, aim=f"aim: {aim}"))


if __name__ == "__main__":
    main()
