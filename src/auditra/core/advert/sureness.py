"""How sure a claim is that was read: by what had to be assumed for it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import TYPE_CHECKING

from auditra.core.advert.condition_forms import Means
from auditra.core.advert.phrases import any_of

if TYPE_CHECKING:
    from auditra.core.advert.sentence import Sentence

CARRIED = "its socket was named earlier"
OWN_WORDS = "its condition is in the seller's words"
MAYBE_CONDITION = "a condition may be missing"
DENIES = "the sentence also says what it does not do"
CORRECTED = "the spelling was corrected"
_PLAIN = 0.86
"""Of claims for which nothing was assumed so many were right on texts that no rule was written for: docs/reading.md."""
_FACTORS = {
    CARRIED: 0.65, OWN_WORDS: 0.65, MAYBE_CONDITION: 0.9, DENIES: 0.9, CORRECTED: 0.95,
}  # fmt: skip
_LEAST = 0.2
_CONDITIONAL = any_of(
    "if", "when", "whenever", "while", "unless", "only", "except", "but", "needs?", "requires?", "depending", "once"
)
_DENIED = any_of("not", "never", "neither", "nor")


def assumptions_of(sentence: Sentence, claim: str, is_corrected: bool) -> Iterator[str]:
    """What a claim of a sentence rests on besides the sentence itself."""
    unread = [each for each in sentence.conditions if each.means is Means.UNREAD]
    if any(each.words and each.words in claim for each in unread):
        yield OWN_WORDS
    elif _CONDITIONAL.search(_without_conditions(sentence)) or (
        unread and not re.search(r" (?:with|without|on) ", claim)
    ):
        yield MAYBE_CONDITION
    if _DENIED.search(sentence.text):
        yield DENIES
    if is_corrected:
        yield CORRECTED


def _without_conditions(sentence: Sentence) -> str:
    text = sentence.text
    for condition in reversed(sentence.conditions):
        text = text[: condition.start] + text[condition.end :]
    return text


def sure_of(assumed: tuple[str, ...]) -> float:
    """From 0 to 1."""
    sure = _PLAIN
    for reason in assumed:
        sure *= _FACTORS[reason]
    return max(_LEAST, round(sure, 2))
