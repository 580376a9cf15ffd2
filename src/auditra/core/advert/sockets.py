"""Sockets in a text: of which class they are, and which of them a text means."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from auditra.core.advert.socket_counts import (
    ADJECTIVES,
    FAR_BEFORE,
    LOOK_BEHIND,
    NUMBER,
    count_around,
    count_before,
    count_of,
    has_no_count,
    numbers_in,
)

LETTERS = {
    "usb-a": "A", "usb-c": "C", "hdmi": "H", "displayport": "D", "vga": "V", "rj45": "N", "sd": "S", "microsd": "M",
    "3.5 mm": "J",
}  # fmt: skip
"""The letter of each connector in the numbers of sockets."""
PICTURE_SOCKETS = "HDV"
"""The letters of those that are for pictures alone."""
HOST = "host"
"""As a label: the socket that is for the host, by its number."""
REST = -1
"""As a count: those that have no such promise yet."""
_TIMES_SAID = {"once": 1, "twice": 2, "three times": 3, "four times": 4, "five times": 5, "six times": 6}
_PART_BEFORE = re.compile(
    rf"(?<![\w.,-])(?<!every )(?<!each )(?<!any )(?P<part>{NUMBER}) of (?:(?:the|its|our|these"
    rf"|those)\s+)?(?P<all>{NUMBER})\s*{ADJECTIVES}$",
    re.IGNORECASE,
)
"""``Three of the four USB-A``."""
_ALL_BEFORE = re.compile(
    rf"(?i)\b({NUMBER})(?: (?:sockets|ports)|[- ]port \w+),? (?:\(|- )?all (?:of them )?(?:are )?$"
)
_USB_OF_BOTH = re.compile(
    rf"(?i)USB (?:sockets?|ports?)(?: (?:on|at|in) the \w+)?"
    rf"\s*[(:]\s*(?:{NUMBER} ?x? ?)?(?:of (?:them|type) ?)?(?:USB-|type[ -]?)?[AC]\b"
)
"""``4 USB ports (two USB-C and two USB-A)``: no class of its own."""
_PIECES_BEHIND = re.compile(rf"(?i)[,: ]*({NUMBER})\s?(?:pcs\.?|pieces|st(?:ü|ue)ck|stk\.?)(?!\w)")
_UNITS_BEHIND = r"(?:x\b|[Ww]\b|A\b|V\b|[Gg][Bb]|[Mm][Bb]|[Gg]\b|cm|m\b|g\b|Hz|in\b|mm|GB|TB|@|%)"
_GEAR = r"(?:sticks?|drives?|mouse|mice|keyboards?|printers?|phones?|cameras?|webcams?|tablets?|scanners?)"
_AMONG_GEAR = re.compile(rf"(?i)\b{_GEAR},? (?:or|and|,) (?:an? |your )?$")
"""``For a stick or headset``: what hangs on a socket of another class."""
_IDS_BEHIND = re.compile(
    r"\s*(?:[Ss]ockets?|[Ss]lots?|[Pp]orts?)?\s*((?:\d|[A-D])(?:\s*(?:,|and|or|&|\+|-|to)\s*\d)*)"
    rf"(?!\d|[.,]\d|[A-Za-z]|\s?{_UNITS_BEHIND})"
)
_COUNT_OF_NEXT = re.compile(r" \d ?(?:x ?)?usb ?(?:\d|[ac]\b|ports)")
"""``lan 3 usb``."""
_LETTERS_BEHIND = re.compile(r"\s*([A-D]\s*(?:,|and|&|\+|/)\s*[A-D])\b")
_ONE_LETTER_BEHIND = re.compile(r"\s([A-D])(?=\s*(?:[,:;.]|$|and\b|&|\+|shows?\b|runs?\b|gives?\b|is\b))")
"""``HDMI A and HDMI B``."""
_NOUN_BEHIND = re.compile(
    r"[\s-]*(?:drive )?(?:sockets?|ports?|poorten|outputs?|slots?|jacks?|inputs?|connectors?|receptacles?)",
    re.IGNORECASE,
)
_PLUG_BEHIND = re.compile(
    r"[\s-]*\(?(?:\d\.\d )?(?:Gen ?\d(?: ?x ?\d)? (?=plug))?(?:plugs?|male|tails?|cords?|cables?|leads?|ends?"
    r"|wires?|to\b(?! (?:\d{3,4} ?x|\dK))"
    r"|->|auf\b|host\b(?! (?:needs?|must|has)\b)|power(?:ed)?\b(?!:\s*\d+ ?W)|laptops?"
    r"|computers?|phones?|drives?(?! sockets?| ports?)"
    r"|sticks?)",
    re.IGNORECASE,
)
_PLURAL_BEHIND = re.compile(r"(?i)(?: data)?(?: and USB-[AC])?(?: data)? (?:sockets|ports)\b")
_LEAD_BEHIND = re.compile(r"[\s-]*(?:cables?|leads?|cords?|wires?)\b", re.IGNORECASE)
_OF_HOST_BEHIND = re.compile(
    r"[\s\d.]*(?:hosts?|sources?|laptops?|computers?)\b(?! port)"
    r"|\s*\((?:[\w ]{1,16}, ?)?(?:to (?:the |your )?)?(?:hosts?|upstream|uplink|computer|laptop)(?: side"
    r"| port)?(?:,[^)]{1,24})?\)"
    r"|,? (?:to|for) (?:the |your )?(?:hosts?|computer|laptop)\b(?! and)"
    r"|\s*(?:sockets?|ports?) of (?:your|the|an?|any) (?:\w+ )?(?:hosts?|computer|laptop|notebook|tablet|phone)\b",
    re.IGNORECASE,
)
_DEVICE_BEHIND = re.compile(
    r"(?i)[ -](?:(?:ethernet|network|LAN|display|video|audio) )?(?:hub|dock|docking station|multiport"
    r"|adapter)\b(?! (?:ports?|sockets?))"
)
"""``5-port USB-C hub``: how it is joined to the host, or the name of its kind."""
_INPUT_BEHIND = re.compile(r"\s*(?:input|in(?=\s+(?:at|and(?! out))|\s*[,)]|$))")
_OFTEN_BEHIND = re.compile(rf"(?i),?\s*(?:sockets?\s*)?({'|'.join(_TIMES_SAID)})\b")
_TWIN_BEHIND = re.compile(r"\s*,\s*(USB-[AC]|HDMI|DisplayPort|DP)\b")
_NAMED_BEFORE = re.compile(r"(?<![\d.,])(\d(?:(?:, | and |, and )\d)*) are $")
_OF_HOST_BEFORE = re.compile(
    r"(?i)\b(?:(?:computer|laptop|notebook|tablet|phone)s? with(?: an?)?"
    r"|connect(?:s|ed)? (?:by|via|through)(?: an?"
    r"| its| one)?|turns? an?|to any|to an?|into (?:any|an?|the)"
    r"|(?:host|computer|laptop) (?:needs|must have|has)(?: an?)?|plugs? (?:\w+ ){1,3}into"
    r"|in any|an? host's|your host's|host's own"
    r"|of your laptop's|(?<!the )(?<!your )(?<!a )host"
    r"|\b(?:uplink|upstream)(?: port| socket)?:?|(?:host|upstream|uplink|(?-i:PC)|(?:computer|laptop|notebook|tablet"
    r"|phone)s?)(?: port| socket)? \((?:(?:HDMI|DisplayPort|VGA) \+ )?) ?$"
)
_FOR_A_HOST = re.compile(r"(?i)(?:adapter|reader|dock|hub) for(?: an?| any)? $")
_TURNS_INTO = re.compile(r"(?i)\b(?:turns?|converts?|makes?|changes?)\b[^.;]*\binto an? $")
_CLASSES = (
    ("M", r"\b(?:micro[- ]?SD|uSD|TF)(?:[- ]cards?)?(?:[- ]slots?)?\b", True),
    ("S", r"\b(?:SD(?:[HXU]C)?|CF|CFe|CFexpress|Compact ?Flash(?!-size)|CFast"
        r"|XQD)(?:[- ][Cc]ards?)?(?:[- ][Ss]lots?)?\b"
        r"|\b[Cc]ard [Ss]lots?\b|\bsd slots?\b"
          r"|\bsd\b(?= ?[:=])|(?<=\d x )sd\b|^ ?sd\b|(?<=/)sd\b|\bsd\b(?=/|\+| tf\b| \(| (?:and|&|\+|or) )"
          r"|(?<=: )sd\b", False),
    ("H", r"\bHDMI(?=\b|\d\b(?!\.))", True),
    ("D", r"\b(?:mini[- ]?)?(?:DisplayPorts?|DPs?)(?=\b|\d\b(?!\.))(?!\s?alt)", True),
    ("V", r"\bVGA\b", True),
    ("N", r"\b(?:RJ-?45|wired internet|(?<!wake on )(?<!wake-on-)LAN|Ethernet|network sockets?|network ports?"
        r"|(?<!over )(?<!over the )network|net(?= ?:)"
    r"|netzwerk|r.seau|uplinks?)\b",
    True),
    ("C", r"\bUSB ?4 (?:ports?|sockets?)\b|(?:^|(?<=\d )|(?<=\d x ))\bUSB ?4(?= (?:lead|cable|cord|plug)\b"
        r"| to (?:the|your) |[,:(]| \()"
        r"|(?<=\dx )TB ?[345]?\b|\bThunderbolt(?: ?[1-5](?!\d))?|^TB(?= ?\d?(?:\s|:|$))|(?:\b"
        r"|(?<=\dx))[Uu][Ss][Bb][- _]?(?:4[- ]"
    r"|3\.\d[- ])?(?:[Tt]ype[- ]?)?[Cc](?=\d|\b|_|x\d)"
          r"|\b[Tt]ype-?[Cc]\b|\b[Tt]ype C\b|\bC-type\b", False),
    ("A", r"(?:\b|(?<=\dx))[Uu][Ss][Bb][- _]?(?:3\.\d[- ]|2\.0[- ])?(?:[Tt]ype[- ]?)?[Aa](?=\d|\b|_"
        r"|x\d)(?! adapters?\b)"
          r"|\b[Tt]ype[- ]?A\b|\bA-type\b|(?:(?<=\dx )|(?<=\d x ))USB(?= ?\d{1,2} ?G(?:b/s|bps)?\b)"
          r"|(?:\b|(?<=\dx))(?<!with )(?<!than )(?<!over )(?<!like )[Uu][Ss][Bb](?= ?(?:3"
          r"|2)\.\d(?! Gen)(?! (?i:device|gear|peripheral|drives?|sticks?|standard"
          r"|hosts?|switch|hub|dock|adapter|cables?|leads?|cord)\b))(?: ?\d\.\d)?(?![- ][AC]\b)"
          r"|(?<=[Pp]orts )USB \d\.\d(?: Gen ?\d(?: ?x ?\d)?)?(?![- ]?[AC]\b)|\bUSB (?:sockets?|ports?)\b"
          r"|(?<=\dx )(?:smart |fast |quick )?charging(?:[ -]only)?(?: \d(?:\.\d)? ?A)?(?: smart)? (?:ports|sockets)"
          r"|(?<=\d )USB(?= \(\d| [Dd]evices\b)|(?<=\d )[Uu][Ss][Bb](?= ?\d{1,3} ?[GMgm]b)|(?:\b"
          r"|(?<=\dx))[Uu][Ss][Bb] ?[23](?= ?x ?\d\b)"
          r"|(?<=\dx )[Uu][Ss][Bb] ?[23](?![\d.])", False),
    ("J", r"\b(?:headphones?|kopfh(?:ö|oe)rer(?:anschluss)?|headsets?|audio|sound(?= (?:in|out)\b)"
        r"|^sound(?=\s*:)|microphones?|mic"
          r"|optical(?: output)?|(?<!data )line[ -](?:in|out)"
          r"|(?<!network )(?<!ethernet )(?<!LAN )(?<!power )(?<!DC )jack)\b"
          r"(?: (?:out(?:put)?|in(?:put)?|sockets?|jacks?))?", True),
    ("B", r"\b(?:button|key)\b", True),
)  # fmt: skip
_SAID = {
    "M": ("sd", "tf"), "S": ("sd", "cf", "xqd", "card", "compact"), "H": ("hdmi",), "D": ("dp", "displayport"),
    "V": ("vga",), "N": ("rj", "lan", "net", "internet", "seau", "netz", "uplink"), "C": ("usb", "type", "tb",
    "thunder"),
    "A": ("usb", "type", "charging"),
    "J": ("head", "hörer", "hoerer", "audio", "sound", "mic", "optical", "line", "jack"), "B": ("button", "key"),
}  # fmt: skip
"""Of which words each class has one."""
_LETTER_AND_DIGIT, _LETTER_ALONE = re.compile(r"[ACHDSNVP]\d"), re.compile(r"(?<![A-Za-z])[AC](?![A-Za-z])")
_PATTERNS = tuple((letter, re.compile(form, re.IGNORECASE if any_case else 0)) for letter, form, any_case in _CLASSES)
_LONE = re.compile(
    r"(?<![\w-])([AC])(?= (?:ports?|sockets?|outlets?|female|receptacle)\b)|(?<=\d sockets )([AC])\b"
    r"|(?<=\d ports )([AC])\b"
    r"|(?<![\w-])([AC])(?=\s*(?:\([^)]{2,30}\)|\d)?\s*(?::|\balone\b|\+|\s\|)|\d\b)|^([AC])(?=\s+(?:\d|x\b|\||$))"
    r"|(?<![\w-])(?<!\d )([AC])(?= (?:in/out|out|in) \d)|(?<![\w-])([AC])(?= (?:gives?|shares?|falls|drops"
    r"|up to \d+|gets|carries)\b| ?x ?\d)"
    r"|(?:(?<=W \()|(?<=b/s \())([AC])(?=\))|(?<=\dx )([AC])(?=\s\d|\s*[,)])|(?<=\bhost )([AC])(?=\s\d)"
    r"|(?<=\d x )([AC])(?=\s\d|\s*[,:@().]|\s(?:at|on|in|for)\b)"
    r"|(?<=[:,] )([AC])(?= \(\d)"
    r"|(?:(?<=[,;:] )|(?<=:  )|^\s)([AC])(?=\s\d+(?:\.\d+)?\s?W\b(?!\s+(?!PPS|PD|QC|max|each|and|or|with)\w))"
    r"|(?<=and )([AC])(?= \(\d)|(?:(?<=ones \()|(?<=sockets \()|(?<=ports \()|(?<=one \()|(?<=socket \()|(?<=port \()"
    r"|(?<=\(also ))([AC])(?=\))"
    r"|(?<![\w-])([AC])(?= \((?:front|rear|back|left|right|top|side|upper|lower)\)|, (?:one|two|three|four|five"
    r"|six|\d)\b ?[:,])"
    r"|(?:(?<=\(front )|(?<=\(rear )|(?<=\(left )|(?<=\(right ))([AC])(?=\))"
    r"|(?:(?<=[:,.] )|(?<=^)|(?<=^ ))([AC])(?= (?:left|right|front|rear|back|side|top|upper|lower) \d)"
    r"|(?<=other )([AC])(?= \d)"
    r"|(?<![\w-])(?<!\d )([AC])(?= at \d)|(?:(?<=\bone )|(?<=\btwo )|(?<=three )|(?<=\bfour ))([AC])(?= \(\d|[,).])"
)
_NAMED = re.compile(r"(?<![\w.])(?<![A-Za-z\d]-)([ACHDSNVP])(\d)(?!\w|\.(?!\.)|\s?(?:Gb|W\b))")
_ONE_SLOT = re.compile(r"SD(?:[HXU]C)?(?: cards?)?(?:,| and|/| /|,? or)? ?SD[HXU]C(?: cards?)?")
"""``SD, SDHC, SDXC``: one slot for all of them."""
_MODEL_BEFORE = re.compile(r"(?i)\b(?:adapter|hub|dock|model|reader|charger|stand|switch|type|series|station) $")
"""``Adapter A7`` is no socket."""
_NUMBERED_BEFORE = re.compile(r"(?i)\b(?:ports?|sockets?|outputs?) (\d(?:(?: ?- ?| to |, | and )\d)*)(?: \(|: )$")
"""``Ports 1-3 (USB-A)``: numbers over all classes, which say how many."""
SIGNS = (
    "star", "dot", "bolt", "flash", "lightning", "arrow", "sun", "moon", "lamp", "triangle", "circle", "crown",
    "leaf", "stripe",
    "heart", "battery", "plug sign",
)  # fmt: skip
"""What sockets are marked with."""
MARKS = (
    "screen mark",
    "monitor mark",
    "phone mark",
    "laptop mark",
    "plug mark",
    "power mark",
    "mouse mark",
    "camera mark",
)
"""Labels of sockets that are marked with a picture of a thing."""
_SIGN = re.compile(
    rf"\b(with(?:out)?|marked(?: with| by)?|by|under|beside|near|next to) (?:the |an? )(?:({'|'.join(SIGNS)})\b"
    r"|(screen|monitor|phone|laptop|plug|power|mouse|camera) (?:mark|sign|symbol|icon)\b)",
    re.IGNORECASE,
)
_LABEL = re.compile(
    r"\b(front|rear|back|left|right|top|side|upper|lower|first|second|third|other|plain|yellow|white|grey"
    r"|gray|black|red"
    r"|blue|green|near|far|inner)\b",
    re.IGNORECASE,
)
_HOST_PORT = re.compile(
    r"(?i)(?:\bUSB-?([AC])|\b(?-i:([AC]))) ?(\d) ?(?:: (?:to |for )?(?:the |your )?(?:host|upstream|uplink"
    r"|computer|laptop)\b(?= *[,;(])"
    r"|\((?:to )?(?:the |your )?(?:hosts?|upstream|uplink"
    r"|computer|laptop)\)"
    r"|(?:is |goes )(?:for|to) (?:the|your) (?:host|computer|laptop|notebook)\b)"
)
_LABEL_ENDS = re.compile(r"[.;:,]|\((?=[a-z]+ (?:one|socket)\b)|$")
_LOOKED_THROUGH = 8000
"""Characters of a text in which its sockets are named, if they are."""
_LOOK_BEFORE = 44


@lru_cache(maxsize=4)
def host_ports(text: str) -> frozenset[tuple[str, int]]:
    """The sockets that a text calls the host's by number: ``USB-C 1 (host)``."""
    found = ((match[1] or match[2], int(match[3])) for match in _HOST_PORT.finditer(text[:_LOOKED_THROUGH]))
    return frozenset((letter.upper(), number) for letter, number in found)


