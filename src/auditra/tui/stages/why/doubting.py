"""How a doubt ends, as it is typed."""

from __future__ import annotations

from auditra.core.counted import listed
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtEnd, DoubtEnded
from auditra.core.judge.doubts import DoubtAnswer
from auditra.tui.prompt import Facts, Offers, Prompt


def end_prompt(answer: DoubtAnswer) -> Prompt:
    """Asks how a doubt ends, and why: ``refuted the other lead does the same``."""
    words = tuple(str(end).split()[0] for end in DoubtEnd)

    def facts(_: Audit, text: str) -> Facts:
        first, _gap, why = text.strip().partition(" ")
        ends = {str(end).split()[0]: end for end in DoubtEnd}
        if first not in ends:
            raise InputError("the end of the doubt", why=f'found "{first}"', do=f"Begin with one of: {listed(words)}")
        return (DoubtEnded(answer.doubt.raised.id, ends[first], why.strip(), answer.trials),)

    def offers(text: str) -> Offers:
        return "", tuple(word for word in words if word.startswith(text) and word != text)

    return Prompt("confirmed, refuted or still open, and why", facts, offers=offers, action="close a doubt")
