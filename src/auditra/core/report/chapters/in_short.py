"""The verdict in one paragraph: advice, score, what it rests on, the gravest warning, the best of it, and the price."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.advice.coverage import Coverage, coverage_of
from auditra.core.advice.praise import Remark, praise, warnings
from auditra.core.advice.worth import worth_of
from auditra.core.advice.worth_text import best_text
from auditra.core.counted import listed
from auditra.core.judge.score import Score
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Items, Para, Said, Tone, of_claims, refs, said
from auditra.core.report.material import Material

_JUDGED = refs(From.JUDGEMENT, "score")
_MAX_LISTED = 3


def _blocks(material: Material) -> Iterator[Block]:
    audit, judgement = material.judged.audit, material.judged.judgement
    coverage = coverage_of(audit, judgement, audit.device)
    warn, good = warnings(judgement), praise(judgement)
    lead = [
        said(coverage.advice.of(audit.device.name), refs(From.JUDGEMENT, "advice"), tone=Tone.STRONG),
        said(_score_text(judgement.score), _JUDGED), said(_coverage_text(coverage), refs(From.JUDGEMENT, "coverage")),
    ]  # fmt: skip
    if judgement.score.danger:
        lead.insert(1, said(f"Danger: {judgement.score.danger}.", _JUDGED, tone=Tone.ALARM))
    if good:
        lead.append(_named("What holds first", good))
    lead.append(
        _named("What a buyer must know first", warn) if warn else said("Nothing tried speaks against it.", _JUDGED)
    )
    lead += _worth(material)
    yield Para(tuple(lead), lead=True)
    if material.judged.flaws:
        yield Items(
            tuple((said(flaw, refs(From.JOURNAL, "evidence"), tone=Tone.ALARM),) for flaw in material.judged.flaws)
        )


def _score_text(score: Score) -> str:
    if score.value is None:
        return "There is no score yet."
    if score.lowest == score.highest:
        return f"It scores {score.value} of 100."
    band = f"between {score.lowest} and {score.highest}"
    return f"It scores {score.value} of 100; what is open or untried can move that {band}."


def _coverage_text(coverage: Coverage) -> str:
    return (
        f"{coverage.claims.words} claims are decided, tried on {coverage.ports.words} ports and "
        f"{coverage.hosts.words} hosts."
    )


def _named(what: str, remarks: tuple[Remark, ...]) -> Said:
    first = remarks[:_MAX_LISTED]
    claims = (claim for each in first for claim in each.claims)
    trials = (trial for each in first for trial in each.trials)
    findings = refs(From.FINDING, *(each.finding for each in first if each.finding))
    return said(f"{what}: {'; '.join(each.text for each in first)}.", of_claims(claims, trials), findings)


def _worth(material: Material) -> Iterator[Said]:
    audit, judgement = material.judged.audit, material.judged.judgement
    worth = worth_of(audit.device, judgement.score, judgement.profile.name, material.peers)
    if worth is None:
        return
    prices = listed(
        [f"{each.per_hundred} at {each.price.amount:.2f} {each.price.money} ({each.kind})" for each in worth.at]
    )
    yield said(f"Points of the score for 100 of its money: {prices}.", _JUDGED, refs(From.TYPED, "price"))
    if worth.best is not None:
        yield from (said(each, _JUDGED, refs(From.TYPED, "price")) for each in best_text(worth))


IN_SHORT = ChapterRule("in-short", 10, "In short", _blocks)
