"""The paper check in words: each remark is a small worked sum, with what a buyer should ask."""

from __future__ import annotations

import textwrap
from collections.abc import Mapping, Sequence

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.paper_check.check import RULES
from auditra.core.paper_check.remark import Remark, Weight
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_WEIGHT_WIDTH = 11


def remarks_in_words(
    remarks: Sequence[Remark], answers: Mapping[str, str], chosen: str | None, width: int, palette: Palette
) -> tuple[Content, int]:
    """Every remark, the chosen one marked; and the line at which that stands."""
    open_ = sum(remark.key not in answers for remark in remarks)
    told = (
        f"{counted(len(remarks), 'remark')}, {open_} not answered; {len(RULES)} rules"
        if remarks
        else f"{len(RULES)} rules"
    )
    lines = [heading("before any testing", palette, told), Content("")]
    if not remarks:
        lines.append(Content.styled("No contradictions found on paper. Test the claims in stage 4.", palette.ink))
    at = 0
    for remark in remarks:
        if remark.key == chosen:
            at = len(lines)
        lines += [*_remark(remark, answers.get(remark.key), remark.key == chosen, width, palette), Content("")]
    return Content("\n").join(lines), at


def _remark(remark: Remark, answer: str | None, chosen: bool, width: int, palette: Palette) -> list[Content]:
    colour = {Weight.CANNOT_BE: palette.broken, Weight.DOUBTFUL: palette.partly, Weight.UNSAID: palette.unsure}
    style = palette.quiet if answer is not None else colour[remark.weight]
    sign = "▸ " if chosen else "  "
    head = Content.assemble(
        (sign, palette.accent), (f"{remark.weight.value:{_WEIGHT_WIDTH}}", f"bold {style}"),
        (sanitize(remark.sentence, 200), f"bold {palette.accent if chosen else palette.ink}"),
    )  # fmt: skip
    about = "; ".join(remark.claims) or ", ".join(remark.ports)
    indent = " " * (_WEIGHT_WIDTH + 2)
    room = max(20, width - len(indent))
    lines = [head]
    told = [part for part in (about, *remark.sums) if part]
    texts = [(text, palette.ink) for text in dict.fromkeys(told)]
    for text, line_style in (*texts, (f"ask: {remark.ask}", palette.accent)):
        lines += [Content.styled(indent + line, line_style) for line in textwrap.wrap(sanitize(text, 600), room)]
    if answer is not None:
        answered = textwrap.wrap(sanitize(f"answered: {answer}", 300), room)
        lines += [Content.styled(indent + line, palette.holds) for line in answered]
    if chosen:
        lines.append(
            Content.styled(indent + sanitize(f"rule {remark.rule}; {remark.source}", 200)[:room], palette.quiet)
        )
    return lines
