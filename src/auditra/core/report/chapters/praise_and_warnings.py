"""What to praise and what to warn of, each with its trials."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from auditra.core.advice.praise import Remark, praise, warnings
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Said, Tone, of_claims, refs, said
from auditra.core.report.material import Material


def _blocks(material: Material) -> Iterator[Block]:
    judgement = material.judged.judgement
    for title, remarks in (("Warnings", warnings(judgement)), ("Praise", praise(judgement))):
        if remarks:
            yield Heading(title)
            yield Items(tuple(_items(remarks)))
    notes = [note for note in material.judged.audit.notes if note.is_opinion is True]
    if notes:
        yield Heading("The reviewer's opinion, which costs no points")
        texts = (f"{note.port}: {note.text}" if note.port else note.text for note in notes)
        yield Items(tuple((said(text, refs(From.TYPED, "note")),) for text in texts))


def _items(remarks: Iterable[Remark]) -> Iterator[tuple[Said, ...]]:
    for each in remarks:
        findings = refs(From.FINDING, each.finding) if each.finding else ()
        tone = Tone.ALARM if each.is_danger else Tone.PLAIN
        line = [said(each.text, of_claims(each.claims, each.trials), findings, tone=tone)]
        if each.trials:
            line.append(said(f"({', '.join(each.trials)})", refs(From.TRIAL, *each.trials), tone=Tone.QUIET))
        yield tuple(line)


PRAISE_AND_WARNINGS = ChapterRule("warnings", 30, "Warnings and praise", _blocks)
