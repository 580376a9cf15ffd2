"""What is still open, and what would settle it: claims, questions, doubts, values in question, skipped trials."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.counted import listed
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judgement import Judgement
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Said, Tone, of_claims, refs, said
from auditra.core.report.material import Material


def _blocks(material: Material) -> Iterator[Block]:
    judgement, audit = material.judged.judgement, material.judged.audit
    waiting = [each for each in judgement.claims if not each.verdict.decided]
    if waiting:
        yield Heading("Claims that are not decided")
        yield Items(tuple(tuple(_claim(each, judgement)) for each in waiting))
    questions = tuple(_questions(judgement))
    if questions:
        yield Heading("What would tell the causes apart")
        yield Items(questions)
    if judgement.doubts:
        yield Heading("Doubts, and what became of them")
        yield Items(tuple(
            (said(each.question, refs(From.TYPED, each.doubt.raised.id), tone=Tone.STRONG),
             said(f"{each.end}: {each.why}.", refs(From.TYPED, each.doubt.raised.id), refs(From.TRIAL, *each.trials)))
            for each in judgement.doubts
        ))  # fmt: skip
    if judgement.questions:
        yield Heading("Values in question")
        yield Items(tuple(
            (said(f"{each.trial}, {each.quantity} at {each.at}: {each.words}", refs(From.TRIAL, each.trial)),)
            for each in judgement.questions
        ))  # fmt: skip
    if audit.skipped:
        yield Heading("Trials that the reviewer did not run")
        yield Items(tuple((said(f"{each.trial.key or each.trial.procedure}: {each.why}", refs(From.TYPED, "skipped")),)
                          for each in audit.skipped))  # fmt: skip


def _claim(verdict: ClaimVerdict, judgement: Judgement) -> Iterator[Said]:
    about = of_claims([verdict.claim.id])
    yield said(f"{verdict.claim}: {verdict.verdict.word}, {verdict.shown}.", about, tone=Tone.STRONG)
    if verdict.why:
        yield said(f"{verdict.why}.", about)
    lacking = judgement.sheet.beyond_rig.get(verdict.claim.id, "")
    if lacking and lacking != verdict.why:
        yield said(f"It takes: {lacking}.", about)
    following = [trial for trial in judgement.left if verdict.claim.id in trial.claims]
    if following:
        yield said(f"Next: {following[0].title}.", about)


def _questions(judgement: Judgement) -> Iterator[tuple[Said, ...]]:
    seen: set[str] = set()
    for asked in judgement.next_trials:
        if asked.claim in seen:
            continue
        seen.add(asked.claim)
        what = f"Try {asked.trial.title}." if asked.trial is not None else f"Borrow {asked.borrow}."
        yield (said(f"{asked.question} Left: {listed(asked.suspects)}. {what}", of_claims([asked.claim])),)


OPEN_ITEMS = ChapterRule("open", 130, "What is still open", _blocks)
