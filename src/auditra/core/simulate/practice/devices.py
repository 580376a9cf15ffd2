"""Practice devices by kind, each as good as its box: what is hidden in them comes later."""

from __future__ import annotations

import math
import random
from collections.abc import Callable

from auditra.core.links.copper import drop_in
from auditra.core.model.device import BODY, Role
from auditra.core.model.reading import Quantity
from auditra.core.simulate.heat import AMBIENT_C
from auditra.core.simulate.practice.draft import Draft

_MB = 8e6
_CAPTIVE, _SOCKET = "usb-c plug", "usb-c"
_GAUGE_AWG, _CONTACTS_OHM = 19, 0.02
"""Of a sound cable for power, and the contacts of its two plugs, there and back."""


def _upstream(draft: Draft, connector: str) -> None:
    draft.socket("UP", connector, role=Role.UPSTREAM)


def _good_share(draft: Draft, port: str) -> None:
    draft.payload_share[port] = draft.dice.uniform(0.982, 0.995)


def _data(draft: Draft, port: str, connector: str, gigabits: int) -> None:
    draft.socket(port, connector)
    draft.promise(f"{port} data {gigabits} Gb/s")
    draft.data_bps[port] = gigabits * 1e9
    _good_share(draft, port)


def _drives(draft: Draft, letter: str, connector: str, count: int, gigabits: int) -> None:
    for number in range(1, count + 1):
        _data(draft, f"{letter}{number}", connector, gigabits)


def _gives(draft: Draft, port: str, watts: float) -> None:
    draft.promise(f"{port} gives {watts:g} W")
    draft.gives_w[port] = watts * draft.dice.uniform(1.05, 1.12)
    if watts > 15:
        draft.gives_v[port] = 9.0


def _cards(draft: Draft, count: int) -> None:
    fast = draft.dice.random() < 0.4
    for number in range(1, count + 1):
        port = f"S{number}"
        draft.socket(port, "sd")
        draft.promise(f"{port} cards {250 if fast else 85} MB/s")
        draft.card_bps[port] = (312 if fast else 104) * _MB
        _good_share(draft, port)


def _network(draft: Draft, gigabits: float) -> None:
    draft.socket("N1", "rj45")
    draft.promise(f"N1 links {gigabits:g} Gb/s")
    draft.network_bps["N1"] = gigabits * 1e9
    _good_share(draft, "N1")


def _picture(draft: Draft, port: str, connector: str, mode: str, options: str = "") -> None:
    draft.socket(port, connector)
    draft.promise(f"{port} shows {mode}{options}")
    draft.display_modes[port] = mode
    if options:
        draft.figures[port, Quantity.DEPTH] = 10.0


def _fed(draft: Draft, *, charges: bool) -> None:
    """An inlet, and power for the host: what is left of it when everything else is at work."""
    draft.socket("P1", "usb-c", role=Role.INLET)
    takes_w = draft.dice.choice((60.0, 90.0, 100.0))
    draft.promise(f"P1 takes {takes_w:g} W")
    draft.takes_w["P1"] = takes_w * draft.dice.uniform(1.03, 1.06)
    draft.own_use_w = draft.dice.uniform(1.5, 9.0)
    left_w = draft.takes_w["P1"] - draft.own_use_w - sum(draft.gives_w.values())
    draft.host_w = left_w + 1.0
    if charges and left_w > 22:
        draft.promise(f"UP charges host {5 * int(left_w / 1.04 / 5):g} W")


def _sound(draft: Draft) -> None:
    draft.socket("J1", "3.5 mm")
    draft.promise("J1 plays 3.5 mm")


def _guards(draft: Draft) -> None:
    if draft.dice.random() < 0.3:
        draft.promise("A1 guards against over-current")


def _button(draft: Draft) -> None:
    if draft.dice.random() < 0.4:
        draft.socket("B1", "button")
        draft.promise("B1 button wakes lid closed asleep")


