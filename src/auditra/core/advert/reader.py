"""Proposes claims for a seller's text; a reviewer takes them or not.

In steps, a file each: the text as it was meant (`spelling`), what it sells (`product`), its clauses (`clauses`), what
stands in them (`figures`, `sockets`, `conditions`), to what a figure belongs (`reading`), what it promises (`rules`,
in the sentences of `promises`), and how sure that is (`sureness`).
"""

from __future__ import annotations

import math
import re
from collections.abc import Collection

from auditra.core.advert.product import product_of
from auditra.core.advert.proposal import MAX_TEXT_LENGTH, Proposal, ReadText
from auditra.core.advert.reading import read
from auditra.core.advert.rules import RULES
from auditra.core.advert.spelling import Plain, plain
from auditra.core.advert.state import Said
from auditra.core.advert.sureness import sure_of
from auditra.core.claims.language import parse_claims
from auditra.core.errors import ClaimError, InputError

MAX_PROPOSALS = 400
_MEASURE = re.compile(r"(?P<of>.*body (?:length|weighs)|.*UP length) (?P<number>[\d.]+) (?P<unit>mm|cm|m|g|kg)")
_UNITS = {"mm": 1e-3, "cm": 1e-2, "m": 1.0, "g": 1e-3, "kg": 1.0}
_SAME_MEASURE = 0.02
"""So far apart, two figures are of one length in feet and in metres."""
_EDGES = " \t\r\n*-|>#.;,"


def read_text(text: str) -> ReadText:
    """The claims that a text seems to make. Raises: InputError for one that is too long."""
    if len(text) > MAX_TEXT_LENGTH:
        why = f"it is longer than {MAX_TEXT_LENGTH} characters"
        raise InputError("the text", why=why, do="Cut it to what is promised")
    meant = plain(text)
    product = product_of(meant.text)
    if product.is_nothing:
        return ReadText((), tuple(line.strip(_EDGES) for line in text.splitlines() if line.strip(_EDGES)))
    state = read(meant, product, RULES)
    proposals: dict[str, Proposal] = {}
    lost: list[tuple[int, int]] = []
    for said in state.said:
        proposal = _proposal(said, text, meant)
        if proposal is None:
            lost.append((said.start, said.end))
        elif len(proposals) < MAX_PROPOSALS:
            proposals.setdefault(proposal.sentence, proposal)
    left = (_quoted(text, meant, start, end) for start, end in sorted({*state.left, *lost}))
    kept = [each for each in proposals.values() if not _is_said_better(each.sentence, proposals.keys())]
    return ReadText(tuple(kept), tuple(words for words in left if words))


def _is_said_better(sentence: str, others: Collection[str]) -> bool:
    """Another says the same without "up to", or in rounder figures of other units (``6.6 ft``, ``2 m``)."""
    if "up to " in sentence and sentence.replace("up to ", "", 1) in others:
        return True
    own = _MEASURE.fullmatch(sentence)
    alike = (_MEASURE.fullmatch(other) for other in others if own is not None and other != sentence)
    return own is not None and any(
        other is not None
        and other["of"] == own["of"]
        and len(other["number"]) < len(own["number"])
        and math.isclose(_in_si(other), _in_si(own), rel_tol=_SAME_MEASURE)
        for other in alike
    )


def _in_si(match: re.Match[str]) -> float:
    return float(match["number"]) * _UNITS[match["unit"]]


def _proposal(said: Said, text: str, meant: Plain) -> Proposal | None:
    """In the one spelling of the claim language; None for what it cannot say."""
    try:
        claims = parse_claims(said.sentence, claim_id="")
    except ClaimError:
        return None
    quoted = _quoted(text, meant, said.start, said.end)
    return Proposal(str(claims[0]), quoted, sure_of(said.assumed), said.assumed) if len(claims) == 1 else None


def _quoted(text: str, meant: Plain, start: int, end: int) -> str:
    first, last = meant.span(start, end)
    return text[first:last].strip(_EDGES)
