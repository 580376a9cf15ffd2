"""The network of the simulated bench: what is counted of it, as a real bench counts."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.judge.finding import Finding
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Rig
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Verdict
from auditra.core.simulate.rig_fault import RecorderOn, RigFault, WeakHost, WrongRoute
from auditra.core.simulate.trait import Trait
from auditra.core.simulate.traits.network import DriverBusies, LimitsFrames
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.run_left import run_left
from tests.support.audits import galley
from tests.support.benches import HONEST, Onlooker, session_with

pytestmark = pytest.mark.usefixtures("quick")


def rig(*, hosts: int = 2, driver: str = "", mtu_bytes: int = 9000) -> Rig:
    made = galley()
    plain, second = made.hosts[0], replace(made.hosts[0], id="older-laptop", name="older laptop")
    laptop = replace(plain, driver=driver) if driver else plain
    peers = tuple(replace(peer, mtu_bytes=mtu_bytes) for peer in made.peers)
    return replace(made, hosts=(laptop, second)[:hosts], peers=peers)


def audited(claim: str, made: Rig, *traits: Trait, faults: tuple[RigFault, ...] = ()) -> AuditSession:
    session, model = session_with(claim, rig=made), replace(HONEST, traits=traits)
    with open_simulated_bench(session.judged.audit, model=model, faults=faults, over_sockets=False) as bench:
        for _ in run_left(session, bench, Onlooker()):
            pass
    return session


def values(session: AuditSession, quantity: Quantity) -> Iterator[float]:
    for trial in session.judged.audit.trials:
        for reading in trial.taken.of(quantity).numbers():
            yield from reading.values


def finding(session: AuditSession, kind: str) -> Finding | None:
    return next((each for each in session.judged.judgement.findings if each.kind == kind), None)


def verdict(session: AuditSession) -> Verdict:
    return session.judged.judgement.claims[0].verdict


def test_what_passes_the_port_is_counted_on_its_own_interface() -> None:
    session = audited("N1 links 1 Gb/s", rig())
    moved, on_wire = sum(values(session, Quantity.MOVED)), sum(values(session, Quantity.ON_WIRE))
    assert moved < on_wire < 1.1 * moved
    assert verdict(session) is Verdict.HOLDS


def test_what_goes_another_way_is_no_proof_of_the_port() -> None:
    session = audited("N1 links 1 Gb/s", rig(), faults=(WrongRoute(galley().peers[0].id, 3e8),))
    assert sum(values(session, Quantity.ON_WIRE)) == 0
    assert finding(session, "route") is not None
    assert not verdict(session).decided


@pytest.mark.parametrize("percent", [15.0, 40.0])
def test_what_a_driver_costs_is_found_beside_a_trial_without_it(percent: float) -> None:
    session = audited("N1 links 1 Gb/s", rig(driver="net 2.1"), DriverBusies(percent))
    found = finding(session, "driver load")
    assert found is not None
    assert f"{percent:.0f} % busy" in found.sentence or f"{percent - 1:.0f} % busy" in found.sentence
    assert verdict(session) is Verdict.HOLDS


def test_a_driver_that_costs_little_is_not_mentioned() -> None:
    assert finding(audited("N1 links 1 Gb/s", rig(driver="net 2.1"), DriverBusies(1.0)), "driver load") is None


def test_processors_that_are_taken_by_something_else_decide_nothing() -> None:
    session = audited("N1 links 1 Gb/s", rig(), faults=(RecorderOn(galley().hosts[0].id, 5e8),))
    assert max(values(session, Quantity.PROCESSOR)) > 95
    assert not verdict(session).accuses


@pytest.mark.parametrize(
    ("most_bytes", "expected"), [(9000, Verdict.HOLDS), (8999, Verdict.SHORT), (4074, Verdict.SHORT)]
)
def test_a_packet_of_just_the_promised_size_is_enough_and_one_byte_less_is_not(
    most_bytes: int, expected: Verdict
) -> None:
    assert verdict(audited("N1 frames 9000 B", rig(), LimitsFrames("N1", most_bytes))) is expected


def test_packets_that_the_peer_does_not_take_accuse_no_port() -> None:
    assert verdict(audited("N1 frames 9000 B", rig(mtu_bytes=1500))) is Verdict.UNPROVEN


def test_a_weak_socket_of_the_only_host_accuses_no_network_port() -> None:
    """Its peer is tried direct in another socket: a drive in the same one shows what it carries."""
    session = audited("N1 links 1 Gb/s", rig(hosts=1), faults=(WeakHost(galley().hosts[0].id, 480e6),))
    assert verdict(session) is Verdict.UNPROVEN
    direct = [each.trial for each in session.judged.audit.trials if each.trial.port is None]
    assert any(each.procedure == ProcedureId.STORAGE for each in direct)
