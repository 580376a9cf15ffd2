"""What a follow-up shows beside the audit that it follows: claim by claim, and what differs in device and rig."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.verdict import Verdict


@dataclass(frozen=True)
class ClaimChange:
    """One claim before and now; None where one of the two audits does not have it."""

    sentence: str
    before: ClaimVerdict | None
    now: ClaimVerdict | None

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


def follow_up_of(before: JudgedAudit, now: JudgedAudit, changed: str) -> FollowUp:
    """Both audits beside each other; claims are known by their sentences."""
    old = {str(verdict.claim): verdict for verdict in before.judgement.claims}
    new = {str(verdict.claim): verdict for verdict in now.judgement.claims}
    claims = tuple(
        ClaimChange(sentence, old.get(sentence), new.get(sentence)) for sentence in dict.fromkeys([*new, *old])
    )
    return FollowUp(before.audit.name, changed, claims, tuple(_parts(before, now)), tuple(_marks(before, now)))


def _parts(before: JudgedAudit, now: JudgedAudit) -> Iterator[str]:
    old = {part.id: part for part in before.audit.rig.parts()}
    new = {part.id: part for part in now.audit.rig.parts()}
    for part_id in dict.fromkeys([*new, *old]):
        if old.get(part_id) != new.get(part_id):
            part = new.get(part_id) or old[part_id]
            yield str(getattr(part, "name", part.id))


def _marks(before: JudgedAudit, now: JudgedAudit) -> Iterator[str]:
    for mark in ("variant", "revision", "firmware", "seller"):
        if getattr(before.audit.device, mark) != getattr(now.audit.device, mark):
            yield mark
