"""Network trials against `auditra peer` in a namespace of its own, over a cable of known rate."""

from __future__ import annotations

import socket
import statistics
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest

from auditra.bench.live import open_live_bench
from auditra.bench.network import live_peers, peer_client
from auditra.bench.network.peer_client import Place, open_peer
from auditra.core.errors import BenchError
from auditra.core.journal.facts import BenchNoted, ClaimMade, DeviceNoted, Fact, RigNoted
from auditra.core.judge.counting import MAX_LOST_PERCENT, aside
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.measure import network
from tests.support.audits import HUB, PROFILE, galley
from tests.support.benches import MemoryJournal, Onlooker
from tests.support.machines import link, write
from tests.support.namespaces import FarPeer, far_peer, may_have_namespaces
from tests.workflows.test_live_bench import Reviewer, planned

pytestmark = pytest.mark.skipif(not may_have_namespaces(), reason="this machine allows no network namespaces")
RATE_MBPS = 20.0
"""Slow enough that a busy machine keeps up with it most of the time."""
CEILING_BPS = RATE_MBPS * 1e6 * 1448 / 1514
"""A shaper counts 1,514 B of a frame, no check or gap; 1,448 B of them are payload: IPv4, TCP with time stamps."""


@pytest.fixture(scope="module")
def far() -> Iterator[FarPeer]:
    with far_peer(RATE_MBPS) as peer:
        yield peer


