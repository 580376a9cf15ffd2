"""Doubts as they are typed: a few words, then the suspected cause and what it is about, where there is one."""

from __future__ import annotations

from auditra.core.counted import listed
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtEnd, DoubtEnded, DoubtRaised
from auditra.core.judge.doubts import DoubtAnswer
from auditra.core.judge.reasoning.reasons import all_causes
from auditra.tui.prompt import Facts, Offers, Prompt

_BETWEEN = " / "
_MAX_WORDS = 400


def doubt_prompt(port: str | None) -> Prompt:
    """Asks for a doubt about a port: ``is the lead too slow? / rig part / lead AC-2``."""
    about = f" about {port}" if port else ""
    return Prompt(
        f"doubt{about}, then / cause / part", lambda audit, text: _raised(audit, text, port), offers=_offers,
        action=f"note a doubt{about}",
    )  # fmt: skip


def _raised(audit: Audit, text: str, port: str | None) -> Facts:
    question, *more = [part.strip() for part in text[:_MAX_WORDS].split(_BETWEEN.strip())]
    if not question:
        raise InputError("the doubt", why="it has no words", do="Type a question first")
    fields: dict[str, str] = {"port": port} if port else {}
    if more and more[0] in _kinds():
        fields["suspect"] = more.pop(0)
    if more and more[0]:
        fields["about"] = more[0]
    return (DoubtRaised(f"D{audit.entries + 1}", question, **fields),)


def _kinds() -> tuple[str, ...]:
    return tuple(sorted(cause.id for cause in all_causes()))


def _offers(text: str) -> Offers:
    """After the words, the causes that may be suspected."""
    words, between, typed = text.partition(_BETWEEN)
    if not between or _BETWEEN in typed:
        return text, ()
    return f"{words}{between}", tuple(kind for kind in _kinds() if kind.startswith(typed) and kind != typed)


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
