"""Replication: what other reviewers found of the same device, claim by claim.

Verdicts are set side by side; nothing is averaged, and a contradiction is shown with what differs between the benches.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.took_part import parts_behind
from auditra.core.model.device import MARKS
from auditra.core.model.verdict import Verdict


class Agreement(StrEnum):
    """How the verdicts of several reviewers on one claim stand to each other."""

    AGREE = "all the same"
    CONFLICT = "contradict each other"
    DIFFER = "differ"
    ALONE = "decided by one alone"
    OPEN = "decided by none"


@dataclass(frozen=True)
class Other:
    """Another reviewer's audit of the device, judged now from its own journal."""

    name: str
    reviewer: str
    head: str
    judged: JudgedAudit


@dataclass(frozen=True)
class Beside:
    """One claim with the verdict of each reviewer, one's own first; None where an audit does not have it."""

    sentence: str
    verdicts: tuple[ClaimVerdict | None, ...]

    @property
    def decided(self) -> tuple[ClaimVerdict, ...]:
        return tuple(each for each in self.verdicts if each is not None and each.verdict.decided)

    @property
    def agreement(self) -> Agreement:
        decided = self.decided
        if len(decided) < 2:
            return Agreement.ALONE if decided else Agreement.OPEN
        kinds = {each.verdict for each in decided}
        if any(each.accuses for each in kinds) and kinds & {Verdict.HOLDS, Verdict.HOLDS_IF}:
            return Agreement.CONFLICT
        alike = len(kinds) == 1 and len({each.unless for each in decided}) == 1
        return Agreement.AGREE if alike else Agreement.DIFFER


def beside_each_other(own: JudgedAudit, others: Sequence[Other]) -> tuple[Beside, ...]:
    """Every claim of any of them; claims are known by their sentences."""
    every = [_by_sentence(own), *(_by_sentence(other.judged) for other in others)]
    sentences = dict.fromkeys(sentence for each in every for sentence in each)
    return tuple(Beside(sentence, tuple(each.get(sentence) for each in every)) for sentence in sentences)


def _by_sentence(judged: JudgedAudit) -> dict[str, ClaimVerdict]:
    return {str(verdict.claim): verdict for verdict in judged.judgement.claims}


def differences(beside: Beside, own: JudgedAudit, others: Sequence[Other]) -> tuple[str, ...]:
    """In what the benches differ that decided a claim: device, hosts, gear and leads, by what they are called."""
    audits = (own, *(other.judged for other in others))
    names = ("own", *(other.reviewer or other.name for other in others))
    used = {
        name: set(parts_behind(verdict, judged))
        for name, judged, verdict in zip(names, audits, beside.verdicts, strict=True)
        if verdict is not None and verdict.verdict.decided
    }
    shared = set.intersection(*used.values()) if used else set()
    marks = (f"{mark}: {' / '.join(values)}" for mark in MARKS if (values := _marks(mark, audits)))
    apart = (f"{name}: {', '.join(sorted(parts - shared))}" for name, parts in used.items() if parts - shared)
    return (*marks, *apart)


def _marks(mark: str, audits: Iterable[JudgedAudit]) -> list[str]:
    values = {str(value) for judged in audits if isinstance(value := getattr(judged.audit.device, mark), str)}
    return sorted(values) if len(values) > 1 else []