@pytest.fixture(autouse=True)
def forgetful(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(live_peers, "_TOKENS", {})
    monkeypatch.setattr(peer_client, "SETTLE_S", 0.2)


def place_of(far: FarPeer) -> Place:
    return Place("far machine", far.address, far.port, far.interface)


def assert_at_ceiling_or_marked(rate_bps: float, lost_percent: float | None) -> None:
    """A machine that others take from may miss the cable's rate, for a moment either way: then its trial says so."""
    assert rate_bps > 0
    if lost_percent is None or lost_percent <= MAX_LOST_PERCENT:
        assert rate_bps == pytest.approx(CEILING_BPS, rel=0.1)


def test_both_ways_a_shaped_cable_gives_its_payload_ceiling(far: FarPeer) -> None:
    streams = open_peer(place_of(far), far.token, streams=2)
    try:
        for move in (streams.send, streams.receive):
            move(1)
            began_s, moved = time.monotonic(), 0
            while (span_s := time.monotonic() - began_s) < 1.5:
                moved += move(1 << 18)
            account = streams.account()
            assert_at_ceiling_or_marked(moved * 8 / span_s, account.lost_percent)
            assert account.interface == far.interface
            assert account.wire_bytes is not None
            assert account.wire_bytes >= account.moved_bytes > 0
            assert "2 streams" in account.remarks[0]
        delays = streams.delays()
        assert delays.loss_percent == 0
        assert delays.median_s is not None
        assert 0 < delays.median_s < 0.1
    finally:
        streams.close()


@pytest.mark.parametrize("whole", [576, 1492, 4000, 9000])
def test_the_largest_packet_that_goes_through_whole_is_found(far: FarPeer, whole: int) -> None:
    """The far end says 9000 B, and then something on the way takes less without a word."""
    far.takes(9000, 9000)
    streams = open_peer(place_of(far), far.token)
    try:
        far.takes(9000, whole)
        sizes = streams.packets()
    finally:
        streams.close()
        far.takes(1500, 1500)
    assert (sizes.whole_bytes, sizes.this_end_bytes, sizes.far_end_bytes) == (whole, 9000, 9000)


def test_frames_are_measured_and_an_end_that_is_set_to_less_accuses_nobody(
    far: FarPeer, tmp_path: Path, quick: None
) -> None:
    sys_root, session = host(tmp_path / "sys"), network_session(far, "N1 frames 4 kB")
    person = Reviewer(answers=[far.token], plugs=lambda: bring_up(sys_root, far.interface))
    with pytest.raises(BenchError, match="set to packets of 1500 B"):
        run(session, person, sys_root, tmp_path / "mounts")
    far.takes(9000, 1500)
    with pytest.raises(BenchError, match="the peer's interface"):
        run(session, Reviewer(answers=[far.interface]), sys_root, tmp_path / "mounts")
    far.takes(9000, 9000)
    try:
        assert run(session, Reviewer(answers=[far.interface]), sys_root, tmp_path / "mounts") is Outcome.COMPLETE
    finally:
        far.takes(1500, 1500)
    (reading,) = session.judged.audit.trials[-1].taken.of(Quantity.LARGEST_FRAME)
    assert (reading.values, reading.grade) == ((9000.0,), Grade.MEASURED)
    assert session.judged.judgement.claims[0].verdict is Verdict.HOLDS


def network_session(far: FarPeer, claim: str = "N1 links 100 Mb/s") -> AuditSession:
    rig = galley()
    served = tuple(replace(peer, address=f"{far.address}:{far.port}", mtu_bytes=9000) for peer in rig.peers)
    facts: list[Fact] = [
        BenchNoted(LIVE_BENCH), DeviceNoted(HUB), RigNoted(replace(rig, peers=served)),
        ClaimMade("claim1", claim),
    ]  # fmt: skip
    return AuditSession("live", MemoryJournal(facts), PROFILE)


def run(session: AuditSession, person: Reviewer, sys_root: Path, mounts: Path) -> Outcome:
    with open_live_bench(session.judged.audit, person, sys_root=sys_root, mounts=mounts) as bench:
        return session.run(planned(session, "N1/"), bench, Onlooker())


def host(sys_root: Path) -> Path:
    (sys_root / "class/net").mkdir(parents=True)
    return sys_root


def bring_up(sys_root: Path, name: str) -> None:
    home = sys_root / "devices/pci0/net" / name
    write(home, operstate="up", speed="100", duplex="full", mtu="1500")
    link(sys_root / "class/net" / name, home)


def test_a_whole_trial_has_its_proof_and_its_delays_in_the_journal(
    far: FarPeer, tmp_path: Path, quick: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(network, "SECONDS_A_PASS", 0.3)
    sys_root, session = host(tmp_path / "sys"), network_session(far)
    person = Reviewer(answers=["wrong-wrong-wrong", far.token], plugs=lambda: bring_up(sys_root, far.interface))
    assert run(session, person, sys_root, tmp_path / "mounts") is Outcome.COMPLETE
    assert ["does not accept this token" in words for words in person.asked] == [False, True]
    record = session.judged.audit.trials[-1]
    values = {quantity: record.taken.of(quantity) for quantity in Quantity}
    lost_percent = max(next(iter(values[Quantity.LOST_PROCESSOR])).values)
    assert_at_ceiling_or_marked(statistics.median(next(iter(values[Quantity.SEND])).values), lost_percent)
    assert next(iter(values[Quantity.LINK])).values == (1e8,)
    assert len(list(values[Quantity.MOVED])) == len(list(values[Quantity.ON_WIRE])) == 2
    assert next(iter(values[Quantity.LOSS])).values == (0.0,)
    note = next(iter(values[Quantity.SEND])).note
    assert "cubic" in note
    assert "eight of ten samples from" in note
    set_aside = aside(record, session.judged.audit.rig)
    assert set_aside is None or set_aside.what_it_reached_counts


def test_bytes_that_took_another_way_prove_nothing_of_the_port(
    far: FarPeer, tmp_path: Path, quick: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The port's interface is up, yet the bytes go by another: nothing binds them to it, as for whoever may not."""
    monkeypatch.setattr(socket, "SO_BINDTODEVICE", 0x7FFF)  # no such option
    sys_root, session = host(tmp_path / "sys"), network_session(far)
    person = Reviewer(answers=[far.token], plugs=lambda: bring_up(sys_root, "lo"))
    assert run(session, person, sys_root, tmp_path / "mounts") is Outcome.COMPLETE
    found = aside(session.judged.audit.trials[-1], session.judged.audit.rig)
    assert found is not None
    assert "passed the port's own interface" in found.why
    assert not found.what_it_reached_counts


def test_a_link_that_never_came_up_is_asked_about(
    far: FarPeer, tmp_path: Path, quick: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(network, "LINK_WITHIN_S", 0.01)
    sys_root, session = host(tmp_path / "sys"), network_session(far)
    with pytest.raises(BenchError, match="no answer whether it has a link"):  # silence accuses nobody
        run(session, Reviewer(), sys_root, tmp_path / "mounts")
    assert run(session, Reviewer(answers=["", "no"]), sys_root, tmp_path / "mounts") is Outcome.DID_NOT_APPEAR
    with pytest.raises(BenchError, match="eth9 has no link"):
        run(session, Reviewer(answers=["eth9"]), sys_root, tmp_path / "mounts")
    bring_up(sys_root, far.interface)  # it was up before the trial began
    person = Reviewer(answers=[far.interface, far.token])
    assert run(session, person, sys_root, tmp_path / "mounts") is Outcome.COMPLETE


def send_for_ever(streams: peer_client.PeerStreams) -> None:
    while True:
        streams.send(1 << 18)


def test_a_pulled_cable_ends_the_trial_and_the_peer_serves_the_next(
    far: FarPeer, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(peer_client, "STALLED_S", 0.3)
    streams = open_peer(place_of(far), far.token)
    streams.send(1)
    with far.pulled(), pytest.raises(BenchError, match="nothing moved"):
        send_for_ever(streams)
    again = open_peer(place_of(far), far.token)
    assert again.send(1) > 0
    again.close()