@dataclass(frozen=True)
class Socket:
    """Sockets of one class at a place of the text."""

    start: int
    end: int
    letter: str
    count: int | None = None
    ids: tuple[int, ...] = ()
    """Numbers or order that the seller gave them."""
    label: str = ""
    whole: bool = False
    """All of those that there are: both, all, each of the."""
    is_plug: bool = False
    is_part: bool = False
    """Some of sockets that were counted before."""
    of_all: int = 0
    """How many there are of those that it is a part of."""


def sockets(text: str) -> list[Socket]:
    """Every mention of sockets, in order of place."""
    taken = bytearray(len(text) + 1)
    found: list[Socket] = []

    def take(start: int, end: int, socket: Socket) -> None:
        if not any(taken[start:end]):
            taken[start : max(end, socket.end)] = b"\1" * (max(end, socket.end) - start)
            found.append(socket)

    low = text.lower()
    for letter, pattern in _PATTERNS:
        for match in pattern.finditer(text) if any(word in low for word in _SAID[letter]) else ():
            take(*match.span(), _counted(letter, match.start(), match.end(), text))
    for match in _NAMED.finditer(text) if _LETTER_AND_DIGIT.search(text) else ():
        if _MODEL_BEFORE.search(text, max(0, match.start() - 24), match.start()):
            continue
        take(*match.span(), _named(match, text))
    for match in _LONE.finditer(text) if _LETTER_ALONE.search(text) else ():
        if not _MODEL_BEFORE.search(text, max(0, match.start() - 24), match.start()):
            take(*match.span(), _counted(match[0].strip(), match.start(), match.end(), text))
    found.sort(key=lambda socket: socket.start)
    return [socket for n, socket in enumerate(found) if not n or not _is_other_name(found[n - 1], socket, text)]


