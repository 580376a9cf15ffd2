"""What was remarked on paper, before anything was plugged in, with the answers that were found."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.paper_check.check import check_kit
from auditra.core.paper_check.remark import Remark, Weight
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Items, Said, Tone, refs, said
from auditra.core.report.material import Material


def _blocks(material: Material) -> Iterator[Block]:
    audit = material.judged.audit
    remarks = check_kit(audit.devices or (audit.device,), audit.claims)
    if remarks:
        yield Items(tuple(tuple(_remark(each, audit.answers.get(each.key, ""))) for each in remarks))


def _remark(remark: Remark, answer: str) -> Iterator[Said]:
    about = refs(From.PAPER, remark.key)
    tone = Tone.ALARM if remark.weight is Weight.CANNOT_BE else Tone.STRONG
    where = f" ({'; '.join(remark.claims) or ', '.join(remark.ports)})" if remark.claims or remark.ports else ""
    yield said(f"{remark.weight.value}: {remark.sentence}{where}.", about, tone=tone)
    if remark.sum:
        yield said(f"{remark.sum}.", about)
    if answer:
        yield said(f"Asked: {remark.ask} Found out: {answer}", about, refs(From.TYPED, "answer"))
    else:
        yield said(f"Ask: {remark.ask}", about)


PAPER_CHECK = ChapterRule("paper-check", 120, "What does not add up on paper", _blocks)
