"""Under what a figure is promised: with or without others, a display, a supply; on which host; in other words."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from auditra.core.advert.condition_forms import ANY_OF_THEM, COMPILED, SUPPLY, USED, Means


@dataclass(frozen=True)
class Condition:
    """A condition at a place; `words` is how a claim writes it, empty for one that changes nothing."""

    start: int
    end: int
    means: Means
    words: str
    leads: bool = False
    """It stands before what it is about."""


_ONLY_SUPPLY = re.compile(rf"{SUPPLY}(?: connected)?", re.IGNORECASE)
_ON_BEGINS = re.compile(
    r"(?i)^(?:with the [\w -]+ )?(?:plugged|connected) (?:in)?to an? |^(?:only )?(?:on|from|with|for|under|only"
    r"|in|at|over|through|via) (?:any |the |an? )?",
    re.IGNORECASE,
)
_BESIDES = re.compile(r"\b(?:only|(?:or )?newer)\b", re.IGNORECASE)
_UNREAD_BEGINS = re.compile(
    r"^(?:only )?(?:once|if|while|whenever|when|as soon as|as long as|so long as|provided(?: that)?|with|on|in case"
    r"|unless)\s+"
    r"(?:you (?:leave|keep) )?(?:it is (?=\w)|its |your |the |(?-i:a ))?",
    re.IGNORECASE,
)
_DARK_BEFORE = re.compile(
    r"(?i)[,;(] ?(?:the )?[\w ]{1,24} (?:switched off|dark|off|blank|asleep|disabled|silent) (?:only )?$"
)
"""``VGA 1080p60, HDMI switched off while VGA is used``: of what is off, and no condition of the figure."""
_HOST_HAS = re.compile(r"(?i)where (?:the|your|an?) (\w+?)s? (?:has|knows|supports|offers|does|can do) (.+)")
_NONE_BEHIND = re.compile(
    r"(?i):? (?:it is |there is |it gets )?(?:none|nothing|no (?:charging|power|picture))(?=\s*(?:[.,;)]|$))"
)
_LOOK_BEFORE = 48
_GUESSED = (Means.UNREAD, Means.ALONE)
_ANOTHER_CLAUSE = re.compile(
    r"while [^,.;]*\d ?(?:Hz|hertz|[GM]b)|while \d+(?:\.\d+)? ?W (?:is|are|stays?|goes?|go)\b", re.IGNORECASE
)
"""``While`` between two promises, and before no condition."""
NEXT_CONDITION = re.compile(r"(?<=\w) (?:while|without|with|on)\b", re.IGNORECASE)
"""Where the claim language would read another condition."""
_BEGINS_PART = re.compile(r"(?:[,.;:]|\b(?:and|but|or|less|lower|slower|reduced))$")
_WITH_SO_MANY = re.compile(r"(?i)with (?:one|a single|two|three|four)(?: \w+)?")
_ONE_ALONE = re.compile(r"(?i)(?:one|either)(?: of (?:them|these|the two))? alone")
_ABOUT_THEM = re.compile(r" (?:both|they|each|all) (?=\w)")
_AFTER = re.compile(r"(?i)after (?:the first )?(\d+ ?[GMT]B)")
"""``900 MB/s after 200 GB``: a store beside which there is a faster one."""
_CARD_IS = re.compile(r"(?i)(?:when|if|while|provided) the card is (?:an? )?([\w-]{2,10})")
_SUPPLY_OF = re.compile(rf"^({SUPPLY}) (?:of|has|gives|brings|delivers)(?: at least)? (\d+ ?W)$", re.IGNORECASE)
_ENCLOSED = re.compile(r"(?i)\b(?:supplied|included|enclosed) ")
_MAX_WORDS = 8
_NO_WORDS = (
    "",
    "not",
    "so",
    "it",
    "it is",
    "needed",
    "possible",
    "necessary",
    "it works",
    "you work",
    "you play",
    "it runs",
)


def conditions(text: str) -> list[Condition]:
    """Every condition in order of place; of two that overlap, the one whose meaning is known better."""
    found: list[Condition] = []
    if not ANY_OF_THEM.search(text):
        return found
    small = text.lower()
    for means, pattern, needed in COMPILED:
        for match in pattern.finditer(text) if all(word in small for word in needed) else ():
            start, end = match.span()
            if _DARK_BEFORE.search(text, max(0, start - _LOOK_BEFORE), start):
                continue
            if pattern is not USED and means in _GUESSED and _ANOTHER_CLAUSE.match(match[0]):
                continue
            if not any(start < each.end and each.start < end for each in found):
                if _NONE_BEHIND.match(text, end):
                    found.append(_without_none(start, end, means))
                else:
                    found.append(Condition(start, end, means, _words(means, match), _leads(text, start, end)))
    return _with_opposites(sorted(found, key=lambda condition: condition.start), text)


def _without_none(start: int, end: int, means: Means) -> Condition:
    """``100 W, without supply none``: the figure before is promised with the supply."""
    opposite = _OPPOSITE.get(means, Means.UNREAD)
    if means is Means.WITHOUT_SUPPLY:
        return Condition(start, end, Means.WITH, "with supply")
    return Condition(start, end, opposite, "" if opposite in (Means.UNREAD, Means.WITH) else str(opposite))


_SO_MANY = re.compile(r"with (?:two|both|three|all(?: (?:two|three|four))?)(?: (?:displays|screens|monitors))?")
_MORE_THAN_TWO = re.compile(r"(?i)\bwith (?:three|four)\b")
"""With two is then not with all."""
_OPPOSITE = {
    Means.ALONE: Means.ALL, Means.WITHOUT_DISPLAY: Means.WITH_DISPLAY, Means.WITH_DISPLAY: Means.WITHOUT_DISPLAY,
    Means.WITHOUT_NETWORK: Means.WITH_NETWORK, Means.WITH_NETWORK: Means.WITHOUT_NETWORK,
    Means.WITHOUT_DATA: Means.ALL, Means.ALL: Means.ALONE, Means.UNREAD: Means.UNREAD, Means.ON: Means.UNREAD,
}  # fmt: skip
_OF_SUPPLY = re.compile(rf"{SUPPLY}$")
_ENDS_IN_USE = re.compile(r"(?:in use|is used|connected|busy|plugged in|active|running)$|^while ")
_ELSE = re.compile(r"(?:or )?else|otherwise", re.IGNORECASE)


def _with_opposites(found: list[Condition], text: str) -> list[Condition]:
    """``45 W with a display, else 60 W``: the opposite of the condition before it."""
    for n, each in enumerate(found):
        if n and is_else(text[each.start : each.end]):
            found[n] = opposite_of(each, found[n - 1])
        elif n:
            found[n] = each if _MORE_THAN_TWO.search(text) else of_all_after(each, found[n - 1])
    return found


def of_all_after(condition: Condition, before: Condition) -> Condition:
    """``With one display 4K at 120 Hz, with two ...``: with all of them in use, where what one does alone was said."""
    is_of_all = before.means is Means.ALONE and _SO_MANY.fullmatch(condition.words)
    return replace(condition, means=Means.ALL, words="") if is_of_all else condition


def is_else(words: str) -> bool:
    return _ELSE.fullmatch(words.strip()) is not None


def opposite_of(condition: Condition, before: Condition) -> Condition:
    """An "else" behind a condition: what is left when that does not hold."""
    means = _OPPOSITE.get(before.means)
    if _ENDS_IN_USE.search(before.words):
        means = Means.ALONE
    elif before.means is Means.WITH and not _OF_SUPPLY.search(before.words):
        means = Means.UNREAD
    if means is None:
        return condition
    return replace(condition, means=means, words="" if means is Means.UNREAD else str(means))


def _words(means: Means, match: re.Match[str]) -> str:
    """As a claim writes it."""
    if means is Means.ON and (has := _HOST_HAS.fullmatch(match[0])):
        return f"on {has[1].lower()}s with {in_short(has[2])}"
    if means is Means.ON:
        own = re.sub(r"(?i)\bwithout\b", "that lack", _ON_BEGINS.sub("", match[0]))
        own = re.sub(r"(?<=\w) on (?=\w)", " at ", re.sub(r" ones?$", " hosts", own))
        return f"on {in_short(_BESIDES.sub('', own))}"
    if means is Means.WITH and (after := _AFTER.match(match[0])):
        return f"with {after[1]} written"
    if means is Means.WITH:
        if _ONLY_SUPPLY.fullmatch(match[1].strip()):
            return "with charger" if "charger" in match[1].lower() else "with supply"
        words = in_short(_SUPPLY_OF.sub(r"\2 \1", _ENCLOSED.sub("", match[1])))
        return f"with {words.replace(' with ', ' that has ')}"
    if means is Means.UNREAD:
        if card := _CARD_IS.fullmatch(match[0].strip()):
            return f"with {card[1]} card"
        own = re.sub(r"(?i)^without (?:an? |any )?", "no ", match[0])
        own = re.sub(r" on (?=(?:that|this|the|it|its)\b)", " at ", own)
        words = in_short(NEXT_CONDITION.split(_UNREAD_BEGINS.sub("", own))[0])
        return f"with {words}" if words not in _NO_WORDS else ""
    return str(means)


def in_short(words: str) -> str:
    words = re.sub(r"(?<![A-Za-z])/|/(?![A-Za-z])", " ", words)
    return " ".join(re.sub(r"[^\w.+/-]+", " ", words).split()[:_MAX_WORDS])


def _leads(text: str, start: int, end: int) -> bool:
    """Whether it begins its part of the sentence and what it is about follows."""
    before = text[:start].rstrip()
    if before.endswith("("):
        return re.match(r"[^;)]*\d", text[end:]) is not None
    bracket = re.match(r" \([^)]*\d[^)]*\)", text[end:])
    if bracket is not None and before.endswith(("two", "others", "more")):
        return True
    is_so_many = _WITH_SO_MANY.fullmatch(text[start:end]) or _ONE_ALONE.fullmatch(text[start:end])
    if is_so_many and re.match(r" (?:\d{3,4}x|\dK)", text[end:]):
        return True
    follows = text[end : end + 1] in (",", ":") or _ABOUT_THEM.match(text, end) is not None
    return not before or (_BEGINS_PART.search(before) is not None and follows)
