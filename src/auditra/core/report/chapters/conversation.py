"""Power conversations as ladders: what the source says on the left, what the other side says on the right, in time."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.counted import counted
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Said, Table, Tone, refs, said
from auditra.core.report.material import Material, Rung

MAX_RUNGS = 60
"""More of one conversation tells a reader nothing more; the log itself is in the bundle."""


def _blocks(material: Material) -> Iterator[Block]:
    for ladder in material.ladders:
        about = refs(From.TRIAL, ladder.trial)
        yield Heading(f"{ladder.port} in {ladder.trial}, from {ladder.name}")
        told = [(said(f"Agreed: {ladder.agreed}.", about, tone=Tone.STRONG),)] if ladder.agreed else []
        told += [(said(f"Not more: {why}.", about),) for why in ladder.not_more]
        told += [(said(f"Against the rules: {fault}.", about, tone=Tone.ALARM),) for fault in ladder.faults]
        if told:
            yield Items(tuple(told))
        rows = tuple(_row(rung, ladder.trial) for rung in ladder.rungs[:MAX_RUNGS])
        yield Table(("time", "source", "sink, cable"), rows, (0.12, 0.44, 0.44))
        if (more := len(ladder.rungs) - MAX_RUNGS) > 0:
            yield Items(((said(f"And {counted(more, 'message')} more.", about),),))


def _row(rung: Rung, trial: str) -> tuple[tuple[Said, ...], ...]:
    about = refs(From.TRIAL, trial)
    words = (said(rung.words if rung.is_source or rung.sender == "sink" else f"{rung.sender}: {rung.words}", about),)
    left, right = (words, ()) if rung.is_source else ((), words)
    return (said(f"{rung.time_s:.3f} s", about),), left, right


CONVERSATION = ChapterRule("conversation", 65, "What source and sink agreed", _blocks)
