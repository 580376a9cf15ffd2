"""Devices that give, take and pass power: weak supplies, leads and hosts beside sound devices, and the other way."""

from __future__ import annotations

import random
from dataclasses import replace

from auditra.core.model.device import Port, Role
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.rig import Load, Meter, Origin, Rig, Supply
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import ProcedureId
from tests.truth.case import Bench, Case, Truth, computers, lead

KEPT = Truth(True)
PORTS = (Port("C1", "usb-c"), Port("C2", "usb-c"), Port("P1", "usb-c", Role.INLET))


def _bench(dice: random.Random, sentence: str, supply_w: float = 140.0, **noted: object) -> Bench:
    supply = Supply("wall", "wall supply", "usb-c", 20.0, supply_w)
    hosts = tuple(replace(host, **noted) for host in computers(10e9))  # type: ignore[arg-type]
    both = ("usb-c", "usb-c")
    rig = Rig(
        "r",
        hosts,
        supplies=(supply,),
        loads=(Load("load", "load", "usb-c", watts=150.0, asks_v=20.0),),
        meters=(Meter("meter", "meter", "usb-c"),),
        leads=(lead("five", ends=both, amperes=5.0), lead("three", ends=both)),
    )
    return Bench(dice, (sentence,), rig, PORTS)


def _watts(bench: Bench, watts: float) -> list[tuple[Quantity | str, Number]]:
    return [(Quantity.POWER, bench.repeats(watts, 0.003))]


def given(dice: random.Random) -> Case:
    """Watts out of a port: short by the device's own current limit, or by a lead or supply that has no more."""
    promised = dice.choice((15.0, 27.0, 45.0, 90.0))
    cause = dice.choice(("none", "device", "lead", "supply"))
    supply_w = promised * 0.7 if cause == "supply" else 140.0
    bench = _bench(dice, f"C1 gives {promised:g} W", supply_w)
    watts = promised * (1.05 if cause == "none" else dice.uniform(0.4, 0.8))
    used = "three" if cause == "lead" else "five"
    if cause == "lead":
        bench.rig = replace(bench.rig, leads=(*bench.rig.leads[:1], replace(bench.rig.leads[1], amperes=promised / 25)))
    fed = Plugged("device", "P1", "wall", "five", ("meter",))
    for _ in range(dice.randint(1, 3)):
        bench.trial(
            ProcedureId.POWER_OUT, bench.setup("C1", "load", used, more=(fed,)), "load", "C1", _watts(bench, watts)
        )
    return Case(f"given, {cause}", bench.audit(), {"claim1": Truth(cause != "device")})


def charged(dice: random.Random) -> Case:
    """Watts for the host: a full battery or a modest host takes less, whatever it is offered."""
    cause = dice.choice(("none", "device", "battery", "appetite"))
    bench = _bench(dice, "UP charges host 65 W", wants_w=45.0 if cause == "appetite" else 100.0)
    watts = {"none": 68.0, "device": dice.uniform(20, 55), "battery": dice.uniform(5, 30), "appetite": 44.0}[cause]
    fed = Plugged("device", "P1", "wall", "five")
    noted = {"battery_percent": dice.uniform(85, 100) if cause == "battery" else dice.uniform(10, 60)}
    for _ in range(dice.randint(1, 3)):
        setup = replace(bench.setup("UP", "device", None, more=(fed,)), **noted)  # type: ignore[arg-type]
        bench.trial(ProcedureId.CHARGE, setup, "device", "UP", _watts(bench, watts))
    return Case(f"charged, {cause}", bench.audit(), {"claim1": Truth(cause != "device")})


def taken(dice: random.Random) -> Case:
    """Watts at the inlet, beside the same supply on the load: the supply may be what has no more."""
    cause = dice.choice(("none", "device", "supply"))
    bench = _bench(dice, "P1 takes 60 W", 140.0)
    real_w = 50.0 if cause == "supply" else 140.0  # its label says 140 W
    watts = {"none": 62.0, "device": dice.uniform(20, 52), "supply": 49.5}[cause]
    through = SetUp(
        "host1", "C1", (Plugged("device", "UP", "load"), Plugged("device", "P1", "wall", "five", ("meter",)))
    )
    direct = SetUp("host1", "C1", (Plugged("load", "input", "wall", "five", ("meter",)),))
    if dice.random() < 0.7:
        bench.trial(ProcedureId.POWER_IN, direct, "wall", None, _watts(bench, min(real_w, 66.0)))
    for _ in range(dice.randint(1, 2)):
        bench.trial(ProcedureId.POWER_IN, through, "wall", "P1", _watts(bench, watts))
    return Case(f"taken, {cause}", bench.audit(), {"claim1": Truth(cause != "device")})


def dropped(dice: random.Random) -> Case:
    """Volts left in a cable: a drop at a third of the current proves nothing until it is computed to all of it."""
    ohm = dice.uniform(0.03, 0.16)
    at_a = dice.choice((0.5, 1.0, 2.0, 3.0, None))
    bench = _bench(dice, "body drops at most 250 mV at 3 A")
    value = Number((ohm * (at_a or dice.choice((0.5, 3.0))),))
    reading = Reading("", Quantity.DROP, "body", "bench meter", Grade.MEASURED, value, error=0.001)
    if at_a is not None:
        reading = replace(reading, behind_a=at_a)
    bench.trial(ProcedureId.LOOK, SetUp("host1", "C1", ()), "device", "body", [reading])
    return Case("dropped", bench.audit(), {"claim1": Truth(ohm * 3 <= 0.25)})


def contract_only(dice: random.Random) -> Case:
    """A contract is what is offered and agreed; it is no proof of the watts that arrive."""
    bench = _bench(dice, "C1 gives 60 W")
    fed = Plugged("device", "P1", "wall", "five")
    readings = [Reading("", quantity, "C1", "power log", Grade.READ, Number((60.0,)), error=0.1)
                for quantity in (Quantity.OFFERED, Quantity.AGREED)]  # fmt: skip
    typed = Reading("", Quantity.POWER, "C1", dice.choice(("another screen", "the host")), Grade.TYPED, Number((60.5,)),
                    resolution=0.1)  # fmt: skip
    if dice.random() < 0.5:
        readings.append(typed)
    bench.trial(ProcedureId.POWER_OUT, bench.setup("C1", "load", "five", more=(fed,)), "load", "C1", readings)
    return Case("contract only", bench.audit(), {"claim1": Truth(False)})


def shipped_supply(dice: random.Random) -> Case:
    """The supply in the box belongs to what is promised: watts that it does not have are the seller's."""
    bench = _bench(dice, "C1 gives 45 W", 30.0)
    own = replace(bench.rig.supplies[0], origin=Origin.SHIPPED)
    bench.rig = replace(bench.rig, supplies=(own,))
    fed = Plugged("device", "P1", "wall", None, ("meter",))
    for _ in range(dice.randint(1, 2)):
        setup = bench.setup("C1", "load", "five", more=(fed,))
        bench.trial(ProcedureId.POWER_OUT, setup, "load", "C1", _watts(bench, dice.uniform(20, 29)))
    return Case("shipped supply", bench.audit(), {"claim1": Truth(False)})


POWER_WORLDS = (given, charged, taken, dropped, contract_only, shipped_supply)
