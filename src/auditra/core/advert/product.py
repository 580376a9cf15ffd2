"""What a text sells: a lead, a switch, a charger, a kit of several; or nothing at all."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from auditra.core.advert.other_pages import is_other_page
from auditra.core.advert.phrases import any_of
from auditra.core.advert.several_devices import models_of, parts_of
from auditra.core.advert.sockets import mentioned_anywhere, named_anywhere

IS_LEAD = re.compile(
    r"\b(?<!\bone )(?<!\bsingle )(?<!without a )(?<!without any )(?<!without )(?:cables?|leads?|cords?|wire"
    r"|extension|\w*kabel|verl(?:ä|ae)ngerung|c(?:â|a)ble"
    r"|cavo)\b(?! networks?| internet)",
    re.IGNORECASE,
)
_BOX = re.compile(
    r"\b(?:hub|dock|docking|adapter(?! (?:cable|lead|cord)\b)|adapters|charger|reader|switch|stand|cradle|strip"
    r"|stick|netplug|extender"
    r"|box|kit|case|SSD|drive)\b",
    re.IGNORECASE,
)
_PLUG = "(?:A|C|USB-[AC]|HDMI|DisplayPort|DP)"
_PLUGS = re.compile(rf"\b{_PLUG}(?:(?: plug)? (?:to|auf|-|<-?>|nach|vers|a) (?:a )?|-to-|-|/){_PLUG}\b", re.IGNORECASE)
_ALIKE_PLUGS = re.compile(
    r"\b(USB-C|C|HDMI|DisplayPort|DP)(?: (?:to|auf|<-?>) |-to-|-|/)\1\b|\b(?:USB-)?A(?: to |-to-|-)(?:USB-)?C\b"
    r"|plug to",
    re.IGNORECASE,
)
_ENDS = re.compile(r"(?im)^[ \t]*[-*]*\s*(?:plug|socket|end)s?(?: [a-z12])?\s*:")
_TABLE_OF_LEADS = re.compile(
    r"(?im)^(?=[^\n]*(?:\||\t|,\S| {3}))(?=[^\n]*\b(?:length|met(?:re|er)s|feet)\b)"
    r"(?=[^\n]*\b(?:power|watts|charging)\b)(?=[^\n]*\b(?:data|rate|video|picture|speed)\b)[^\d\n]{12,80}$"
)
"""``Model | Length | Power | Data``: of what has no socket."""
_LOSES_VOLTS = re.compile(r"(?i)\b(?:loses?|drops?|loss|drop) [^.;]{0,24}\d ?m?V\b")
_PLUG_KEY = re.compile(r"(?im)^[ \t]*[-*]*\s*(?:drop|voltage drop|gauge|conductors?|marked|marker|e-?marker)\b")
"""Keys of a list that only leads have."""
_SOCKETS = re.compile(
    r"\b(?:dozen|\d{1,2}|two|three|four|five|six|seven|eight) (?:USB )?(?:sockets|ports)\b"
    r"|\b(?:\d|two|three|four|five|six) ?x? ?(?:USB-?[AC]|HDMI)\b(?! plugs?| males?)|\bRJ-?45\b(?! plugs?)"
    r"|\b(?:USB-?[AC]|A"
    r"|C) (?:sockets|ports|outputs)\b|\bHDMI ?[12]\b(?!\.)|\bhost[ _](?:interface|charging|port)\b|\b(?:HDMI"
    r"|DisplayPort|VGA) (?:sockets?|outputs?|ports?)\b|\bcard slots?\b",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Product:
    """What is sold."""

    is_lead: bool = False
    is_nothing: bool = False
    is_desk_switch: bool = False
    is_network_switch: bool = False
    is_reader: bool = False
    is_charger: bool = False
    is_drive: bool = False
    is_extension: bool = False
    is_one_link: bool = False
    """Its only USB link is the one to the host: a reader, a drive's case, a network adapter."""
    is_network_adapter: bool = False
    devices: dict[str, str] = field(default_factory=dict)


