"""Shorthand of lists and telegrams, written out: ``4A 5G``, ``45/30/15 W``, ``USB-A 5V 0.9A x4``."""

from __future__ import annotations

import re

from auditra.core.advert.draft import Draft
from auditra.core.advert.socket_counts import count_of

_TIMES_BEHIND = re.compile(r"(?<=[\w)])\*(?=\d{1,2}(?!\d))")
_SMALL_LINE = re.compile(r"(?m)^[ \t]*(?:data|net|network|usb|lan|ethernet)\s?:[^\n]*$")
_SMALL_RATE = re.compile(r"(?<=\d)g\b|\b[ac](?= ?x ?\d)")
"""``data: a x2 5g``: rates and sockets, written small."""
_STARRED_NOTE = re.compile(r"(?m)^[ \t]*\*\d")
_TIMES = re.compile(r"(?<![A-Za-z\d.])(?<!\d,)(\d{1,2})[xX](?=[A-Z]{2}|[AC]\b|[A-Z][a-z]{2})")
_TIMES_RATE = re.compile(r"(?<![\w.])(\d{1,2}) ?x ?(5|10|20|40)G(?![A-Za-z\d/])")
"""``3x5G``."""
_NAMES = {"A": "USB-A", "C": "USB-C", "H": "HDMI", "D": "DisplayPort", "N": "LAN", "V": "VGA"}
_LETTER = re.compile(
    r"(?:(?m:^)|(?<=[,;:.] )|(?<=\d x ))([ACHDN])(?=:? (?:\dK ?@?\d\d|(?:480|5|10|20|40|1|2\.5) ?[GM](?![A-Za-z\d/])))"
)
"""``H 4K60, N 1G``."""
_LETTER_KEY = re.compile(r"(?:(?m:^)|(?<=[.;] ))(?:All )?([HDNV])(?: and ([HDNV]))?(?=: )")
"""``H and D: 4K60 each. N: 1 Gb/s``."""
_LETTER_RATE = re.compile(r"(?:(?<=USB-[AC] )|(?<=USB-[AC]: ))(480|5|10|20|40) ?([GM])(?![A-Za-z\d/])")
_NETWORK_RATE = re.compile(r"\b((?:LAN|RJ-?45|Ethernet|network):? )(1|2\.5|5|10) ?G(?![A-Za-z\d/])", re.IGNORECASE)
"""``LAN 2.5G``."""
_SLASHED_RATES = re.compile(
    r"(?<![\d.,/])10{1,3}(?:/(?:100|1000|2500|5000|10000)){1,4}(?= ?Mb(?:it/s|/s|ps)\b)", re.IGNORECASE
)
"""``100/1000/2500 Mb/s``: the fastest is promised."""
_NETWORK_NUMBER = re.compile(
    r"\b((?:LAN|RJ-?45|Ethernet|network)(?: port)?:? )(?:10/)?(?:100/)?1000(?= *(?:[,;)|\n]|\.\s|\.?$))", re.IGNORECASE
)
"""``RJ45 10/100/1000``."""
_COUNTED_WITH_RATE = re.compile(r"(?<![\w.,])(?<!V )(?<!V/ )([1-9]) ([AC])(?= \(?\d[\d.]* ?[GM]b)")
"""``3 A (10 Gb/s)``: with a rate behind it no current."""
_COUNTED_UNDER_RATE = re.compile(r"(?<=[GM]b/s: )[^;\n/]{2,24}|(?i:(?<=[GM]bps: ))[^;\n/]{2,24}")
_COUNTED_LETTER = re.compile(r"(?<![\w.,])([1-9]) ([AC])(?=\s*(?:,|\+|and\b|$))")
"""``USB 5 Gb/s: 4 A, 1 C``."""
_GIGABIT_PORTS = re.compile(r"(?i)(?<![\dx.,])(?<!x )(4|5|6|8|12|16|24|48)[- ]gigabit (?=(?:ports|sockets)\b)")
"""``8 gigabit ports``: eight of 1 Gb/s."""
_RUN_OF_USB = re.compile(r"\bUSB ?(\d) ?- ?USB ?(\d)(?=:| \(| at)")
_COUNTED_CLASS = re.compile(r"(?<![\w.,])(\d{1,2}) ?([AC])(?= (?:5|10|20|40)G(?![A-Za-z\d/]))")
"""``4A 5G``."""
_COUNT_LAST = re.compile(r"(USB-[AC]),? (\d+ ?V[ ,/]{0,2}\d+(?:\.\d+)? ?m?A) ?x ?(\d{1,2})(?![\d.])")
"""``USB-A 5V 0.9A x4``."""
_LEAD_OF_SET = re.compile(
    r"(?:(?<=^)|(?<=[:,;] )|(?<=\n))(\d+(?:[.,]\d+)? ?(?:m|cm|ft)) \(([^()]{0,40}\d ?(?:W|[GM]b)[^()]{0,40})\)[,;]?"
)
"""``0.5 m (40 Gb/s, 100 W)``: a lead of several, with what it carries."""
_LEAD_IN_LINE = re.compile(r"(?:(?<=[,;] )|(?<=\. ))(?=\d+(?:[.,]\d+)? ?(?:m|cm|ft): )")
"""``2 m: 20 Gb/s; 3 m: 480 Mb/s`` in one line: each lead gets a line of its own."""
_PARTS_OF_CLASS = re.compile(r"(USB-[AC])(?: (?:ports|sockets))?: (\d) \(([^()]{3,40})\) \+ (\d) \(([^()]{3,40})\)")
_SIDES = re.compile(
    r"(?<![\d.])(\d{1,4}(?:\.\d{1,2})?) ?(mm|cm|in) long,? (?:and )?(\d+(?:\.\d+)?) ?\2 wide,? "
    r"(?:and )?(\d+(?:\.\d+)?) ?\2 (?:high|thick|tall)"
)
_LISTED_CLASSES = re.compile(r"(?<![\w,] )(?<!\w)(?:[AC](?:, | and | \+ )){1,7}[AC](?=: | at \d)")
"""``A, A, C: 5 Gb/s``: sockets one by one."""
_SO_MUCH_OF = re.compile(
    r"(?<![\d.,])(\d{1,3})(?: ?W)? of (?:the|its|your|those|these) (?:(?:charger|supply|adapter"
    r"|brick)'s )?(\d{1,3}) ?W\b"
    r"(?! (?:charger|supply|adapter|brick))(?: (?:that|which) (?:the|your|a) (?:charger|supply"
    r"|adapter) (?:gives|has|brings))?"
)
"""``85 of the 100 W reach the laptop``: what goes in is no promise."""
_ONE_WAY = r"(?:reads?|writes?|reading|writing)"
_BOTH_WAYS = re.compile(
    rf"\b({_ONE_WAY}(?: at)? \d[\d,]{{0,6}})(?=,? (?:and )?{_ONE_WAY}(?: at)? \d[\d,]{{0,6}} ?([MG]B/s))"
)
"""``Reads 400, writes 220 MB/s``."""
_OTHER_IN_BRACKETS = re.compile(
    rf"(?<!reads )(?<!writes )\b(\d[\d,]{{0,6}} ?([MG]B/s) \({_ONE_WAY}(?: at)? \d[\d,]{{0,6}})\)"
)
"""``90 MB/s (writing 60)``."""
_OTHER_WAY = re.compile(
    rf"\b({_ONE_WAY}(?: at)? \d[\d,]{{0,6}} ?([MG]B/s),? (?:and )?{_ONE_WAY}(?: at)? \d[\d,]{{0,6}})"
    r"(?!\d|[.,]\d| ?[A-Za-z%])"
)
"""``Reads 160 MB/s and writes 120``."""
_WAY_AT_END = re.compile(
    rf"(?i)(\d ?([MG]B/s),? (?:and|,) {_ONE_WAY}(?: at)? \d[\d,]{{0,6}})(?=\s*(?:[.;,]\s|[.;,]?$))"
)
"""``Reads its drive at 1,000 MB/s and writes at 800.``"""
_OF_THEM_ARRIVE = re.compile(
    r"(?i)(\d ?W\b[^.;\n\d]{0,12}, \d{2,3})(?= of (?:them|these|that|it|which) (?:arrives?|reach(?:es)?"
    r"|are left|get through|go on))"
)
_HANDS_ON = re.compile(r"(?i)(\d ?W\b[^.;\n\d]{0,40}\b(?:hands|passes) on \d{2,3})(?=\s*(?:[.;,]|$))")
_AGAIN_ON_HOSTS = re.compile(
    r"(\d[\d,]{0,6} ?([MG]B/s)[^.;\n]{3,60}?\bhosts?(?: of \d+ ?[GM]b/s)?:? "
    r"(?:it is |only |about )?\d[\d,]{1,6})(?=[.;\n]|$)"
)
"""``1,900 MB/s, on 10 Gb/s hosts 1,000``."""
_SIDES_ONCE = re.compile(
    r"(?<![\d.])(\d{1,4}(?:\.\d{1,2})?) ?(mm|cm|in) (?:long|wide),? (\d{1,4}(?:\.\d{1,2})?) (?:wide|deep),? "
    r"(?:and )?(\d{1,4}(?:\.\d{1,2})?) (?:high|thick|tall|deep)\b"
)
"""``165 mm wide, 78 deep and 28 high``."""
_OF_WHICH = re.compile(r"\n[ \t]*[-*•]?[ \t]*(?=of (?:which|these|them)\b)")
_PORT_AGAIN = re.compile(
    r"((?:ports?|sockets?) \d(?:[^.;\n]|\.(?=\d)){4,80}?),(?= (?:and )?(?:USB-[AC] )?(?:ports?"
    r"|sockets?) \d(?:(?:, | and | to |-)\d)* "
    r"(?:is|are|has|have|gives?|carr(?:y|ies)|runs?|SuperSpeed|[Hh]i(?:gh)?[- ]?[Ss]peed|charg(?:ing|es)|USB|for)\b)",
    re.IGNORECASE,
)
"""Between what is said of one numbered socket and of the next."""
_TIMES_OF_RATE = re.compile(r"(?i)\b(two|three|four|five|six|seven|eight) times (?=\d[\d.]* ?[GM]b)")
"""``six times 2.5 Gb/s``."""
_TIMES_OF_MODE = re.compile(r"(?i)\b((?<!at )once|twice|(?:two|three|four) times) (?=(?:\d{3,4}p|\dK|\d{4} ?x))")
_TIMES_SAID = {"once": "1", "twice": "2", "two times": "2", "three times": "3", "four times": "4"}
_FEET_AND_INCHES = re.compile(
    r"(?i)(?<![\d.,])(\d{1,2}) ?(?:ft\.?|feet|foot|') ?(\d{1,2}(?:\.\d)?) ?(?:in(?:ches)?\b|\")"
)
_MORE_LENGTH = re.compile(r"(?i)(?<=\d) more (?=(?:feet|met(?:re|er)s|inches|m|ft)\b)")
"""``10 more feet``."""
_ARROW_OF_WATTS = re.compile(r"(\d{1,3}) ?W ?(?:->|=>|\u2192) ?(\d{1,3}) ?W\b")
"""``100 W -> 85 W``: what goes in and what comes to the host."""
_AMPERES_FIRST = re.compile(r"(?<![\d.,])(\d(?:\.\d{1,2})?) ?A (?:at|with) (\d{1,2}) ?V\b")
_WATTS_KEY = re.compile(r"(?i)\bwatts: [^.\n]*(?:\.\d[^.\n]*)*")
_BARE_WATTS = re.compile(r"(?<![\w.])(\d{1,3}(?:\.\d+)?)(?= (?:for|to|at|from|on|each)\b)")
"""``The watts: 100 for the computer, 15 for the USB-C socket``."""
_PART_IN_LINE = re.compile(
    r"(?i)(?:: ?|, |,? and )(?:an? )?(hub|dock|charger|lead|cable|cord|adapter|reader|stand) \(([^()\n]{4,120})\)"
)
"""``Set of three: dock (85 W), charger (100 W) and cable (1 m)``."""
_USB_2_RATE = re.compile(r"(?<![\w.,])480 ?M(?![\w/])")
"""No lead has 480 m."""
_SUPER_PLUS = re.compile(r"(?i)(?<=superspeed)\+")
_SHORT_RATE = re.compile(r"(?<=\b[AC] )(5|10|20|40)G(?![A-Za-z\d/])")
"""``2xA 5G``."""
_LISTED = re.compile(r"(?<![\d.,])(\d+(?:\.\d+)?)(?= ?/ ?(?:\d+(?:\.\d+)? ?/ ?)*\d+(?:\.\d+)? ?(W|MB/s)\b)")
"""``45/30/15 W``: a unit that stands once for several."""
_PLUS_LISTED = re.compile(
    r"(?<![\d.,])(\d{1,3}(?:\.\d)?)(?= ?\+ ?(?:\d{1,3}(?:\.\d)? ?\+ ?){0,6}\d{1,3}(?:\.\d)? ?W\b)"
)
"""``80 + 60 W``."""
_BOTH_RATES = re.compile(r"(?m)(?<=[:,] )(\d{2,4}) ?/ ?(\d{2,4}) ?MB/s(?=\s*(?:$|[.,;)\n]))(?<!/)")
"""``SD: 300 / 250 MB/s``: reading and writing."""
_SLASHED_BOTH = re.compile(
    r"(?i)(?<![\d.,/])(\d[\d,]{1,6}) ?/ ?(\d[\d,]{1,6}) ?MB/s ?\(?(?:r/w|rd/wr|read ?/ ?write|reading ?/ ?writing)\)?"
)
_READ_WRITE_BARE = re.compile(r"(?i)\b(rd|read|r) (\d[\d,]{1,6}),? (wr|write|w) (\d[\d,]{1,6})(?=\s*(?:[.;,]|$))")
"""``rd 280 wr 240``, where other rates have their unit."""
_READ_WRITE = re.compile(r"\bR/W:? (\d[\d,]{1,6}) ?/ ?(\d[\d,]{1,6}) ?MB/s")
_TWO_SLOTS = re.compile(r"(?i)(?:SD|CF|cards?|slots?)\w*\s*(?:/|,|\+|and)\s*(?:micro|SD|CF|TF)[^\n]*$")
_LISTED_THING = re.compile(
    r"(?m)^[ \t]*- (?:type|name|port|socket|connector|kind): *([^\n]{1,40})((?:\n[ \t]+[\w-]{1,20}: *[^\n]{1,60}){1,8})"
)
"""A thing of a list with its keys below it, one a line."""
_BRACED = re.compile(r"(?m)^([ \t]*)([\w-]{1,20}): ?\{([^{}\n]{3,200})\}[ \t]*,?$")
"""``usb-a: {count: 2, rate: 10 Gb/s}``."""
_BRACED_IN_LINE = re.compile(r"\b([\w-]{1,20}): ?\{([^{}\n]{3,200})\}")
"""``charging: {max_in: 100W, to_host: 87W}`` among other keys."""
_COUNT_IN_BRACES = re.compile(r"(?:^|, *)(?:count|number|quantity|qty): *(\d{1,2})(?=,|$)")
_HALF_OF = re.compile(r"\bhalf an? (amp(?:ere)?|met(?:re|er)|watt)\b")
_LISTED_RATES = re.compile(r"(?<![\d.,])\d+(?:\.\d)?(?:,? (?:and |or )?\d+(?:\.\d)?){2,5} ?[GM]b(?:it)?/?p?s\b")
"""``10, 5, 2.5 Gb/s``."""


