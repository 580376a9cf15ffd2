"""Supplies and chargers beside a device: what comes with it, and whose watts are not the device's."""

from __future__ import annotations

import re

from auditra.core.advert.figures import Figure
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State

SUPPLY = re.compile(r"supply|supplies", re.IGNORECASE)
_SUPPLY_BEHIND = any_of("charger", "supply", "adapter", "brick")
_WITH_BEHIND = begins_with(",? ?(?:with|without|from|only)")
_IN_BOX_BEHIND = begins_with(r"\(?(?:in (?:the )?box|included|enclosed|supplied|inkl|incl|inbegriffen)")
_SUPPLY_LISTED = ends_with(r"[,;] (?:power )?(?:supply|brick|mains adapter):?")
"""``USB-C 20 W together, supply 150 W``."""
_ENCLOSED_SUPPLY = ends_with("netzteil", "alimentation", "alimentatore")


def comes_along(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Power supply: 130 W (in the box)``, ``36 W, included``."""
    if sentence.sockets_of("AC") or not _IN_BOX_BEHIND.match(sentence.behind(figure, 16).lstrip(", ")):
        return False
    if SUPPLY.search(sentence.over):
        say(state, sentence, f"body comes with {figure.text} supply")
    return True


def is_of_supply(sentence: Sentence, figure: Figure) -> bool:
    """``a 65 W charger``, ``19.5 V, 7.7 A (150 W)``: what another thing gives."""
    behind = re.split(r" of (?:an? )?\d|[,;] (?!with)", sentence.behind(figure, 18))[0]
    if (
        _SUPPLY_BEHIND.search(behind.partition("(")[0])
        and not _WITH_BEHIND.match(behind)
        and not re.search(r"(?i)\bin\b", sentence.over)
    ):
        return True
    if _ENCLOSED_SUPPLY.search(sentence.before(figure, 24)) and _IN_BOX_BEHIND.match(sentence.behind(figure, 16)):
        return True
    if _SUPPLY_LISTED.search(sentence.before(figure, 24)):
        return True
    worked = re.search(r"\d ?A\s*\(\s*$", sentence.before(figure, 16))
    return bool(worked) and re.search(r"(?i)supply|adapter|input", sentence.over + sentence.text[:24]) is not None