@lru_cache(maxsize=4)
def mentioned_anywhere(text: str) -> tuple[Socket, ...]:
    """Every socket and plug that a whole text speaks of, the hosts' among them."""
    return tuple(sockets(text[:_LOOKED_THROUGH]))


@lru_cache(maxsize=4)
def named_anywhere(text: str) -> tuple[Socket, ...]:
    """The sockets that a whole text names, hosts' and plugs left out, for who has to know them before they are read."""
    return tuple(each for each in mentioned_anywhere(text) if not each.is_plug)


def _is_other_name(before: Socket, socket: Socket, text: str) -> bool:
    """``4 USB-A (USB 2.0)``: the same sockets once more."""
    same = before.letter == socket.letter and socket.count is None and not socket.ids
    names = text[before.start : socket.end]
    if same and socket.letter == "S" and before.count in (None, 1) and _ONE_SLOT.fullmatch(names):
        return True
    alike = before.letter == socket.letter and not socket.ids and socket.count == before.count is not None
    if alike and re.fullmatch(r"[\w ]{0,12} / (?:\d+(?: x)? )?", text[before.end : socket.start]):
        return True  # the same in another language
    return same and re.fullmatch(r"[\w ]{0,24}\(", text[before.end : socket.start]) is not None


def _named(match: re.Match[str], text: str) -> Socket:
    """``C1``, ``A1-A3``, ``A1 to A3``."""
    first = int(match[2])
    row = re.match(rf"(?: {match[1]}\d\b(?!\.\d))+(?! ?[+&])", text[match.end() :])
    ids = (first, *map(int, re.findall(r"\d", row[0]))) if row is not None else ()
    if row is not None and list(ids) == sorted(set(ids)):
        return Socket(match.start(), match.end() + row.end(), match[1], len(ids), ids, match[0])
    to = re.match(rf"\s?(?:-|\.\.\.?|to|through|until)\s?{match[1]}(\d)\b", text[match.end() :])
    ids = tuple(range(first, int(to[1]) + 1)) if to else (first,)
    return Socket(match.start(), match.end() + (to.end() if to else 0), match[1], len(ids), ids, match[0])