def write_out(draft: Draft) -> None:
    """Counts before what they count, and each figure with its unit."""
    draft.replace(_SMALL_LINE, lambda match: _SMALL_RATE.sub(lambda rate: rate[0].upper(), match[0]))
    if not _STARRED_NOTE.search(draft.text):
        draft.replace(_TIMES_BEHIND, lambda _: " x")
    draft.replace(_SLASHED_RATES, lambda match: match[0].rpartition("/")[2])
    draft.replace(_LISTED_THING, _in_one_line)
    draft.replace(_BRACED, _without_braces)
    draft.replace(_BRACED_IN_LINE, lambda match: f"{match[1]}: {re.sub('[:_]', ' ', match[2])}")
    draft.replace(_SLASHED_BOTH, lambda match: f"reads {match[1]} MB/s, writes {match[2]} MB/s")
    if "MB/s" in draft.text:
        draft.replace(_READ_WRITE_BARE, lambda match: f"reads {match[2]} MB/s, writes {match[4]} MB/s")
    draft.replace(_READ_WRITE, lambda match: f"reads {match[1]} MB/s, writes {match[2]} MB/s")
    draft.replace(_BOTH_RATES, _read_and_written)
    draft.replace(_TIMES, lambda match: f"{match[1]} x ")
    draft.replace(_OF_WHICH, lambda _: ", ")
    draft.replace(_LISTED_CLASSES, _counted)
    draft.replace(_SO_MUCH_OF, lambda match: f"{match[1]} W" if int(match[1]) < int(match[2]) else match[0])
    draft.replace(_BOTH_WAYS, lambda match: f"{match[1]} {match[2]}")
    draft.replace(_OTHER_IN_BRACKETS, lambda match: f"{match[1]} {match[2]})")
    draft.replace(_OTHER_WAY, lambda match: f"{match[1]} {match[2]}")
    draft.replace(_WAY_AT_END, lambda match: f"{match[1]} {match[2]}")
    draft.replace(_OF_THEM_ARRIVE, lambda match: f"{match[1]} W")
    draft.replace(_HANDS_ON, lambda match: f"{match[1]} W")
    for _ in range(2):  # what stands between two is found once
        draft.replace(_PORT_AGAIN, lambda match: f"{match[1]};")
    draft.replace(_TIMES_OF_RATE, lambda match: f"{count_of(match[1])} x ")
    draft.replace(_TIMES_OF_MODE, lambda match: f"{_TIMES_SAID[match[1].lower()]} x ")
    draft.replace(_COUNTED_UNDER_RATE, lambda match: _COUNTED_LETTER.sub(r"\1 x USB-\2", match[0]))
    draft.replace(_GIGABIT_PORTS, lambda match: f"{match[1]} x 1 Gb/s ")
    draft.replace(_RUN_OF_USB, lambda match: f"USB-A {match[1]}-{match[2]}")
    draft.replace(_COUNTED_WITH_RATE, lambda match: f"{match[1]} x USB-{match[2]}")
    draft.replace(_LETTER, lambda match: _NAMES[match[1]])
    draft.replace(_LETTER_KEY, lambda match: " and ".join(_NAMES[each] for each in match.groups() if each))
    draft.replace(_LETTER_RATE, lambda match: f"{match[1]} {match[2]}b/s")
    draft.replace(_NETWORK_RATE, lambda match: f"{match[1]}{match[2]} Gb/s")
    draft.replace(_NETWORK_NUMBER, lambda match: f"{match[1]}1000 Mb/s")
    draft.replace(_COUNTED_CLASS, lambda match: f"{match[1]} x USB-{match[2]}")
    draft.replace(_COUNT_LAST, lambda match: f"{match[3]} x {match[1]} {match[2]}")
    if len(_LEAD_OF_SET.findall(draft.text)) > 1:
        draft.replace(_LEAD_OF_SET, lambda match: f"\n{match[1]}: {match[2]}.")
    if len(_LEAD_IN_LINE.findall(draft.text)) > 1:
        draft.replace(_LEAD_IN_LINE, lambda _: "\n\n")
    draft.replace(_PARTS_OF_CLASS, lambda match: "{}: {} x {}, {} x {}".format(*match.groups()))
    draft.replace(_SIDES, lambda match: f"{match[1]} x {match[3]} x {match[4]} {match[2]}")
    draft.replace(_AGAIN_ON_HOSTS, lambda match: f"{match[1]} {match[2]}")
    draft.replace(_SIDES_ONCE, lambda match: f"{match[1]} x {match[3]} x {match[4]} {match[2]}")
    draft.replace(_MORE_LENGTH, lambda _: " ")
    draft.replace(_ARROW_OF_WATTS, lambda match: f"{match[1]} W in, {match[2]} W to the laptop")
    draft.replace(_AMPERES_FIRST, lambda match: f"{match[2]} V {match[1]} A")
    draft.replace(_WATTS_KEY, lambda match: _BARE_WATTS.sub(r"\1 W", match[0]))
    if len(_PART_IN_LINE.findall(draft.text)) > 1:
        draft.replace(_PART_IN_LINE, lambda match: f"\n\n{match[1]}: {match[2]}.")
    draft.replace(_USB_2_RATE, lambda _: "480 Mb/s")
    draft.replace(_SUPER_PLUS, lambda _: " plus")
    draft.replace(_FEET_AND_INCHES, lambda match: f"{12 * int(match[1]) + float(match[2]):g} in")
    draft.replace(_TIMES_RATE, lambda match: f"{match[1]} x {match[2]} Gb/s")
    draft.replace(_SHORT_RATE, lambda match: f"{match[1]} Gb/s")
    draft.replace(_LISTED_RATES, _each_with_its_unit)
    draft.replace(_PLUS_LISTED, lambda match: f"{match[1]} W")
    draft.replace(_HALF_OF, lambda match: f"0.5 {match[1]}")
    draft.replace(_LISTED, lambda match: f"{match[1]} {match[2]}")


