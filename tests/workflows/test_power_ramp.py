"""Power ramps: where a source gives way, what it does then, and instruments that cannot be believed."""

from __future__ import annotations

from dataclasses import dataclass, replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.claims.kinds.cable import FAR
from auditra.core.decide.instrument_error import power_error_w
from auditra.core.errors import BenchError, InstrumentError, TrialStopped
from auditra.core.judge.charts import charts_of
from auditra.core.links.charging import lowest_sink_v
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.core.procedures.power_limit import POWER_LIMIT
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.own_trials import OwnTrial, facts_of_own_trial
from auditra.workflows.trials.doors import VoltsAmperes
from auditra.workflows.trials.measure.ramp import FINEST_A, Ramp, Ramping
from tests.support.benches import Onlooker, SteppedClock, session_with
from tests.support.instruments import LoadDoor, MeterDoor, Source
from tests.workflows.test_live_bench import Reviewer


def ramp(source: Source, target_w: float = 1000.0, lies: float = 1.0) -> Ramp:
    load = LoadDoor(source, lies)
    load.switch(on=True)
    return Ramping(source.clock, load, lambda _, taken: taken.watts >= target_w).run()


def test_it_ends_once_the_promise_is_passed() -> None:
    made = ramp(Source(SteppedClock()), target_w=4.5)
    assert made.held_a == pytest.approx(1.0)
    assert made.gave_way_a is None
    assert made.words == ""


@pytest.mark.parametrize("limit_a", [0.05, 0.47, 1.234, 2.999, 3.0, 3.287])
def test_where_it_gives_way_is_found_finer_than_its_steps(limit_a: float) -> None:
    source = Source(SteppedClock(), open_v=20.0, limit_a=limit_a)
    made = ramp(source)
    assert made.held_a <= limit_a
    assert limit_a - made.held_a <= FINEST_A + 1e-9
    assert made.gave_way_a is not None
    assert made.gave_way_a - made.held_a <= FINEST_A + 1e-9
    assert source.set_a == pytest.approx(made.held_a)
    assert made.words.endswith("to 6.0 V")


def test_a_source_that_cuts_off_is_waited_for_and_read_where_it_holds() -> None:
    source = Source(SteppedClock(), limit_a=1.55, cuts_off=True, back_after_s=2.0)
    made = ramp(source)
    assert made.held_a == pytest.approx(1.55, abs=FINEST_A)
    assert made.back_after_s == pytest.approx(2.0, abs=0.5)
    assert "cut off, back after" in made.words
    assert source.now()[0] > 4.8


def test_a_source_that_stays_off_is_not_taken_for_one_that_gives_nothing() -> None:
    made = ramp(Source(SteppedClock(), limit_a=1.55, cuts_off=True, back_after_s=None))
    assert made.is_gone
    assert made.held_a == pytest.approx(1.5)
    assert "not back within 10 s" in made.words


def test_a_dead_port_holds_nothing() -> None:
    made = ramp(Source(SteppedClock(), open_v=0.0))
    assert (made.held_a, made.is_gone) == (0.0, False)


def test_copper_that_eats_the_volts_gives_way_where_a_sink_would_see_too_little() -> None:
    made = ramp(Source(SteppedClock(), ohm=0.5))
    assert made.held_a == pytest.approx((5.0 - lowest_sink_v(5.0)) / 0.5, abs=FINEST_A)


@pytest.mark.parametrize("lies", [0.0, 0.5, 0.9, 1.2])
def test_a_load_that_draws_another_current_than_it_was_set_to_ends_the_ramp(lies: float) -> None:
    with pytest.raises(InstrumentError, match="it was set to"):
        ramp(Source(SteppedClock()), lies=lies)


def trial(
    sentence: str, port: str, source: Source, meter: MeterDoor | None = None, load: LoadDoor | None = None
) -> AuditSession:
    """One real trial of a port, with a load on this source in place of the simulated one's."""
    session = session_with(sentence)
    planned = next(each for each in session.judged.judgement.sheet.trials if each.port == port)
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        meters = {"meter": meter} if meter else {}
        told = replace(bench, clock=source.clock, loads={"load": load or LoadDoor(source)}, meters=meters)
        assert session.run(planned, told, Onlooker()) is Outcome.COMPLETE
    return session


