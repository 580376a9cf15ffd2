"""Devices that move data: what a slow lead, drive, host or recorder does to one that keeps its word."""

from __future__ import annotations

import random
from dataclasses import replace

from auditra.core.journal.facts import EventNoted
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.circumstance import Aspect, Circumstance, Flipped, OnHost, Replugged, Running, Soaked, Under
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.rig import Host, Origin, Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import ProcedureId
from tests.truth.case import Bench, Case, Truth, computers, drive, lead

STORAGE = ProcedureId.STORAGE
RATES_BPS = (480e6, 5e9, 10e9)
SOUND_SHARE = 0.93
"""Of a link's ceiling: what a sound part lets through."""
KEPT = Truth(True)


def sound_mb(*link_bps: float) -> float:
    """What comes through parts of these rates, in MB/s."""
    return SOUND_SHARE * payload_ceiling_bps(min(link_bps)) / 8e6


def measured(bench: Bench, mb: float, link_bps: float, *, checked: bool = True) -> list[tuple[Quantity | str, Number]]:
    """A storage trial's readings at a true rate."""
    rates = [(quantity, bench.repeats(mb * 8e6)) for quantity in (Quantity.WRITE, Quantity.READ)]
    wrong = [(Quantity.WRONG_BYTES, Number((0.0,)))] if checked else []
    return [(Quantity.LINK, Number((link_bps,))), *rates, *wrong]


def slow_part(dice: random.Random) -> Case:
    """A device that keeps 5 or 10 Gb/s, behind a part of the rig that does not; whether its record says so or not."""
    rate = dice.choice((5e9, 10e9))
    slow = dice.choice([each for each in RATES_BPS if each < rate])
    which = dice.choice(("lead", "socket", "host lead", "drive", "adapter"))
    told = dice.random() < 0.6
    noted = {"data_bps": slow} if told else {}
    rig = Rig("r", computers(rate if which != "socket" else slow), drives=(drive("ssd", 3000),),
              leads=(lead("good", data_bps=20e9), lead("bad", **noted)))  # fmt: skip
    if which == "drive":
        rig = replace(rig, drives=(drive("ssd", sound_mb(slow)),))
    bench = Bench(dice, (f"A1 data {rate / 1e9:g} Gb/s",), rig)
    mb = sound_mb(rate if which == "none" else slow)
    lead_used = "bad" if which in ("lead", "adapter") else "good"
    host_lead = "bad" if which == "host lead" else None
    for _ in range(dice.randint(1, 3)):
        setup = bench.setup("A1", "ssd", lead_used, host_lead=host_lead)
        bench.trial(STORAGE, setup, "ssd", "A1", measured(bench, mb, min(rate, slow) if which != "drive" else rate))
    if dice.random() < 0.7:
        direct_mb = sound_mb(slow if which in ("socket", "drive") else rate)
        setup = bench.setup(None, "ssd", "good")
        bench.trial(STORAGE, setup, "ssd", None, measured(bench, direct_mb, slow if which == "socket" else rate))
    return Case(f"slow {which}", bench.audit(), {"claim1": KEPT})


def slow_device(dice: random.Random) -> Case:
    """A device that does not keep its rate, however good the rig; what a good trial elsewhere must not hide."""
    rate = dice.choice((5e9, 10e9))
    rig = Rig("r", computers(20e9, 20e9), drives=(drive("ssd", 3000),), leads=(lead("good", data_bps=20e9),))
    bench = Bench(dice, (f"A1 data {rate / 1e9:g} Gb/s",), rig)
    mb = sound_mb(rate) * dice.uniform(0.05, 0.85)
    for _ in range(dice.randint(1, 4)):
        bench.trial(STORAGE, bench.setup("A1", "ssd", "good", host=dice.choice(("host1", "host2"))), "ssd", "A1",
                    measured(bench, mb, rate))  # fmt: skip
    if dice.random() < 0.8:
        bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, sound_mb(20e9), 20e9))
    return Case("slow device", bench.audit(), {"claim1": Truth(False)})


def bad_baselines(dice: random.Random) -> Case:
    """A good device, and direct trials of which some were made with a bad lead, or while recording."""
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9), lead("bad")))
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    for _ in range(dice.randint(1, 3)):
        flaw = dice.choice(("bad lead", "recorder", "none"))
        mb = 470 if flaw == "none" else 470 * dice.uniform(0.2, 0.7)
        noted = {"recorder": "screen recorder"} if flaw == "recorder" else {}
        bench.trial(STORAGE, bench.setup(None, "ssd", "bad" if flaw == "bad lead" else "good", **noted), "ssd", None,
                    measured(bench, mb, 10e9))  # fmt: skip
    recorded = dice.random() < 0.3
    noted = {"recorder": "screen recorder"} if recorded else {}
    for _ in range(dice.randint(1, 3)):
        mb = 462 * (dice.uniform(0.3, 0.8) if recorded else 1.0)
        bench.trial(STORAGE, bench.setup("A1", "ssd", "good", **noted), "ssd", "A1", measured(bench, mb, 5e9))
    return Case("bad baselines", bench.audit(), {"claim1": KEPT})