def _counted(letter: str, start: int, end: int, text: str) -> Socket:
    before = text[max(0, start - _LOOK_BEFORE) : start].rpartition("\n")[2]
    behind = text[end : end + LOOK_BEHIND].partition("\n")[0]
    if _is_no_socket(letter, start, text, before, behind):
        return Socket(start, end, letter, is_plug=True)
    if named := _NAMED_BEFORE.search(before):
        return Socket(start, end, letter, len(re.findall(r"\d", named[1])), label=f"named {named[1]}")
    if pieces := _PIECES_BEHIND.match(behind):
        return Socket(start, end + pieces.end(), letter, count_of(pieces[1]))
    if told := _numbered(letter, start, end, behind):
        return told
    if often := _OFTEN_BEHIND.match(behind):
        return Socket(start, end + often.end(1), letter, _TIMES_SAID[often[1].lower()])
    if told := _told_before(letter, start, end, before):
        return told
    count, whole = (None, False) if has_no_count(letter, before, behind) else count_before(letter, before)
    whole = whole or (count is None and letter in "AC" and _PLURAL_BEHIND.match(behind) is not None)
    twin = _TWIN_BEHIND.match(behind)
    if twin is not None and twin[1].lower() == text[start:end].lower() and count is None:
        return Socket(start, end + twin.end(), letter, 2)
    if count in (None, 1):
        count = count_around(letter, start, end, text) or count
    is_plug = _is_plug(letter, count, behind)
    return Socket(start, end, letter, count, (), _label(text, start, end), whole, is_plug)


