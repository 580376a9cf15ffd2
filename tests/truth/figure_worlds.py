"""Audits whose planted cause shows in figures, not in what was swapped: caches, appetites, routes, voltages."""

from __future__ import annotations

import random
from dataclasses import replace

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import EventNoted
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.device import Port, Role
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Trace, Words
from auditra.core.model.rig import Display, Drive, Load, Meter, Peer, Rig, Supply
from auditra.core.model.setup import NetworkPath, Plugged
from auditra.core.model.trial import Outcome, ProcedureId
from tests.truth.case import Bench, computers, drive, lead
from tests.truth.cause_case import Planted
from tests.truth.data_worlds import measured

STORAGE, NETWORK, CHARGE = ProcedureId.STORAGE, ProcedureId.NETWORK, ProcedureId.CHARGE


def _bench(dice: random.Random, *sentences: str, **parts: object) -> Bench:
    rig = Rig("r", computers(10e9, 10e9), drives=(drive("ssd", 480), drive("ssd2", 480)),
              leads=(lead("good", data_bps=10e9), lead("good2", data_bps=10e9)))  # fmt: skip
    return Bench(dice, sentences or ("A1 data 5 Gb/s",), replace(rig, **parts))  # type: ignore[arg-type]


def _reading(bench: Bench, quantity: Quantity, value: float, at: str = "A1", **noted: object) -> Reading:
    reading = Reading("", quantity, at, "meter", Grade.MEASURED, bench.repeats(value, 0.002))
    return replace(reading, **noted)  # type: ignore[arg-type]


def _falling(dice: random.Random, burst: float, steady: float, at_s: float, end_s: float) -> Trace:
    time_s = tuple(end_s * n / 119 for n in range(120))
    return Trace(time_s, tuple((burst if t < at_s else steady) * (1 + dice.gauss(0, 0.01)) for t in time_s))


def full_cache(dice: random.Random) -> Planted:
    """A drive that falls once its cache is full, direct too; or one that falls only through the device."""
    of_drive = dice.random() < 0.7
    cached = Drive("cached", "cached drive", "usb-c", 480 * 8e6, 480 * 8e6)
    bench = _bench(dice, drives=(cached,))
    steady = dice.uniform(60, 250)
    for port in (None, "A1"):
        falls = of_drive or port is not None
        mb = steady if falls else 462.0
        at_s = dice.uniform(20, 24)
        trace = _falling(dice, 462 * 8e6, mb * 8e6, at_s, 70.0) if falls else None
        write = Reading("", Quantity.WRITE, port or "direct", "engine", Grade.MEASURED, bench.repeats(mb * 8e6),
                        trace=trace)  # fmt: skip
        others = measured(bench, 462, 5e9)[2:]
        bench.trial(STORAGE, bench.setup(port, "cached", "good"), "cached", port, [write, *others])
    if of_drive:
        return Planted("full cache", bench.audit(), "cache", "cached drive", can_tell=True)
    return Planted("slow writes", bench.audit(), "device part", "A1", can_tell=True)


def appetite(dice: random.Random) -> Planted:
    """A host that asks for less than is claimed, or whose battery is nearly full."""
    full = dice.random() < 0.5
    wants = 100.0 if full else dice.uniform(30, 55)
    hosts = tuple(replace(host, wants_w=wants) for host in computers(10e9))
    supply = Supply("wall", "wall supply", "usb-c", 20.0, 140.0)
    bench = _bench(dice, "UP charges host 65 W", hosts=hosts, supplies=(supply,))
    bench.ports = (*bench.ports, Port("P1", "usb-c", Role.INLET))
    watts = dice.uniform(8, 30) if full else wants * dice.uniform(0.93, 0.99)
    percent = dice.uniform(85, 100) if full else dice.uniform(10, 60)
    setup = replace(bench.setup("UP", "device", more=(Plugged("device", "P1", "wall"),)), battery_percent=percent)
    for _ in range(dice.randint(1, 3)):
        bench.trial(CHARGE, setup, "device", "UP", [(Quantity.POWER, bench.repeats(watts, 0.002))])
    subject = "battery" if full else "host 1"
    return Planted("appetite", bench.audit(), "appetite", subject, can_tell=True)


