"""Connectors by their names: what people write becomes the one name that everything fits by.

A connector is a socket; with ``plug`` behind it, it is what goes into one. Names are those of the standards: USB Type-C
R2.3, USB 3.2 (Standard-A, Micro-B), HDMI 2.1, DisplayPort 2.1, IEC 60603-7 (8P8C), SD Physical Layer 9.
"""

from __future__ import annotations

import difflib
import re

from auditra.core.errors import InputError
from auditra.core.sanitize import sanitize

PLUG = " plug"
TURNABLE = "usb-c"
"""The one connector whose plug goes in either way round. Source: USB Type-C R2.3, 2.3.4."""
OTHER = "other "
"""Opens the name of a connector that is not in the list: it fits what is written the same way."""
CONNECTORS = (
    "usb-a", "usb-c", "usb-b", "usb mini-b", "usb micro-b", "hdmi", "mini hdmi", "micro hdmi", "displayport",
    "mini displayport", "dvi", "vga", "rj45", "sfp", "sd", "microsd", "cfexpress", "compactflash", "xqd", "m.2",
    "sata", "esata", "3.5 mm", "6.3 mm", "2.5 mm", "rca", "optical", "xlr", "barrel", "mains", "magnetic", "button",
    "lock slot",
)  # fmt: skip
_ALIASES = {
    "usb-c": ("type-c", "type c", "usb type-c", "usb type c", "usbc", "c", "usb c", "usb-type-c"),
    "usb-a": ("type-a", "type a", "usb type-a", "usb type a", "usba", "a", "usb a", "usb", "usb-type-a"),
    "usb-b": ("type-b", "type b", "usb type-b", "usb type b", "usb b"),
    "usb micro-b": ("micro-b", "micro usb", "micro-usb", "microusb", "usb micro b", "usb micro"),
    "usb mini-b": ("mini-b", "mini usb", "mini-usb", "miniusb", "usb mini b", "usb mini"),
    "hdmi": ("hdmi-a", "hdmi a", "hdmi type a"),
    "mini hdmi": ("mini-hdmi", "hdmi-c", "hdmi mini"),
    "micro hdmi": ("micro-hdmi", "hdmi-d", "hdmi micro"),
    "displayport": ("dp", "display port", "display-port"),
    "mini displayport": ("mini dp", "mini-dp", "mdp", "mini-displayport"),
    "rj45": ("ethernet", "lan", "rj-45", "rj 45", "8p8c", "network"),
    "sd": ("sd card", "sd-card", "sdhc", "sdxc", "full-size sd"),
    "microsd": ("micro sd", "micro-sd", "tf", "microsd card", "micro sd card"),
    "compactflash": ("cf", "compact flash"),
    "cfexpress": ("cf express", "cfe"),
    "3.5 mm": ("3.5mm", "jack", "audio jack", "headphone jack", "audio", "3,5 mm", "3.5 mm jack"),
    "6.3 mm": ("6.3mm", "6.35 mm", "6.35mm", "1/4 in"),
    "2.5 mm": ("2.5mm",),
    "barrel": ("dc", "dc barrel", "barrel jack", "dc-in", "dc in", "dc jack"),
    "optical": ("s/pdif", "spdif", "optical audio"),
    "vga": ("d-sub", "hd15", "de-15"),
    "mains": ("iec c14", "iec c8", "iec c6", "c14", "c8"),
    "lock slot": ("lock", "security slot"),
}
_BY_NAME = {name: name for name in CONNECTORS} | {
    alias: name for name, aliases in _ALIASES.items() for alias in aliases
}
_PLUG_WORDS = re.compile(r"\s+(?:plug|male|\(plug\)|\(male\))$")
_SOCKET_WORDS = re.compile(r"\s+(?:socket|port|receptacle|female|slot|\(female\))$")


def parse_connector(text: str) -> str:
    """The one name of a connector: ``Type-C`` is ``usb-c``, ``USB C male`` is ``usb-c plug``.

    Raises: InputError for one that is not known; ``other NAME`` is taken as it is.
    """
    words = " ".join(text.split()).lower()
    if words.startswith(OTHER) and len(words) > len(OTHER):
        return words
    bare = _PLUG_WORDS.sub("", words)
    name = _BY_NAME.get(bare) or _BY_NAME.get(_SOCKET_WORDS.sub("", bare))
    if name is None:
        near = difflib.get_close_matches(bare, _BY_NAME, n=1)
        guess = f"Did you mean {_BY_NAME[near[0]]}? " if near else ""
        do = f"{guess}Known are {', '.join(CONNECTORS)}; write other NAME for another"
        raise InputError(f'"{sanitize(text, 40)}"', why="no such connector is known", do=do)
    return name + PLUG if bare != words else name


_PICTURE_FROM = {
    "usb-c": ("usb-c", "hdmi", "displayport", "dvi", "vga", "mini displayport", "mini hdmi", "micro hdmi"),
    "displayport": ("displayport", "mini displayport", "hdmi", "dvi", "vga"),
    "mini displayport": ("displayport", "mini displayport", "hdmi", "dvi", "vga"),
    "hdmi": ("hdmi", "mini hdmi", "micro hdmi", "dvi"),
    "mini hdmi": ("hdmi", "dvi"), "micro hdmi": ("hdmi", "dvi"),
    "dvi": ("dvi", "hdmi"),
    "vga": ("vga",),
}  # fmt: skip
"""Between which connectors a plain lead carries a picture, and which way: from the source to the display.

A Type-C source changes to what the display takes, in the lead; nothing makes an HDMI source a Type-C display's.
Sources: VESA DisplayPort Alt Mode 2.0, 5; VESA DisplayPort Dual-Mode 1.1; HDMI 1.4b, 4.1 (Type A and DVI are alike).
"""


def carries_picture(source: str, sink: str) -> bool:
    """Whether a plain lead brings a picture from such a source to such a display; unknown connectors may."""
    bare, to = source.removesuffix(PLUG), sink.removesuffix(PLUG)
    return to in _PICTURE_FROM[bare] if bare in _PICTURE_FROM and to in CONNECTORS else True


def carries_power(source: str, sink: str) -> bool:
    """Whether a plain lead brings power from a source to a sink with these connectors.

    A Standard-A plug faces a source, never a sink. Source: USB 2.0, 6.4; USB Type-C R2.3, 3.5 (legacy cables).
    """
    return sink.removesuffix(PLUG) != "usb-a" or source.removesuffix(PLUG) == "usb-a"
