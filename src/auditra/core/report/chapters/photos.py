"""Pictures that the reviewer took, each with what it shows."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Photo, refs, said
from auditra.core.report.material import Material

PICTURES = ("image/jpeg", "image/png", "image/webp")
MAX_PHOTOS = 24


def _blocks(material: Material) -> Iterator[Block]:
    audit = material.judged.audit
    notes = {sha256: note.text for note in audit.notes for sha256 in note.evidence}
    pictures = [each for each in audit.evidence if each.media_type in PICTURES]
    for each in {picture.sha256: picture for picture in pictures[:MAX_PHOTOS]}.values():
        about = each.about if isinstance(each.about, str) else each.name
        caption = notes.get(each.sha256, about)
        yield Photo(each.sha256, str(each.media_type), said(caption, refs(From.TYPED, each.name)))


PHOTOS = ChapterRule("photos", 150, "Pictures", _blocks)
