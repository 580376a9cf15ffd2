"""A picture that goes dark while hands plug something else is seen, timed and found; one that is pulled is not."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.bench.displays import HostDisplays
from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.judge.causes.blanking import Blanking
from auditra.core.model.event import EventKind
from auditra.core.model.trial import ProcedureId
from auditra.core.simulate.trait import Trait
from auditra.core.simulate.traits.pictures import BlanksWhenPlugged
from auditra.workflows.audits.audit_session import AuditSession
from tests.support.benches import HONEST, Onlooker, run_all, session_with
from tests.workflows.test_displays import Connectors
from tests.workflows.test_live_bench import Reviewer


def audited(*traits: Trait) -> AuditSession:
    """A picture, and data beside it."""
    session = session_with("H1 shows 3840x2160@30", "A1 data 5 Gb/s")
    run_all(session, replace(HONEST, traits=traits))
    return session


def found(session: AuditSession) -> list[Blanking]:
    return [each for each in session.judged.judgement.findings if isinstance(each, Blanking)]


@pytest.mark.usefixtures("quick")
def test_a_picture_that_goes_dark_when_something_is_plugged_is_found_with_how_long() -> None:
    session = audited(BlanksWhenPlugged("H1", lasts_s=2.0))
    (blanking,) = found(session)
    assert blanking.ports == ("H1",)
    assert blanking.longest_s == pytest.approx(2.0, abs=0.5)
    assert blanking.sentence.endswith("when something else is plugged or pulled")
    seen = [event.what for record in session.judged.audit.trials for event in record.events if event.port == "H1"]
    assert seen[:2] == [EventKind.PICTURE_LOST, EventKind.PICTURE_BACK]


@pytest.mark.usefixtures("quick")
def test_a_sound_output_is_not_blamed() -> None:
    assert found(audited()) == []


@pytest.mark.parametrize(("answer", "times"), [("yes", 0), ("no", 1)])
def test_where_no_display_can_be_read_back_a_person_says_whether_the_picture_stayed(answer: str, times: int) -> None:
    session = session_with("H1 shows 3840x2160@30", "A1 data 5 Gb/s")
    planned = next(each for each in session.judged.judgement.sheet.trials
                   if each.procedure == ProcedureId.PLUGGED_MEANWHILE)  # fmt: skip
    with open_simulated_bench(session.judged.audit, model=HONEST, over_sockets=False) as bench:
        person = Reviewer([answer])
        session.run(planned, replace(bench, displays=None, person=person), Onlooker())
    assert "Did the picture on H1 stay" in person.asked[-1]
    assert [each.longest_s for each in found(session)] == [0.0] * times


def test_where_a_display_was_is_remembered_and_nothing_is_asked() -> None:
    kernel, person = Connectors(plugged=True), Reviewer(["card0-HDMI-A-1"])
    displays = HostDisplays(kernel, person)
    assert not displays.still_shows("projector")
    displays.mode_of("projector")
    asked = len(person.asked)
    assert displays.still_shows("projector")
    kernel.plugged = False
    assert not displays.still_shows("projector")
    assert len(person.asked) == asked
