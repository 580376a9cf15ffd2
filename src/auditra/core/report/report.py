"""A report from a judged audit: every chapter that has something to say, in order. A new chapter is a file."""

from __future__ import annotations

from functools import cache

from auditra.core.advice.coverage import coverage_of
from auditra.core.counted import counted
from auditra.core.found import values_in
from auditra.core.model.device import Price
from auditra.core.report import chapters
from auditra.core.report.chapter import ChapterRule, version_text
from auditra.core.report.document import Chapter, Document, Summary
from auditra.core.report.material import Material


@cache
def all_chapters() -> tuple[ChapterRule, ...]:
    """Every chapter, in order."""
    return tuple(sorted(values_in(chapters, ChapterRule), key=lambda each: each.turn))


def make_report(material: Material) -> Document:
    """The report. Explaining takes a moment where the reasons were not worked out yet."""
    audit = material.judged.audit
    made = ((rule, tuple(rule.blocks(material))) for rule in all_chapters())
    return Document(
        title=audit.device.name,
        subtitle=_subtitle(material),
        chapters=tuple(Chapter(rule.id, rule.title, blocks) for rule, blocks in made if blocks),
        version=version_text(audit),
        summary=_summary(material),
    )


def _subtitle(material: Material) -> str:
    audit = material.judged.audit
    until = f", until {last:%Y-%m-%d}" if (last := audit.last_trial_at) else ""
    trials = counted(len(audit.trials), "trial")
    return f"{audit.device.kind}, examined on the rig {audit.rig.name} in {trials}{until}, on a {material.judged.bench}"


def _summary(material: Material) -> Summary:
    audit, judgement = material.judged.audit, material.judged.judgement
    device, score = audit.device, judgement.score
    price = device.price if isinstance(device.price, Price) else None
    return Summary(
        device=device.name, maker=device.maker, model=device.model, kind=device.kind,
        reviewer=device.reviewed_by if isinstance(device.reviewed_by, str) else "",
        day=audit.last_trial_at, advice=coverage_of(audit, judgement, device).advice,
        score=score.value, lowest=score.lowest, highest=score.highest,
        price=f"{price.amount:.2f}" if price else "", money=price.money if price else "",
    )  # fmt: skip
