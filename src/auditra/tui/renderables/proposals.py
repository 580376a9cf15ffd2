"""Claims that a text seems to make, in words: how sure, the claim, and the seller's words beside it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from enum import Enum

from textual.content import Content

from auditra.core.advert.reader import Proposal
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_SURE_ENOUGH = 0.6


class Fate(Enum):
    """What the reviewer did with a proposal."""

    TAKEN = "taken"
    DROPPED = "dropped"


def proposals_in_words(
    proposals: Sequence[Proposal], left: Sequence[str], fates: Mapping[str, Fate], at: int, width: int, palette: Palette
) -> tuple[Content, int]:
    """Every proposal, the chosen one marked, then what nothing was read from; and the line of the chosen one."""
    decided = sum(proposal.sentence in fates for proposal in proposals)
    tail = f"{len(proposals)}, {decided} decided; sure  claim  seller's words" if proposals else ""
    lines = [heading("proposed claims", palette, tail), Content("")]
    if not proposals:
        lines.append(
            Content.styled(
                "No proposals yet. Accept, edit or drop each claim that is read from the text.", palette.quiet
            )
        )
    half = max(20, (width - 18) // 2)
    chosen_line = len(lines) + at
    for index, each in enumerate(proposals):
        lines.append(_line(each, fates.get(each.sentence), index == at, half, palette))
        if index == at and each.unclear:
            lines.append(Content.styled(f"          {sanitize('; '.join(each.unclear), width - 12)}", palette.partly))
    if left:
        lines += [Content(""), heading("no claim read from", palette, f"{len(left)}"), Content("")]
        lines += [Content.styled(f"  {sanitize(' '.join(each.split()), width - 4)}", palette.quiet) for each in left]
    return Content("\n").join(lines), chosen_line


def _line(proposal: Proposal, fate: Fate | None, chosen: bool, half: int, palette: Palette) -> Content:
    quiet = fate is not None
    sure = palette.holds if proposal.sure >= _SURE_ENOUGH else palette.partly
    style = f"bold {palette.accent}" if chosen else palette.quiet if quiet else palette.ink
    quoted = sanitize(" ".join(proposal.quoted.split()), half)
    return Content.assemble(
        ("▸ " if chosen else "  ", palette.accent),
        (f"{fate.value:8}" if fate else f"{proposal.sure:4.0%}    ", palette.quiet if quiet else sure),
        (f"{proposal.sentence[:half]:{half}}  ", style),
        (quoted[:half], palette.quiet),
    )  # fmt: skip