def wrong_way(dice: random.Random) -> Planted:
    """Bytes that went over another interface than the port's."""
    peer = Peer("peer", "peer", "rj45 plug", 2.5e9)
    bench = _bench(dice, "N1 links 1 Gb/s", peers=(peer,))
    bench.ports = (*bench.ports, Port("N1", "rj45"))
    wireless = dice.random() < 0.5
    moved = dice.uniform(1e9, 9e9)
    rates = [(quantity, bench.repeats(4e8)) for quantity in (Quantity.SEND, Quantity.RECEIVE)]
    counters = [] if wireless else [(Quantity.MOVED, Number((moved,))),
                                    (Quantity.ON_WIRE, Number((moved * dice.uniform(0, 0.8),)))]  # fmt: skip
    setup = replace(bench.setup("N1", "peer"), network=NetworkPath(wireless=wireless))
    bench.trial(NETWORK, setup, "peer", "N1", [*rates, *counters])
    return Planted("wrong way", bench.audit(), "route", "wireless" if wireless else "another", can_tell=True)


def starved(dice: random.Random) -> Planted:
    """A port whose voltage is too low while it fails; or sound, so that the signal is left."""
    bench = _bench(dice, meters=(Meter("meter", "meter", "usb-a"),))
    low = dice.random() < 0.5
    volts = dice.uniform(3.6, 4.3) if low else dice.uniform(4.85, 5.2)
    came = Reading("", Quantity.APPEARED, "direct", "the eye", Grade.SEEN, Count(6, 6))
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, [came, *measured(bench, 470, 10e9)])
    missed = replace(came, at="A1", value=Count(0, dice.randint(4, 8)))
    reading = _reading(bench, Quantity.VOLTAGE, volts, error=0.02)
    bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", [missed, reading],
                outcome=Outcome.DID_NOT_APPEAR)  # fmt: skip
    return Planted("starved", bench.audit(), "too little power" if low else "signal", "A1", can_tell=True)


def policy(dice: random.Random) -> Planted:
    """A host that refuses drives by itself, beside one that does not."""
    one, other = computers(10e9, 10e9)
    bench = _bench(dice, hosts=(one, replace(other, policy="no external storage")))
    for host, mb in (("host1", 462.0), ("host2", dice.uniform(1, 30))):
        for _ in range(dice.randint(1, 2)):
            bench.trial(STORAGE, bench.setup("A1", "ssd", "good", host=host), "ssd", "A1", measured(bench, mb, 5e9))
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    return Planted("policy", bench.audit(), "policy", "host 2", can_tell=True)


def full_upstream(dice: random.Random) -> Planted:
    """Two ports that fill the link to the host; or two that give less than it has room for, and share one inside."""
    hosts = computers(5e9)
    bench = _bench(dice, "A1 data 5 Gb/s", "A2 data 5 Gb/s", hosts=hosts)
    for name in ("ssd", "ssd2"):
        bench.trial(STORAGE, bench.setup(None, name, "good"), name, None, measured(bench, 470, 5e9))
    total = payload_ceiling_bps(5e9) / 8e6 * dice.uniform(0.88, 0.95)
    share = dice.uniform(0.35, 0.65)
    running = ("A1 data 5 Gb/s", "A2 data 5 Gb/s")
    setup = bench.setup("A1", "ssd", "good", more=(Plugged("device", "A2", "ssd2", "good2"),), running=running)
    for _ in range(dice.randint(1, 2)):
        readings = [_reading(bench, quantity, total * part * 8e6, port)
                    for port, part in (("A1", share), ("A2", 1 - share))
                    for quantity in (Quantity.WRITE, Quantity.READ)]  # fmt: skip
        links = [Reading("", Quantity.LINK, port, "kernel", Grade.READ, Number((5e9,))) for port in ("A1", "A2")]
        bench.trial(ProcedureId.TOGETHER, setup, "ssd", "A1", [*readings, *links], claims=(1, 2))
    return Planted("full upstream", bench.audit(), "shared upstream", "5 Gb/s", can_tell=True)