def _of_the_body(draft: Draft) -> None:
    """What is promised of the whole of it."""
    if draft.dice.random() < 0.4:
        draft.promise("body without driver")
    if draft.dice.random() < 0.3:
        draft.rise_k = draft.dice.uniform(8, 16)
        draft.promise("body below 45 C")
        draft.figures[BODY, Quantity.CASE_TEMPERATURE] = AMBIENT_C + draft.rise_k
    if draft.upstream.connector == _CAPTIVE and draft.dice.random() < 0.6:
        centimetres = draft.dice.choice((12, 15, 20, 30))
        draft.promise(f"UP length {centimetres} cm")
        draft.lengths_m["UP"] = centimetres / 100 * draft.dice.uniform(0.995, 1.012)


def dock(dice: random.Random) -> Draft:
    draft = Draft("dock", dice)
    _upstream(draft, dice.choice((_CAPTIVE, _SOCKET)))
    _drives(draft, "A", "usb-a", dice.randint(2, 4), dice.choice((5, 10)))
    _drives(draft, "C", "usb-c", dice.randint(0, 2), 10)
    for port in [port.id for port in draft.ports if port.id.startswith("C")]:
        _gives(draft, port, dice.choice((15.0, 27.0)))
    if dice.random() < 0.5:
        _cards(draft, dice.choice((1, 1, 2)))
    if dice.random() < 0.8:
        _network(draft, dice.choice((1, 1, 2.5)))
    if dice.random() < 0.8:
        options = " 10 bit hdr" if dice.random() < 0.3 else ""
        _picture(draft, "H1", "hdmi", dice.choice(("3840x2160@60", "3840x2160@30")), options)
        if dice.random() < 0.35:
            _picture(draft, "D1", "displayport", "1920x1080@60")
    if dice.random() < 0.6:
        _sound(draft)
    if dice.random() < 0.8:
        _fed(draft, charges=True)
    _guards(draft)
    _of_the_body(draft)
    return draft


def hub(dice: random.Random) -> Draft:
    draft = Draft("hub", dice)
    _upstream(draft, _CAPTIVE)
    _drives(draft, "A", "usb-a", dice.randint(2, 4), dice.choice((5, 10)))
    if dice.random() < 0.4:
        _drives(draft, "C", "usb-c", 1, 10)
    if dice.random() < 0.5:
        _cards(draft, dice.choice((1, 2)))
    if dice.random() < 0.5:
        _picture(draft, "H1", "hdmi", dice.choice(("3840x2160@30", "3840x2160@60")))
    if dice.random() < 0.5:
        _fed(draft, charges=False)
    _guards(draft)
    _of_the_body(draft)
    return draft


def adapter(dice: random.Random) -> Draft:
    draft = Draft("adapter", dice)
    _upstream(draft, _CAPTIVE)
    vrr = dice.random() < 0.3
    if vrr:
        _picture(draft, "H1", "hdmi", "2560x1440@144", " vrr")
        draft.figures.pop(("H1", Quantity.DEPTH), None)
    else:
        options = " 10 bit hdr" if dice.random() < 0.4 else ""
        _picture(draft, "H1", "hdmi", dice.choice(("3840x2160@60", "3840x2160@30")), options)
    if dice.random() < 0.5:
        _picture(draft, "H2", "hdmi", "1920x1080@60")
        draft.promise("H1+H2 at once")
    if dice.random() < 0.4:
        _drives(draft, "A", "usb-a", 1, 5)
    return draft


def extension(dice: random.Random) -> Draft:
    draft = Draft("extension", dice, is_hub=False)
    _upstream(draft, _CAPTIVE)
    gigabits = dice.choice((5, 10))
    draft.upstream_bps = gigabits * 1e9
    _data(draft, "F1", "usb-c", gigabits)
    metres = dice.choice((1, 2, 3, 5))
    draft.promise(f"UP length {metres} m")
    draft.lengths_m["UP"] = metres * dice.uniform(0.997, 1.01)
    draft.promise("F1 feeds 0.9 A")
    return draft