def _numbered(letter: str, start: int, end: int, behind: str) -> Socket | None:
    """``USB-A 1 and 2``, ``HDMI A and B``, ``HDMI A``: by the numbers or letters behind the class."""
    if letter in "HDN" and _COUNT_OF_NEXT.match(behind):
        return None
    if letter in "ACHDSMN" and (ids := _ids(match := _IDS_BEHIND.match(behind))) and match:
        of_host = letter in "AC" and _OF_HOST_BEHIND.match(behind[match.end() :]) is not None
        return Socket(start, end + match.end(1), letter, len(ids), ids, is_plug=of_host)
    if letter in "HDN" and (named := _LETTERS_BEHIND.match(behind)):
        ids = tuple(ord(each) - ord("A") + 1 for each in re.findall("[A-D]", named[1]))
        return Socket(start, end + named.end(1), letter, len(ids), ids)
    if letter in "HD" and (one := _ONE_LETTER_BEHIND.match(behind)):
        return Socket(start, end + one.end(1), letter, 1, (ord(one[1]) - ord("A") + 1,))
    return None


def _is_plug(letter: str, count: int | None, behind: str) -> bool:
    """The host's own, a lead, or what is called a plug."""
    if letter in "SMJB":
        return False
    if _OF_HOST_BEHIND.match(behind) or _LEAD_BEHIND.match(behind):
        return True
    may_be = letter != "N" and count in (None, 1) and _NOUN_BEHIND.match(behind) is None
    return may_be and _PLUG_BEHIND.match(behind) is not None


