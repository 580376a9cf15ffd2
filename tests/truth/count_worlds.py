"""What works or does not: chance accuses nobody, a real edge is found, and a count counts for its own set-up only."""

from __future__ import annotations

import random

from auditra.core.model.circumstance import OnHost
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Trace, YesNo
from auditra.core.model.rig import Rig
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import Outcome, ProcedureId
from tests.truth.case import Bench, Case, Truth, computers, drive, lead
from tests.truth.data_worlds import measured

KEPT, STORAGE, LOOK = Truth(True), ProcedureId.STORAGE, ProcedureId.LOOK
NOTHING = SetUp("host1", "C1", ())


def _seen(quantity: Quantity, count: Count, at: str = "A1") -> Reading:
    return Reading("", quantity, at, "the eye", Grade.SEEN, count)


def appearing(dice: random.Random) -> Case:
    """Gear that appears through the device as often as direct, or clearly less."""
    kept = dice.random() < 0.6
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    direct_chance = dice.choice((1.0, 1.0, 0.98))
    chance = direct_chance if kept else dice.uniform(0.0, 0.35)
    if dice.random() < 0.8:
        came = _seen(Quantity.APPEARED, bench.count(direct_chance, 12), "direct")
        direct = bench.setup(None, "ssd", "good")
        bench.trial(STORAGE, direct, "ssd", None, [came, *measured(bench, 470, 10e9)])
    for _ in range(dice.randint(1, 5)):
        count = bench.count(chance, dice.randint(1, 5))
        rates = measured(bench, 462, 5e9) if count.seen else []
        outcome = Outcome.COMPLETE if count.seen else Outcome.DID_NOT_APPEAR
        bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", [_seen(Quantity.APPEARED, count), *rates],
                    outcome=outcome)  # fmt: skip
    few = sum(reading.count.tries for record in bench.records if not record.trial.setup.direct
              for reading in record.readings if reading.count is not None)  # fmt: skip
    seen = sum(reading.count.seen for record in bench.records if not record.trial.setup.direct
               for reading in record.readings if reading.count is not None)  # fmt: skip
    lucky = not kept and seen == few  # what failed nowhere was seen to work, as far as it was tried
    return Case("appearing", bench.audit(), {"claim1": Truth(kept or lucky)})


def working(dice: random.Random) -> Case:
    """Something that works each time it is asked, or often does not; tried without the device or not."""
    kept = dice.random() < 0.5
    bench = Bench(dice, ("A1 works with printer",), Rig("r", computers(10e9)))
    chance = dice.choice((1.0, 0.99)) if kept else dice.uniform(0.0, 0.4)
    tried = 0
    for _ in range(dice.randint(1, 3)):
        count = bench.count(chance, dice.choice((3, 5, 10)))
        tried += count.seen == count.tries
        without = [_seen(Quantity.WORKS_WITHOUT, Count(5, 5))] if dice.random() < 0.6 else []
        bench.trial(LOOK, bench.setup("A1", "device"), "device", "A1", [_seen(Quantity.WORKS, count), *without])
    return Case("working", bench.audit(), {"claim1": Truth(kept or tried == len(bench.records))})


def named_hosts(dice: random.Random) -> Case:
    """Proof on one of three named hosts is no proof for the others."""
    bench = Bench(dice, ("body works on host 1, host 2, host 3",), Rig("r", computers(10e9, 10e9, 10e9)))
    bad = dice.choice((None, "host2", "host3"))
    hosts = dice.sample(("host1", "host2", "host3"), dice.randint(1, 3))
    for host in hosts:
        count = Count(0, 5) if host == bad else Count(5, 5)
        without = [_seen(Quantity.WORKS_WITHOUT, Count(5, 5), "body")]
        bench.trial(LOOK, SetUp(host, "C1", ()), "device", "body", [_seen(Quantity.WORKS, count, "body"), *without])
    truth = KEPT if bad is None else Truth(True, frozenset({OnHost(bad)}))
    return Case("named hosts", bench.audit(), {"claim1": truth})


def over_less(dice: random.Random) -> Case:
    """Proof over a shorter lead, into another load or with a smaller card than promised proves less."""
    metres, over = 15.0, dice.choice((3.0, 10.0, 15.0, 20.0))
    works_over = dice.choice((5.0, 12.0, 30.0))
    rig = Rig("r", computers(10e9), leads=(lead("long", length_m=over),))
    bench = Bench(dice, (f"A1 reaches {metres:g} m",), rig)
    count = Count(5, 5) if over <= works_over else Count(0, 5)
    readings = [_seen(Quantity.WORKS, count), _seen(Quantity.WORKS_WITHOUT, Count(5, 5))]
    bench.trial(LOOK, bench.setup("A1", "something", "long"), "device", "A1", readings)
    return Case("over less", bench.audit(), {"claim1": Truth(works_over >= metres)})