def inner_link(dice: random.Random) -> Planted:
    """Two ports that are good alone and slow together, though the link to the host has room."""
    bench = _bench(dice, "A1 data 5 Gb/s", "A2 data 5 Gb/s", hosts=computers(20e9))
    for name in ("ssd", "ssd2"):
        bench.trial(STORAGE, bench.setup(None, name, "good"), name, None, measured(bench, 470, 10e9))
    for port, name, used, number in (("A1", "ssd", "good", 1), ("A2", "ssd2", "good2", 2)):
        for _ in range(2):
            bench.trial(STORAGE, bench.setup(port, name, used), name, port, measured(bench, 462, 5e9),
                        claims=(number,))  # fmt: skip
    total, running = dice.uniform(250, 450), ("A1 data 5 Gb/s", "A2 data 5 Gb/s")
    setup = bench.setup("A1", "ssd", "good", more=(Plugged("device", "A2", "ssd2", "good2"),), running=running)
    for _ in range(2):
        readings = [_reading(bench, quantity, total / 2 * 8e6, port, trace=Trace((0.0, 9.0), (total * 4e6,) * 2))
                    for port in ("A1", "A2") for quantity in (Quantity.WRITE, Quantity.READ)]  # fmt: skip
        links = [Reading("", Quantity.LINK, port, "kernel", Grade.READ, Number((5e9,))) for port in ("A1", "A2")]
        bench.trial(ProcedureId.TOGETHER, setup, "ssd", "A1", [*readings, *links], claims=(1, 2))
    return Planted("inner link", bench.audit(), "shared link", "A1 and A2", can_tell=True)


def stale_link(dice: random.Random) -> Planted:
    """A link that was read too early: what was moved needs a faster one."""
    bench = _bench(dice)
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    bench.trial(STORAGE, bench.setup("A1", "ssd", "good"), "ssd", "A1", measured(bench, 462, dice.choice((480e6, 1e9))))
    return Planted("stale link", bench.audit(), "stale link", "A1", can_tell=True)


def copper(dice: random.Random) -> Planted:
    """A way with ohms, read at several loads; or at one load again and again, which tells nothing."""
    bench = _bench(dice, "C1 drops at most 250 mV at 3 A", loads=(Load("load", "load", "usb-c", watts=60.0),))
    bench.ports = (*bench.ports, Port("C1", "usb-c"))
    ohm, spread = dice.uniform(0.02, 0.2), dice.random() < 0.7
    off = 1 + dice.uniform(-0.01, 0.01)
    readings = []
    for amperes in (0.5, 1.0, 2.0, 3.0) if spread else (1.0, 1.01, 1.02):
        volts = round((5.1 - amperes * ohm) * off + dice.gauss(0, 3e-4), 3)
        readings.append(replace(_reading(bench, Quantity.VOLTAGE, volts, "C1"), value=Number((volts,)), error=0.051,
                                resolution=0.001, behind_a=amperes))  # fmt: skip
    bench.trial(ProcedureId.POWER_OUT, bench.setup("C1", "load"), "load", "C1", readings)
    return Planted("copper", bench.audit(), "copper" if spread else "", "C1", can_tell=spread)


def low_class(dice: random.Random) -> Planted:
    """A port of a low class that keeps its word, with a drive that is far faster."""
    racer = Drive("racer", "racer", "usb-c", 2000 * 8e6, 2000 * 8e6)
    bench = _bench(dice, "A1 data 480 Mb/s", drives=(racer,))
    bench.trial(
        STORAGE, bench.setup(None, "racer", "good"), "racer", None, measured(bench, dice.uniform(800, 1100), 10e9)
    )
    for _ in range(dice.randint(1, 2)):
        bench.trial(STORAGE, bench.setup("A1", "racer", "good"), "racer", "A1",
                    measured(bench, dice.uniform(46.5, 51), 480e6))  # fmt: skip
    return Planted("low class", bench.audit(), "class", "A1", can_tell=True)


