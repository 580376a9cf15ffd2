"""Reach in words: for each claim a bar up to what this rig can show, its weakest link, and what to borrow."""

from __future__ import annotations

from collections.abc import Sequence

from textual.content import Content

from auditra.core.judge.reach import ClaimReach
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import cut
from auditra.tui.renderables.labels import hanging, heading
from auditra.tui.theme import Palette

_BAR = 10
_FULL, _REST = "━", "╌"


def reach_list(reach: Sequence[ClaimReach], port: str | None, part: str, width: int, palette: Palette) -> Content:
    """Every claim, those of the chosen port first; the links that are the chosen part stand out."""
    whole = sum(each.is_whole for each in reach)
    lines = [heading("reach", palette, f"{whole} of {len(reach)} claims in full"), Content("")]
    if not reach:
        lines.append(Content.styled("No claims yet. Press 1 to add them.", palette.quiet))
    ordered = sorted(reach, key=lambda each: (port not in each.claim.ports, each.is_whole))
    for each in ordered:
        lines += _of_claim(each, part, width, palette)
    return Content("\n").join(lines)


def _of_claim(reach: ClaimReach, part: str, width: int, palette: Palette) -> list[Content]:
    filled = min(_BAR, int(reach.share * _BAR)) if not reach.is_whole else _BAR
    colour = palette.holds if reach.is_whole else palette.partly if reach.share else palette.unsure
    share = "all of it" if reach.is_whole else f"{min(99, int(reach.share * 100))}%" if reach.share else "nothing"
    claim = cut(sanitize(str(reach.claim), 80), max(12, width - _BAR - 2))
    head = Content.assemble(
        (_FULL * filled, colour), (_REST * (_BAR - filled), palette.rule), ("  ", ""), (claim, palette.ink)
    )
    lines = [head]
    indent = " " * (_BAR + 2)
    if reach.weakest is not None:
        weak = f"{share}; weakest: {reach.weakest.part}, {reach.weakest.figure}"
        style = palette.accent if part and part in reach.weakest.part else palette.quiet
        lines += hanging(indent, "", sanitize(weak, 160), style, width)
    else:
        lines += hanging(indent, "", share, palette.quiet, width)
    for words in _besides(reach):
        lines += hanging(indent, "", words, palette.partly, width)
    return lines


def _besides(reach: ClaimReach) -> list[str]:
    """What to borrow, what is not noted, and how far instruments may be off."""
    words = []
    if not reach.is_whole:
        words.append(_borrow(reach))
    if reach.unknown:
        words.append(f"no figure noted for {', '.join(reach.unknown)}")
    if reach.error:
        words.append(f"instruments {reach.error}")
    return [sanitize(each, 200) for each in words if each]


def _borrow(reach: ClaimReach) -> str:
    if reach.lacking:
        return reach.lacking.partition(";")[0]
    return f"borrow a better one than {reach.weakest.part}" if reach.weakest is not None else ""
