"""A cable's marker, wires, copper and seller's words laid side by side: where they agree, where they cannot all be so,
and what only a measurement decides.

Source: USB Type-C R2.2, 3.4 (wires), 4.4.1 (IR drop), 4.6.2 (marker above 3 A); USB PD R3.1, 10.3 (240 W).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import TypeVar

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.cable import Carries, CarriesPicture, Marked
from auditra.core.claims.promise import Promise
from auditra.core.decode.identity import CableIdentity, Identity, limits_in_words
from auditra.core.links.copper import USB_C_GROUND_DROP_V, USB_C_VBUS_DROP_V
from auditra.core.quantities.display import bit_rate
from auditra.core.quantities.units import Dimension

FAST_PAIRS = ("TX1", "RX1", "TX2", "RX2")
WIRES = ("VBUS", "GND", "CC", "VCONN", "D+", "D-", *FAST_PAIRS, "SBU1", "SBU2")
"""Every contact that can be found at both plugs; a pair has one name. Source: USB Type-C R2.2, table 3-5."""
_UNMARKED_W, _UNMARKED_MA = 60.0, 3000
_HIGH_SPEED_MBPS = 480
_TWO_LANES_MBPS = 2
Kind = TypeVar("Kind", bound=Promise)


class Agreement(StrEnum):
    """How what is known of one thing stands together."""

    AGREES = "agrees"
    CONTRADICTS = "contradicts"
    TO_BE_MEASURED = "only a measurement decides"


@dataclass(frozen=True)
class CableKnown:
    """All that is known of a cable before it is tried. None is not known; an empty set of wires was looked at.

    Resistances are of the whole way, in milliohm, from plug to plug. `answered` is whether a marker was asked for.
    """

    marker: Identity | None = None
    answered: bool | None = None
    wires: frozenset[str] | None = None
    vbus_mohm: float | None = None
    ground_mohm: float | None = None
    claims: tuple[Claim, ...] = ()

    @property
    def cable(self) -> CableIdentity | None:
        return self.marker.cable if self.marker is not None else None


@dataclass(frozen=True)
class CableFinding:
    """One thing: power, data, display, marker or copper; what each source says of it, and how that stands."""

    about: str
    standing: Agreement
    words: str
    says: tuple[str, ...] = ()


@dataclass(frozen=True)
class CableAllows:
    """The most that everything known allows together, and which of it sets the limit."""

    power_w: float | None
    power_why: str
    lane_mbps: int | None
    data_why: str
    display_lanes: int | None
    display_why: str


def side_by_side(known: CableKnown) -> tuple[CableFinding, ...]:
    """Every finding, power first."""
    return tuple(finding for find in (_marker, _power, _copper, _data, _display) for finding in find(known))


def allows(known: CableKnown) -> CableAllows:
    """What power, data and display it allows by what is known, and why."""
    return CableAllows(*_power_limit(known), *_data_limit(known), *_display_limit(known))


def _said(known: CableKnown, kind: type[Kind]) -> Iterator[Kind]:
    return (claim.promise for claim in known.claims if isinstance(claim.promise, kind))


def _loads(known: CableKnown, dimension: Dimension) -> list[float]:
    return [each.load.value for each in _said(known, Carries) if each.load.dimension is dimension]


def _sources(known: CableKnown, seller: Iterable[str], wires: str = "") -> tuple[str, ...]:
    """What each says, in the order in which it is looked at."""
    told = [f"seller: {each}" for each in seller]
    if known.cable is not None:
        told.append(f"marker: {limits_in_words(known.cable)}")
    elif known.answered is False:
        told.append("marker: none answered")
    return (*told, *((f"wires: {wires}",) if wires else ()))


def _marker(known: CableKnown) -> Iterator[CableFinding]:
    for said in _said(known, Marked):
        sources = _sources(known, [str(said)])
        if known.cable is None:
            if known.answered is False:
                yield CableFinding(
                    "marker", Agreement.CONTRADICTS, "the seller states a marker, but none answers", sources
                )
            continue
        wrong = list(_marker_differs(said, known.cable))
        standing = Agreement.CONTRADICTS if wrong else Agreement.AGREES
        yield CableFinding("marker", standing, "; ".join(wrong) or "the marker confirms it", sources)


def _marker_differs(said: Marked, marker: CableIdentity) -> Iterator[str]:
    if said.amperes and marker.current_ma is not None and marker.current_ma < said.amperes * 1000:
        yield f"the marker says {marker.current_ma / 1000:g} A, the seller {said.amperes:g} A"
    if said.volts and marker.max_vbus_mv < said.volts * 1000:
        yield f"the marker says {marker.max_vbus_mv / 1000:g} V, the seller {said.volts:g} V"


def _power_limit(known: CableKnown) -> tuple[float | None, str]:
    if known.wires is not None and not {"VBUS", "GND"} <= known.wires:
        return 0.0, "VBUS or ground is not there"
    if known.cable is not None and known.cable.most_w is not None:
        return known.cable.most_w, f"the marker: {limits_in_words(known.cable)}"
    if known.answered is False:
        return _UNMARKED_W, "no marker: 3 A at up to 20 V (USB Type-C R2.2, 4.6.2)"
    return None, "neither marker nor wires are known"


def _power(known: CableKnown) -> Iterator[CableFinding]:
    most, why = _power_limit(known)
    watts = [*_loads(known, Dimension.POWER), *(20 * amperes for amperes in _loads(known, Dimension.CURRENT))]
    if not watts:
        return
    promised = max(watts)
    sources = _sources(known, [f"carries {promised:g} W"])
    if most is None:
        yield CableFinding("power", Agreement.TO_BE_MEASURED, why, sources)
    elif promised > most:
        yield CableFinding(
            "power", Agreement.CONTRADICTS, f"{promised:g} W are promised, {most:g} W allowed: {why}", sources
        )
    elif dropped := [each.words for each in _copper(known) if each.standing is Agreement.CONTRADICTS]:
        words = f"the marker allows {promised:g} W, its copper does not: {dropped[0]}"
        yield CableFinding("power", Agreement.CONTRADICTS, words, sources)
    elif known.vbus_mohm is None:
        words = f"{promised:g} W fit the marker; whether its copper bears them, the drop at full current shows"
        yield CableFinding("power", Agreement.TO_BE_MEASURED, words, sources)
    else:
        yield CableFinding("power", Agreement.AGREES, f"{promised:g} W of {most:g} W: {why}", sources)


def _copper(known: CableKnown) -> Iterator[CableFinding]:
    """The drop at the current that is promised, each way by itself. Source: USB Type-C R2.2, 4.4.1."""
    amperes = _rated_a(known)
    ways = (("VBUS", known.vbus_mohm, USB_C_VBUS_DROP_V), ("ground", known.ground_mohm, USB_C_GROUND_DROP_V))
    for name, mohm, most_v in ways:
        if mohm is None or amperes is None:
            continue
        drop_mv, most_mv = amperes * mohm, most_v * 1000
        sum_ = f"{amperes:g} A x {mohm:g} mohm = {drop_mv:.0f} mV, {most_mv:.0f} mV are allowed"
        standing = Agreement.CONTRADICTS if drop_mv > most_mv else Agreement.AGREES
        yield CableFinding("copper", standing, f"{name}: {sum_}", _sources(known, []))


def _rated_a(known: CableKnown) -> float | None:
    """The current that it is for: as the marker says, else as the seller does."""
    if known.cable is not None and known.cable.current_ma is not None:
        return known.cable.current_ma / 1000
    said = _loads(known, Dimension.CURRENT)
    return max(said) if said else (_UNMARKED_MA / 1000 if known.answered is False else None)


def _fast_pairs(known: CableKnown) -> int | None:
    """How many of the four fast pairs are there; None where it is not known."""
    return None if known.wires is None else sum(pair in known.wires for pair in FAST_PAIRS)


def _data_limit(known: CableKnown) -> tuple[int | None, str]:
    pairs, marker = _fast_pairs(known), known.cable
    if known.wires is not None and pairs == 0:
        usb2 = {"D+", "D-"} <= known.wires
        return (_HIGH_SPEED_MBPS, "no fast pairs are there") if usb2 else (0, "no data wires are there")
    if marker is not None and marker.speed is not None:
        return marker.speed.lane_mbps, f"the marker: {marker.speed.name}"
    return None, "the fast pairs are there, and how fast they are only data shows" if pairs else "nothing is known"


def _data(known: CableKnown) -> Iterator[CableFinding]:
    pairs, marker = _fast_pairs(known), known.cable
    told = "" if pairs is None else f"{pairs} of 4 fast pairs"
    if marker is not None and marker.speed is not None and marker.speed.lane_mbps > _HIGH_SPEED_MBPS and pairs == 0:
        words = f"it is marked for {marker.speed.name}, and no fast pairs are there"
        yield CableFinding("data", Agreement.CONTRADICTS, words, _sources(known, [], told))
    rates = _loads(known, Dimension.BIT_RATE)
    if not rates:
        return
    promised, sources = max(rates), _sources(known, [f"carries {bit_rate(max(rates))}"], told)
    lane, why = _data_limit(known)
    lanes = _lanes_for_data(pairs, lane)
    if lane is not None and promised > lane * lanes * 1e6:
        most = bit_rate(lane * lanes * 1e6) if lane else "no data"
        words = f"{bit_rate(promised)} are promised, {most} allowed: {why}"
        yield CableFinding("data", Agreement.CONTRADICTS, words, sources)
    else:
        words = "marker and wires allow it" if lane is not None else why
        yield CableFinding("data", Agreement.TO_BE_MEASURED, f"{words}; only data proves it", sources)


def _lanes_for_data(pairs: int | None, lane_mbps: int | None) -> int:
    """Two lanes of fast data take all four pairs; USB 2.0 has its own wires."""
    if lane_mbps is not None and lane_mbps <= _HIGH_SPEED_MBPS:
        return 1
    return _TWO_LANES_MBPS if pairs is None or pairs == len(FAST_PAIRS) else 1


def _display_limit(known: CableKnown) -> tuple[int | None, str]:
    pairs = _fast_pairs(known)
    if known.wires is not None:
        if not {"SBU1", "SBU2"} <= known.wires:
            return 0, "without SBU there is no DisplayPort (its auxiliary channel runs there)"
        return pairs, f"{pairs} of 4 fast pairs are there"
    marker = known.cable
    if marker is not None and marker.speed is not None and marker.speed.lane_mbps <= _HIGH_SPEED_MBPS:
        return 0, "it is marked for USB 2.0: no fast pairs"
    return None, "its wires are not known"


def _display(known: CableKnown) -> Iterator[CableFinding]:
    modes: Sequence[str] = [str(each.mode) for each in _said(known, CarriesPicture)]
    if not modes:
        return
    lanes, why = _display_limit(known)
    sources = _sources(known, [f"carries picture {mode}" for mode in modes])
    if lanes is not None and lanes < 2:
        yield CableFinding("display", Agreement.CONTRADICTS, f"{modes[0]} is promised: {why}", sources)
    else:
        yield CableFinding("display", Agreement.TO_BE_MEASURED, f"{why}; a display behind it shows the rest", sources)
