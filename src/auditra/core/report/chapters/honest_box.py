"""What the box should have said, ready to paste; and what the seller's papers leave out."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.advice.box_text import BoxText, Silence, box_text
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Para, Paste, Said, Tone, of_claims, refs, said
from auditra.core.report.material import Material


def _blocks(material: Material) -> Iterator[Block]:
    audit = material.judged.audit
    for device in audit.devices or (audit.device,):
        found = box_text(device, material.judged.judgement, audit.answers)
        if len(audit.devices) > 1:
            yield Heading(f"{device.name} ({device.id})")
        yield from _box(found)


def _box(found: BoxText) -> Iterator[Block]:
    if found.lines:
        yield Paste(tuple(
            said(line.text, of_claims([line.claim] if line.claim else [], line.trials),
                 refs(From.FINDING, line.finding) if line.finding else (),
                 tone=Tone.STRONG if line.is_changed else Tone.PLAIN)
            for line in found.lines
        ))  # fmt: skip
    if found.not_shown:
        ids = [each.claim.id for each in found.not_shown]
        names = "; ".join(f"{each.claim} ({each.verdict.word})" for each in found.not_shown)
        yield Para((said(f"Left out, for nothing was shown of it so far: {names}.", refs(From.CLAIM, *ids)),))
    if found.silences:
        yield Heading("What the papers leave out")
        yield Items(tuple(tuple(_silence(each)) for each in found.silences))


def _silence(silence: Silence) -> Iterator[Said]:
    remark = silence.remark
    ports = f" ({', '.join(remark.ports)})" if remark.ports else ""
    yield said(f"{remark.sentence}{ports}.", refs(From.PAPER, remark.key))
    if silence.answer:
        yield said(f"Found out: {silence.answer}", refs(From.PAPER, remark.key), refs(From.TYPED, "answer"))


HONEST_BOX = ChapterRule("box", 50, "What the box should have said", _blocks)
