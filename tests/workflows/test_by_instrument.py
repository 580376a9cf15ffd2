"""Figures that the rig's own instruments take: the drop of a cable, what goes through it, own use, warmth."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.errors import InstrumentError
from auditra.core.journal.facts import BenchNoted, ClaimMade, DeviceNoted, RigNoted
from auditra.core.judge.reasoning.loops import loops_of
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.device import Device
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.rig import CASE, ROOM, Accuracy, LeadEnd, Load, Meter, Thermometer
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.own_trials import OwnTrial, facts_of_own_trial
from auditra.workflows.trials.doors import Celsius, Volts, VoltsAmperes
from auditra.workflows.trials.doors import Meter as MeterDoor
from tests.support.audits import HUB, PROFILE, galley
from tests.support.benches import MemoryJournal, Onlooker, SteppedClock
from tests.support.instruments import LoadDoor, Source
from tests.workflows.test_live_bench import Reviewer

CABLE = Device("Osierpell", "C-1", "cable", ())
HERE = "bench:5025"
LOAD = Load("load", "load", "usb-c", address=HERE, watts=150.0)
NEAR = Meter("near", "near voltmeter", "usb-c", address=HERE, end=LeadEnd.NEAR)
FAR = replace(NEAR, id="far", name="far voltmeter", end=LeadEnd.FAR)


@dataclass
class NearEnd:
    """The volts before the lead that a source's load hangs on."""

    source: Source
    lead_ohm: float

    def measure(self) -> VoltsAmperes:
        raise InstrumentError("near voltmeter", why="it has no query for a current")

    def volts(self) -> Volts:
        volts, amperes = self.source.now()
        return Volts(volts + amperes * self.lead_ohm, error_v=0.002)


@dataclass
class Warming:
    """A case that warms towards a plateau, and a room."""

    clock: SteppedClock
    plateau_c: float
    tau_s: float = 480.0

    def spots(self) -> tuple[str, ...]:
        return (CASE, "plug", ROOM)

    def read(self, spot: str) -> Celsius:
        rise = 1 - math.exp(-self.clock.now_s() / self.tau_s)
        celsius = {ROOM: 22.0, CASE: 22 + (self.plateau_c - 22) * rise * 0.8, "plug": 22 + (self.plateau_c - 22) * rise}
        return Celsius(celsius[spot], f"{spot} probe", 0.3)


@dataclass
class Stand:
    """One trial by looking of one claim on a bench whose instruments answer by themselves."""

    sentence: str
    person: Reviewer
    source: Source
    meters: Mapping[str, MeterDoor] = field(default_factory=dict)
    gear: tuple[Meter, ...] = (NEAR,)
    thermometers: Warming | None = None
    device: Device = CABLE
    load: Load = LOAD

    def run(self) -> AuditSession:
        rig = replace(
            galley(), loads=(self.load,), meters=self.gear,
            thermometers=(Thermometer("probe", "probe", 0.3, address="hwmon:a/temp1"),) if self.thermometers else (),
        )  # fmt: skip
        journal = MemoryJournal(
            [BenchNoted(LIVE_BENCH), DeviceNoted(self.device), RigNoted(rig), ClaimMade("claim1", self.sentence)]
        )
        session = AuditSession("live", journal, PROFILE)
        planned = session.judged.judgement.sheet.trials[0]
        with open_simulated_bench(
            replace(session.judged.audit, device=HUB), over_sockets=False
        ) as bench:  # its kernel, and nothing else of it
            told = replace(bench, name=LIVE_BENCH, clock=self.source.clock, person=self.person, meters=self.meters,
                           loads={"load": LoadDoor(self.source)}, thermometers=self.thermometers)  # fmt: skip
            assert session.run(planned, told, Onlooker()) is Outcome.COMPLETE
        return session


def readings(session: AuditSession) -> list[Reading]:
    return list(session.judged.audit.trials[-1].readings)


