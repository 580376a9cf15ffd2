"""Power and request data objects: what a source offers, what a sink wishes, what was asked for.

Source: USB PD R3.1 V1.8, 6.4.1 (capabilities) and 6.4.2 (request); adjustable voltage below 20 V: R3.2, 6.4.1.2.4.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.decode.bits import bit, bits


class Supply(StrEnum):
    """The kinds of power data object."""

    FIXED = "fixed"
    BATTERY = "battery"
    VARIABLE = "variable"
    PPS = "PPS"
    AVS = "AVS"
    AVS_EXTENDED = "EPR AVS"
    UNKNOWN = "unknown"


_EXTENDED_FROM = 8
"""Positions 8 and up are of the extended power range. Source: USB PD R3.1, 6.5.15."""
_MAX_A_MA = 5000
_STANDARD_MV, _PPS_MV, _EXTENDED_MV = 20_000, 21_000, 48_000
_LOW_RANGE_MV = 15_000
"""AVS below 20 V has one current up to here, and another above. Source: USB PD R3.2, 6.4.1.2.4."""
POWER_LIMITED = "power limited"
"""A PPS object of a source that keeps below its rated power. Source: USB PD R3.1, table 6-17, bit 27."""


@dataclass(frozen=True)
class PowerDataObject:
    """One offer or wish. What a kind does not have is None; an empty place of the extended range is of no kind.

    `high_current_ma` is the second current of AVS below 20 V: `current_ma` to 15 V, this one above.
    """

    position: int
    kind: Supply
    raw: int
    voltage_mv: int | None = None
    least_voltage_mv: int | None = None
    most_voltage_mv: int | None = None
    current_ma: int | None = None
    high_current_ma: int | None = None
    power_mw: int | None = None
    traits: tuple[str, ...] = ()

    @property
    def most_power_mw(self) -> int | None:
        """The most of it, at its highest voltage."""
        if self.power_mw is not None:
            return self.power_mw
        volts = self.voltage_mv if self.voltage_mv is not None else self.most_voltage_mv
        current = self.high_current_ma if self.high_current_ma is not None else self.current_ma
        return None if volts is None or current is None else volts * current // 1000

    @property
    def words(self) -> str:
        """``20 V 5 A``, ``PPS 5 to 21 V 3 A``, ``EPR AVS 15 to 48 V, 140 W``."""
        volts = (
            f"{self.voltage_mv / 1000:g} V" if self.voltage_mv is not None
            else f"{(self.least_voltage_mv or 0) / 1000:g} to {(self.most_voltage_mv or 0) / 1000:g} V"
        )  # fmt: skip
        name = "" if self.kind is Supply.FIXED else f"{self.kind} "
        most = f"{self.power_mw / 1000:g} W" if self.power_mw is not None else f"{(self.current_ma or 0) / 1000:g} A"
        return f"{name}{volts}{',' if self.power_mw is not None else ''} {most}"


_SOURCE_TRAITS = (
    (29, "dual role power"), (28, "USB suspend"), (27, "unconstrained power"), (26, "USB communication"),
    (25, "dual role data"), (24, "unchunked"), (23, "EPR capable"),
)  # fmt: skip
_SINK_TRAITS = (
    (29, "dual role power"), (28, "higher capability"), (27, "unconstrained power"), (26, "USB communication"),
    (25, "dual role data"),
)  # fmt: skip

_FAST_ROLE_SWAP = (
    "", "fast role swap at default USB power", "fast role swap at 1.5 A", "fast role swap at 3 A",
)  # fmt: skip
"""What a sink needs at 5 V when it becomes the source at once. Source: USB PD R3.1, table 6-16, bits 24 to 23."""
_PEAK_CURRENT = (
    "", "peak 150 % for 1 ms, 125 % for 2 ms, 110 % for 10 ms", "peak 200 % for 1 ms, 150 % for 2 ms, 125 % for 10 ms",
    "peak 200 % for 1 ms, 175 % for 2 ms, 150 % for 10 ms",
)  # fmt: skip
"""Source: USB PD R3.1, table 6-10 (bits 21 to 20 of a fixed object, 27 to 26 of an adjustable one)."""


def decode_object(word: int, position: int, *, of_source: bool = True) -> PowerDataObject:
    """One power data object. Never raises; more than 32 bits are cut off."""
    word &= 0xFFFFFFFF
    if word == 0:
        return PowerDataObject(position, Supply.UNKNOWN, 0)
    kind = bits(word, 31, 30)
    if kind == 0:
        named = (_SOURCE_TRAITS if of_source else _SINK_TRAITS) if position == 1 else ()
        traits = tuple(name for place, name in named if bit(word, place))
        if of_source:
            traits += _told(_PEAK_CURRENT[bits(word, 21, 20)])
        elif position == 1:
            traits += _told(_FAST_ROLE_SWAP[bits(word, 24, 23)])
        return PowerDataObject(
            position, Supply.FIXED, word, voltage_mv=bits(word, 19, 10) * 50, current_ma=bits(word, 9, 0) * 10,
            traits=traits,
        )  # fmt: skip
    if kind == 3:
        return _adjustable(word, position)
    most, least = bits(word, 29, 20) * 50, bits(word, 19, 10) * 50
    if kind == 1:
        power = bits(word, 9, 0) * 250
        return PowerDataObject(
            position, Supply.BATTERY, word, least_voltage_mv=least, most_voltage_mv=most, power_mw=power
        )
    return PowerDataObject(
        position, Supply.VARIABLE, word, least_voltage_mv=least, most_voltage_mv=most, current_ma=bits(word, 9, 0) * 10
    )


def _told(words: str) -> tuple[str, ...]:
    return (words,) if words else ()


def _adjustable(word: int, position: int) -> PowerDataObject:
    kind = bits(word, 29, 28)
    if kind == 0:
        traits = (POWER_LIMITED,) if bit(word, 27) else ()
        return PowerDataObject(
            position, Supply.PPS, word, least_voltage_mv=bits(word, 15, 8) * 100,
            most_voltage_mv=bits(word, 24, 17) * 100, current_ma=bits(word, 6, 0) * 50, traits=traits,
        )  # fmt: skip
    if kind == 1:
        return PowerDataObject(
            position, Supply.AVS_EXTENDED, word, least_voltage_mv=bits(word, 15, 8) * 100,
            most_voltage_mv=bits(word, 25, 17) * 100, power_mw=bits(word, 7, 0) * 1000,
            traits=_told(_PEAK_CURRENT[bits(word, 27, 26)]),
        )  # fmt: skip
    if kind == 2:
        low, high = bits(word, 19, 10) * 10, bits(word, 9, 0) * 10
        return PowerDataObject(
            position, Supply.AVS, word, least_voltage_mv=9000, most_voltage_mv=20_000 if high else 15_000,
            current_ma=low, high_current_ma=high or None,
            traits=_told(_PEAK_CURRENT[bits(word, 27, 26)]),
        )  # fmt: skip
    return PowerDataObject(position, Supply.UNKNOWN, word)


def decode_objects(words: Sequence[int], *, of_source: bool = True) -> tuple[PowerDataObject, ...]:
    """Objects in their positions, which count from 1; empty places of the extended range are left out."""
    made = (decode_object(word, position, of_source=of_source) for position, word in enumerate(words, 1))
    return tuple(each for each in made if each.raw)


def most_offered_mw(objects: Sequence[PowerDataObject]) -> int | None:
    """The most power of an offer; None where none of it says. A PPS object whose source limits its power gives no more
    than the rated power, which the other objects show. Source: USB PD R3.1, 6.4.1.2.5 and 10.3.2."""
    rated = [each.most_power_mw for each in objects if POWER_LIMITED not in each.traits and each.most_power_mw]
    limited = [each.most_power_mw for each in objects if POWER_LIMITED in each.traits and each.most_power_mw]
    if not rated:
        return max(limited, default=None)
    return max(rated)


def wrong_with_offer(objects: Sequence[PowerDataObject]) -> Iterator[str]:
    """Rules that an advertisement breaks, in words. Source: USB PD R3.1, 6.4.1 (order) and 10.2 (limits)."""
    if not objects:
        yield "it offers nothing"
        return
    first = objects[0]
    if first.kind is not Supply.FIXED or first.voltage_mv != 5000:
        yield f"its first object is {first.words}, and 5 V fixed belongs there"
    yield from _out_of_order(objects)
    for object in objects:
        yield from _out_of_range(object)


_ORDER = (Supply.FIXED, Supply.BATTERY, Supply.VARIABLE)


def _out_of_order(objects: Sequence[PowerDataObject]) -> Iterator[str]:
    """By kind, then by voltage; each power range by itself."""
    for within in (
        [object for object in objects if object.position < _EXTENDED_FROM],
        [each for each in objects if each.position >= _EXTENDED_FROM],
    ):
        ranks = [_ORDER.index(each.kind) if each.kind in _ORDER else len(_ORDER) for each in within]
        if ranks != sorted(ranks):
            yield "its kinds are out of order: fixed, battery, variable, adjustable"
        volts = [each.voltage_mv or 0 for each in within if each.kind is Supply.FIXED]
        if volts != sorted(set(volts)):
            yield "its fixed voltages do not rise"
        ranges = [each.most_voltage_mv or 0 for each in within if each.kind is Supply.PPS]
        if ranges != sorted(ranges):
            yield "its PPS ranges do not rise"


def _out_of_range(each: PowerDataObject) -> Iterator[str]:
    extended = each.position >= _EXTENDED_FROM
    limit = _EXTENDED_MV if extended else _PPS_MV if each.kind is Supply.PPS else _STANDARD_MV
    volts = each.voltage_mv or each.most_voltage_mv or 0
    if each.kind is Supply.UNKNOWN:
        yield f"object {each.position} is of a kind that is kept for later"
    elif volts > limit:
        yield f"object {each.position} has {volts / 1000:g} V, and {limit / 1000:g} V are the most there"
    elif not volts:
        yield f"object {each.position} has 0 V"
    if each.kind is not Supply.UNKNOWN and not each.most_power_mw and volts:
        yield f"object {each.position} gives nothing: 0 {'W' if each.power_mw is not None else 'A'}"
    if (each.current_ma or 0) > _MAX_A_MA:
        yield f"object {each.position} has {(each.current_ma or 0) / 1000:g} A, and 5 A are the most"
    if each.least_voltage_mv is not None and each.least_voltage_mv > (each.most_voltage_mv or 0):
        yield f"object {each.position} has its least voltage above its most"


@dataclass(frozen=True)
class Request:
    """What a sink asks of one object. Voltage is reported for adjustable ones alone, power for batteries."""

    position: int
    raw: int
    current_ma: int | None = None
    most_current_ma: int | None = None
    voltage_mv: int | None = None
    power_mw: int | None = None
    mismatch: bool = False
    """It would rather have more than is offered."""
    epr_capable: bool = False
    usb_communication: bool = False


def decode_request(word: int, offered: Sequence[PowerDataObject]) -> Request:
    """A request, which is read beside the object that it asks for; as for a fixed one where that is unknown."""
    word &= 0xFFFFFFFF
    position = bits(word, 31, 28)
    asked = next((each for each in offered if each.position == position), None)
    flags = {"mismatch": bit(word, 26), "epr_capable": bit(word, 22), "usb_communication": bit(word, 25)}
    kind = asked.kind if asked is not None else Supply.FIXED
    if kind is Supply.PPS:
        return Request(position, word, bits(word, 6, 0) * 50, voltage_mv=bits(word, 20, 9) * 20, **flags)
    if kind in (Supply.AVS, Supply.AVS_EXTENDED):
        return Request(position, word, bits(word, 6, 0) * 50, voltage_mv=bits(word, 20, 9) * 25, **flags)
    if kind is Supply.BATTERY:
        return Request(position, word, power_mw=bits(word, 19, 10) * 250, **flags)
    return Request(position, word, bits(word, 19, 10) * 10, bits(word, 9, 0) * 10, **flags)


def wrong_with_request(request: Request, offered: Sequence[PowerDataObject]) -> Iterator[str]:
    """Why a source would refuse, in words. Source: USB PD R3.1, 6.4.2 and 6.6.1."""
    asked = next((each for each in offered if each.position == request.position), None)
    if asked is None:
        yield f"it asks for object {request.position}, and {len(offered)} are offered"
        return
    is_high = asked.high_current_ma is not None and (request.voltage_mv or 0) > _LOW_RANGE_MV
    most = asked.high_current_ma if is_high else asked.current_ma
    if request.current_ma is not None and most is not None and request.current_ma > most:
        yield f"it asks for {request.current_ma / 1000:g} A of {most / 1000:g} A"
    if request.power_mw is not None and request.power_mw > (asked.power_mw or 0):
        yield f"it asks for {request.power_mw / 1000:g} W of {(asked.power_mw or 0) / 1000:g} W"
    if request.voltage_mv is not None:
        yield from _voltage_of_request(request.voltage_mv, request.current_ma or 0, asked)


def _voltage_of_request(voltage_mv: int, current_ma: int, asked: PowerDataObject) -> Iterator[str]:
    least, most = asked.least_voltage_mv or 0, asked.most_voltage_mv or 0
    if not least <= voltage_mv <= most:
        yield f"it asks for {voltage_mv / 1000:g} V of {least / 1000:g} to {most / 1000:g} V"
    elif asked.power_mw is not None and voltage_mv * current_ma > asked.power_mw * 1000:
        yield f"it asks for {voltage_mv * current_ma / 1e6:g} W of {asked.power_mw / 1000:g} W"
