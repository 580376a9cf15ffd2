"""``auditra carries``: can these links carry this together? The answer with its sum, and the part that sets it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.errors import InputError, QuantityError
from auditra.core.links.cards import BUS_BPS
from auditra.core.links.carriage import Answer, Carriage, Picture, carries
from auditra.core.links.chain import Chain, Stage, chain_of
from auditra.core.links.copper import USB_C_GROUND_DROP_V, USB_C_VBUS_DROP_V, drop_in, thinnest_gauge
from auditra.core.links.display import parse_mode
from auditra.core.links.ethernet import RATES_BPS, cable_for, least_category, tcp_ceiling_bps
from auditra.core.links.picture_links import DEPTHS, Chroma
from auditra.core.links.slowest import slowest_for_payload, slowest_for_pictures
from auditra.core.links.usb import LINKS
from auditra.core.links.usb_c import Way, find_way
from auditra.core.quantities.display import bit_rate, byte_rate
from auditra.core.quantities.parsing import both_forms, parse_quantity
from auditra.core.quantities.units import Dimension

_ETHERNET = re.compile(r"ethernet\s+(.+)", re.IGNORECASE)
_CARD = re.compile(r"cards?\s+(.+)", re.IGNORECASE)
_RATES = (Dimension.BIT_RATE, Dimension.BYTE_RATE)


@dataclass(frozen=True)
class Asked:
    """What a link must carry: display modes with depth and chroma, and data payload in bits per second."""

    modes: Sequence[str] = ()
    data: str | None = None
    depth_bits: int = 8
    chroma: str = Chroma.FULL.words
    compressed: float | None = None

    def pictures(self) -> tuple[Picture, ...]:
        """Raises: InputError."""
        chroma = next((each for each in Chroma if each.words == self.chroma), None)
        if chroma is None or self.depth_bits not in DEPTHS:
            known = ", ".join(each.words for each in Chroma)
            raise InputError("the picture", why="unknown chroma or depth", do=f"Take {known} and 8, 10 or 12 bit")
        return tuple(Picture(parse_mode(mode), self.depth_bits, chroma, self.compressed) for mode in self.modes)

    @property
    def data_bps(self) -> float:
        return parse_quantity(self.data, *_RATES).value if self.data else 0.0


def answer(links: Sequence[str], asked: Asked) -> str:
    """The answer for each link, then for all of them as a chain. Raises: InputError."""
    pictures, data_bps = asked.pictures(), asked.data_bps
    lines: list[str] = []
    stages: list[Stage] = []
    for name in links:
        stage = _data_stage(name)
        if stage is not None and not pictures:
            stages.append(stage)
            continue
        way = find_way(name)
        stages.append(_usb_stage(way))
        if pictures:
            lines += _told(way, carries(way, pictures, data_bps))
    if not pictures:
        lines += _chain_told(chain_of(stages), data_bps)
    if asked.data:
        lines.append(f"asked: {both_forms(parse_quantity(asked.data, *_RATES))} of payload")
    return "\n".join(lines)


def slowest_answer(asked: Asked) -> str:
    """The slowest link of each kind that carries it. Raises: InputError."""
    lines: list[str] = []
    for picture in slowest_for_pictures(asked.pictures()) if asked.modes else ():
        if picture.link is None or picture.carriage is None:
            lines.append(f"{picture.kind}: no link carries it in full")
        else:
            sums = (f"  {line}" for line in picture.carriage.sum)
            lines += [f"{picture.kind}: at least {picture.link.name}", *sums]
    for each in slowest_for_payload(asked.data_bps) if asked.data else ():
        most = "" if each.most_bps is None else f" (up to {bit_rate(each.most_bps)} = {byte_rate(each.most_bps)})"
        lines.append(f"{each.kind}: {f'at least {each.link}' if each.link else 'no link is fast enough'}{most}")
    return "\n".join(lines)


def _told(way: Way, carriage: Carriage) -> list[str]:
    left = carriage.has_bps - carriage.takes_bps
    margin = f"{left / 1e9:.2f} Gb/s spare" if left >= 0 else f"{-left / 1e9:.2f} Gb/s too little"
    note = " Within a few per cent: the display's own timing and the link's overhead decide." if carriage.near else ""
    end = "" if carriage.answer is Answer.NO and not carriage.has_bps else f"  {margin}.{note}"
    return [f"{way.name}: {carriage.in_words}", *(f"  {line}" for line in carriage.sum), end]


def _usb_stage(way: Way) -> Stage:
    """Its payload, and what packets leave of it for a drive."""
    most = max(each.data_bps for each in way.arrangements)
    link = next((each for each in LINKS if each.name == way.name and each.bulk_ceiling_bps < most), None)
    return Stage(way.name, most, "" if link is None else f"at most {byte_rate(link.bulk_ceiling_bps)} to a drive")


def _data_stage(name: str) -> Stage | None:
    """A network link or a card bus as a part of a chain; None for other names. Raises: QuantityError."""
    if match := _ETHERNET.fullmatch(name.strip()):
        rate_bps = parse_quantity(match[1], Dimension.BIT_RATE).value
        if rate_bps not in RATES_BPS:
            known = ", ".join(map(bit_rate, RATES_BPS))
            raise QuantityError(f'"{name}"', why="Ethernet over copper has no such rate", do=f"It has {known}")
        return Stage(f"Ethernet {bit_rate(rate_bps)}", tcp_ceiling_bps(rate_bps), "TCP over full frames of 1,500 B")
    if match := _CARD.fullmatch(name.strip()):
        bus = next((each for each in BUS_BPS if each.lower() == match[1].strip().lower()), None)
        if bus is None:
            raise QuantityError(f'"{name}"', why="unknown card bus", do=f"Known: {', '.join(BUS_BPS)}")
        return Stage(f"{bus} card", BUS_BPS[bus], "its bus")
    return None


def _chain_told(chain: Chain, data_bps: float) -> list[str]:
    lines = [
        f"  {stage.name}: {bit_rate(stage.ceiling_bps)} of payload{f'; {stage.why}' if stage.why else ''}"
        for stage in chain.stages
    ]
    limits = " and ".join(stage.name for stage in chain.limiting)
    if not data_bps:
        return [*lines, f"{bit_rate(chain.ceiling_bps)} at most, set by {limits}"]
    will_do = "yes" if data_bps <= chain.ceiling_bps else "no"
    return [f"{will_do}: {bit_rate(chain.ceiling_bps)} at most, set by {limits}", *lines]


@dataclass(frozen=True)
class Wire:
    """The wires of a cable: power, ground where it is another, and how warm they are."""

    gauge_awg: int
    ground_awg: int | None = None
    celsius: float = 20.0

    def __str__(self) -> str:
        ground = "" if self.ground_awg is None else f" and {self.ground_awg} AWG ground"
        warm = "" if self.celsius == 20.0 else f" at {self.celsius:g} C"
        return f"{self.gauge_awg} AWG{ground}{warm}"


def copper_answer(amperes: str, length: str, wire: Wire) -> str:
    """What a current leaves in a cable, beside the limits of Type-C. Raises: InputError."""
    current, metres = parse_quantity(amperes, Dimension.CURRENT), parse_quantity(length, Dimension.LENGTH)
    try:
        drop = drop_in(wire.gauge_awg, metres.value, current.value, wire.celsius, ground_awg=wire.ground_awg)
    except ValueError as error:
        raise InputError(str(wire), why=str(error)) from error
    most = USB_C_VBUS_DROP_V + USB_C_GROUND_DROP_V
    verb = "within" if drop.volts <= most else "beyond"
    way = f"loop resistance: 2 x {metres.value:g} m of {wire} = {drop.ohm * 1e3:.1f} mohm"
    limit = f"{most * 1e3:.0f} mV that USB Type-C allows over VBUS and ground together (R2.2, 4.4.1)"
    return (
        f"{way}; x {current} = {drop.volts * 1e3:.0f} mV, {drop.watts:.2f} W\n{verb} the {limit}, contacts not counted"
    )


def gauge_answer(amperes: str, length: str, most: str) -> str:
    """The thinnest wire that keeps a drop within a limit. Raises: InputError."""
    current, metres = parse_quantity(amperes, Dimension.CURRENT), parse_quantity(length, Dimension.LENGTH)
    limit = parse_quantity(most, Dimension.VOLTAGE)
    gauge = thinnest_gauge(metres.value, current.value, limit.value)
    if gauge is None:
        return f"no wire from 10 to 40 AWG keeps the drop within {limit} at {current} over {metres.value:g} m"
    drop = drop_in(gauge, metres.value, current.value)
    return f"{gauge} AWG or thicker: drops {drop.volts * 1e3:.0f} mV at {current} over {metres.value:g} m"


def category_answer(category: str, length: str, rate: str) -> str:
    """Whether a network cable will do by standard. Raises: InputError."""
    metres, rate_bps = parse_quantity(length, Dimension.LENGTH).value, parse_quantity(rate, Dimension.BIT_RATE).value
    try:
        found = cable_for(category.removeprefix("cat").strip(), metres, rate_bps)
    except KeyError:
        raise InputError(f'"{category}"', why="no such category", do="Take 3, 5, 5e, 6, 6A, 7, 7A or 8") from None
    least = least_category(metres, rate_bps)
    return f"{'yes' if found.will_do else 'no'}: {found.why}; the lowest category that will do: {least or 'none'}"
