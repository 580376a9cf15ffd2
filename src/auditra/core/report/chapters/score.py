"""The ledger: where every point went, under which profile, and how much was tried."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.advice.coverage import Tried, coverage_of
from auditra.core.judge.score import Line, Score
from auditra.core.model.device import Device
from auditra.core.model.verdict import UNSTATED_MARK
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Para, Ref, Said, Table, Tone, refs, said
from auditra.core.report.material import Material

_SCORE = refs(From.JUDGEMENT, "score")
_EARNS = (
    "A claim earns its weight where it holds, the share that was shown where it is short, and the use that its "
    "condition leaves where it holds only under one."
)
_METHOD = refs(From.METHOD, "docs/score.md")


def _blocks(material: Material) -> Iterator[Block]:
    audit, judgement = material.judged.audit, material.judged.judgement
    profile = judgement.profile
    about = f" {profile.about}" if profile.about else ""
    words = f"Scored with the profile {profile.name}.{about}"
    yield Para((said(words, refs(From.JUDGEMENT, "profile")), said(_EARNS, _METHOD, tone=Tone.QUIET)))
    for device in audit.devices or (audit.device,):
        if len(judgement.scores) > 1:
            yield Heading(f"{device.name} ({device.id})")
        yield _ledger(judgement.scores.get(device.id, judgement.score))
        yield from _coverage(material, device)


def _ledger(score: Score) -> Table:
    earned, of = (said(f"{score.earned}", _SCORE, tone=Tone.STRONG),), (said(f"of {score.weight_decided}", _SCORE),)
    value = "no score yet" if score.value is None else f"{score.value} of 100, {score.lowest} to {score.highest}"
    foot = ((said(f"score {value}", _SCORE, tone=Tone.STRONG),), earned, of)
    return Table(("", "earned", "weight"), tuple(map(_line, score.ledger)), (0.68, 0.17, 0.15), (1, 2), foot)


def _line(line: Line) -> tuple[tuple[Said, ...], ...]:
    about = _about(line)
    earned = f"{line.lowest} to {line.highest}" if line.earned is None else f"{line.earned}"
    text = line.text if line.verdict else f"{UNSTATED_MARK} not stated: {line.text}"
    return (
        (Said(text, about, verdict=line.verdict),), (said(earned, about),),
        (said(f"of {line.weight}", about),) if line.weight else (),
    )  # fmt: skip


def _about(line: Line) -> tuple[Ref, ...]:
    if line.claim is not None:
        return refs(From.CLAIM, line.claim)
    return refs(From.FINDING, line.finding.kind) if line.finding is not None else _SCORE


def _coverage(material: Material, device: Device) -> Iterator[Block]:
    found = coverage_of(material.judged.audit, material.judged.judgement, device)
    covered = refs(From.JUDGEMENT, "coverage")
    parts = (("claims decided", found.claims), ("ports tried", found.ports), ("hosts tried", found.hosts))
    yield Items(tuple((said(f"{tried.words} {what}{_left(tried)}.", covered),) for what, tried in parts))


def _left(tried: Tried) -> str:
    return f"; not {', '.join(tried.left)}" if tried.left else ""


SCORE = ChapterRule("score", 80, "The score", _blocks)
