"""Why claims fail and what was found besides: each with its sum, its trials and who was cleared; chains and charts."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.judge.charts import Chart, charts_of
from auditra.core.judge.finding import Finding, Role
from auditra.core.model.trial import DIRECT
from auditra.core.model.verdict import Verdict
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import (
    Block,
    ChainFigure,
    ChartFigure,
    From,
    Heading,
    Items,
    Said,
    Tone,
    of_claims,
    refs,
    said,
)
from auditra.core.report.material import Material

_SECTIONS = (
    ("Danger", (Role.DANGER,)),
    ("Why claims fail", (Role.CAUSE, Role.CONTENTION)),
    ("What the rig could not show", (Role.RIG_LIMIT,)),
    ("What does not fit together", (Role.CONTRADICTION,)),
    ("What is only chance", (Role.CHANCE,)),
    ("What no claim speaks of", (Role.UNSTATED,)),
)
MAX_CHARTS = 8
"""More than these tell a reader nothing more; every trace is in the bundle."""


def _blocks(material: Material) -> Iterator[Block]:
    judgement = material.judged.judgement
    for title, roles in _SECTIONS:
        found = [finding for finding in judgement.findings if finding.role in roles]
        if found:
            yield Heading(title)
            yield Items(tuple(tuple(_finding(each)) for each in found))
    yield from _chains(material)
    charts = _charts(material)
    if charts:
        yield Heading("Charts")
        for chart in charts:
            title = material.titles.get(chart.trial, "")
            notes = f" {'; '.join(chart.notes)}." if chart.notes else ""
            yield ChartFigure(
                chart, said(f"{chart.name} in {chart.trial}, {title}.{notes}", refs(From.TRIAL, chart.trial))
            )


def _finding(finding: Finding) -> Iterator[Said]:
    about = (*of_claims(finding.claims, finding.trials), *refs(From.FINDING, finding.kind))
    at = [port for port in finding.ports if port not in finding.sentence]
    where = f"{', '.join(at)}: " if at else ""
    yield said(f"{where}{finding.sentence}.", about, tone=Tone.ALARM if finding.role is Role.DANGER else Tone.STRONG)
    if finding.arithmetic:
        yield said(f"{finding.arithmetic}.", about)
    if finding.cleared:
        yield said(f"Cleared: {'; '.join(finding.cleared)}.", about)
    trials = f", trials {', '.join(finding.trials)}" if finding.trials else ""
    yield said(f"({finding.sure}{trials})", about, tone=Tone.QUIET)


def _chains(material: Material) -> Iterator[Block]:
    """The way of every claim that fails or is limited, with the ceiling of each part."""
    judgement = material.judged.judgement
    telling = [each for each in judgement.claims if each.verdict.accuses or each.verdict is Verdict.HOLDS_IF]
    made = [
        (each, chain) for each in telling if (chain := judgement.chain_of(each.claim.id)) is not None and chain.trial
    ]
    if made:
        yield Heading("What each part of the way carries")
    for each, chain in made:
        limit = f"; the lowest ceiling is {chain.expected.part}" if chain.expected is not None else ""
        caption = f"{each.claim}, {chain.quantity} in {chain.trial}{limit}."
        yield ChainFigure(chain, said(caption, of_claims([each.claim.id], [chain.trial])))


def _charts(material: Material) -> tuple[Chart, ...]:
    """Those that something was read off, then the slowest of each place, first where a claim does not simply hold."""
    judged = material.judged
    every = [chart for chart in charts_of(judged.audit, judged.judgement) if chart.place != DIRECT]
    telling: dict[tuple[str, str], Chart] = {}
    for chart in (each for each in every if each.notes):
        key = chart.place, chart.title
        if key not in telling or _length(chart) > _length(telling[key]):
            telling[key] = chart
    shown = {place for place, _ in telling}
    limited = sorted(judged.judgement.claims, key=lambda each: each.verdict is Verdict.HOLDS)
    places = dict.fromkeys(port for each in limited for port in each.claim.ports if port not in shown)
    slowest = [min((each for each in every if each.place == place), key=lambda each: each.figure, default=None)
               for place in places]  # fmt: skip
    return (*telling.values(), *(chart for chart in slowest if chart is not None))[:MAX_CHARTS]


def _length(chart: Chart) -> float:
    return max((series.x[-1] - series.x[0] for series in chart.series if series.x), default=0.0)


REASONS = ChapterRule("reasons", 60, "What was found, and why", _blocks)