_DESK_SWITCH = any_of(
    "changes? over", "share (?:one|a) (?:screen|monitor|keyboard|desk)",
    "kvm", "two (?:pcs|computers|laptops|notebooks)", "[234] (?:computers|laptops|notebooks|(?-i:PCs))", "2 hosts",
    "computers? (?:1|share)",
    r"(?:hosts|computers|pcs)\s*[:|]\s*\d", "switch-?over", "(?:display|monitor|picture|HDMI|DisplayPort|USB) switch",
    "desk switch", "two hosts",
    r"switches? (?:between|\d)", r"between (?:two|three|four|\d) (?:laptops|computers|hosts|pcs|notebooks)",
)  # fmt: skip
_MOVES_FILES = any_of(
    "(?:moves|copies|sends|transfers) (?:files|data) between",
    "(?:files|data) (?:go|move|pass|travel)s? over",
    "joins two (?:computers|laptops|PCs)",
)
_SWITCH = any_of("switch", "unmanaged")
_SWITCHES_MORE = re.compile(r"usb-?[ac]\b|\bhub\b|hdmi|displayport|keyboard|\bpcs\b|computers|laptops", re.IGNORECASE)
_RATED_SOCKETS = re.compile(r"(?is)\b(?:ports?|sockets?)\b.{0,200}\d ?(?:[GM]b(?:it)?/?p?s?|gigabit)\b")
_OF_NETWORKS = any_of("frames?", "PoE", r"802\.3\w*", "VLAN", "uplinks?")
_NOT_NETWORK = re.compile(
    r"(?i)usb|hdmi|displayport|vga|type-?[ac]\b|thunder|cable|\bleads?\b|cord|laptop|computer|notebook|card"
    r"|screen|monitor"
    r"|charg|drive|adapter(?! included)|dock|\bhub\b|(?-i:(?<!\d )(?<!\d)\b[ACHD]\d?\b)|phone|plug(?!ged)"
)
_READER = any_of("(?:card )?reader")
_READS = re.compile(r"\breads (?:[\w-]+ ){0,3}cards\b")
_CHARGER = any_of(
    r"charger(?!\s*:\s*(?:up to|max|at most|\d))",
    r"^\W*charges (?:two|three|four|five|\d)",
    "charging (?:station|block|brick|tower|bar)",
    "power station",
)
_ONLY_CHARGES = any_of("no data[,:;.]? (?:it )?only charges", "it only charges[,:;.]? no data")
_ARTICLE = re.compile(r"(?<!\bas )\b(?:a|the|your|any)\s+$", re.IGNORECASE)
"""Before a charger that is spoken of, and not sold."""
_YOURS = re.compile(r"(?i)\b(?:your|an existing|any existing) (?:[\w-]+ )?$")
"""Before a box that the buyer has already."""
_COMES_WITH = re.compile(r"(?i)\b(?:comes? with|includes?|in the box)\b")
_EXTENSION = any_of(
    "extension",
    r"\b(?:USB-)?(A|C) plug to (?:an? )?(?:USB-)?\1 socket",
    "extends",
    "repeater (?:cable|lead|cord)",
    "verl(?:ä|ae)ngerung",
)
_SHORT = re.compile(r"(?i)(?: length)?:? ?\d+ ?(?:cm|in)\b")
"""Behind the tail of an adapter."""
_EXTENDS = any_of(
    "(?:extends|lengthens) (?:an?|any|the|your)(?: existing)? [^.;]{0,24}(?:connection|socket|port|lead|cable)"
)
_EXTENSION_LEAD = any_of(
    "(?:extension|repeater) (?:cord|lead|cable)",
    "extension for (?:an? )?(?:USB|HDMI|DisplayPort)\\b",
    "verl(?:ä|ae)ngerung",
)
_OVER_NETWORK_LEAD = any_of(r"over (?:one|a|your|two)? ?(?:Cat\.? ?\d\w?|network|LAN) (?:lead|cable)")
_ONE_LINK = any_of(
    "reader",
    "enclosure",
    r"(?:drive|NVMe|M\.2|SSD|disk) (?:case|dock)",
    r"dock for (?:\w+ ){0,2}(?:drives|disks)",
    r"takes (?:one|two|three|four|\d) [\d.]+ ?(?:in|inch)? ?(?:drives?|disks?)",
    r"case for (?:an? |one |two )?[\w. ]{0,12}(?:drives?|ssds?|disks?)",
    "network adapter",
    "netplug",
    "ethernet adapter",
    "(?:portable|field|travel|pocket|outdoor|external|rugged) (?:ssd|drive|disk)",
)
_MORE_THAN_ONE_LINK = re.compile(
    r"(?i)\b(?:hub|(?<!drive )dock(?! for (?:\w+ ){0,2}(?:drives|disks))"
    r"|HDMI|DisplayPort)\b|\b(?:\d ?x?|two|three|four|five) USB-?A\b|\b\d ?x A\b"
)
_NETWORK = re.compile(r"\bethernet|network|\blan\b|\brj-?45\b|\bcat ?\d", re.IGNORECASE)
_MORE_THAN_NETWORK = re.compile(
    r"extender|\b(?:near|far) (?:box|end)|sender|receiver|hdmi|\bhub\b|dock|switch|displayport", re.IGNORECASE
)
_NETWORK_ADAPTER = re.compile(r"(?i)^\W*(?:[\w.-]+ ){0,4}(?:network|ethernet|LAN) adapter\b")
_CALLED_NETWORK_ADAPTER = any_of("(?:network|ethernet|LAN) adapter")
_USB_A, _USB_C = any_of("USB-A(?! adapter)"), any_of("USB-C")
_DRIVE = any_of(
    r"(?:portable|field|travel|pocket|outdoor|desk|external|rugged) (?:drive|SSD|disk)",
    "drive dock",
    r"dock for (?:\w+ ){0,2}(?:drives|disks)",
    r"m\.2",
    "nvme",
    "ssd",
    "enclosure",
    "drive case",
    "inner drive",
    "drive bays?",
    r"takes (?:one|two|three|four|\d) [\d.]+ ?(?:in|inch)? ?(?:drives?|disks?)",
    "bay for (?:an?|one|two|three|four|\\d)",
    "(?:two|four|2|4)-bay",
    r"\d ?[TG]B of (?:flash|storage)",
    "each bay",
)
_CONTENTS_LINE = re.compile(
    r"(?im)^[ \t]*[-*#]*\s*(?:in the box|contents?|package contents|lieferumfang|scope of delivery|packing list"
    r"|included)"
    r"\b[^:\n]{0,24}:[^\n]*\n"
)
"""What lies in the box is not what is sold."""
_BEGINNING = 150
"""Characters in which a text says what it sells."""


