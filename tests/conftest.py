"""What all tests share."""

from __future__ import annotations

import signal
from collections.abc import Iterator

import pytest
from hypothesis import settings

from auditra.bench.simulated import doors
from auditra.workflows.trials.measure import network, rates, storage
from tests.support.postgres import TeamServer, temporary_server

for each in (signal.SIGINT, signal.SIGHUP):
    if signal.getsignal(each) is signal.SIG_IGN:  # so started in the background; every program under test would be too
        signal.signal(each, signal.default_int_handler if each is signal.SIGINT else signal.SIG_DFL)

settings.register_profile("repeatable", derandomize=True, deadline=None, print_blob=True)
settings.load_profile("repeatable")


SLOW = (
    "tests/bench/network/test_link_end.py::test_whatever_is_told", "tests/bench/network/test_peer.py",
    "tests/bench/network/test_peer_on_another_machine.py", "tests/bench/test_snapshot.py", "tests/cli/test_carries.py",
    "tests/cli/test_commands.py", "tests/cli/test_decode.py", "tests/cli/test_demo.py",
    "tests/cli/test_library_commands.py", "tests/cli/test_probe.py", "tests/cli/test_reader.py",
    "tests/cli/test_real_input.py", "tests/core/advert/test_reader.py::test_hostile_text",
    "tests/core/advert/test_reader.py::test_no_change_reads_worse_than_what_was_reached[other_styles",
    "tests/core/advert/test_reader.py::test_no_change_reads_worse_than_what_was_reached[read_once_first",
    "tests/core/advert/test_reader.py::test_the_order_of", "tests/core/decode/cc_line/test_samples.py",
    "tests/core/judge/test_judgement.py", "tests/core/judge/test_kit_fit.py::test_no_socket_is_given_twice",
    "tests/core/judge/test_truth.py", "tests/core/plan/test_route.py", "tests/core/report/test_any_audit.py",
    "tests/core/report/test_report.py", "tests/core/simulate",
    "tests/documents/test_claim_sheet_and_rig.py::test_hostile_sheets", "tests/documents/test_nouns.py",
    "tests/publish/test_drawings.py::test_any_values", "tests/publish/test_in_browser.py",
    "tests/publish/test_publish.py", "tests/store/test_bundle.py", "tests/store/test_copying.py",
    "tests/store/test_exchange.py", "tests/store/test_kill.py",
    "tests/store/test_older_libraries.py::test_a_library_on", "tests/store/test_shared_judging.py",
    "tests/store/test_shelf.py", "tests/store/test_team_cuts.py", "tests/store/test_team_far_away.py",
    "tests/store/test_team_library.py", "tests/store/test_team_tls.py", "tests/store/test_writers.py",
    "tests/terminal/test_ending.py", "tests/terminal/test_journeys.py::test_a_doubt",
    "tests/terminal/test_journeys.py::test_a_kill", "tests/terminal/test_journeys.py::test_a_library_of",
    "tests/terminal/test_journeys.py::test_a_step_by_hand", "tests/terminal/test_journeys.py::test_from_the_shelf",
    "tests/terminal/test_journeys.py::test_leaving", "tests/terminal/test_journeys.py::test_when_the_terminal",
    "tests/terminal/test_two_windows.py", "tests/terminal/test_whole_audit.py", "tests/test_one_file.py",
    "tests/test_wording.py::test_no_shown_text", "tests/truth/test_blind.py", "tests/truth/test_demo_devices.py",
    "tests/tui/stages/test_alone.py", "tests/tui/stages/test_claims.py", "tests/tui/stages/test_claims_text.py",
    "tests/tui/stages/test_rig.py", "tests/tui/stages/test_run_attaching.py",
    "tests/tui/stages/test_score_and_publish.py", "tests/tui/test_application.py", "tests/tui/test_drafts.py",
    "tests/tui/test_hands_on.py", "tests/tui/test_hostile_text.py", "tests/tui/test_keys.py",
    "tests/tui/test_narrator.py", "tests/tui/test_paste.py", "tests/tui/test_shelf.py",
    "tests/tui/test_shown_text.py::test_after_any", "tests/tui/test_storm.py",
    "tests/workflows/test_by_instrument.py::test_warmth", "tests/workflows/test_dock_with_faults.py",
    "tests/workflows/test_logged_tables.py::test_the_command", "tests/workflows/test_replicating.py",
    "tests/workflows/test_second_looks.py", "tests/workflows/test_simulated_audits.py",
)  # fmt: skip
"""What takes longer than about three seconds: whole audits, screens, processes, far machines, hostile texts of 100 kB.

`make test` leaves it to `make all-tests`, which is what CI runs.
"""
IN_EVERY_RUN = (
    "tests/truth/test_blind.py::test_nobody_is_accused_or_praised_wrongly_and_no_wrong_reason_is_given[14]",
)
"""Of those, what is tried in every run all the same: a made-up device, audited from its box on."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Mark what takes long, by where it is."""
    for item in items:
        if item.nodeid.startswith(SLOW) and item.nodeid not in IN_EVERY_RUN:
            item.add_marker("slow")


@pytest.fixture
def quick(monkeypatch: pytest.MonkeyPatch) -> None:
    """Passes of a twentieth of a second: the same loops on less data."""
    monkeypatch.setattr(storage, "SECONDS_A_PASS", 0.1)
    monkeypatch.setattr(rates, "SAMPLE_S", 0.01)
    monkeypatch.setattr(network, "SOAK_CHUNK_BYTES", 1 << 30)
    monkeypatch.setattr(network, "SECONDS_A_PASS", 0.1)
    monkeypatch.setattr(doors, "FLUSH_S", 0.0003)


@pytest.fixture(scope="session")
def team_server() -> Iterator[TeamServer]:
    """One for all tests of a process."""
    with temporary_server() as server:
        yield server


@pytest.fixture
def own_server() -> Iterator[TeamServer]:
    """One that may be killed: to come back takes it the longer the more databases it has."""
    with temporary_server() as server:
        yield server