def stale_link(dice: random.Random) -> Case:
    """A good device whose link reading is that of an earlier moment; and one whose link is slow in truth."""
    kept = dice.random() < 0.5
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", measured(bench, 462 if kept else 41, 480e6))
    return Case("stale link", bench.audit(), {"claim1": KEPT if kept else Truth(False)})


def shared_upstream(dice: random.Random) -> Case:
    """Good ports that share an upstream which is at its ceiling: each gives less, and none is to blame."""
    rig = Rig("r", computers(5e9), drives=(drive("ssd", 480), drive("other", 480)),
              leads=(lead("good", data_bps=10e9), lead("good2", data_bps=10e9)))  # fmt: skip
    bench = Bench(dice, ("A1 data 5 Gb/s", "A2 data 5 Gb/s"), rig)
    for name in ("ssd", "other"):
        bench.trial(STORAGE, bench.setup(None, name, "good"), name, None, measured(bench, 465, 5e9))
    share = dice.uniform(0.3, 0.7)
    more = (Plugged("device", "A2", "other", "good2"),)
    setup = bench.setup("A1", "ssd", "good", more=more, running=("A1 data 5 Gb/s", "A2 data 5 Gb/s"))
    for _ in range(dice.randint(1, 3)):
        readings = [_at("A1", q, bench.repeats(465 * share * 8e6)) for q in (Quantity.WRITE, Quantity.READ)]
        readings += [_at("A2", q, bench.repeats(465 * (1 - share) * 8e6)) for q in (Quantity.WRITE, Quantity.READ)]
        readings += [_at(port, Quantity.LINK, Number((5e9,)), Grade.READ) for port in ("A1", "A2")]
        bench.trial(ProcedureId.TOGETHER, setup, "ssd", "A1", readings, claims=(1, 2))
    return Case("shared upstream", bench.audit(), {"claim1": KEPT, "claim2": KEPT})


def _at(port: str, quantity: Quantity, value: Number, grade: Grade = Grade.MEASURED) -> Reading:
    return Reading("", quantity, port, "engine", grade, value)


def conditional(dice: random.Random) -> Case:
    """A device that fails under one circumstance, among others that vary and have nothing to do with it."""
    rig = Rig("r", computers(10e9, 10e9), drives=(drive("ssd", 480), drive("ssd2", 480)),
              leads=(lead("good", data_bps=10e9), lead("good2", data_bps=10e9)))  # fmt: skip
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    fault = dice.choice(_FAULTS)
    for host in ("host1", "host2"):
        for name in ("ssd", "ssd2"):
            for soak in ({}, {"soaked_s": 2700.0}):
                setup = bench.setup(None, name, "good", host=host, driver="1.0", **soak)
                bench.trial(STORAGE, setup, name, None, measured(bench, 470, 10e9))
    for _ in range(dice.randint(2, 9)):
        noted, circumstances, events = _varied(dice)
        bad = fault in circumstances
        mb = 462 * (dice.uniform(0.1, 0.8) if bad else 1.0)
        gear, used = dice.choice(("ssd", "ssd2")), dice.choice(("good", "good2"))
        setup = bench.setup("A1", gear, used, **noted)
        bench.trial(STORAGE, setup, gear, "A1", measured(bench, mb, 5e9), events=events)
    return Case("conditional", bench.audit(), {"claim1": Truth(True, frozenset({fault}))})


_FAULTS: tuple[Circumstance, ...] = (
    OnHost("host2"), Flipped(), Replugged(), Soaked(2700.0), Running("H1 shows 3840x2160@60"),
    Under(Aspect.ORDER, ("ssd", "device")), Under(Aspect.SUPPLY, None), Under(Aspect.DRIVER, "2.0"),
    Under(Aspect.EVENTS, "lamp went out A1"),
)  # fmt: skip


def _varied(dice: random.Random) -> tuple[dict[str, object], set[Circumstance], tuple[EventNoted, ...]]:
    """What is noted of a trial, the circumstances that this makes, and what happened meanwhile."""
    host = dice.choice(("host1", "host2"))
    flipped, replugged = dice.random() < 0.5, dice.random() < 0.5
    soaked, shows = dice.random() < 0.3, dice.random() < 0.4
    order = dice.choice((("ssd", "device"), ("device", "ssd")))
    charger, driver = dice.choice((None, "wall")), dice.choice(("1.0", "2.0"))
    events = (EventNoted("lamp went out", "A1"),) if dice.random() < 0.4 else ()
    noted: dict[str, object] = {
        "host": host, "flipped": flipped, "replugged": replugged, "order": order, "charger": charger, "driver": driver,
        "soaked_s": 2700.0 if soaked else 0.0, "running": ("H1 shows 3840x2160@60",) if shows else (),
    }  # fmt: skip
    found: set[Circumstance] = {OnHost(host), Under(Aspect.ORDER, order), Under(Aspect.SUPPLY, charger)}
    found |= {Under(Aspect.DRIVER, driver), *(Under(Aspect.EVENTS, "lamp went out A1") for _ in events)}
    found |= {Flipped()} if flipped else set()
    found |= {Replugged()} if replugged else set()
    found |= {Soaked(2700.0)} if soaked else set()
    found |= {Running("H1 shows 3840x2160@60")} if shows else set()
    return noted, found, events


