"""Pictures and networks: leads that carry too little, damaged descriptions, wireless that answers for the wire."""

from __future__ import annotations

import random
from dataclasses import replace

from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.model.device import Port
from auditra.core.model.reading import Grade, Number, Quantity, Reading, Words, YesNo
from auditra.core.model.rig import Display, Hop, Peer, Rig
from auditra.core.model.setup import NetworkPath
from auditra.core.model.trial import ProcedureId
from tests.truth.case import Bench, Case, Truth, computers, lead

KEPT, DISPLAY, NETWORK = Truth(True), ProcedureId.DISPLAY, ProcedureId.NETWORK
PORTS = (Port("H1", "hdmi"), Port("H2", "hdmi"), Port("N1", "rj45"))
WHOLE, LESS = "3840x2160@60", "3840x2160@30"


def picture(dice: random.Random) -> Case:
    """A mode that a lead, the display or the device does not carry."""
    cause = dice.choice(("none", "device", "lead", "display"))
    told = dice.random() < 0.5
    leads = (lead("good", ends=("hdmi", "hdmi"), data_bps=18e9), lead("bad", ends=("hdmi", "hdmi")))
    if told:
        leads = (leads[0], replace(leads[1], data_bps=9e9))
    display = Display("tv", "tv", "hdmi", (WHOLE, LESS) if cause != "display" else (LESS,))
    bench = Bench(dice, (f"H1 shows {WHOLE}",), Rig("r", computers(10e9), displays=(display,), leads=leads), PORTS)
    if dice.random() < 0.7:
        shown = LESS if cause == "display" else WHOLE
        bench.trial(DISPLAY, bench.setup(None, "tv", "good"), "tv", None, [(Quantity.MODE, Words(shown))])
    used = "bad" if cause == "lead" else "good"
    for _ in range(dice.randint(1, 3)):
        shown = WHOLE if cause == "none" else LESS
        bench.trial(DISPLAY, bench.setup("H1", "tv", used), "tv", "H1", [(Quantity.MODE, Words(shown))])
    return Case(f"picture, {cause}", bench.audit(), {"claim1": Truth(cause != "device")})


def word_beside(dice: random.Random) -> Case:
    """hdr that the device takes away, or that the display never had."""
    cause = dice.choice(("none", "device", "display"))
    display = Display("tv", "tv", "hdmi", (WHOLE,))
    rig = Rig("r", computers(10e9), displays=(display,), leads=(lead("good", ends=("hdmi", "hdmi"), data_bps=18e9),))
    bench = Bench(dice, (f"H1 shows {WHOLE} hdr",), rig, PORTS)
    has = cause == "none"
    if dice.random() < 0.7:
        bench.trial(DISPLAY, bench.setup(None, "tv", "good"), "tv", None,
                    [(Quantity.MODE, Words(WHOLE)), ("hdr", YesNo(cause != "display"))])  # fmt: skip
    bench.trial(DISPLAY, bench.setup("H1", "tv", "good"), "tv", "H1",
                [(Quantity.MODE, Words(WHOLE)), ("hdr", YesNo(has))])  # fmt: skip
    return Case(f"hdr, {cause}", bench.audit(), {"claim1": Truth(cause != "device")})


def network(dice: random.Random) -> Case:
    """A network link that a peer, a hop, a lead or the device holds back."""
    cause = dice.choice(("none", "device", "peer", "hop", "lead"))
    slow = 1e9
    hops = (Hop("switch", slow if cause == "hop" else 10e9),) if dice.random() < 0.8 or cause == "hop" else ()
    peer = Peer("server", "server", "rj45", slow if cause == "peer" else 10e9, hops=hops)
    leads = (lead("cat", ends=("rj45", "rj45"), data_bps=slow if cause == "lead" else 10e9),)
    bench = Bench(dice, ("N1 links 2.5 Gb/s",), Rig("r", computers(10e9), peers=(peer,), leads=leads), PORTS)
    rate = 2.5e9 if cause == "none" else slow
    mbps = 0.985 * tcp_ceiling_bps(rate)
    linked = 2.5e9 if cause in ("none", "hop") else slow
    if dice.random() < 0.6:
        direct = 0.985 * tcp_ceiling_bps(2.5e9 if cause in ("none", "device") else slow)
        link = 2.5e9 if cause in ("none", "device", "hop") else slow
        bench.trial(NETWORK, bench.setup(None, "server", "cat"), "server", None, _moved(bench, direct, link))
    for _ in range(dice.randint(1, 2)):
        bench.trial(NETWORK, bench.setup("N1", "server", "cat"), "server", "N1", _moved(bench, mbps, linked))
    return Case(f"network, {cause}", bench.audit(), {"claim1": Truth(cause != "device")})


def _moved(bench: Bench, bps: float, link_bps: float) -> list[tuple[Quantity | str, Number]]:
    return [(Quantity.LINK, Number((link_bps,))),
            *((quantity, bench.repeats(bps)) for quantity in (Quantity.SEND, Quantity.RECEIVE))]  # fmt: skip


def wrong_route(dice: random.Random) -> Case:
    """A dead port whose bytes went by wireless; and a good one beside which wireless was on and slow."""
    kept = dice.random() < 0.5
    rig = Rig("r", computers(10e9), peers=(Peer("server", "server", "rj45", 10e9),),
              leads=(lead("cat", ends=("rj45", "rj45"), data_bps=10e9),))  # fmt: skip
    bench = Bench(dice, ("N1 links 1 Gb/s",), rig, PORTS)
    bench.trial(NETWORK, bench.setup(None, "server", "cat"), "server", None,
                _moved(bench, 0.985 * tcp_ceiling_bps(1e9), 1e9))  # fmt: skip
    bps = 0.985 * tcp_ceiling_bps(1e9) * (1.0 if not kept else dice.uniform(0.1, 0.5))
    counted = dice.random() < 0.5
    moved = [Reading("", quantity, "N1", "counters", Grade.MEASURED, Number((value,)), error=1.0)
             for quantity, value in ((Quantity.MOVED, 1e9), (Quantity.ON_WIRE, 1e6))]  # fmt: skip
    setup = bench.setup("N1", "server", "cat", network=NetworkPath(wireless=True))
    bench.trial(NETWORK, setup, "server", "N1", [*_moved(bench, bps, 1e9), *(moved if counted else [])])
    return Case("wrong route", bench.audit(), {"claim1": Truth(kept)})


PICTURE_AND_NETWORK_WORLDS = (picture, word_beside, network, wrong_route)