def _without_braces(match: re.Match[str]) -> str:
    """How many first, then what each has."""
    inside = match[3].strip()
    told = _COUNT_IN_BRACES.search(inside)
    rest = _COUNT_IN_BRACES.sub("", inside).strip(" ,").replace(": ", " ")
    return f"{match[1]}{f'{told[1]} x ' if told else ''}{match[2]}: {rest}"


def _in_one_line(match: re.Match[str]) -> str:
    keys = dict(re.findall(r"([\w-]+): *([^\n]+)", match[2]))
    count = next((keys.pop(each) for each in ("count", "number", "quantity", "qty") if each in keys), "")
    return f"{f'{count} x ' if count else ''}{match[1].strip()}: {', '.join(keys.values())}"


def _read_and_written(match: re.Match[str]) -> str:
    """Of one slot; of two that are named before, each has its own."""
    before = match.string[max(0, match.start() - 60) : match.start()]
    if _TWO_SLOTS.search(before) or "/" in match.string[max(0, match.start() - 3) : match.start()]:
        return match[0]
    return f"reads {match[1]} MB/s, writes {match[2]} MB/s"


def _counted(match: re.Match[str]) -> str:
    letters = re.findall("[AC]", match[0])
    return ", ".join(f"{letters.count(each)} x USB-{each}" for each in dict.fromkeys(letters))


def _each_with_its_unit(match: re.Match[str]) -> str:
    numbers, unit = re.findall(r"\d+(?:\.\d)?", match[0]), re.search(r"[GM]b.*", match[0])
    return ", ".join(f"{number} {unit[0] if unit else ''}" for number in numbers)
