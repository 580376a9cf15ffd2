"""Rigs of practice: what a reviewer may own, sometimes a lot of it, sometimes little."""

from __future__ import annotations

import random
from collections.abc import Sequence
from typing import TypeVar

from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import (
    Accuracy,
    Card,
    Display,
    Drain,
    Drive,
    Host,
    HostSocket,
    Lead,
    LeadEnd,
    Load,
    Meter,
    Peer,
    Reader,
    Rig,
    Rule,
    Supply,
    Thermometer,
)

_Part = TypeVar("_Part")
_MB, _A = 8e6, "usb-a"
_C = "usb-c"


def _some(dice: random.Random, chance: float, *parts: _Part) -> tuple[_Part, ...]:
    return tuple(part for part in parts if dice.random() < chance)


def random_rig(dice: random.Random) -> Rig:
    """A rig; how well it is stocked is part of the chance."""
    stocked = dice.choice((0.97, 0.97, 0.85, 0.6))
    return Rig(
        "practice",
        _hosts(dice, stocked),
        drives=_drives(dice, stocked),
        cards=(
            *_some(dice, stocked, Card("fast-card", "fast card", "sd plug", "UHS-II", 288 * _MB, 274 * _MB, "reader")),
            Card("plain-card", "plain card", "sd plug", "UHS-I", 98 * _MB, 92 * _MB, "reader"),
        ),
        readers=(Reader("reader", "card reader", "usb-c plug", "UHS-II"),),
        displays=_some(
            dice, stocked,
            Display("big-screen", "big screen", "hdmi", ("3840x2160@60", "3840x2160@30", "1920x1080@60"), vrr=False),
            Display("quick-screen", "quick screen", "hdmi", ("2560x1440@144", "2560x1440@60", "1920x1080@60"),
                    vrr=True),
            Display("desk-screen", "desk screen", "displayport", ("3840x2160@60", "3840x2160@30", "1920x1080@60"),
                    vrr=False),
        ),
        supplies=(
            Supply("supply-100", "100 W supply", _C, 20.0, 100.0),
            *_some(dice, stocked, Supply("supply-140", "140 W supply", _C, 28.0, 140.0),
                   Supply("supply-65", "65 W supply", _C, 20.0, 65.0)),
        ),
        drains=_some(dice, stocked, Drain("drain-1", "first hand load", "usb-c plug", 27.0),
                     Drain("drain-2", "second hand load", "usb-c plug", 27.0)),
        peers=(
            Peer("small-peer", "small peer", "rj45", 1e9),
            *_some(dice, stocked, Peer("fast-peer", "fast peer", "rj45", 10e9, mtu_bytes=dice.choice((1500, 9000)))),
        ),
        meters=_some(dice, stocked, Meter("meter", "meter", _C, power_error_percent=0.3, power_error_w=0.05),
                     Meter("voltmeter", "voltmeter", _C, end=LeadEnd.FAR,
                           accuracy=(Accuracy(Quantity.VOLTAGE, error_percent=0.05, resolution=0.001),))),
        loads=_some(dice, stocked, Load("load", "load", _C, watts=150.0, asks_v=20.0, power_error_percent=0.5,
                                        power_error_w=0.05)),
        rules=_some(dice, stocked, Rule("rule", "steel rule")),
        thermometers=_some(dice, stocked, Thermometer("thermometer", "thermometer", 1.0)),
        leads=_leads(dice, stocked),
    )  # fmt: skip


def _hosts(dice: random.Random, stocked: float) -> tuple[Host, ...]:
    sockets = [HostSocket("C1", _C, 40e9, display=True), HostSocket("C2", _C, 40e9, display=True),
               HostSocket("A1", _A, 5e9), HostSocket("LAN", "rj45", dice.choice((1e9, 2.5e9, 10e9)))]  # fmt: skip
    second = HostSocket("C1", _C, dice.choice((10e9, 20e9)), display=True), HostSocket("A1", _A, 5e9)
    return (
        Host("laptop", "laptop", tuple(sockets), driver="the maker's driver" if dice.random() < 0.3 else NOT_NOTED),
        *_some(dice, stocked * 0.8, Host("second-laptop", "second laptop", second)),
        *_some(dice, 0.3, Host("tablet", "tablet", (HostSocket("C1", _C, 5e9, display=True),))),
    )


def _drives(dice: random.Random, stocked: float) -> tuple[Drive, ...]:
    ids = iter(range(1, 9))

    def drive(name: str, read: float, write: float, amperes: float) -> Drive:
        usb_id = f"1f6e:55{next(ids):02}"
        return Drive(name.replace(" ", "-"), name, _C, read * _MB, write * _MB, usb_id, current_a=amperes)

    return (
        drive("film SSD", 440, 440, 0.5),
        *_some(dice, stocked, drive("fast SSD", 1100, 1095, 0.7), drive("second SSD", 1090, 1085, 0.7)),
        *_some(dice, stocked * 0.7, drive("old disk", 128, 121, 0.9)),
    )


def _leads(dice: random.Random, stocked: float) -> tuple[Lead, ...]:
    """At least one of each kind that anybody needs; the others as it comes."""
    always: Sequence[Lead] = (
        Lead("CC-1", (_C, _C), length_m=0.8, data_bps=20e9, amperes=5.0),
        Lead("CC-2", (_C, _C), length_m=1.0, data_bps=10e9, amperes=5.0),
        Lead("AC-1", (_A, _C), length_m=0.5, data_bps=10e9, amperes=3.0),
        Lead("HD-1", ("hdmi", "hdmi"), length_m=2.0, data_bps=18e9),
        Lead("NT-1", ("rj45", "rj45"), length_m=3.0, data_bps=10e9),
        Lead("CH-1", (_C, "hdmi"), length_m=1.8, data_bps=18e9),
    )
    more = (
        Lead("CC-3", (_C, _C), length_m=1.0, data_bps=10e9, amperes=5.0),
        Lead("AC-2", (_A, _C), length_m=0.5, data_bps=10e9, amperes=3.0),
        Lead("HD-2", ("hdmi", "hdmi"), length_m=1.5, data_bps=18e9),
        Lead("DD-1", ("displayport", "displayport"), length_m=1.5, data_bps=32.4e9),
        Lead("DH-1", ("displayport", "hdmi"), length_m=1.8, data_bps=18e9),
        Lead("CD-1", (_C, "displayport"), length_m=1.8, data_bps=32.4e9),
    )
    return (*always, *_some(dice, stocked, *more))
