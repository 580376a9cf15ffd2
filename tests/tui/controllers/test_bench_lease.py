"""The bench of an audit is opened once and closed once, however its trials end."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.errors import BenchError, TrialStopped
from auditra.core.journal.audit import Audit
from auditra.tui.controllers.bench_lease import BenchLease
from auditra.tui.controllers.tui_person import TuiPerson
from auditra.workflows.trials.doors import Bench, Person
from tests.support.audits import audit_of
from tests.support.benches import HONEST
from tests.support.workshops import demo_services

AUDIT = audit_of("A1 data 5 Gb/s")


def lease_and_log(tmp_path: Path) -> tuple[BenchLease, list[str]]:
    log: list[str] = []

    @contextmanager
    def open_bench(audit: Audit, person: Person | None) -> Iterator[Bench]:
        log.append("open")
        with open_simulated_bench(audit, person, model=HONEST, over_sockets=False) as bench:
            yield bench
        log.append("closed")

    services = replace(
        demo_services(tmp_path), open_bench=open_bench, log=lambda words, error: log.append(f"{words}: {error}")
    )
    return BenchLease(services, "OP-6", TuiPerson(lambda message: True)), log


def test_a_bench_is_opened_once_and_closed_when_released(tmp_path: Path) -> None:
    lease, log = lease_and_log(tmp_path)
    assert [lease.attempt(lambda bench: bench.name, AUDIT)[1] for _ in range(2)] == ["", ""]
    assert log == ["open"]
    lease.release()
    assert log == ["open", "closed"]


def test_a_bench_released_in_mid_trial_closes_when_the_trial_fails(tmp_path: Path) -> None:
    lease, log = lease_and_log(tmp_path)

    def trial(_: Bench) -> None:
        lease.release()
        assert log == ["open"]
        raise BenchError("the drive was unplugged")

    assert "the drive was unplugged" in lease.attempt(trial, AUDIT)[1]
    assert log == ["open", "closed"]


def test_a_stop_is_no_error_and_an_unexpected_fault_goes_to_the_log(tmp_path: Path) -> None:
    lease, log = lease_and_log(tmp_path)

    def stopped(_: Bench) -> str:
        raise TrialStopped("the trial", why="it was stopped")

    def faulty(_: Bench) -> str:
        raise ZeroDivisionError("by zero")

    assert lease.attempt(stopped, AUDIT, if_stopped="stopped") == ("stopped", "")
    assert lease.attempt(faulty, AUDIT)[1].startswith("Unexpected fault: ZeroDivisionError.")
    assert log == ["open", "fault on the bench: by zero"]
    lease.release()
