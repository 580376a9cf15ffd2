"""Pictures on a live bench: what the host sends, what the display's own menu says, and how long it took."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import pytest

from auditra.bench.displays import HostDisplays
from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.host.snapshot import DisplayConnector, RunningMode, Snapshot
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.doors import Links
from auditra.workflows.trials.measure.display import MENU
from tests.support.benches import Onlooker, SteppedClock, session_with
from tests.workflows.test_live_bench import Reviewer

WHOLE = RunningMode(3840, 2160, 29970)
PANEL = DisplayConnector("card0-eDP-1", "connected", running=RunningMode(2560, 1600, 60000))


@dataclass
class Connectors:
    """A notebook's connectors; the outer one runs its mode after so many looks."""

    after_looks: int = 0
    mode: RunningMode = WHOLE
    plugged: bool = field(default=False)
    looks: int = 0

    def connectors(self) -> tuple[DisplayConnector, ...]:
        self.looks += 1
        running = self.mode if self.looks > self.after_looks else None
        outer = DisplayConnector("card0-HDMI-A-1", "connected" if self.plugged else "disconnected", running=running)
        return (PANEL, outer)

    def snapshot(self) -> Snapshot:
        running = self.mode if self.plugged else None
        return Snapshot(displays=(
            PANEL, DisplayConnector("card0-HDMI-A-1", "connected" if self.plugged else "disconnected", running=running)
        ))  # fmt: skip

    def links(self) -> Links:
        return Links()


def trial(kernel: Connectors, *answers: str) -> tuple[AuditSession, Reviewer]:
    def plug() -> None:
        kernel.plugged = True

    session = session_with("H1 shows 3840x2160@30")
    planned = next(each for each in session.judged.judgement.sheet.trials if each.key.startswith("H1/display"))
    person = Reviewer([*answers], plugs=plug)
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        told = replace(
            bench,
            clock=SteppedClock(),
            person=person,
            kernel=kernel,
            displays=HostDisplays(kernel, person),
        )
        assert session.run(planned, told, Onlooker()) is Outcome.COMPLETE
    return session, person


def taken(session: AuditSession, quantity: Quantity) -> list[Reading]:
    return [each for each in session.judged.audit.trials[-1].readings if each.quantity is quantity]


@pytest.mark.parametrize("menu", ["", "3840x2160@30"])
def test_what_the_host_sends_counts_where_the_display_says_nothing_else(menu: str) -> None:
    session, person = trial(Connectors(), menu)
    (mode,) = taken(session, Quantity.MODE)
    assert (mode.text, mode.grade) == ("3840x2160@29.97", Grade.READ)
    assert (MENU in mode.note) is bool(menu)
    assert "own menu" in person.asked[0]
    assert taken(session, Quantity.TIME_TO_APPEAR) == []
    assert session.judged.judgement.claims[0].verdict is Verdict.HOLDS


def test_a_display_that_gets_less_than_is_sent_is_believed() -> None:
    session, _ = trial(Connectors(), "sharp", "1920x1080@30")
    (mode,), sent = taken(session, Quantity.MODE), taken(session, Quantity.MODE_SENT)
    assert (mode.text, mode.grade, mode.instrument) == ("1920x1080@30", Grade.TYPED, MENU)
    assert {each.text for each in sent} == {"3840x2160@29.97"}
    assert session.judged.judgement.claims[0].verdict is not Verdict.HOLDS


def test_the_time_until_the_mode_runs_is_measured_where_it_did_not_run_yet() -> None:
    session, _ = trial(Connectors(after_looks=9))
    (took,) = taken(session, Quantity.TIME_TO_APPEAR)
    assert took.values[0] == pytest.approx(2.25)
    assert took.resolution == 0.5


def test_the_hosts_own_panel_is_no_display_under_trial() -> None:
    session, _ = trial(Connectors())
    assert {each.text for each in taken(session, Quantity.MODE_SENT)} == {"3840x2160@29.97"}