def cable(dice: random.Random) -> Draft:
    draft = Draft("cable", dice, is_hub=False)
    draft.socket("K1", "usb-c plug")
    draft.socket("K2", "usb-c plug")
    amperes, gigabits = dice.choice((3, 5)), dice.choice((10, 20))
    draft.promise(f"body carries {gigabits} Gb/s")
    draft.figures[BODY, Quantity.LINK] = gigabits * 1e9
    draft.promise(f"body is marked {amperes} A")
    draft.promise(f"body carries {amperes} A")
    draft.figures[BODY, Quantity.CURRENT] = amperes * 1.02
    centimetres = dice.choice((50, 80, 100, 120, 200))
    draft.promise(f"body length {centimetres} cm")
    draft.lengths_m[BODY] = centimetres / 100 * dice.uniform(0.996, 1.012)
    if dice.random() < 0.5:
        draft.promise("body carries picture 3840x2160@60")
    if dice.random() < 0.5:
        drop = drop_in(_GAUGE_AWG, draft.lengths_m[BODY], amperes, contacts_ohm=_CONTACTS_OHM)
        limit_mv = 50 * math.ceil(1.5 * drop.volts / 0.05)
        draft.promise(f"body drops at most {limit_mv} mV at {amperes} A")
        draft.figures[BODY, Quantity.DROP] = drop.volts
    return draft


def stand(dice: random.Random) -> Draft:
    draft = Draft("stand", dice)
    _upstream(draft, _CAPTIVE)
    _drives(draft, "A", "usb-a", dice.randint(2, 3), dice.choice((5, 10)))
    output, connector = dice.choice((("H1", "hdmi"), ("D1", "displayport")))
    _picture(draft, output, connector, "3840x2160@60")
    if dice.random() < 0.7:
        _network(draft, 1)
    _button(draft)
    _fed(draft, charges=True)
    _of_the_body(draft)
    return draft


def switch(dice: random.Random) -> Draft:
    draft = Draft("switch", dice)
    _upstream(draft, _SOCKET)
    _drives(draft, "A", "usb-a", dice.randint(2, 3), 5)
    _picture(draft, "H1", "hdmi", dice.choice(("2560x1440@144", "3840x2160@60")))
    draft.promise("body switches 2 hosts")
    seconds = dice.choice((2, 3, 5))
    draft.promise(f"body switches in {seconds} s")
    draft.figures[BODY, Quantity.TIME_TO_SWITCH] = seconds * dice.uniform(0.6, 0.85)
    if dice.random() < 0.5:
        draft.promise("A1 works with keyboard")
    return draft


def network_adapter(dice: random.Random) -> Draft:
    draft = Draft("network adapter", dice, is_hub=False)
    _upstream(draft, _CAPTIVE)
    _network(draft, dice.choice((1, 2.5, 5)))
    if dice.random() < 0.5:
        draft.promise("N1 frames 9 kB")
        draft.figures["N1", Quantity.LARGEST_FRAME] = 9000.0
    if dice.random() < 0.4:
        _fed(draft, charges=True)
    _of_the_body(draft)
    return draft


def storage_dock(dice: random.Random) -> Draft:
    draft = Draft("storage dock", dice)
    _upstream(draft, dice.choice((_CAPTIVE, _SOCKET)))
    _drives(draft, "C", "usb-c", dice.randint(2, 3), 10)
    if dice.random() < 0.7:
        draft.promise("C1 reads 950 MB/s")
    _cards(draft, dice.choice((1, 2)))
    if dice.random() < 0.5:
        _fed(draft, charges=False)
    _of_the_body(draft)
    return draft


DEVICES: dict[str, Callable[[random.Random], Draft]] = {
    "dock": dock, "hub": hub, "adapter": adapter, "extension": extension, "cable": cable, "stand": stand,
    "switch": switch, "network adapter": network_adapter, "storage dock": storage_dock,
}  # fmt: skip
