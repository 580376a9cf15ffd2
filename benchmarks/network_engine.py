"""The network engine beside a minimal C program over loopback, and beside what shaped links can carry.

``make bench`` runs it.
"""

from __future__ import annotations

import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import IO

from tests.support.namespaces import far_peer, may_have_namespaces

from auditra.bench.network.peer_client import Place, open_peer
from benchmarks.pairs import take_pairs

PAIRS, SECONDS, PIECE = 9, 1.0, 1 << 22
AIMS = {1: "0.95", 4: "0.85"}
RATES_MBPS, SHAPED_S = (100, 1000, 2500, 5000), 5
PAYLOAD_SHARE = 1448 / 1514
"""Of a frame without check and gap, as a shaper counts it: 1,448 B of payload (IPv4, TCP with time stamps)."""
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
    if may_have_namespaces():
        shaped()
    else:
        print("network, shaped links: this machine allows no network namespaces")


def said_by(screen: IO[str]) -> tuple[Place, str]:
    """What the peer's screen shows: its place and its token."""
    token = screen.readline().removeprefix("Token:").strip()
    return Place("peer", "127.0.0.1", int(screen.readline().split(" until")[0].rpartition(" ")[2])), token


def compare(program: Path, place: Place, token: str) -> None:
    for streams, aim in AIMS.items():
        reached = partial(reference, program, streams), partial(engine, place, token, streams)
        print(take_pairs(*reached, PAIRS).told(f"network, streams: {streams}", "Gb/s", 8e-9, aim=f"aim: {aim}"))


def shaped() -> None:
    """Second by second, both ways, as shares of the payload ceiling of a link of that rate."""
    for rate_mbps in RATES_MBPS:
        with far_peer(rate_mbps) as far:
            streams = open_peer(Place("far machine", far.address, far.port, far.interface), far.token)
            try:
                for verb, move in (("sending", streams.send), ("receiving", streams.receive)):
                    move(1)
                    shares = sorted(_share(move, rate_mbps) for _ in range(SHAPED_S))
                    lost = streams.account().lost_percent
                    spread = f"{statistics.median(shares):.4f} [{shares[0]:.4f} .. {shares[-1]:.4f}]"
                    print(f"network, shaped to {rate_mbps:g} Mb/s, {verb}: {spread} of the payload ceiling in "
                          f"{SHAPED_S} seconds (aim: 0.99 to 1.01); processors lost {lost:.1f} %")  # fmt: skip
            finally:
                streams.close()


def _share(move: Callable[[int], int], rate_mbps: float) -> float:
    began_s, moved = time.monotonic(), 0
    while (span_s := time.monotonic() - began_s) < SECONDS:
        moved += move(1 << 18)
    return moved * 8 / span_s / (rate_mbps * 1e6 * PAYLOAD_SHARE)


if __name__ == "__main__":
    main()