def product_of(text: str) -> Product:
    """By the words of its first lines, and of the whole."""
    if is_other_page(text):
        return Product(is_nothing=True)
    first = _CONTENTS_LINE.sub("", text).strip()[:_BEGINNING]
    return Product(
        is_lead=_is_lead(text, first),
        is_desk_switch=_DESK_SWITCH.search(text) is not None and _MOVES_FILES.search(text) is None,
        is_network_switch=_is_network_switch(text),
        is_reader=_READER.search(text) is not None
        or _has_only_slots(text)
        or (_READS.search(first) is not None and _BOX.search(first) is None),
        is_charger=_ONLY_CHARGES.search(text) is not None
        or any(not _ARTICLE.search(first[: match.start()]) for match in _CHARGER.finditer(first)),
        is_extension=_EXTENSION.search(first) is not None,
        is_one_link=_has_only_slots(text)
        or ((_ONE_LINK.search(text) or _READS.search(first)) is not None and _MORE_THAN_ONE_LINK.search(text) is None),
        is_network_adapter=_NETWORK.search(text) is not None
        and _MORE_THAN_NETWORK.search(text) is None
        and (_OVER_NETWORK_LEAD.search(text) is None or _CALLED_NETWORK_ADAPTER.search(text) is not None)
        and (_NETWORK_ADAPTER.search(first) or not (_USB_A.search(text) and _USB_C.search(text)))
        and not re.search(r"\b[AC] sockets\b", text),
        is_drive=_DRIVE.search(text) is not None,
        devices=models_of(text) or parts_of(text),
    )


def _has_only_slots(text: str) -> bool:
    """Slots for cards, and one USB plug that joins them to the host."""
    if any(each.is_plug for each in mentioned_anywhere(text)):
        return False
    named = [each for each in named_anywhere(text) if each.letter != "B"]
    usb = [each for each in named if each.letter in "AC"]
    others = [each for each in named if each.letter not in "ACSM"]
    return len(named) > len(usb) and len(usb) == 1 and usb[0].count in (None, 1) and not others


def _is_network_switch(text: str) -> bool:
    """By its name; or where rates of sockets are told, and of nothing but networks."""
    named = _SWITCH.search(text) is not None and _SWITCHES_MORE.search(text) is None
    is_network = _NOT_NETWORK.search(text) is None or (_OF_NETWORKS.search(text) and not _SWITCHES_MORE.search(text))
    return named or (_RATED_SOCKETS.search(text) is not None and bool(is_network))


def _is_lead(text: str, first: str) -> bool:
    """Whether plugs alone are sold: no box among the first words, and no sockets in the text."""
    title = first.split("\n")[0][:110]
    start = re.split(r"[.:]\s|\n", first)[0]
    boxed = next((each for each in _BOX.finditer(title) if not _YOURS.search(title[: each.start()])), None)
    plugs = _PLUGS.search(first)
    is_boxed = boxed is not None
    plugs_first = plugs is not None and (boxed is None or plugs.start() < boxed.start())
    named = IS_LEAD.search(start) or next(
        (each for each in IS_LEAD.finditer(first[:64]) if not _SHORT.match(first, each.end())), None
    )
    extended = _EXTENSION_LEAD.search(first)
    extension = extended is not None and (boxed is None or extended.start() < boxed.start())
    if named is not None and _COMES_WITH.search(first[: named.start()]):
        named = None  # a lead in the box
    is_said_first = IS_LEAD.search(start) is not None and _BOX.search(start) is None
    by_name = (
        named is not None
        and not re.search(r"(?i)\badapter(?! cable| lead| cord)|converts?\b|\((?:female|socket)\)", start)
        and (not is_boxed or plugs_first or is_said_first)
    )
    by_table = _TABLE_OF_LEADS.search(text) is not None and not named_anywhere(text) and boxed is None
    by_drop = _LOSES_VOLTS.search(text) is not None and not is_boxed
    by_extends = _EXTENDS.search(first) is not None and boxed is None
    by_keys = len(_ENDS.findall(text)) > 1 and _PLUG_KEY.search(text) is not None and not is_boxed
    comes_with = (
        _COMES_WITH.search(title) is not None and plugs is not None and _COMES_WITH.search(title[: plugs.start()])
    )
    by_plugs = (
        _PLUGS.search(title) is not None and not comes_with and _ALIKE_PLUGS.search(title) is not None and not is_boxed
    )
    has_sockets = _SOCKETS.search(text) is not None and _EXTENSION.search(first) is None
    is_box = has_sockets or _OVER_NETWORK_LEAD.search(text) is not None
    return (by_name or by_table or by_plugs or by_keys or by_drop or by_extends or extension) and not is_box