def taken(session: AuditSession, quantity: Quantity) -> Reading:
    return next(each for each in session.judged.audit.trials[-1].readings if each.quantity is quantity)


def test_volts_over_amperes_are_kept_as_traces_of_the_same_times() -> None:
    session = trial("A1 gives 15 W", "A1", Source(SteppedClock(), limit_a=2.2))
    volts, drawn, watts = (taken(session, each) for each in (Quantity.VOLTAGE, Quantity.DRAWN, Quantity.POWER))
    assert volts.trace is not None
    assert drawn.trace is not None
    assert volts.trace.time_s == drawn.trace.time_s
    assert all(v == pytest.approx(5.0 - 0.05 * a) for v, a in zip(volts.trace.values, drawn.trace.values, strict=True)
               if a < 2.2)  # fmt: skip
    assert volts.end == FAR
    assert volts.behind_a == pytest.approx(2.2, abs=FINEST_A)
    assert watts.values[0] == pytest.approx(2.2 * 4.89, rel=0.01)
    assert watts.note.startswith("gave way at 2.2")
    power, curve = charts_of(session.judged.audit, session.judged.judgement, "A1")
    assert (power.title, curve.title, curve.x_unit) == ("power", "voltage over current drawn", "A")
    assert curve.notes == (watts.note, "5.00 V without load")
    assert max(curve.series[0].x) == pytest.approx(2.2, abs=0.1)


def test_a_port_that_gives_what_it_promises_to_the_last_tenth_is_not_called_short() -> None:
    """In steps of 0.1 A this source seems to give 0.4 W too little."""
    session = trial("A1 gives 14.7 W", "A1", Source(SteppedClock(), limit_a=3.09, ohm=0.05))
    assert taken(session, Quantity.POWER).values[0] > 14.85 - 0.2
    assert session.judged.judgement.claims[0].verdict is not Verdict.SHORT


def test_a_source_that_stays_off_is_recorded_with_what_it_kept_up() -> None:
    session = trial("A1 gives 15 W", "A1", Source(SteppedClock(), limit_a=1.55, cuts_off=True, back_after_s=None))
    watts = taken(session, Quantity.POWER)
    assert list(watts.values) == pytest.approx([1.5 * 4.925])
    assert "not back" in watts.note


def test_a_meter_that_sticks_ends_the_trial_before_anything_counts() -> None:
    source = Source(SteppedClock(), open_v=20.0)
    with pytest.raises(InstrumentError, match="whatever is drawn"):
        trial("P1 takes 90 W", "P1", source, MeterDoor(source, sticks=True))


def test_errors_of_a_description_count_where_the_rig_notes_none() -> None:
    noted = session_with("A1 gives 4.5 W").judged.audit.rig.loads[0]
    plain = replace(noted, power_error_percent=NOT_NOTED, power_error_w=NOT_NOTED)
    described = VoltsAmperes(5.0, 2.0, error_v=0.01, error_a=0.02).error_w
    assert described == pytest.approx(0.12)
    assert power_error_w(plain, 10.0, described) == pytest.approx(0.12)
    assert power_error_w(noted, 10.0, described) == pytest.approx(0.1)
    assert power_error_w(plain, 10.0, VoltsAmperes(5.0, 2.0, error_v=0.01).error_w) == pytest.approx(0.5)


def own_power_trial(title: str, source: Source, *answers: str) -> AuditSession:
    """An own trial of A1 with the load."""
    session = session_with("A1 gives 4.5 W")
    own = OwnTrial(title, "A1", "load", "laptop", "C1", lead="AC-1")
    session.write(lambda audit: facts_of_own_trial(audit, own), "own trial", source.clock)
    (planned,) = session.judged.judgement.sheet.own
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        told = replace(bench, clock=source.clock, person=Reviewer([*answers]), loads={"load": LoadDoor(source)})
        assert session.run(planned, told, Onlooker()) is Outcome.COMPLETE
    return session


