"""Slips of unit and place in typed values, each for the quantities that it makes sense for.

Megabytes are never typed in inches. A value that such things have anyway, as a drive on a slower link has, is no slip,
however well a factor would fit.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from auditra.core.claims.promise import Scale, Sense
from auditra.core.errors import QuantityError
from auditra.core.links.ethernet import RATES_BPS, tcp_ceiling_bps
from auditra.core.links.picture_links import PICTURE_LINKS
from auditra.core.links.usb import LINKS, link_at
from auditra.core.model.reading import NETWORK_RATES, PAYLOAD_RATES, STORAGE_RATES, Quantity
from auditra.core.quantities.display import bit_rate, plain_number
from auditra.core.quantities.parsing import parse_typed
from auditra.core.quantities.units import Dimension

_SIZES = (Quantity.CAPACITY, Quantity.LARGEST_FRAME)
_LENGTHS = (Quantity.LENGTH, Quantity.SLOT_WIDTH)
_TEMPERATURES = (Quantity.CASE_TEMPERATURE, Quantity.AMBIENT_TEMPERATURE)


@dataclass(frozen=True)
class Slip:
    """A factor that a value is off by when something is typed for something else."""

    factor: float
    words: str
    fits: float = 0.05
    """How near the corrected value must come to what is expected."""


_BITS = Slip(8.0, "bits for bytes")
_PREFIX = Slip(1000.0, "another prefix")
_BINARY = (Slip(1.048576, "MiB for MB", 0.005), Slip(1.073741824, "GiB for GB", 0.005),
           Slip(1.099511627776, "TiB for TB", 0.005))  # fmt: skip
_INCHES, _FEET = Slip(2.54, "inches for centimetres", 0.03), Slip(30.48, "feet for centimetres", 0.03)
_POINT = Slip(10.0, "a misplaced decimal point", 0.03)
_PLAUSIBLE = (0.6, 1.6)
"""A value that is this part of the promise needs no slip to be explained."""
_SLOWER_LINK_GIVES = (0.5, 1.0)
"""Of the ceiling of a slower link: what a sound drive or peer shows on it."""
_MAX_NETWORK_FRAME_BYTES = 9000
_SIZE_IN_TIME = re.compile(
    r"(?P<size>\d[\d.,]*\s*(?:[KMGT]iB|[kMGT]B))\D{1,20}?(?P<time>\d[\d.,]*)\s*(?P<unit>seconds?|sec|s|minutes?|min)\b"
)
_ONLY_TIME = re.compile(r"\s*(?:in|took)?\s*(?P<time>\d[\d.,]*)\s*(?P<unit>seconds?|sec|s|minutes?|min)\s*")
_TIME_REACH = 0.1
"""How far a rate may be from size over seconds: people round both."""


def question_value(
    quantity: Quantity | str, value: float, scale: Scale, show: str, link_bps: float | None = None
) -> str:
    """What is odd about a typed value beside what was promised, in words; empty where nothing is.

    `show` is the value as it is reported; `link_bps` the rate that its link was read to have, where one was.
    """
    if link_bps is not None and (words := _above_link(quantity, value, show, link_bps)):
        return words
    if quantity in _TEMPERATURES:
        return _fahrenheit(value, scale, show)
    if value <= 0 or scale.limit <= 0 or _is_explained(quantity, value, scale, link_bps):
        return _binary(quantity, value, scale, show)
    return next(_slips(quantity, value, scale, show), "")


def ceiling_of(quantity: Quantity | str, link_bps: float) -> tuple[float, str] | None:
    """The most payload of a link, in bits per second, with the sum; None for what is no payload."""
    if quantity in NETWORK_RATES:
        most = tcp_ceiling_bps(link_bps, _MAX_NETWORK_FRAME_BYTES)
        return most, f"TCP over {bit_rate(link_bps)} with frames of {_MAX_NETWORK_FRAME_BYTES} B"
    if quantity not in STORAGE_RATES:
        return None
    link = link_at(link_bps)
    if link is None:
        return link_bps, bit_rate(link_bps)
    return link.ceiling_bps, f"{bit_rate(link_bps)} less its coding ({link.coding_words})"


def _above_link(quantity: Quantity | str, value: float, show: str, link_bps: float) -> str:
    most = ceiling_of(quantity, link_bps)
    if most is None or value <= most[0]:
        return ""
    return f"{show} is {value / most[0]:.2f} times what the negotiated link carries: {most[1]}"


def _is_explained(quantity: Quantity | str, value: float, scale: Scale, link_bps: float | None) -> bool:
    """Such things have this value: near the promise, beyond it, within it, or what a slower link gives."""
    share = value / scale.limit
    most = max(_PLAUSIBLE[1], (scale.ceiling or 0.0) / scale.limit)
    if _PLAUSIBLE[0] < share < most:
        return True
    if scale.sense is Sense.AT_MOST and share <= 1:
        return True
    if quantity not in PAYLOAD_RATES:
        return False
    lower = [link_bps] if link_bps is not None else [link.rate_bps for link in LINKS]
    if quantity in NETWORK_RATES:
        lower = [link_bps] if link_bps is not None else list(RATES_BPS)
    ceilings = (found[0] for rate in lower if (found := ceiling_of(quantity, rate)) is not None)
    low, high = _SLOWER_LINK_GIVES
    return any(low * ceiling <= value <= high * ceiling and ceiling < scale.limit for ceiling in ceilings)


def _slips(quantity: Quantity | str, value: float, scale: Scale, show: str) -> Iterator[str]:
    for slip in _of_quantity(quantity, scale):
        for corrected, sign in ((value * slip.factor, "x"), (value / slip.factor, "/")):
            if _is_expected(corrected, scale, slip.fits):
                yield f"{show} {sign} {slip.factor:g} would match the claim: {slip.words}?"


def _of_quantity(quantity: Quantity | str, scale: Scale) -> tuple[Slip, ...]:
    """The slips that make sense; a decimal point is guessed only for a figure that the seller states."""
    point = (_POINT,) if scale.stated and quantity not in PAYLOAD_RATES else ()
    if quantity in PAYLOAD_RATES:
        return _BITS, _PREFIX
    if quantity in _SIZES:
        return _BITS, _PREFIX, *point
    return (_INCHES, _FEET, *point) if quantity in _LENGTHS else point


def _is_expected(value: float, scale: Scale, fits: float) -> bool:
    """Whether a value is what one expects of a kept promise: at the limit, or between it and the ceiling."""
    share = value / scale.limit
    if scale.sense is Sense.AT_MOST:
        return 1 - 3 * fits <= share <= 1
    most = max(1.0, (scale.ceiling or 0.0) / scale.limit)
    return 1 - fits <= share <= most + fits


def _binary(quantity: Quantity | str, value: float, scale: Scale, show: str) -> str:
    """Binary for decimal, near a figure that the seller states: 931 where 1,000 are promised."""
    if not scale.stated or scale.sense is Sense.AT_MOST or quantity not in (*PAYLOAD_RATES, Quantity.CAPACITY):
        return ""
    for slip in _BINARY if quantity is Quantity.CAPACITY else _BINARY[:1]:
        for corrected, sign in ((value * slip.factor, "x"), (value / slip.factor, "/")):
            off = abs(value / scale.limit - 1)
            if abs(corrected / scale.limit - 1) <= slip.fits < off and (value < scale.limit or quantity in _SIZES):
                return f"{show} {sign} {slip.factor:.4g} would match the claim: {slip.words}?"
    return ""


def _fahrenheit(value: float, scale: Scale, show: str) -> str:
    """A temperature above the promise that is within it, and no colder than a room, when read as Fahrenheit."""
    celsius = (value - 32) / 1.8
    if scale.sense is Sense.AT_MOST and value > scale.limit * 1.5 and 15.0 <= celsius <= scale.limit:
        return f"{show} would be {celsius:.0f} C if it was read in Fahrenheit: F for C?"
    return ""


def question_time(note: str, file_bytes: float | None, quantity: Quantity | str, value: float) -> str:
    """What is odd about a rate beside the size and the seconds that were noted with it; empty where they agree."""
    if quantity not in PAYLOAD_RATES or (found := _size_in_time(note, file_bytes)) is None:
        return ""
    size_bytes, seconds = found
    rate = size_bytes * 8 / seconds if seconds > 0 else 0.0
    if not rate or abs(value / rate - 1) <= _TIME_REACH:
        return ""
    sum_ = f"{plain_number(size_bytes / 1e6)} MB in {seconds:g} s are {plain_number(rate / 8e6)} MB/s"
    return f"the note does not fit the value: {sum_}"


def _size_in_time(note: str, file_bytes: float | None) -> tuple[float, float] | None:
    """Bytes and seconds: both as noted, or the seconds of a note beside the file of the set-up."""
    found = _SIZE_IN_TIME.search(note) or (_ONLY_TIME.fullmatch(note) if file_bytes else None)
    if found is None:
        return None
    try:
        named = found.groupdict().get("size")
        size = parse_typed(named, Dimension.SIZE)[0] if named else file_bytes or 0.0
        seconds = float(found["time"].replace(",", "."))
    except (QuantityError, ValueError):
        return None
    return size, seconds * (60 if found["unit"].startswith("min") else 1)


_WORDS: tuple[tuple[float, str], ...] = (
    (0.1, r"(?:a|one) tenth"), (0.25, r"(?:a|one) quarter|a fourth"), (1 / 3, r"(?:a|one) third"),
    (0.5, r"half"), (2 / 3, r"two thirds"), (0.75, r"three quarters"),
    (1.0, r"full (?:speed|rate|power)|as promised|the same as direct"), (2.0, r"twice|double"),
)  # fmt: skip
"""What people say of a value beside the promise, or beside the same gear direct."""
_SAYS = tuple((share, re.compile(rf"\b(?:{words})\b", re.IGNORECASE)) for share, words in _WORDS)
_WORDS_REACH = 0.35
"""How far a value may be from what a word says of it: people round."""


def question_words(note: str, value: float, besides: Mapping[str, float]) -> str:
    """What is odd about a value beside the words that were noted with it: ``half`` beside a tenth; else empty.

    `besides` are the values that the words can be meant of, by what each is: what was promised, the same gear direct.
    """
    said = next(((share, found[0]) for share, pattern in _SAYS if (found := pattern.search(note))), None)
    shares = {name: value / whole for name, whole in besides.items() if whole > 0}
    if said is None or not shares:
        return ""
    if any(abs(share / said[0] - 1) <= _WORDS_REACH for share in shares.values()):
        return ""
    told = " and ".join(f"{share:.2g} of {name}" for name, share in shares.items())
    return f'the note says "{said[1]}", the value is {told}'


_HAS: dict[Quantity, tuple[float, float, str]] = {
    Quantity.LENGTH: (0.005, 100.0, "a lead or a case of such a thing"),
    Quantity.CASE_TEMPERATURE: (-20.0, 120.0, "a case that anybody could test"),
    Quantity.AMBIENT_TEMPERATURE: (-20.0, 60.0, "a room"),
    Quantity.POWER: (0.0, 300.0, "a socket by any standard of USB, with room spare"),
    Quantity.MASS: (0.001, 20.0, "such a thing"),
    Quantity.CURRENT: (0.0, 20.0, "a socket"),
    Quantity.DROP: (0.0, 5.0, "a lead that anything works behind"),
}
"""What such things have, in SI: a value outside is looked at again."""


_LINK_RATES = (
    1.5e6, 12e6, *(link.rate_bps for link in LINKS), 80e9, 120e9, *RATES_BPS,
    *(link.lane_bps * link.lanes for link in PICTURE_LINKS),
)  # fmt: skip
"""Sources: USB 2.0, 7.1; USB 3.2; USB4 2.0, 3.2 (lanes of 40 Gb/s); IEEE 802.3; display links as in links/."""


_SAME_RATE = 0.02


def question_range(quantity: Quantity | str, value: float, show: str) -> str:
    """What is odd about a value, whatever was promised; empty where such things have it."""
    is_link = any(math.isclose(value, rate, rel_tol=_SAME_RATE) for rate in _LINK_RATES)
    if quantity is Quantity.LINK and value > 0 and not is_link:
        return f"{show} is the rate of no link that there is. Another unit, or a digit too many?"
    if not isinstance(quantity, Quantity) or quantity not in _HAS:
        return ""
    low, high, what = _HAS[quantity]
    if low <= value <= high:
        return ""
    return f"{show} is outside the range of {what}: {low:g} to {high:g} {quantity.unit}. Another unit?"