@pytest.mark.parametrize(("ohm", "verdict"), [(0.06, Verdict.HOLDS), (0.12, Verdict.SHORT)])
def test_the_drop_of_a_lead_is_measured_at_both_ends(ohm: float, verdict: Verdict) -> None:
    """0.25 V at 3 A are 83 mohm, there and back; the source's own 50 mohm are no matter."""
    source = Source(SteppedClock(), ohm=ohm + 0.05)
    person = Reviewer()
    accurate = replace(LOAD, accuracy=(Accuracy("voltage", error=0.002),))
    stand = Stand("body drops at most 250 mV at 3 A", person, source, {"near": NearEnd(source, ohm)}, load=accurate)
    session = stand.run()
    near, far = ([each for each in readings(session) if each.end == end] for end in ("near", "far"))
    assert [each.behind_a for each in near] == pytest.approx([3.0, 2.25, 1.5, 0.75])
    assert near[0].values[0] - far[0].values[0] == pytest.approx(3 * ohm)
    assert all(each.grade is Grade.MEASURED for each in (*near, *far))
    assert person.asked == [person.asked[0]]
    assert person.asked[0].startswith("Put the device between a supply and the load")
    assert not source.is_on
    assert session.judged.judgement.inquiry is not None
    (loop,) = loops_of(session.judged.judgement.inquiry.records)
    assert loop.ohm == pytest.approx(ohm)
    assert session.judged.judgement.claims[0].verdict is verdict


def test_a_source_that_gives_way_is_not_blamed_on_the_lead() -> None:
    source = Source(SteppedClock(), limit_a=2.0)
    stand = Stand("body drops at most 250 mV at 3 A", Reviewer(), source, {"near": NearEnd(source, 0.05)})
    with pytest.raises(InstrumentError, match=r"the source gives way at 3\.00 A"):
        stand.run()
    assert not source.is_on


def test_without_a_voltmeter_at_the_near_end_the_person_is_asked() -> None:
    source = Source(SteppedClock())
    person = Reviewer(["0.2 V", "3 A"])
    session = Stand("body drops at most 250 mV at 3 A", person, source, gear=()).run()
    assert {each.quantity for each in readings(session)} == {Quantity.DROP, Quantity.CURRENT}
    assert not source.set_to


def test_what_goes_through_is_measured_where_it_reaches_the_promise() -> None:
    source = Source(SteppedClock(), open_v=20.0)
    session = Stand("body carries 5 A", Reviewer(), source).run()
    (reading,) = readings(session)
    assert (reading.quantity, reading.grade) == (Quantity.CURRENT, Grade.MEASURED)
    assert reading.values[0] == pytest.approx(5.0)


def test_where_the_source_gives_way_nothing_is_taken_for_the_cable_and_the_person_is_asked() -> None:
    source = Source(SteppedClock(), open_v=20.0, limit_a=3.0)
    person = Reviewer(["5 A"])
    session = Stand("body carries 5 A", person, source).run()
    (reading,) = readings(session)
    assert reading.grade is Grade.TYPED
    assert "How much current goes through it" in person.asked[-1]


def test_watts_that_no_load_of_usb_reaches_at_this_voltage_are_not_forced_through_a_cable() -> None:
    """At 5 V, 100 W would be 20 A: the ramp ends at what a plug carries, and the person is asked."""
    source = Source(SteppedClock(), open_v=5.0, ohm=0.01)
    session = Stand("body carries 100 W", Reviewer(["100 W"]), source).run()
    assert max(source.set_to) == pytest.approx(5.5)
    assert [each.grade for each in readings(session)] == [Grade.TYPED]


def test_own_use_is_read_off_the_meter_in_line() -> None:
    source = Source(SteppedClock(), open_v=20.0, set_a=0.4, is_on=True)
    in_line = Meter("meter", "meter", "usb-c", address=HERE)
    stand = Stand("body uses 9 W", Reviewer(), source, {"meter": LoadDoor(source)}, (in_line,), device=HUB)
    session = stand.run()
    (reading,) = readings(session)
    assert (reading.quantity, reading.instrument) == (Quantity.OWN_USE, "meter")
    assert reading.values[0] == pytest.approx(8.0, abs=0.1)


@pytest.mark.parametrize(("plateau_c", "verdict"), [(38.0, Verdict.HOLDS), (55.0, Verdict.SHORT)])
def test_warmth_is_followed_until_it_is_steady(plateau_c: float, verdict: Verdict) -> None:
    clock = SteppedClock()
    stand = Stand("body below 45 C", Reviewer(), Source(clock), thermometers=Warming(clock, plateau_c), device=HUB)
    session = stand.run()
    warm = next(each for each in readings(session) if each.quantity is Quantity.CASE_TEMPERATURE)
    assert warm.note == "at the plug"
    assert warm.values[0] == pytest.approx(plateau_c, abs=1.0)
    assert warm.trace is not None
    assert 20 * 60 <= warm.trace.time_s[-1] <= 60 * 60
    assert session.judged.judgement.claims[0].verdict is verdict


