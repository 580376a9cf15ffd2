"""A network interface is proved to be behind the device: a trial by another adapter says nothing of the port."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.errors import BenchError
from auditra.core.host.snapshot import NetworkInterface, Snapshot, UsbDevice
from auditra.core.journal.facts import ClaimMade, DeviceNoted, RigNoted
from auditra.core.model.trial import Outcome
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.doors import Bench, Links
from auditra.workflows.trials.doors import NetworkInterface as Seen
from tests.support.audits import HUB, PROFILE, galley
from tests.support.benches import MemoryJournal, Onlooker, SteppedClock
from tests.workflows.test_live_bench import Reviewer

IDS = "1f6e:0601"


def usb(name: str, parent: str | None, usb_id: str) -> UsbDevice:
    vid, pid = (int(each, 16) for each in usb_id.split(":"))
    return UsbDevice(name, parent, 5000.0, vid, pid)


BUS = (usb("usb2", None, "1d6b:0003"), usb("2-1", "usb2", IDS), usb("2-1.4", "2-1", "0b95:1790"),
       usb("2-2", "usb2", "0b95:1790"))  # fmt: skip


@dataclass
class Host:
    """Shows a link once something is plugged."""

    adapter: str | None
    is_up: bool = False
    wireless: bool = False

    def links(self) -> Links:
        return Links(network=(Seen("eth1", 1000.0),) if self.is_up else ())

    def snapshot(self) -> Snapshot:
        return Snapshot(
            usb=BUS, network=(NetworkInterface("eth1", "up", 1000, usb=self.adapter, wireless=self.wireless),)
        )


class Unreached:
    """A peer that is there, and that no trial gets to which fails before."""

    def serves(self, peer: str) -> bool:
        return True

    def ask_interface(self, peer: str) -> str:
        return "eth1"

    def connect(self, peer: str, interface: str = "", streams: int = 1) -> object:
        raise BenchError(peer, why="the trial got as far as its peer")


@contextmanager
def bench(host: Host, session: AuditSession) -> Iterator[Bench]:
    def plug() -> None:
        host.is_up = True

    with open_simulated_bench(session.judged.audit, over_sockets=False) as simulated:
        yield Bench(**{**vars(simulated), "kernel": host, "peers": Unreached(), "clock": SteppedClock(),
                       "person": Reviewer(plugs=plug)})  # fmt: skip


def run(
    adapter: str | None, key: str, usb_ids: tuple[str, ...] | None = (IDS,), *, wireless: bool = False
) -> AuditSession:
    device = replace(HUB, usb_ids=usb_ids) if usb_ids else HUB
    claim = ClaimMade("claim1", "N1 links 1 Gb/s")
    session = AuditSession("x", MemoryJournal([DeviceNoted(device), RigNoted(galley()), claim]), PROFILE)
    planned = next(each for each in session.judged.judgement.sheet.trials if each.key.startswith(key))
    with bench(Host(adapter, wireless=wireless), session) as told:
        session.run(planned, told, Onlooker())
    return session


@pytest.mark.parametrize(
    ("adapter", "key", "why"),
    [
        ("2-1.4", "N1/network", "got as far as its peer"),
        ("2-2", "N1/network", "nothing shows that the OP-6 lies on the way"),
        (None, "N1/network", "got as far as its peer"),
        ("2-2", "direct/network", "got as far as its peer"),
        ("2-1.4", "direct/network", "a direct trial is without it"),
    ],
)
def test_an_adapter_counts_only_where_the_trial_says_it_is(adapter: str | None, key: str, why: str) -> None:
    with pytest.raises(BenchError, match=why):
        run(adapter, key)


@pytest.mark.parametrize("key", ["N1/network", "direct/network"])
def test_a_wireless_interface_proves_nothing_of_a_cable(key: str) -> None:
    with pytest.raises(BenchError, match="it is wireless"):
        run(None, key, wireless=True)


def test_what_the_device_is_known_by_is_not_guessed() -> None:
    """Without ids, and with no hub that came, nothing can be said of the way; the counters on the wire still can."""
    with pytest.raises(BenchError, match="got as far as its peer"):
        run("2-2", "N1/network", usb_ids=None)


def test_a_trial_that_ended_so_accuses_nobody() -> None:
    claim = ClaimMade("claim1", "N1 links 1 Gb/s")
    device = replace(HUB, usb_ids=(IDS,))
    session = AuditSession("x", MemoryJournal([DeviceNoted(device), RigNoted(galley()), claim]), PROFILE)
    planned = next(each for each in session.judged.judgement.sheet.trials if each.key.startswith("N1/network"))
    with bench(Host("2-2"), session) as told, pytest.raises(BenchError):
        session.run(planned, told, Onlooker())
    assert session.judged.audit.trials[-1].outcome is Outcome.FAILED
    assert not session.judged.judgement.claims[0].verdict.decided
