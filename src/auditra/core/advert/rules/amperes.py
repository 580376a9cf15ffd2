"""Currents of sockets, and the standards that they charge by."""

from __future__ import annotations

import re
from collections.abc import Sequence

from auditra.core.advert.belonging import ids_of, subjects
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import CHARGES, FEEDS, GIVES, promise, say, say_of
from auditra.core.advert.rules.parts import counted_part, numbered_at
from auditra.core.advert.rules.steps import IN_SUM, INPUT, MOST_INLET_V, USB_V
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import Socket
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

SHARED = any_of(
    "shared?(?: by| between| among)?", "sharing", "together(?! with)", "in total", "total(?: not more than)?",
    "between them", "combined",
    "split", "all at (?:the same time|once)(?: up to| max\\.?)?",
    r"for (?:the|all) (?:two|three|four|five|six|seven|eight|ten|\d)", "over all", "altogether", "sum", "in all",
    "zusammen", "insgesamt", "en tout", "au total", "in totale", "totaal",
)  # fmt: skip
_INTO_INLET = re.compile(
    r"(?i)\bDC[- ]in(?:put|let)?:? ?\(?$|\b(?:inlet|socket for (?:the|a) (?:charger|supply))\b[^.;]{0,24}$"
)
_TO_INLET = re.compile(r"(?i)\)?\s*(?:to|into|in) (?:the|its) (?:inlet|DC socket|power socket)\b")
_OF_SOME = ends_with(r"\b\d x \w+ \(")
"""``3 x charging (2.4 A``: of sockets that are not named."""
SHARE_VERB = ends_with(r"\bshares?(?: the| its| up to)?")
_NOT_OF_SOCKET = any_of("from the host", "fed by", "draws?", "supply:")
_STANDARDS = (
    ("PD PPS", r"\bPPS\b"), ("PD AVS", r"\bAVS\b"), ("PD EPR", r"\bEPR\b"), ("BC 1.2", r"\bBC ?1\.2\b"),
)  # fmt: skip
_LACKS = ends_with("without", "no", "not", "lacks")
_DELIVERS = ends_with(r"\b(?:delivers?|gives?|suppl(?:y|ies)|provides?|outputs?)")
_OF_SUPPLY = ends_with(r"\b(?:supply|charger|adapter|brick) (?:of|\([^()]{0,12})")
_IN_BEHIND = re.compile(r" in(?=\s*(?:[,;.)]|$|and\b))")
_FED_WITH = ends_with(r"\b(?:fed|powered) (?:with|by|from)(?: an?)?")
_CUTS_OFF = ends_with(
    r"\b(?:shuts?|cuts?|switch(?:es)?|turns?)(?: itself)? off (?:at|above|beyond|from)", r"\btrips? (?:at|above)",
    r"\bcut-?off(?: is)?(?: at)?", r"\b(?:individually |each )?fused? (?:at|with|to|of)",
    r"\bprotect\w* (?:at|above|from)",
)  # fmt: skip
_MORE_THAN = ends_with(r"(?<!not )(?<!no )(?<!never )\bmore than")
_LISTED = ends_with(r"\d ?[GM]b(?:/s|ps|it/s),")
"""``USB-C, 10 Gb/s, 5 V/3 A``: one more item."""
_TOGETHER_BEFORE = ends_with(
    r"\b(?:all|the) (?:\w+ )?(?:ports|sockets) together (?:give|deliver|supply|provide|have|draw)"
    r"(?: no more than| at most| up to| only| not more than)?"
)
_BESIDE = re.compile(r"\s*(?:x ?\d{1,2})?[\s,:(]*")
_TOTAL_OUTPUT = ends_with(r"\btotal (?:output|current)(?: of|:)?(?: up to)?(?: \d+ ?V ?[/,@]?)?")
_AT_SOCKET = begins_with("on", "at", "from", "per")


