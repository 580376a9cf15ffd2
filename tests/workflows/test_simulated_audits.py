"""Whole audits on the simulated bench: an honest device is not accused, every fault is found from readings alone."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.errors import BenchError, TrialStopped
from auditra.core.journal.facts import ReadingTaken
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.traits.data import Corrupts, Flaky, LosesBesideDisplay
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.doors import Progress
from tests.support.benches import HONEST, Onlooker, run_all, run_what_is_left, session_with

PROMISES = ("A1 data 5 Gb/s", "A2 data 5 Gb/s", "S1 cards 95 MB/s", "N1 links 1 Gb/s", "H1 shows 3840x2160@30",
            "P1 takes 90 W", "P1 no data", "UP length 15 cm", "A1 gives 4.2 W", "UP charges host 70 W")  # fmt: skip
pytestmark = pytest.mark.usefixtures("quick")


def verdicts(session: AuditSession) -> dict[str, Verdict]:
    return {str(each.claim): each.verdict for each in session.judged.judgement.claims}


def test_the_honest_hub_keeps_every_promise_and_its_own_use_is_found() -> None:
    session = session_with(*PROMISES)
    run_all(session, sockets=True)
    assert set(verdicts(session).values()) == {Verdict.HOLDS}
    run_what_is_left(session)
    assert set(verdicts(session).values()) == {Verdict.HOLDS}
    (finding,) = session.judged.judgement.unstated
    assert finding.sentence.startswith(("consumes 10.", "consumes 11."))


FAULTS = [
    ("A2 data 5 Gb/s", Verdict.SHORT, {"payload_share": {**HONEST.payload_share, "A2": 0.5}}),
    ("A2 data 5 Gb/s", Verdict.SHORT, {"data_bps": {"A1": 5e9, "A2": 480e6}}),
    ("A1 data 5 Gb/s", Verdict.BROKEN, {"data_bps": {"A2": 5e9}}),
    ("A1 data 5 Gb/s", Verdict.BROKEN, {"traits": (Corrupts("A1"),)}),
    ("S1 cards 95 MB/s", Verdict.SHORT, {"card_bps": {"S1": 50e6 * 8}}),
    ("N1 links 1 Gb/s", Verdict.SHORT, {"network_bps": {"N1": 100e6}}),
    ("H1 shows 3840x2160@30", Verdict.SHORT, {"display_modes": {"H1": "1920x1080@60"}}),
    ("P1 takes 90 W", Verdict.SHORT, {"takes_w": {"P1": 60.0}}),
    ("P1 no data", Verdict.BROKEN, {"data_bps": {**HONEST.data_bps, "P1": 480e6}}),
    ("UP length 15 cm", Verdict.SHORT, {"lengths_m": {"UP": 0.12}}),
    ("A1 gives 4.2 W", Verdict.SHORT, {"gives_w": {"A1": 2.5, "A2": 4.5}}),
    ("UP charges host 70 W", Verdict.SHORT, {"own_use_w": 40.0}),
]


@pytest.mark.parametrize(("claim", "verdict", "fault"), FAULTS)
def test_a_fault_is_found_and_nothing_else_is_accused(claim: str, verdict: Verdict, fault: dict[str, object]) -> None:
    session = session_with(claim, "H1 shows 1920x1080@60", "A2 data 480 Mb/s")
    model: DeviceModel = replace(HONEST, **fault)  # type: ignore[arg-type]
    rounds = 3 if verdict is Verdict.BROKEN else 1
    run_all(session, model, rounds=rounds)
    run_what_is_left(session, model)  # another lead, where that may be to blame
    found = verdicts(session)
    assert found.pop(claim) is verdict
    assert set(found.values()) == {Verdict.HOLDS}


def test_data_that_falls_only_beside_a_display_holds_if() -> None:
    session = session_with("A1 data 5 Gb/s", "H1 shows 3840x2160@30")
    run_what_is_left(session, replace(HONEST, traits=(LosesBesideDisplay("A1", 0.1),)))
    verdict = session.judged.judgement.claims[0]
    assert verdict.verdict is Verdict.HOLDS_IF
    assert verdict.condition == "unless H1 is in use (shows 3840x2160@30)"


def test_a_socket_that_works_only_now_and_then_is_found_by_counting() -> None:
    session = session_with("A1 data 5 Gb/s")
    run_all(session, replace(HONEST, traits=(Flaky("A1", 0.7),)), rounds=12)
    assert session.judged.judgement.claims[0].verdict.accuses


def test_the_same_seed_repeats_every_reading_exactly_and_another_does_not() -> None:
    def readings(seed: int) -> list[object]:
        session = session_with("A1 data 5 Gb/s", "P1 takes 90 W")
        return [fact for fact in run_all(session, seed=seed).facts if isinstance(fact, ReadingTaken)]

    assert readings(3) == readings(3)
    assert readings(3) != readings(4)


def test_sockets_and_calls_give_the_same_watts() -> None:
    def watts(sockets: bool) -> list[tuple[float, ...]]:
        session = session_with("P1 takes 90 W")
        run_all(session, sockets=sockets)
        every = (reading for record in session.judged.audit.trials for reading in record.readings)
        return [reading.values for reading in every if reading.quantity is Quantity.POWER]

    assert watts(sockets=True) == watts(sockets=False)


def test_an_hour_of_soak_passes_in_no_time_and_the_case_warms_up() -> None:
    session = session_with("A1 data 5 Gb/s")
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        session.run(session.judged.judgement.sheet.trials[-1], bench, Onlooker())
        assert bench.thermometers is not None
        before = bench.thermometers.read("case").value
        bench.clock.sleep(3600)
        assert bench.thermometers.read("case").value > before + 2


class HasEnough(Onlooker):
    def progress(self, progress: Progress) -> None:
        super().progress(progress)
        if "writing, pass 2" in progress.doing:
            raise TrialStopped("the trial", why="enough")


def test_a_stopped_trial_accuses_nobody_and_is_owed_again() -> None:
    session = session_with("A1 data 5 Gb/s")
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        planned = session.judged.judgement.to_do[0]
        with pytest.raises(TrialStopped):
            session.run(planned, bench, HasEnough())
        assert session.judged.audit.trials[-1].outcome is Outcome.STOPPED
        assert session.judged.judgement.to_do[0].key == planned.key
        assert session.run(planned, bench, Onlooker()) is Outcome.COMPLETE


def test_beside_a_display_without_a_picture_nothing_is_measured() -> None:
    session = session_with("A1 data 5 Gb/s", "H1 shows 3840x2160@30")
    beside = next(trial for trial in session.judged.judgement.sheet.trials if trial.setup.running)
    with (
        open_simulated_bench(
            session.judged.audit, model=replace(HONEST, display_modes={}), over_sockets=False
        ) as bench,
        pytest.raises(BenchError, match="needs a picture on H1"),
    ):
        session.run(beside, bench, Onlooker())
    assert session.judged.judgement.claims[0].verdict is Verdict.OPEN


def test_a_device_without_a_model_is_told_so() -> None:
    session = session_with("A1 data 5 Gb/s")
    audit = replace(session.judged.audit, device=replace(session.judged.audit.device, maker="Nobody"))
    with pytest.raises(BenchError, match="no model of the Nobody OP-6"), open_simulated_bench(audit):
        pass


def test_what_is_looked_at_on_the_simulated_bench_is_found_behind_its_doors() -> None:
    model = replace(HONEST, figures={("body", "mass"): 0.105}, lacks=frozenset({"H1"}), traits=(Flaky("A2", 1.0),))
    session = session_with("body weighs 95 g", "H1|P1 one at a time", "A1 works with printer", "A2 works with printer",
                   "body below 45 C")  # fmt: skip
    with open_simulated_bench(session.judged.audit, model=model, over_sockets=False) as bench:
        for planned in session.judged.judgement.to_do:
            if planned.claims == ("claim5",):
                with pytest.raises(BenchError, match="no answer was given"):
                    session.run(planned, bench, Onlooker())
            else:
                session.run(planned, bench, Onlooker())
    assert list(verdicts(session).values()) == [
        Verdict.SHORT,
        Verdict.BROKEN,
        Verdict.HOLDS,
        Verdict.BROKEN,
        Verdict.OPEN,
    ]


def test_what_a_dead_socket_cannot_lose_any_more_is_not_tried_and_what_might_help_is() -> None:
    session = session_with("A1 data 5 Gb/s", "A2 data 5 Gb/s", "H1 shows 3840x2160@30")
    run_what_is_left(session, replace(HONEST, data_bps={}))
    judgement = session.judged.judgement
    assert [each.verdict for each in judgement.claims[:2]] == [Verdict.BROKEN, Verdict.BROKEN]
    done = {record.identity for record in session.judged.audit.trials}
    assert judgement.spared
    assert all(trial.port in ("A1", "A2") and trial.identity not in done for trial in judgement.spared)
    tried = [trial for trial in judgement.sheet.trials if trial.port == "A1" and trial.identity in done]
    assert any(trial.setup.host_flipped for trial in tried)


def test_what_parts_two_explanations_comes_next() -> None:
    session = session_with("A1 data 5 Gb/s", "A2 data 5 Gb/s", "H1 shows 3840x2160@30", "N1 links 1 Gb/s")
    model = replace(HONEST, traits=(LosesBesideDisplay("A1", 0.1),))
    seen = False
    with open_simulated_bench(session.judged.audit, model=model, over_sockets=False) as bench:
        while to_do := session.judged.judgement.to_do:
            urgent = session.judged.judgement.urgent
            assert set(to_do[: len(urgent)]) == set(urgent)
            seen = seen or (bool(urgent) and len(to_do) > len(urgent))
            session.run(to_do[0], bench, Onlooker())
    assert seen