def one_disturbed_trial(dice: random.Random) -> Case:
    """A good device and many good trials; one was disturbed by something that nobody noted."""
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    count = dice.randint(2, 6)
    bad = dice.randrange(count)
    for n in range(count):
        bench.trial(
            STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", measured(bench, 150 if n == bad else 462, 5e9)
        )
    return Case("one disturbed trial", bench.audit(), {"claim1": KEPT})


def another_lead(dice: random.Random) -> Case:
    """The shipped lead is part of what is promised: slow with it is the seller's; slow with a borrowed one is not."""
    shipped_is_slow = dice.random() < 0.5
    origins = (Origin.SHIPPED, Origin.BORROWED)
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),),
              leads=(lead("good", data_bps=10e9), *(lead(str(each), origin=each) for each in origins)))  # fmt: skip
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    slow = Origin.SHIPPED if shipped_is_slow else Origin.BORROWED
    for _ in range(dice.randint(1, 3)):
        setup = bench.setup("A1", "ssd", "good", host_lead=str(slow))
        bench.trial(STORAGE, setup, "ssd", "A1", measured(bench, 40, 480e6))
    return Case("another lead", bench.audit(), {"claim1": Truth(False) if shipped_is_slow else KEPT})


def question_open(dice: random.Random) -> Case:
    """A good device of which a value was typed with a slip of its unit, and nobody has answered the question yet."""
    rig = Rig("r", computers(10e9))
    bench = Bench(dice, ("body weighs 95 g",), rig)
    kilograms = 0.095 * dice.uniform(0.99, 1.01) * dice.choice((0.1, 10.0))
    typed = Reading("", Quantity.MASS, "body", "another screen", Grade.TYPED, Number((kilograms,)), resolution=1e-4)
    bench.trial(ProcedureId.LOOK, SetUp("host1", "C1", ()), "device", "body", [typed])
    return Case("question open", bench.audit(), {"claim1": KEPT})


def policy_of_host(dice: random.Random) -> Case:
    """A good device on a host that refuses what was promised."""
    (host,) = computers(10e9)
    strict: Host = replace(host, policy="no external drives")
    rig = Rig("r", (strict,), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 data 5 Gb/s",), rig)
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", measured(bench, 41, 480e6))
    return Case("policy of the host", bench.audit(), {"claim1": KEPT})


def kit(dice: random.Random) -> Case:
    """Two devices of a kit with the same sockets: what one of them does says nothing of the other."""
    rig = Rig("r", computers(10e9), drives=(drive("ssd", 480),), leads=(lead("good", data_bps=10e9),))
    bench = Bench(dice, ("A1 data 5 Gb/s", "A1 data 5 Gb/s"), rig, devices=("near", "far"))
    bad = dice.choice(("near", "far", "none"))
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    for n, device in enumerate(bench.devices, start=1):
        for _ in range(dice.randint(0, 2)):
            mb = 462 * (dice.uniform(0.1, 0.8) if device == bad else 1.0)
            setup = bench.setup("A1", "ssd", "good", device=device)
            bench.trial(STORAGE, setup, "ssd", "A1", measured(bench, mb, 5e9), claims=(n,))
    truths = {f"claim{n}": Truth(device != bad) for n, device in enumerate(bench.devices, start=1)}
    return Case("kit", bench.audit(), truths)


def inner_storage(dice: random.Random) -> Case:
    """A store inside a device has no direct trial; what another way of connecting it reached clears the rig."""
    rate, promised, lets_through = dice.choice((0.6, 1.1)), 400, dice.uniform(0.3, 1.0)
    rig = Rig("r", computers(10e9, 10e9), leads=(lead("good", data_bps=10e9), lead("unknown")))
    bench = Bench(dice, (f"A1 writes {promised} MB/s",), rig)
    for _ in range(dice.randint(1, 4)):
        used = dice.choice(("good", "unknown"))
        mb = promised * rate * (1.0 if used == "good" else lets_through)
        setup = bench.setup("A1", "device", None, host_lead=used, host=dice.choice(("host1", "host2")))
        bench.trial(STORAGE, setup, "device", "A1", measured(bench, mb, 10e9))
    return Case("inner storage", bench.audit(), {"claim1": Truth(rate > 1)})


DATA_WORLDS = (
    slow_part, slow_device, bad_baselines, stale_link, shared_upstream, conditional, one_disturbed_trial, another_lead,
    question_open, policy_of_host, kit, inner_storage,
)  # fmt: skip
