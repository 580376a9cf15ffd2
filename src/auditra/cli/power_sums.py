"""``auditra supply`` and ``auditra volts``: host power left by a supply, port voltage limits, loop resistance."""

from __future__ import annotations

import re
from collections.abc import Sequence

from auditra.core.errors import InputError
from auditra.core.links.charging import left_for_host, steps_of_source
from auditra.core.links.copper import MIN_CURRENTS, AtCurrent, Drop, loop_ohm, thinnest_gauge
from auditra.core.links.vbus import port_volts
from auditra.core.quantities.parsing import parse_quantity
from auditra.core.quantities.units import Dimension

_MARKED = re.compile(r"(?:([0-9]{1,2})\s*V[\s,]*)?([0-9])\s*A", re.IGNORECASE)
_AT = re.compile(r"\s+(?:at|@)\s+|\s*@\s*")


def supply_answer(supply: str, own: str, given: Sequence[str], marked: str | None) -> str:
    """What reaches the host, and how that comes. Raises: InputError."""
    has, uses = (parse_quantity(each, Dimension.POWER).value for each in (supply, own))
    away = [parse_quantity(each, Dimension.POWER).value for each in given]
    volts, amperes = _marker(marked)
    try:
        found = left_for_host(has, own_w=uses, given_w=sum(away), marked_v=volts, marked_a=amperes)
    except ValueError as error:
        raise InputError("the supply", why=str(error), do="Enter at most 240 W") from error
    less = "".join(f" - {each:g} W" for each in (uses, *away) if each)
    lines = [f"host gets up to {found.watts:g} W: {has:g} W{less} = {found.left_w:g} W left"]
    if found.left_w > found.cable.watts:
        lines.append(f"the cable limits it to {found.cable.watts:g} W, {found.cable.why}")
        lines.append(f"{found.left_w:g} W requires {found.needed}")
    elif found.left_w:
        lines.append(f"requires {found.needed}")
    if found.watts:
        best = steps_of_source(found.watts)[-1]
        lines.append(f"at best {best.volts:g} V {best.amperes:.3g} A (USB PD R3.1, 10.2.2)")
    return "\n".join(lines)


def _marker(marked: str | None) -> tuple[float | None, float | None]:
    """``50 V 5 A`` or ``5 A``; None twice without one."""
    if marked is None:
        return None, None
    match = _MARKED.fullmatch(marked.strip())
    if match is None:
        raise InputError(f'"{marked}"', why="this is not a cable marker", do='Write it as "5 A" or "50 V 5 A"')
    return (float(match[1]) if match[1] else None), float(match[2])


def volts_answer(readings: Sequence[str], *, bus_powered: bool, length: str | None) -> str:
    """Each reading against the limits of a port; then the loop, where currents are there. Raises: InputError."""
    limits = port_volts(bus_powered=bus_powered)
    lines, pairs = [], []
    for text in readings:
        volts, amperes = _reading(text)
        side = "within" if limits.holds(volts) else "below" if volts < limits.least_v else "above"
        lines.append(f"{volts:g} V: {side} the limits {limits.least_v:.2f} to {limits.most_v:.2f} V ({limits.source})")
        if amperes is not None:
            pairs.append(AtCurrent(volts, amperes))
    if len(pairs) >= MIN_CURRENTS:
        lines += _loop_told(pairs, length)
    return "\n".join(lines)


def _reading(text: str) -> tuple[float, float | None]:
    words, *rest = _AT.split(text.strip(), maxsplit=1)
    volts = parse_quantity(words, Dimension.VOLTAGE).value
    return volts, parse_quantity(rest[0], Dimension.CURRENT).value if rest else None


def _loop_told(pairs: Sequence[AtCurrent], length: str | None) -> list[str]:
    try:
        ohm = loop_ohm(pairs)
    except ValueError as error:
        raise InputError("the loop", why=str(error), do="Add a reading at another current") from error
    if ohm <= 0:
        return ["voltage does not fall with current: loop resistance cannot be calculated"]
    most = max(each.amperes for each in pairs)
    drop = Drop(most, ohm)
    lost = f"drops {drop.volts * 1e3:.0f} mV and loses {drop.watts:.2f} W at {most:g} A"
    lines = [f"loop resistance {ohm * 1e3:.1f} mohm: {lost}"]
    if length is not None:
        metres = parse_quantity(length, Dimension.LENGTH).value
        gauge = thinnest_gauge(metres, 1.0, ohm)  # at one ampere, the volts are the ohms
        wire = f"{gauge} AWG copper" if gauge is not None else "copper thicker than 10 AWG"
        lines.append(f"equivalent to {wire} over {metres:g} m")
    return lines
