"""What a follow-up shows beside the audit that it follows: claim by claim, and what differs in device and rig."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from auditra.core.journal.facts import DoubtEnd
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.took_part import parts_behind
from auditra.core.model.device import MARKS
from auditra.core.model.rig import part_name
from auditra.core.model.verdict import Verdict


@dataclass(frozen=True)
class ClaimChange:
    """One claim before and now; None where one of the two audits does not have it."""

    sentence: str
    before: ClaimVerdict | None
    now: ClaimVerdict | None
    why: tuple[str, ...] = ()
    """What explains a new verdict: findings that are there now and were not, and parts that take part now alone."""

    @property
    def is_new_verdict(self) -> bool:
        """Whether it was decided otherwise; a claim that was not tried again says nothing yet."""
        if self.before is None or self.now is None or self.now.verdict is Verdict.OPEN:
            return False
        return (self.before.verdict, self.before.condition) != (self.now.verdict, self.now.condition)


@dataclass(frozen=True)
class FollowUp:
    """The whole difference between two audits."""

    earlier: str
    changed: str
    """What the reviewer changed, in their words."""
    claims: tuple[ClaimChange, ...]
    parts: tuple[str, ...] = ()
    """Parts of the rig that are not alike in both, by their names."""
    marks: tuple[str, ...] = ()
    """What marks the device and is not alike in both: variant, revision, firmware."""
    closed: tuple[str, ...] = ()
    """Doubts of the earlier audit that are answered now, each with its answer."""

    @property
    def kept(self) -> int:
        """How many claims both have."""
        return sum(each.before is not None and each.now is not None for each in self.claims)


def follow_up_of(before: JudgedAudit, now: JudgedAudit, changed: str) -> FollowUp:
    """Both audits beside each other; claims are known by their sentences."""
    old = {str(verdict.claim): verdict for verdict in before.judgement.claims}
    new = {str(verdict.claim): verdict for verdict in now.judgement.claims}
    claims = tuple(
        _change(sentence, old.get(sentence), new.get(sentence), before, now) for sentence in dict.fromkeys([*new, *old])
    )
    return FollowUp(
        before.audit.name, changed, claims, tuple(_parts(before, now)), tuple(_marks(before, now)),
        tuple(_closed(before, now)),
    )  # fmt: skip


def _change(
    sentence: str, old: ClaimVerdict | None, new: ClaimVerdict | None, before: JudgedAudit, now: JudgedAudit
) -> ClaimChange:
    change = ClaimChange(sentence, old, new)
    return replace(change, why=tuple(_why(old, new, before, now))) if change.is_new_verdict and old and new else change


def _why(old: ClaimVerdict, new: ClaimVerdict, before: JudgedAudit, now: JudgedAudit) -> Iterator[str]:
    """Reasons are those that were worked out already: a difference is shown at once."""
    then = {each.sentence for each in before.judgement.reasons_so_far if old.claim.id in each.claims}
    for each in now.judgement.reasons_so_far:
        if new.claim.id in each.claims and each.sentence not in then:
            yield each.sentence
    only_now = sorted(set(parts_behind(new, now)) - set(parts_behind(old, before)))
    if only_now:
        yield f"took part now alone: {', '.join(only_now)}"


def _closed(before: JudgedAudit, now: JudgedAudit) -> Iterator[str]:
    """Questions that were open then and have an answer now; a follow-up takes them over in the same words."""
    open_then = {each.raised.question for each in before.audit.doubts if each.ended is None}
    for answer in now.judgement.doubts:
        if answer.question in open_then and answer.end is not DoubtEnd.OPEN:
            yield f"{answer.question} {answer.end}: {answer.why}"


def _parts(before: JudgedAudit, now: JudgedAudit) -> Iterator[str]:
    old = {part.id: part for part in before.audit.rig.parts()}
    new = {part.id: part for part in now.audit.rig.parts()}
    for part_id in dict.fromkeys([*new, *old]):
        if old.get(part_id) != new.get(part_id):
            yield part_name(new.get(part_id) or old[part_id])


def _marks(before: JudgedAudit, now: JudgedAudit) -> Iterator[str]:
    for mark in MARKS:
        if getattr(before.audit.device, mark) != getattr(now.audit.device, mark):
            yield mark