def test_the_limit_beyond_the_promise_is_found_only_where_the_reviewer_wants_it() -> None:
    source = Source(SteppedClock(), limit_a=1.83, cuts_off=True, back_after_s=3.0)
    with pytest.raises(TrialStopped, match="no overload"):
        own_power_trial("current limit", source, "no")
    assert source.set_to == []
    session = own_power_trial("current limit", source, "yes")
    limit, back = taken(session, Quantity.CURRENT_LIMIT), taken(session, Quantity.TIME_TO_RECOVERY)
    assert limit.values[0] == pytest.approx(1.83, abs=FINEST_A)
    assert back.values[0] == pytest.approx(3.0, abs=0.5)
    assert "cut off, back after" in limit.note
    assert not source.is_on
    assert session.judged.judgement.claims[0].verdict is Verdict.OPEN  # it says nothing of what is promised
    titles = [chart.title for chart in charts_of(session.judged.audit, session.judged.judgement, "A1")]
    assert titles == ["voltage over current drawn"]


def test_a_port_that_does_not_give_way_is_left_at_what_its_lead_carries() -> None:
    source = Source(SteppedClock())
    session = own_power_trial("current limit", source, "yes")
    carried = next(lead.amperes for lead in session.judged.audit.rig.leads if lead.id == "AC-1")
    most = min(5.5, carried) if isinstance(carried, float | int) else 5.5
    assert max(source.set_to) == pytest.approx(most)
    assert all(each.quantity is not Quantity.CURRENT_LIMIT for each in session.judged.audit.trials[-1].readings)


def test_no_sheet_plans_an_overload() -> None:
    session = session_with("A1 gives 4.5 W", "P1 takes 90 W")
    assert all(each.procedure != POWER_LIMIT.id for each in session.judged.judgement.sheet.trials)


@dataclass
class Battery(Source):
    """A source that is empty after so many watt-hours."""

    holds_wh: float = 1.0
    given_wh: float = 0.0
    looked_s: float = 0.0

    def now(self) -> tuple[float, float]:
        volts, amperes = super().now()
        self.given_wh += volts * amperes * (self.clock.now_s() - self.looked_s) / 3600
        self.looked_s = self.clock.now_s()
        return (0.3, 0.0) if self.given_wh >= self.holds_wh else (volts, amperes)


def test_the_energy_until_it_is_empty_is_summed_up() -> None:
    session = own_power_trial("energy until empty", Battery(SteppedClock(), holds_wh=3.0), "much", "0 A", "2 A")
    energy, drawn = taken(session, Quantity.ENERGY), taken(session, Quantity.DRAWN_POWER)
    assert energy.values[0] / 3600 == pytest.approx(3.0, rel=0.005)
    assert drawn.values[0] == pytest.approx(2 * 4.9, rel=0.01)
    assert drawn.trace is not None
    assert len(drawn.trace.values) <= 4000
    assert "at 2.00 A for 0.31 h" in energy.note
    assert energy.error == pytest.approx(energy.values[0] * drawn.error / drawn.values[0])
    assert not session.judged.judgement.claims[0].verdict.decided


def test_a_source_that_does_not_give_the_current_at_all_has_no_energy() -> None:
    source = Source(SteppedClock(), limit_a=1.0)
    with pytest.raises(BenchError, match="it does not give 2 A"):
        own_power_trial("energy until empty", source, "2 A")
    assert not source.is_on
    with pytest.raises(BenchError, match="V without load"):
        own_power_trial("energy until empty", Source(SteppedClock(), open_v=0.0), "2 A")


def test_a_load_that_cannot_draw_enough_is_not_taken_for_a_weak_port() -> None:
    source = Source(SteppedClock())
    with pytest.raises(InstrumentError, match=r"it draws 1\.25 A at most"):
        trial("A1 gives 15 W", "A1", source, load=LoadDoor(source, highest_a=1.25))
    held = trial("A1 gives 6 W", "A1", source, load=LoadDoor(source, highest_a=1.25))
    assert taken(held, Quantity.POWER).values[0] == pytest.approx(1.25 * 4.9375)


def test_the_limit_of_a_port_that_stays_off_keeps_what_was_read_while_it_held() -> None:
    source = Source(SteppedClock(), limit_a=1.55, cuts_off=True, back_after_s=None)
    session = own_power_trial("current limit", source, "yes")
    volts = taken(session, Quantity.VOLTAGE)
    assert list(volts.values) == pytest.approx([4.925])
    assert volts.behind_a == pytest.approx(1.5)
    with pytest.raises(BenchError, match="V without load"):
        own_power_trial("current limit", Source(SteppedClock(), open_v=0.0), "yes")