def _is_no_socket(letter: str, start: int, text: str, before: str, behind: str) -> bool:
    """What is said of a host, an input, or a name over two classes; ``USB-C hub``: how the device is joined."""
    if letter == "C" and _DEVICE_BEHIND.match(behind):
        return True
    if letter == "J" and _AMONG_GEAR.search(before) and _NOUN_BEHIND.match(behind) is None:
        return True
    if letter == "A" and _USB_OF_BOTH.match(text, start):
        return True
    if letter in "AC" and _FOR_A_HOST.search(before) and behind.startswith(":"):
        return True
    of_host = _OF_HOST_BEFORE.search(before) and not _TURNS_INTO.search(text, max(0, start - FAR_BEFORE), start)
    return bool(of_host) or (letter in "HDV" and _INPUT_BEHIND.match(behind) is not None)


def _told_before(letter: str, start: int, end: int, before: str) -> Socket | None:
    """``Four sockets, all USB-A``, ``three of the four USB-A``."""
    if numbered := _NUMBERED_BEFORE.search(before):
        return Socket(start, end, letter, len(_ids(numbered)), label=f"no. {numbered[1]}")
    if every := _ALL_BEFORE.search(before):
        return Socket(start, end, letter, count_of(every[1]), whole=True)
    if part := _PART_BEFORE.search(before):
        return Socket(start, end, letter, count_of(part["part"]), of_all=count_of(part["all"]))
    return None


def _ids(match: re.Match[str] | None) -> tuple[int, ...]:
    return numbers_in(match[1]) if match is not None else ()


def _label(text: str, start: int, end: int) -> str:
    if text[start:end].upper().startswith(("CF", "XQD")):
        return text[start:end].split()[0].lower()  # of another kind of card than those beside it
    if "charging" in text[start:end].lower():
        return "charging"
    just_behind = _LABEL.match(text, end + 1)
    if just_behind is not None and text[end : end + 1] == " ":
        return just_behind[1].lower()
    if sign := _SIGN.search(_LABEL_ENDS.split(text[end : end + 34], maxsplit=1)[0]):
        label = sign[2].lower() if sign[2] else f"{sign[3].lower()} mark"
        return f"no {label}" if sign[1].lower() == "without" else label
    before = re.split(rf"[.;)]|,(?= (?:{NUMBER}) ?$)", text[max(0, start - 18) : start])[-1]
    found = _LABEL.search(f"{before} {_LABEL_ENDS.split(text[end : end + 26], maxsplit=1)[0]}")
    return found[1].lower() if found else ""
