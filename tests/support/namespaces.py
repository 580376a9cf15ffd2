"""A second machine: a network namespace at the other end of a cable; for network trials `auditra peer` runs there."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

_NETWORK = "198.51.100"
"""Source: RFC 5737, for documentation; cut into 64 of four addresses, for as many runs at once."""


@dataclass(frozen=True)
class FarPeer:
    """What its screen says, and by which interface of this machine it is reached."""

    interface: str
    address: str
    token: str
    port: int
    namespace: str
    far_interface: str

    def takes(self, here_bytes: int, there_bytes: int) -> None:
        """The largest packets that the two ends are set to."""
        _run("ip", "link", "set", self.interface, "mtu", f"{here_bytes}")
        _run("ip", "netns", "exec", self.namespace, "ip", "link", "set", self.far_interface, "mtu", f"{there_bytes}")

    @contextmanager
    def pulled(self) -> Iterator[None]:
        """The cable is out until the end of the block."""
        _run("ip", "link", "set", self.interface, "down")
        try:
            yield
        finally:
            _run("ip", "link", "set", self.interface, "up")


def may_have_namespaces() -> bool:
    """Whether this machine lets the tests make one."""
    name = f"try{os.getpid()}"
    try:
        made = subprocess.run(["ip", "netns", "add", name], capture_output=True, check=False).returncode == 0
        shapes = subprocess.run(["tc", "-V"], capture_output=True, check=False).returncode == 0
    except OSError:
        return False
    if made:
        _run("ip", "netns", "del", name)
    return made and shapes


@dataclass(frozen=True)
class Cable:
    """Its two ends: here, and in a namespace."""

    namespace: str
    here: str
    there: str
    here_address: str
    there_address: str

    @property
    def inside(self) -> tuple[str, ...]:
        """What a command begins with to be run at the far end."""
        return ("ip", "netns", "exec", self.namespace)

    @contextmanager
    def unanswered(self) -> Iterator[None]:
        """Nothing comes back from the far end until the end of the block."""
        _run(*self.inside, "ip", "link", "set", self.there, "down")
        try:
            yield
        finally:
            _run(*self.inside, "ip", "link", "set", self.there, "up")


@contextmanager
def cable() -> Iterator[Cable]:
    """From this machine to a namespace."""
    name = f"au{os.getpid()}"
    first = 4 * _free_part()
    made = Cable(name, f"{name}h"[-15:], f"{name}p"[-15:], f"{_NETWORK}.{first + 1}", f"{_NETWORK}.{first + 2}")
    _run("ip", "netns", "add", name)
    try:
        _run("ip", "link", "add", made.here, "type", "veth", "peer", "name", made.there, "netns", name)
        for prefix, interface, address in (
            ((), made.here, made.here_address), (made.inside, made.there, made.there_address)
        ):  # fmt: skip
            _run(*prefix, "ip", "address", "add", f"{address}/30", "dev", interface)
            _run(*prefix, "ip", "link", "set", interface, "up")
        yield made
    finally:  # the kernel takes a cable away some time after its namespace: the next one may have the same name
        subprocess.run(["ip", "link", "del", made.here], capture_output=True, check=False)
        _run("ip", "netns", "del", name)


@contextmanager
def far_peer(rate_mbps: float) -> Iterator[FarPeer]:
    """A peer behind a cable of this rate, both ways."""
    with cable() as line:
        for prefix, interface in (((), line.here), (line.inside, line.there)):
            _run(*prefix, "tc", "qdisc", "add", "dev", interface, "root", "tbf", "rate", f"{rate_mbps:g}mbit",
                 "burst", f"{_burst_bytes(rate_mbps)}", "latency", "50ms")  # fmt: skip
        command = [*line.inside, sys.executable, "-u", "-m", "auditra", "peer", "--port", "0"]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as process:
            try:
                assert process.stdout is not None
                token = process.stdout.readline().removeprefix("Token:").strip()
                port = int(process.stdout.readline().split(" until")[0].rpartition(" ")[2])
                yield FarPeer(line.here, line.there_address, token, port, line.namespace, line.there)
            finally:
                process.kill()


def _burst_bytes(rate_mbps: float) -> int:
    """Half a millisecond of the rate: with less, a shaper of gigabits drops what the sender's card put together."""
    return max(32_768, round(rate_mbps * 1e6 / 8 / 2000))


def _free_part() -> int:
    used = subprocess.run(["ip", "-4", "-o", "address"], check=True, capture_output=True, text=True).stdout
    return next(part for n in range(64) if f"{_NETWORK}.{4 * (part := (os.getpid() + n) % 64) + 1}/" not in used)


def _run(*words: str) -> None:
    subprocess.run(words, check=True, capture_output=True)
