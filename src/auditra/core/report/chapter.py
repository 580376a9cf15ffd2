"""What a chapter of the report is: a value in a file of chapters/, found by itself."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from auditra.core.journal.audit import Audit
from auditra.core.report.document import Block
from auditra.core.report.material import Material


@dataclass(frozen=True)
class ChapterRule:
    """One chapter: where it stands, its title, and what it says; without blocks it is left out."""

    id: str
    turn: int
    title: str
    blocks: Callable[[Material], Iterator[Block]]


def version_text(audit: Audit) -> str:
    """Which version of the report this is; a draft where nothing was published, or something changed since."""
    if not audit.published:
        return "Draft, not published yet"
    last = audit.published[-1]
    if not audit.changed_since_published:
        return f"Version {last.version}"
    return f"Draft after version {last.version}"
