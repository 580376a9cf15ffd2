"""In which sentence of the claim language something is promised."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what, with_all_in_use
from auditra.core.advert.phrases import any_of
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import BOTH, Said, State
from auditra.core.advert.sureness import assumptions_of
from auditra.core.advert.units import Dim

_METRIC = {"in": (25.4, "mm"), "ft": (0.3048, "m"), "oz": (28.349523125, "g"), "lb": (453.59237, "g")}
"""Source: the international yard and pound, 1959."""
_IMPERIAL = re.compile(r"(?<![\d.])(\d+(?:\.\d+)?(?: x \d+(?:\.\d+)?){0,2}) (in|ft|oz|lb)\b(?! a row| a chain| series)")
_OF_SOCKET = re.compile(r"[A-Z]\d")


def say(state: State, sentence: Sentence, *claims: str) -> None:
    """Note claims, of every device of a kit where they are made for both."""
    devices = sorted(set(state.product.devices.values())) if state.device == BOTH else state.device.split("+")
    for words in map(_in_metric, claims):
        carried = state.assumed if _OF_SOCKET.match(words) is not None else []
        assumed = (*carried, *assumptions_of(sentence, words, state.is_corrected(sentence)))
        for device in devices:
            whole = f"{device}:{words}" if device else words
            state.said.append(Said(whole, sentence.clause.start, sentence.clause.end, tuple(dict.fromkeys(assumed))))


def _in_metric(words: str) -> str:
    """Inches, feet, ounces and pounds in metric units, with as many digits as anybody would write."""
    match = _IMPERIAL.search(words)
    if match is None:
        return words
    factor, unit = _METRIC[match[2]]
    figures = " x ".join(f"{float(side) * factor:.5g}" for side in match[1].split(" x "))
    return f"{words[: match.start()]}{figures} {unit}{words[match.end() :]}"


@dataclass(frozen=True)
class Verb:
    """A kind of promise with its verb for one socket and for several."""

    one: str
    several: str


DATA, LINKS, SHOWS, GIVES = Verb("data", "data"), Verb("links", "link"), Verb("shows", "show"), Verb("gives", "give")
FEEDS, CARDS, READS, WRITES = (
    Verb("feeds", "feed"),
    Verb("cards", "cards"),
    Verb("reads", "read"),
    Verb("writes", "write"),
)
NO_DATA, NO_DISPLAY = Verb("no data", "no data"), Verb("no display", "no display")
FRAMES, ACCEPTS, CHARGES = Verb("frames", "frames"), Verb("accepts", "accept"), Verb("fast charges", "fast charge")
WORKS = Verb("works with", "work with")
_AT_ONCE = any_of(
    "side by side",
    "(?<!not )at once",
    "at the same time",
    "simultaneous(?:ly)?",
    r"(?<!\dW )(?<!\d W )(?<!not )together",
    "in parallel",
    "all at full speed",
)
_SEVERAL_SCREENS = re.compile(
    r"(?i)\btwo at (?=(?:up to )?\d)|^\W*(?:dual|triple|quad|two|three|four)\b|\beach\b|\b(?:two|dual|three"
    r"|triple|four|both|all)(?: \w+)?"
    r" (?:monitors|displays|screens|pictures)\b|\bpair of (?:\w+ )?(?:monitors|displays|screens)\b|\bor (?:two"
    r"|three) (?:at|with)\b|\bevery one\b|\bdual\b"
)


def promise(
    state: State, sentence: Sentence, ids: Sequence[str], verb: Verb, figure: Figure, *, tail: str = "", value: str = ""
) -> None:
    """A figure of some sockets, with its conditions."""
    words, under = f"{value or figure.hedged}{tail}", under_what(sentence, figure)
    several = verb is not SHOWS and sum(each.dim is figure.dim for each in sentence.figures) > 1
    near = sentence.part_of(figure) if several else _without_parts_of_others(sentence, figure)
    at_once = with_all_in_use(sentence, figure) or _AT_ONCE.search(near) is not None
    say_of(state, sentence, ids, verb, words, under=under, at_once=at_once and "without others" not in under)


def _without_parts_of_others(sentence: Sentence, figure: Figure) -> str:
    """``Each 5 Gb/s, together 9 W``: that they do the one at once says nothing of the other."""
    text, own = sentence.text, sentence.part_of(figure)
    for other in sentence.figures:
        part = sentence.part_of(other)
        if other.dim is not figure.dim and other.dim in (Dim.WATTS, Dim.AMPERES, Dim.RATE) and part != own:
            text = text.replace(part, " " * len(part))
    return text


def say_of(
    state: State, sentence: Sentence, ids: Sequence[str], verb: Verb, words: str = "", *, under: str = "",
    at_once: bool = False,
) -> None:  # fmt: skip
    """Of each socket by itself; of all at once, which promises more, only where the words say so."""
    at_once = at_once or (verb is SHOWS and _SEVERAL_SCREENS.search(sentence.text) is not None)
    at_once = at_once and not (verb is SHOWS and _one_excludes_another(state, ids))
    groups = [ids] if at_once and ids else [[port] for port in ids]
    say(state, sentence, *(joined(group, verb, words) + under for group in groups))


def _one_excludes_another(state: State, ids: Sequence[str]) -> bool:
    """Whether two of these sockets were said to show a picture one at a time."""
    told = (said.sentence.removesuffix(" one at a time") for said in state.said if "one at a time" in said.sentence)
    return any(len(set(each.split("|")) & set(ids)) > 1 for each in told)


def joined(ids: Sequence[str], verb: Verb, words: str, joint: str = "+") -> str:
    """``A1+A2 data 5 Gb/s each``, ``A1 data 5 Gb/s``."""
    several = len(ids) > 1
    return f"{joint.join(ids)} {verb.several if several else verb.one} {words}".rstrip() + (" each" if several else "")