def test_warmth_that_never_settles_is_left_after_an_hour_and_a_half() -> None:
    clock = SteppedClock()
    stand = Stand("body below 45 C", Reviewer(), Source(clock), thermometers=Warming(clock, 300, 36_000), device=HUB)
    session = stand.run()
    assert clock.passed_s == pytest.approx(90 * 60, abs=60)
    assert session.judged.judgement.claims[0].verdict is not Verdict.HOLDS


@dataclass
class StartingDisk:
    """The volts beside a port while a disk is plugged in after some seconds and starts."""

    clock: SteppedClock
    sample_s: float
    plugged_s: float = 4.0

    def measure(self) -> VoltsAmperes:
        raise InstrumentError("far voltmeter", why="it has no query for a current")

    def volts(self) -> Volts:
        self.clock.sleep(self.sample_s)
        since = self.clock.now_s() - self.plugged_s
        dips = 0 <= since < 0.12
        return Volts(5.1 if since < 0 else 4.38 if dips else 4.95)


def start_of_a_disk(sample_s: float, *answers: str, gear: tuple[Meter, ...] = (FAR,)) -> AuditSession:
    clock = SteppedClock()
    rig = replace(galley(), meters=gear)
    claim = ClaimMade("claim1", "A1 data 5 Gb/s")
    session = AuditSession("x", MemoryJournal([DeviceNoted(HUB), RigNoted(rig), claim]), PROFILE)
    own = OwnTrial("volts at the start", "A1", "film-ssd", "laptop", "C1", lead="AC-1")
    session.write(lambda audit: facts_of_own_trial(audit, own), "own trial", clock)
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        told = replace(bench, clock=clock, person=Reviewer([*answers]), meters={"far": StartingDisk(clock, sample_s)})
        assert session.run(session.judged.judgement.sheet.own[0], told, Onlooker()) is Outcome.COMPLETE
    return session


def test_the_dip_of_a_starting_disk_is_in_the_reading_and_in_its_trace() -> None:
    (reading,) = [each for each in readings(start_of_a_disk(0.02)) if each.quantity is Quantity.LOWEST_VOLTAGE]
    assert reading.values == (4.38,)
    assert reading.trace is not None
    assert min(reading.trace.values) == 4.38
    assert "50 a second; 5.10 V before" in reading.note


def test_a_voltmeter_that_is_too_slow_for_a_dip_says_nothing_of_it() -> None:
    with pytest.raises(InstrumentError, match="a dip lasts for less"):
        start_of_a_disk(0.4)


def test_without_a_voltmeter_the_lowest_volts_are_typed() -> None:
    (typed,) = [
        each for each in readings(start_of_a_disk(0.02, "yes", "4.71 V", gear=()))
        if each.quantity is Quantity.LOWEST_VOLTAGE
    ]  # fmt: skip
    assert (typed.values, typed.grade) == ((4.71,), Grade.TYPED)


class Silent(Warming):
    """No thermometer of the device answers."""

    def read(self, spot: str) -> Celsius:
        if spot == ROOM:
            return super().read(spot)
        raise InstrumentError("probe", why="no answer in time")


def test_where_no_spot_of_the_device_is_read_the_person_is_asked_at_once() -> None:
    clock = SteppedClock()
    person = Reviewer(["41 C"])
    stand = Stand("body below 45 C", person, Source(clock), thermometers=Silent(clock, 40.0), device=HUB)
    (warm,) = [each for each in readings(stand.run()) if each.quantity is Quantity.CASE_TEMPERATURE]
    assert warm.typed == "41 C"
    assert clock.passed_s < 60


def test_what_several_ports_have_between_them_is_no_matter_of_one_load() -> None:
    source = Source(SteppedClock(), open_v=20.0)
    person = Reviewer(["50 W"])
    session = Stand("A1+A2 share 50 W", person, source, device=HUB).run()
    assert source.set_to == []
    assert "at the same time" in person.asked[0]
    assert [each.typed for each in readings(session) if each.quantity is Quantity.POWER] == ["50 W"]
