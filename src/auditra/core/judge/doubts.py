"""Doubts answered: a question with the cause that it suspects is confirmed, refuted, or open with its next trial."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from auditra.core.counted import listed
from auditra.core.journal.audit import Doubt
from auditra.core.journal.facts import DoubtEnd
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Finding, Sureness
from auditra.core.judge.reasoning.explained import named
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.verdict import Verdict

_SHORTEST_SUBJECT = 2
"""A subject of one letter would be found in any word."""


@dataclass(frozen=True)
class DoubtAnswer:
    """What the readings say to a doubt."""

    doubt: Doubt
    end: DoubtEnd
    why: str
    trials: tuple[str, ...] = ()
    by_reviewer: bool = False
    """The reviewer closed it; else it follows from the readings as they stand."""

    @property
    def question(self) -> str:
        return self.doubt.raised.question


def answers(doubts: Iterable[Doubt], inquiry: Inquiry, findings: Sequence[Finding]) -> tuple[DoubtAnswer, ...]:
    """The answer to each doubt. What the reviewer decided goes before what follows from the readings."""
    return tuple(_answer(doubt, inquiry, findings) for doubt in doubts)


def _answer(doubt: Doubt, inquiry: Inquiry, findings: Sequence[Finding]) -> DoubtAnswer:
    if doubt.ended is not None and doubt.ended.end is not DoubtEnd.OPEN:
        return DoubtAnswer(doubt, doubt.ended.end, doubt.ended.why, doubt.ended.trials, by_reviewer=True)
    raised = doubt.raised
    port = raised.port if isinstance(raised.port, str) else None
    suspect = raised.suspect if isinstance(raised.suspect, str) else ""
    subject = raised.about if isinstance(raised.about, str) else ""
    if not suspect and not subject:
        return DoubtAnswer(doubt, DoubtEnd.OPEN, "it names no suspected cause, so no reading can settle it")
    verdicts = [each for each in inquiry.verdicts if port is None or port in each.claim.ports]
    near = [finding for finding in findings if port is None or not finding.ports or port in finding.ports]
    confirmed = [finding for finding in near if _is_meant(finding, suspect, subject)]
    if confirmed:
        best = min(confirmed, key=lambda finding: finding.sure is not Sureness.SURE)
        return DoubtAnswer(doubt, DoubtEnd.CONFIRMED, f"{best.sentence} ({best.sure})", best.trials)
    return _refuted(doubt, subject, suspect, verdicts, near, inquiry) or DoubtAnswer(
        doubt, DoubtEnd.OPEN, "the trials so far neither show it nor rule it out"
    )


def _is_meant(finding: Finding, suspect: str, subject: str) -> bool:
    return (not suspect or finding.kind == suspect) and (not subject or _names(finding.subject, subject))


def _refuted(
    doubt: Doubt,
    subject: str,
    suspect: str,
    verdicts: Sequence[ClaimVerdict],
    near: Sequence[Finding],
    inquiry: Inquiry,
) -> DoubtAnswer | None:
    """By trials in which the suspect took part and it worked; or by another cause that is sure."""
    cleared = dict(_worked_with(subject, verdicts, inquiry)) if subject else {}
    if cleared:
        thing, trials = next(iter(cleared.items()))
        return DoubtAnswer(doubt, DoubtEnd.REFUTED, f"it works {_with(thing)} in {listed(trials)}", trials)
    other = [
        finding
        for finding in near
        if finding.sure is Sureness.SURE and finding.claims and not _is_meant(finding, suspect, subject)
    ]
    failing = {each.claim.id for each in verdicts if each.verdict.accuses or each.unless}
    explained = {claim for finding in other for claim in finding.claims}
    if failing and failing <= explained:
        best = other[0]
        return DoubtAnswer(doubt, DoubtEnd.REFUTED, f"another cause explains it: {best.sentence}", best.trials)
    decided = [each for each in verdicts if each.verdict is Verdict.HOLDS]
    if verdicts and len(decided) == len(verdicts) and not subject:
        trials = tuple(dict.fromkeys(name for each in decided for set_up in each.set_ups for name in set_up.trials))
        return DoubtAnswer(doubt, DoubtEnd.REFUTED, "nothing fails there that it could explain", trials)
    return None


def _worked_with(
    subject: str, verdicts: Sequence[ClaimVerdict], inquiry: Inquiry
) -> Iterator[tuple[str, tuple[str, ...]]]:
    """Things that the subject names, and the trials in which a claim was kept with them."""
    rig = inquiry.audit.rig
    for verdict in verdicts:
        worked = [(tried.suspects, tried.trials) for tried in inquiry.tries_of(verdict) if not tried.failed]
        held = (set_up for set_up in verdict.set_ups if set_up.verdict is Verdict.HOLDS and set_up.trials)
        worked += [(set_up.seen.circumstances, set_up.trials) for set_up in held]
        for things, trials in worked:
            yield from ((words, trials) for thing in things if _names(words := named((thing,), rig), subject))


def _names(words: str, subject: str) -> bool:
    """Whether words name a subject: as a whole word in them, whatever its case."""
    ours, theirs = f" {words.lower()} ", subject.strip().lower()
    return len(theirs) >= _SHORTEST_SUBJECT and (f" {theirs} " in ours or ours.strip() == theirs)


def _with(thing: str) -> str:
    return thing if thing.startswith(("with", "after", "at ", "on ", "in ", "over", "through")) else f"with {thing}"
