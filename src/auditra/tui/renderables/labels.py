"""Headings and verdicts as every screen writes them."""

from __future__ import annotations

import textwrap

from textual.content import Content

from auditra.core.model.verdict import Verdict
from auditra.tui.theme import Palette


def heading(text: str, palette: Palette, tail: str = "") -> Content:
    """A panel's name in copper; what it is of, quietly, behind it."""
    return Content.assemble((text.upper(), f"bold {palette.accent}"), (f"   {tail}" if tail else "", palette.quiet))


def verdict_words(verdict: Verdict, palette: Palette) -> Content:
    return Content.styled(f"{verdict.mark} {verdict.word}", f"bold {palette.of(verdict)}")


def hanging(head: str, head_style: str, text: str, style: str, width: int) -> list[Content]:
    """A text behind a head; the lines that follow begin below its first word."""
    first, *more = textwrap.wrap(text, max(12, width - len(head))) or [""]
    indent = " " * len(head)
    return [Content.assemble((head, head_style), (first, style)),
            *(Content.styled(f"{indent}{line}", style) for line in more)]  # fmt: skip
