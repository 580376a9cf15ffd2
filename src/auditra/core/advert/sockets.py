"""Which sockets a text speaks of, and what each is called: a letter by connector, then a number in order of mention."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from auditra.core.advert.mentions import NUMBERS, Mention, count_of

LETTERS = {
    "usb-a": "A", "usb-c": "C", "hdmi": "H", "displayport": "D", "vga": "V", "rj45": "N", "sd": "S", "microsd": "M",
    "3.5 mm": "J",
}  # fmt: skip
MAX_SOCKETS = 16
_NEAR = 60
"""How many letters before and behind a socket may tell how many there are."""
_BETWEEN = (
    r"(?:more|ports?|porte|puertos|porten|poorten|prises|anschl(?:ü|ue)sse|buchsen|sockets?|slots?|powered"
    r"|of|von|de|da"
    r"|pcs|monitors?|front|rear|back|side|full[- ]size|fast|high[- ]speed|superspeed|additional|extra"
    r"|further|downstream"
    r"|\d{1,2}(?:[.,]\d)?\s?(?:gbps|gbit/s|gb/s|g)|usb(?: ?3[.]\d)?)"
)
"""What may stand between a number of sockets and their connector."""
_SAME_AGAIN = re.compile(
    r"\b(?:each|every|the|its|both|all|per|this|that|these|chaque|jede[rs]?)\s+(?:of the\s+)?$", re.IGNORECASE
)
_SAME_BEHIND = re.compile(r"\s*(?:(?:data |transfer )?(?:speed|rate)|resolution|charging:)", re.IGNORECASE)
_USUALLY_ONE = ("3.5 mm", "sd", "microsd", "vga")
_COUNT_BEFORE = re.compile(
    rf"(?<![/@.,x])(?<!4k )(?<!8k )\b({NUMBERS})\s*(?:x\s*)?(?:{_BETWEEN}\s+){{0,3}}(?:pcs\s*\()?$",
    re.IGNORECASE,
)
_COUNT_BEHIND = re.compile(
    rf"\s*(?:(?:sockets?|ports?|slots?|rear|front|back)\s*)?(?::\s*({NUMBERS})\s*(?=\n|$)"
    rf"|\(\s*x?\s*({NUMBERS})\s*x?\s*\)|\(({NUMBERS})\s*x|[^,;\n(]{{0,20}}\(({NUMBERS}) (?:sockets|ports)\)"
    rf"|x\s?(\d{{1,2}})\b|:\s*({NUMBERS})\s*x\b)",
    re.IGNORECASE,
)
_INDEX_BEHIND = re.compile(
    r"\s?([1-9])(?![\d.,kKx]|\s*(?:x\b|hz|g|m|w\b|v\b|a\b|port|stück|st\.|pcs|pieces|,?\d))", re.IGNORECASE
)
_TIMES_BEHIND = re.compile(r"[^,;]{1,14}?\bx\s?(\d{1,2})\b(?!\s*(?:mm|cm|x))", re.IGNORECASE)
_TWO_PICTURES = re.compile(r"\b(two|dual|2\s?x|three|triple|3\s?x)\s+(?:4k|8k|1080p|1440p|\d{4}\s*x)", re.IGNORECASE)
_PCS_BEHIND = re.compile(
    rf".{{0,24}}?\b({NUMBERS})\s*(?:pcs|pieces|stück|pièces|pezzi|piezas|unidades)\b", re.IGNORECASE
)


@dataclass
class Sockets:
    """The sockets found so far, in order, by connector."""

    found: dict[str, list[str]] = field(default_factory=dict)

    def of(self, mention: Mention, text: str, sentence_start: int, sentence_end: int) -> tuple[str, ...]:
        """The ids that a mention of a connector stands for, made where they are new."""
        if mention.value == "up":
            return ("UP",)
        if mention.value == "3.5 mm":
            return self.only(mention.value)
        known = self.found.setdefault(mention.value, [])
        behind = text[mention.end : min(sentence_end, mention.end + _NEAR)]
        before = text[max(sentence_start, mention.start - _NEAR) : mention.start]
        if (index := _INDEX_BEHIND.match(behind)) is not None:
            return self._up_to(mention.value, int(index[1]))[-1:]
        count = _counted(before, behind)
        if mention.value == "rj45" and count is None:
            return self.only(mention.value)
        if (
            known
            and count is None
            and (mention.value in _USUALLY_ONE or _SAME_AGAIN.search(before) or _SAME_BEHIND.match(behind))
        ):
            return tuple(known)
        if count is None and mention.value in ("hdmi", "displayport") and (two := _TWO_PICTURES.search(before)):
            count = count_of(two[1].lower().replace("x", "").strip())
        if count is None and known and re.match(r"\s*(?:ports|sockets)\b", behind, re.IGNORECASE):
            return tuple(known)
        return self._more(mention.value, count if count is not None and count <= MAX_SOCKETS else 1)

    def more_like(self, port: str, count: int) -> tuple[str, ...]:
        """More sockets of the connector that a socket has."""
        return self._more(next(name for name, letter in LETTERS.items() if letter == port[0]), count)

    def only(self, connector: str) -> tuple[str, ...]:
        """The sockets of a connector; one is made where there is none yet."""
        return tuple(self.found.get(connector) or self._more(connector, 1))

    def _more(self, connector: str, count: int) -> tuple[str, ...]:
        known = self.found.setdefault(connector, [])
        first = len(known) + 1
        new = [f"{LETTERS[connector]}{n}" for n in range(first, min(first + count, MAX_SOCKETS + 1))]
        known += new
        return tuple(new or known[-1:])

    def _up_to(self, connector: str, index: int) -> tuple[str, ...]:
        known = self.found.setdefault(connector, [])
        while len(known) < index:
            known.append(f"{LETTERS[connector]}{len(known) + 1}")
        return tuple(known[:index])


def _counted(before: str, behind: str) -> int | None:
    match = _COUNT_BEFORE.search(before)
    if match is not None:
        return count_of(match[1])
    match = _COUNT_BEHIND.match(behind)
    if match is not None:
        return count_of(next(group for group in match.groups() if group))
    match = _PCS_BEHIND.match(behind) or _TIMES_BEHIND.match(behind)
    return count_of(match[1]) if match is not None else None