def with_less(dice: random.Random) -> Case:
    """Sound into 300 ohm was promised; 32 ohm were tried."""
    promised, tried = 300.0, dice.choice((32.0, 300.0))
    drives_up_to = dice.choice((100.0, 600.0))
    bench = Bench(dice, (f"A1 plays 3.5 mm {promised:g} ohm",), Rig("r", computers(10e9)))
    count = Count(5, 5) if tried <= drives_up_to else Count(0, 5)
    ohm = Reading("", Quantity.RESISTANCE, "A1", "label", Grade.TYPED, Number((tried,)), resolution=1.0)
    bench.trial(LOOK, bench.setup("A1", "device"), "device", "A1",
                [_seen(Quantity.WORKS, count), _seen(Quantity.WORKS_WITHOUT, Count(5, 5)), ohm])  # fmt: skip
    return Case("with less", bench.audit(), {"claim1": Truth(drives_up_to >= promised)})


def button(dice: random.Random) -> Case:
    """A button that does it, one that does nothing, and a host that does it by itself."""
    by_itself = dice.random() < 0.4
    works = dice.random() < 0.5
    bench = Bench(dice, ("A1 button wakes",), Rig("r", computers(10e9)))
    readings = [_seen(Quantity.WORKS, Count(5, 5) if works or by_itself else Count(0, 5))]
    if dice.random() < 0.7:
        readings.append(_seen(Quantity.WORKS_WITHOUT, Count(5, 5) if by_itself else Count(0, 5)))
    bench.trial(LOOK, bench.setup("A1", "device"), "device", "A1", readings)
    return Case("button", bench.audit(), {"claim1": Truth(works)})


def restricted(dice: random.Random) -> Case:
    """A port without data: gear that works nowhere, or was tried once, shows nothing."""
    keeps, gear_works = dice.random() < 0.6, dice.random() < 0.7
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 no data",), rig)
    if dice.random() < 0.8:
        count = Count(3, 3) if gear_works else Count(0, 3)
        bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, [_seen(Quantity.APPEARED, count, "direct")])
    tries = dice.randint(1, 4)
    seen = 0 if keeps or not gear_works else tries
    bench.trial(ProcedureId.APPEARANCE, bench.setup("A1", "ssd", "good"), "ssd", "A1",
                [_seen(Quantity.APPEARED, Count(seen, tries))])  # fmt: skip
    return Case("restricted", bench.audit(), {"claim1": Truth(keeps)})


def warm(dice: random.Random) -> Case:
    """A case that still warms shows nothing yet; in a hot room the room takes its share."""
    plateau, room = dice.uniform(35, 60), dice.choice((18.0, 22.0, 25.0, 34.0))
    minutes = dice.choice((10, 30, 120))
    time_constant_min = 18.0
    at = [60.0 * minute for minute in range(minutes + 1)]
    values = tuple(room + (plateau - room) * (1 - 2.718281828 ** (-time / 60 / time_constant_min)) for time in at)
    trace = Trace(tuple(at), values)
    bench = Bench(dice, ("body below 45 C",), Rig("r", computers(10e9)))
    case = Reading("", Quantity.CASE_TEMPERATURE, "body", "probe", Grade.MEASURED, Number((values[-1],)), error=0.5,
                   trace=trace)  # fmt: skip
    air = Reading("", Quantity.AMBIENT_TEMPERATURE, "body", "probe", Grade.MEASURED, Number((room,)), error=0.5)
    bench.trial(LOOK, NOTHING, "device", "body", [case, air])
    in_a_usual_room = plateau - max(0.0, room - 25.0)
    return Case("warm", bench.audit(), {"claim1": Truth(in_a_usual_room <= 45.0 + (0.5 if plateau <= 45.6 else 0.0))})


def two_answers(dice: random.Random) -> Case:
    """Two people of equal standing who say yes and no: neither decides."""
    kept = dice.random() < 0.5
    bench = Bench(dice, ("body has lock slot",), Rig("r", computers(10e9)))
    answers = [kept, not kept]
    dice.shuffle(answers)
    readings = [Reading("", Quantity.SEEN_TO_BE, "body", "the eye", Grade.SEEN, YesNo(each)) for each in answers]
    bench.trial(LOOK, NOTHING, "device", "body", readings)
    return Case("two answers", bench.audit(), {"claim1": Truth(kept)})


def ruled_out(dice: random.Random) -> Case:
    """What the reviewer set aside counts for nothing; what he counts again does."""
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    for _ in range(dice.randint(1, 3)):
        bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", measured(bench, 90, 5e9), ruling=False)
    if dice.random() < 0.5:
        bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", measured(bench, 462, 5e9), ruling=True)
    return Case("ruled out", bench.audit(), {"claim1": KEPT})


def wrong_bytes(dice: random.Random) -> Case:
    """Bytes that come back wrong are the device's only where the same gear gives them right elsewhere."""
    gear_is_bad = dice.random() < 0.5
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    if dice.random() < 0.7:
        wrong = Number((7.0 if gear_is_bad else 0.0,))
        bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None,
                    [*measured(bench, 470, 10e9, checked=False), (Quantity.WRONG_BYTES, wrong)])  # fmt: skip
    bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1",
                [*measured(bench, 462, 5e9, checked=False), (Quantity.WRONG_BYTES, Number((9.0,)))])  # fmt: skip
    return Case("wrong bytes", bench.audit(), {"claim1": Truth(gear_is_bad)})


COUNT_WORLDS = (
    appearing, working, named_hosts, over_less, with_less, button, restricted, warm, two_answers, ruled_out,
    wrong_bytes,
)  # fmt: skip