def danger(dice: random.Random) -> Planted:
    """A voltage above what was agreed under load; or the same on a meter with nothing behind it, which is none."""
    bench = _bench(dice, "C1 gives 10 W", loads=(Load("load", "load", "usb-c", watts=60.0, asks_v=None),))
    bench.ports = (*bench.ports, Port("C1", "usb-c"))
    loaded = dice.random() < 0.6
    reading = _reading(bench, Quantity.VOLTAGE, dice.uniform(5.8, 12), "C1", error=0.05,
                       behind_a=dice.uniform(0.3, 2) if loaded else 0.0)  # fmt: skip
    bench.trial(ProcedureId.POWER_OUT, bench.setup("C1", "load"), "load", "C1", [reading])
    return Planted("danger", bench.audit(), "over voltage" if loaded else "", "C1", can_tell=loaded)


def two_witnesses(dice: random.Random) -> Planted:
    """Two instruments that disagree, or that agree within their errors."""
    bench = _bench(dice, "C1 gives 10 W", loads=(Load("load", "load", "usb-c", watts=60.0),))
    bench.ports = (*bench.ports, Port("C1", "usb-c"))
    apart = dice.random() < 0.6
    watts, off = dice.uniform(8, 12), dice.uniform(1.5, 4) if apart else dice.uniform(-0.1, 0.1)
    one = _reading(bench, Quantity.POWER, watts, "C1", error=0.1)
    other = _reading(
        bench, Quantity.POWER, watts + off, "C1", error=0.3, grade=Grade.TYPED, instrument="another screen"
    )
    bench.trial(ProcedureId.POWER_OUT, bench.setup("C1", "load"), "load", "C1", [one, other])
    return Planted("two witnesses", bench.audit(), "witnesses" if apart else "", "C1", can_tell=apart)


def lost_picture(dice: random.Random) -> Planted:
    """A picture that is lost while something else is in use, and not without."""
    screen = Display("screen", "screen", "hdmi plug", ("3840x2160@60",))
    bench = _bench(dice, "H1 shows 3840x2160@60", displays=(screen,))
    bench.ports = (*bench.ports, Port("H1", "hdmi"))
    mode = Reading("", Quantity.MODE, "H1", "the host", Grade.READ, Words("3840x2160@60"))
    for running, event in (((), ()), (("A1 data 5 Gb/s",), (EventNoted("picture lost", "H1", port="H1"),))):
        for _ in range(dice.randint(1, 2)):
            setup = bench.setup("H1", "screen", running=running)
            bench.trial(ProcedureId.DISPLAY, setup, "screen", "H1", [mode], events=event)
    return Planted("lost picture", bench.audit(), "blanking", "H1", can_tell=True)


def nothing(dice: random.Random) -> Planted:
    """A sound device: there is nothing to explain."""
    bench = _bench(dice)
    bench.trial(STORAGE, bench.setup(None, "ssd", "good"), "ssd", None, measured(bench, 470, 10e9))
    for host in ("host1", "host2"):
        for _ in range(dice.randint(1, 3)):
            bench.trial(STORAGE, bench.setup("A1", "ssd", "good", host=host, flipped=dice.random() < 0.5), "ssd", "A1",
                        measured(bench, dice.uniform(440, 465), 5e9))  # fmt: skip
    audit: Audit = bench.audit()
    return Planted("nothing", audit, "", "", can_tell=False)


FIGURE_WORLDS = (
    full_cache, appetite, wrong_way, starved, policy, full_upstream, inner_link, stale_link, copper, low_class, danger,
    two_witnesses, lost_picture, nothing,
)  # fmt: skip