def amperes(state: State, sentence: Sentence, figure: Figure) -> None:
    in_condition = any(each.start <= figure.start < each.end for each in sentence.conditions)
    before = sentence.before(figure)
    if in_condition or _OF_SUPPLY.search(before) or _CUTS_OFF.search(before):
        return
    outputs = sentence.sockets_of("AC")
    near = next((each for each in sentence.of_dim(Dim.VOLTS) if abs(each.end - figure.start) < 4), None)
    if sentence.shift and INPUT.match(sentence.text):
        most_v = max((each.value for each in sentence.of_dim(Dim.VOLTS)), default=0.0)
        if 0 < most_v <= MOST_INLET_V:
            say(state, sentence, f"P1 takes {most_v * figure.value:g} W")
    elif near is not None and not outputs and _is_for_inlet(sentence, near, figure):
        say(state, sentence, f"P1 takes {near.value * figure.value:g} W")
    elif outputs and (IN_SUM.match(sentence.behind(figure)) or _TOTAL_OUTPUT.search(before)):
        named = [each for each in outputs if each.end <= figure.start] or outputs
        _share(state, sentence, figure, ids_of(state, named, "shares", again=True))
    elif near is None or (
        outputs
        and near.value == USB_V
        and (sentence.shift or _DELIVERS.search(sentence.before(near)) or _AT_SOCKET.match(sentence.behind(figure)))
    ):
        _feeds(state, sentence, figure)
    elif outputs and near.value == USB_V and _is_listed(sentence, outputs, near):
        found = subjects(state, sentence, near, "AC")[0]
        ids = ids_of(state, found, "gives")
        promise(state, sentence, ids, GIVES, figure, value=f"{near.value * figure.value:g} W")


def _is_listed(sentence: Sentence, outputs: Sequence[Socket], volts: Figure) -> bool:
    """``USB-C, 10 Gb/s, 5 V/3 A``, ``USB-A x7 5V=0.9A``: one more item of a list, or just behind its sockets."""
    gap = sentence.text[outputs[-1].end : volts.start]
    return _LISTED.search(sentence.before(volts)) is not None or _BESIDE.fullmatch(gap) is not None


def _is_for_inlet(sentence: Sentence, volts: Figure, amperes_: Figure) -> bool:
    """``the supply (20 V, 6.5 A) to the inlet``."""
    before, behind = sentence.before(volts), sentence.behind(amperes_)
    return bool(
        _FED_WITH.search(before) or _INTO_INLET.search(before) or _TO_INLET.match(behind) or _IN_BEHIND.match(behind)
    )


def _share(state: State, sentence: Sentence, figure: Figure, ids: Sequence[str]) -> None:
    """A current for all of them together, at the 5 V of USB."""
    if len(ids) > 1:
        say(state, sentence, f"{'+'.join(ids)} share {USB_V * figure.value:g} W{under_what(sentence, figure)}")


def _feeds(state: State, sentence: Sentence, figure: Figure) -> None:
    if _NOT_OF_SOCKET.search(sentence.text):
        return
    found, _ = subjects(state, sentence, figure, "AC")
    if SHARED.search(sentence.over) and not sentence.sockets_of("AC"):
        _share(state, sentence, figure, list(state.numbers.all_of("AC")))
        return
    behind = re.split(r"[,;]", sentence.behind(figure, 40))[0]
    if _MORE_THAN.search(sentence.before(figure)):
        return
    together = SHARED.match(behind.lstrip()) or _TOGETHER_BEFORE.search(sentence.before(figure))
    together = together or _TOTAL_OUTPUT.search(sentence.before(figure))
    if together and not figure.each and not sentence.sockets_of("AC"):
        ids = ids_of(state, found, "shares", again=True) if found else list(state.numbers.all_of("A"))
        _share(state, sentence, figure, ids)
        return
    if not found or (SHARED.search(behind) and not figure.each):
        return
    if _OF_SOME.search(sentence.before(figure)):
        return
    if SHARE_VERB.search(sentence.before(figure)):
        _share(state, sentence, figure, ids_of(state, found, "shares", again=True))
        return
    partial = counted_part(state, sentence, figure, found)
    again = bool(under_what(sentence, figure)) and not partial
    promise(state, sentence, ids_of(state, partial or found, "feeds", again=again), FEEDS, figure)


def standards(state: State, sentence: Sentence) -> None:
    """What sockets fast charge by."""
    found = sentence.sockets_of("AC")
    if state.product.is_lead or not found:
        return
    for name, pattern in _STANDARDS:
        match = re.search(pattern, sentence.text)
        if match is not None and not _LACKS.search(sentence.text[: match.start()]):
            on = [socket for socket in found if re.search(rf"{pattern} (?:on|at)\b", sentence.text[: socket.start])]
            named = re.search(rf"{pattern}(?: ?\([^()]*\))?", sentence.text)
            found = (numbered_at(sentence, named.end(), found) if named else []) or found
            fit = [each for each in on or found if each.letter == "C" or not name.startswith("PD")]
            ids = ids_of(state, fit or found, f"by {name}", again=True)
            new = [port for port in ids if not state.has_said(f"{port} fast charges by {name}")]
            say_of(state, sentence, new, CHARGES, f"by {name}")
