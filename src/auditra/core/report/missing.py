"""What is missing before a report can go out: what a reader must be told, and what would make it better."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.counted import counted
from auditra.core.journal.facts import DoubtEnd
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.device import Price
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.verdict import Verdict
from auditra.core.paper_check.check import check_kit
from auditra.core.paper_check.remark import Weight
from auditra.core.report.chapters.disclosure import DISCLOSED
from auditra.core.report.chapters.photos import PICTURES


@dataclass(frozen=True)
class Missing:
    """One thing that is missing, and where it is put right. What `blocks` keeps a report from going out."""

    text: str
    where: str
    blocks: bool = False


def missing_from(judged: JudgedAudit) -> tuple[Missing, ...]:
    """What keeps it from going out first. A draft can be written all the same."""
    return (*_blocking(judged), *_advised(judged))


def _blocking(judged: JudgedAudit) -> Iterator[Missing]:
    for device in judged.audit.devices or (judged.audit.device,):
        for field, label in DISCLOSED.items():
            if getattr(device, field) is NOT_NOTED:
                name = f" ({device.id})" if len(judged.audit.devices) > 1 else ""
                yield Missing(f"{label}{name}: a reader must be told", "p asks for it", blocks=True)
    for flaw in judged.flaws:
        yield Missing(flaw, "restore it from a copy", blocks=True)


def _advised(judged: JudgedAudit) -> Iterator[Missing]:
    audit, judgement = judged.audit, judged.judgement
    for verdict, where in ((Verdict.OPEN, "stage 4"), (Verdict.UNPROVEN, "stage 6"), (Verdict.TOO_CLOSE, "stage 4")):
        claims = [str(each.claim) for each in judgement.claims if each.verdict is verdict]
        if claims:
            more = f" and {len(claims) - 3} more" if len(claims) > 3 else ""
            yield Missing(f"{counted(len(claims), 'claim')} {verdict.word}: {'; '.join(claims[:3])}{more}", where)
    if judgement.questions:
        yield Missing(f"{counted(len(judgement.questions), 'value')} in question", "stage 2")
    remarks = check_kit(audit.devices or (audit.device,), audit.claims)
    asked = [each for each in remarks if each.weight is not Weight.UNSAID and each.key not in audit.answers]
    if asked:
        yield Missing(f"{counted(len(asked), 'remark')} of the paper check without an answer", "stage 2")
    doubts = [each for each in judgement.doubts if each.end is DoubtEnd.OPEN]
    if doubts:
        yield Missing(f"{counted(len(doubts), 'doubt')} still open", "stage 6")
    if not isinstance(audit.device.price, Price):
        yield Missing("no price, so its worth is left out", "i on stage 1")
    if not isinstance(audit.device.reviewed_by, str):
        yield Missing("no reviewer's name", "i on stage 1")
    if not any(each.media_type in PICTURES for each in audit.evidence):
        yield Missing("no picture", "f in the log")
