"""Structured vendor messages: identities, modes, and DisplayPort's status and configuration.

Source: USB PD R3.1 V1.8, 6.4.4 (vendor defined); VESA DisplayPort Alt Mode on USB Type-C 2.1, 5.2 (commands).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.decode.bits import bit, bits
from auditra.core.decode.identity import Identity, decode_identity

DISPLAYPORT, POWER_DELIVERY = 0xFF01, 0xFF00
_COMMANDS = {
    1: "Discover Identity", 2: "Discover SVIDs", 3: "Discover Modes", 4: "Enter Mode", 5: "Exit Mode", 6: "Attention",
    16: "DisplayPort Status", 17: "DisplayPort Configure",
}  # fmt: skip
_ANSWERS = ("asked", "answered", "refused", "busy")
_IDENTITY, _SVIDS, _MODES, _ATTENTION, _STATUS, _CONFIGURE = 1, 2, 3, 6, 16, 17
_CONNECTED = ("nothing", "the source side", "the display side", "both sides")
_SIGNALLING = {1: "8.1 Gb/s a lane", 2: "10 Gb/s a lane", 4: "20 Gb/s a lane"}
_PINS = "ABCDEF"


@dataclass(frozen=True)
class VendorMessage:
    """One of them. An unstructured one has a vendor and nothing else that can be read."""

    svid: int
    structured: bool
    command: str = ""
    answer: str = ""
    """asked, answered, refused or busy."""
    object_position: int = 0
    identity: Identity | None = None
    svids: tuple[int, ...] = ()
    modes: tuple[int, ...] = ()
    details: tuple[str, ...] = ()


def decode_vendor(words: Sequence[int], *, of_cable: bool) -> VendorMessage | None:
    """A vendor message of its data objects; None without any. Never raises."""
    if not words:
        return None
    header, rest = words[0], tuple(words[1:])
    svid = bits(header, 31, 16)
    if not bit(header, 15):
        return VendorMessage(svid, structured=False)
    command, answer = bits(header, 4, 0), _ANSWERS[bits(header, 7, 6)]
    is_displayport = svid == DISPLAYPORT or command < _STATUS
    name = _COMMANDS.get(command, "") if is_displayport else ""
    name = name or f"command {command}"
    answered = answer == "answered"
    identity = None
    if command == _IDENTITY and answered and rest:
        certificate, product = (*rest[1:3], 0, 0)[:2]
        identity = decode_identity(rest[0], certificate, product, rest[3:], of_cable=of_cable)
    return VendorMessage(
        svid, True, name, answer, bits(header, 10, 8), identity,
        tuple(_svids(rest)) if command == _SVIDS and answered else (),
        rest if command == _MODES and answered else (), _details(svid, command, rest, answered=answered),
    )  # fmt: skip


def _svids(words: Sequence[int]) -> list[int]:
    """Two a word; a zero ends them."""
    found = [part for word in words for part in (bits(word, 31, 16), bits(word, 15, 0))]
    return found[: found.index(0)] if 0 in found else found


def _details(svid: int, command: int, rest: tuple[int, ...], *, answered: bool) -> tuple[str, ...]:
    if svid != DISPLAYPORT or not rest:
        return ()
    if command in (_STATUS, _ATTENTION):
        return (_status(rest[0]),)
    if command == _CONFIGURE:
        return (configuration_in_words(rest[0]),)
    if command == _MODES and answered:
        return tuple(capabilities_in_words(word) for word in rest)
    return ()


def _status(word: int) -> str:
    """Source: DisplayPort Alt Mode 2.1, table 5-3."""
    parts = [f"connected: {_CONNECTED[bits(word, 1, 0)]}"]
    parts += [name for place, name in _STATUS_BITS if bit(word, place)]
    return ", ".join(parts)


_STATUS_BITS = (
    (2, "low power"), (3, "enabled"), (4, "prefers to keep fast data"),
    (5, "asks for USB again"), (6, "asks to leave"), (7, "hot plug detect high"), (8, "hot plug interrupt"),
)  # fmt: skip


def configuration_in_words(word: int) -> str:
    """Pins and signalling that were chosen. Source: DisplayPort Alt Mode 2.1, table 5-13."""
    select = bits(word, 1, 0)
    if select == 0:
        return "USB, no DisplayPort"
    pins = "".join(name for n, name in enumerate(_PINS) if bit(bits(word, 15, 8), n))
    lanes = "four lanes" if pins in ("A", "C", "E") else "two lanes and fast data" if pins in ("B", "D", "F") else "?"
    signalling = _SIGNALLING.get(bits(word, 5, 2), "")
    return ", ".join(filter(None, (f"pin assignment {pins or '?'} ({lanes})", signalling)))


def capabilities_in_words(word: int) -> str:
    """What a DisplayPort mode can do. Source: DisplayPort Alt Mode 2.1, table 5-2."""
    side = {1: "display side", 2: "source side", 3: "both sides"}.get(bits(word, 1, 0), "no side")
    receptacle = bit(word, 6)
    as_source, as_display = bits(word, 15, 8), bits(word, 23, 16)
    if not receptacle:
        as_source, as_display = as_display, as_source
    told = [
        f"{name} pins {pins}" for name, pins in (("source", _pins(as_source)), ("display", _pins(as_display))) if pins
    ]
    return ", ".join((side, "receptacle" if receptacle else "plug", *told))


def _pins(byte: int) -> str:
    return "".join(name for n, name in enumerate(_PINS) if bit(byte, n))
