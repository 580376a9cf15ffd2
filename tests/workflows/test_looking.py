"""What a person looks at and tells: asked in words, questioned where it is odd, and judged by its grade."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from auditra.bench.live import open_live_bench
from auditra.core.errors import BenchError
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Grade
from auditra.core.model.setup import Plugged
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.core.plan.planner import planned_as
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.own_trials import OwnTrial, own_trial
from tests.support.benches import Onlooker
from tests.workflows.test_live_bench import Reviewer, session_of


def look(session: AuditSession, *answers: str, tmp_path: Path, person: Reviewer | None = None) -> AuditSession:
    """The first trial of looking done, with these answers."""
    planned = next(each for each in session.judged.judgement.to_do if "/look/" in each.key)
    person = person or Reviewer()
    person.answers = list(answers)
    with open_live_bench(session.judged.audit, person, sys_root=tmp_path, mounts=tmp_path / "none") as bench:
        assert session.run(planned, bench, Onlooker()) is Outcome.COMPLETE
    return session


TOLD = [
    ("body weighs 95 g", ["95 g"], Verdict.HOLDS),
    ("body weighs 95 g", ["3.35 oz"], Verdict.HOLDS),
    ("body weighs 95 g", ["120 g"], Verdict.SHORT),
    ("body weighs 95 g", ["950 g", "950 g"], Verdict.SHORT),
    ("body below 45 C", ["42.0 C"], Verdict.HOLDS),
    ("body below 45 C", ["46.5 C"], Verdict.SHORT),
    ("body below 45 C", ["45.9 C"], Verdict.TOO_CLOSE),
    ("body drops at most 250 mV at 3 A", ["240 mV", "3 A"], Verdict.UNPROVEN),
    ("body switches in 2 s", ["7.5 s"], Verdict.SHORT),
    ("body carries 5 A", ["3 A"], Verdict.UNPROVEN),
    ("body stores 1 TB", ["1000.2 GB"], Verdict.HOLDS),
    ("body has lock slot", ["yes"], Verdict.HOLDS),
    ("body has lock slot", ["perhaps", "no"], Verdict.BROKEN),
    ("body ports 6", ["y"], Verdict.HOLDS),
    ("A1 works with printer", ["3 of 3"], Verdict.HOLDS),
    ("A1 works with printer", ["yes"], Verdict.HOLDS),
    ("A1 works with printer", ["0", "3"], Verdict.BROKEN),
    ("A1 works with printer", ["0", ""], Verdict.UNPROVEN),
    ("A1 works with printer", ["2 of 3", "3 of 3"], Verdict.TOO_CLOSE),
    ("A1 works with printer", ["many", "4 of 3", "3 of 3"], Verdict.HOLDS),
    ("H1 no display", ["0", "3"], Verdict.HOLDS),
    ("H1 no display", ["1 of 3", "3"], Verdict.BROKEN),
    ("H1|P1 one at a time", ["yes"], Verdict.HOLDS),
]


@pytest.mark.parametrize(("sentence", "answers", "verdict"), TOLD)
def test_an_answer_decides_as_far_as_it_can(
    sentence: str, answers: list[str], verdict: Verdict, tmp_path: Path
) -> None:
    session = look(session_of(sentence), *answers, tmp_path=tmp_path)
    assert session.judged.judgement.claims[0].verdict is verdict


def test_a_figure_that_fits_after_a_slip_of_unit_is_questioned_and_never_changed(tmp_path: Path) -> None:
    person = Reviewer()
    session = look(session_of("body weighs 95 g"), "950 g", "950 g", tmp_path=tmp_path, person=person)
    reading = session.judged.audit.trials[0].readings[0]
    assert (reading.values, reading.grade) == ((0.95,), Grade.TYPED)
    assert "decimal point" in reading.note
    assert "decimal point" in person.asked[1]


@pytest.mark.parametrize(
    ("sentence", "answer", "instrument", "error", "grade"),
    [
        ("body below 45 C", "46.0 C", "thermometer", 1.0, Grade.READ),
        ("body weighs 95 g", "95.3 g", "another screen", 0.0, Grade.TYPED),
        ("body switches in 2 s", "1.5 s", "another screen", 0.0, Grade.TYPED),
    ],
)
def test_a_typed_figure_takes_the_error_of_the_rigs_instrument(
    sentence: str, answer: str, instrument: str, error: float, grade: Grade, tmp_path: Path
) -> None:
    reading = look(session_of(sentence), answer, tmp_path=tmp_path).judged.audit.trials[0].readings[0]
    assert (reading.instrument, reading.error, reading.grade) == (instrument, error, grade)


def test_what_the_eye_saw_is_graded_as_seen(tmp_path: Path) -> None:
    reading = look(session_of("body has lock slot"), "yes", tmp_path=tmp_path).judged.audit.trials[0].readings[0]
    assert (reading.instrument, reading.grade) == ("the eye", Grade.SEEN)


def test_nothing_told_decides_nothing(tmp_path: Path) -> None:
    session = session_of("body weighs 95 g")
    with pytest.raises(BenchError, match="no answer was given"):
        look(session, "", tmp_path=tmp_path)
    judgement = session.judged.judgement
    assert judgement.claims[0].verdict is Verdict.OPEN
    assert judgement.to_do


def test_depth_and_vrr_are_asked_besides_the_mode_and_each_is_a_part(tmp_path: Path) -> None:
    session = session_of("H1 shows 3840x2160@60 10 bit hdr")
    planned = next(each for each in session.judged.judgement.to_do if each.port == "H1")
    person = Reviewer(["yes", "3840x2160@60", "8 bit", "no"])
    with open_live_bench(session.judged.audit, person, sys_root=tmp_path, mounts=tmp_path / "none") as bench:
        assert session.run(planned, bench, Onlooker()) is Outcome.COMPLETE
    set_up = session.judged.judgement.claims[0].set_ups[0]
    assert [(part.name, part.verdict) for part in set_up.parts] == [
        ("mode", Verdict.HOLDS), ("depth", Verdict.UNPROVEN), ("hdr", Verdict.UNPROVEN),
    ]  # fmt: skip


CHARGING = [
    (["35 %", "full load", "90 W"], False, ["battery", "load on the host", "power the host asks for"]),
    (["92"], True, ["battery"]),
    (["much", "135 %", "none"], False, []),
]


@pytest.mark.parametrize(("answers", "refused", "asked"), CHARGING)
def test_a_charging_trial_asks_for_the_battery_and_refuses_a_full_one(
    answers: list[str], refused: bool, asked: list[str], tmp_path: Path
) -> None:
    session = session_of("UP charges host 60 W")
    audit = session.judged.audit
    own = OwnTrial("host power", "UP", "meter", audit.rig.hosts[1].id, "A1", also="P1 supply-140", title="on the host")
    hosts = (audit.rig.hosts[0], replace(audit.rig.hosts[1], battery_wh=50.0))
    wanted = own_trial(replace(audit, rig=replace(audit.rig, hosts=hosts)), own)
    setup = replace(wanted.trial.setup, plugged=(Plugged(hosts[1].id, "A1", DEVICE), *wanted.trial.setup.plugged[1:]))
    planned = replace(planned_as(wanted), setup=setup)
    person = Reviewer()
    person.answers = [*answers, "yes", "64.1 W"]
    with open_live_bench(audit, person, sys_root=tmp_path, mounts=tmp_path / "none") as bench:
        if refused:
            with pytest.raises(BenchError, match="nearly full"):
                session.run(planned, bench, Onlooker())
        else:
            assert session.run(planned, bench, Onlooker()) is Outcome.COMPLETE
    taken = [str(reading.quantity) for reading in session.judged.audit.trials[-1].readings]
    assert [each for each in taken if each in ("battery", "load on the host", "power the host asks for")] == asked
