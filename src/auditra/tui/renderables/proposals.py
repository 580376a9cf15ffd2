"""Claims that a text seems to make, in words: by socket, how sure, the claim, and the seller's words beside it."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from enum import Enum

from textual.content import Content

from auditra.core.advert.proposal import Proposal
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

SURE = 0.8
"""From here on, and with nothing assumed, a proposal may be accepted together with others: docs/reading.md."""
_CLASSES = {
    "UP": "link to the host", "P": "power inlet", "A": "USB-A", "C": "USB-C", "H": "HDMI", "D": "DisplayPort",
    "V": "VGA", "N": "network", "S": "SD", "M": "microSD", "J": "sound", "B": "button", "D0": "drive inside",
    "body": "the whole device",
}  # fmt: skip
_SUBJECT = re.compile(r"(?:(?P<device>[^\s:]+):)?(?P<ports>\S+)")
_NUMBER = re.compile(r"(?<![\w.,])\d+(?:[.,]\d+)?")


class Fate(Enum):
    """What the reviewer did with a proposal."""

    TAKEN = "taken"
    DROPPED = "dropped"


def group_of(sentence: str) -> str:
    """Under which heading a claim stands: its device and the class of its first socket."""
    match = _SUBJECT.match(sentence)
    if match is None:
        return ""
    first = re.split(r"[+|]", match["ports"])[0]
    name = _CLASSES.get(first) or _CLASSES.get(first.rstrip("0123456789"), first)
    return f"{match['device']}: {name}" if match["device"] else name


def by_group(proposals: Sequence[Proposal]) -> tuple[Proposal, ...]:
    """Those of one socket class together, the classes in the order in which the text names them."""
    order = {name: at for at, name in enumerate(dict.fromkeys(group_of(each.sentence) for each in proposals))}
    return tuple(sorted(proposals, key=lambda each: order[group_of(each.sentence)]))


def is_sure(proposal: Proposal) -> bool:
    """Whether nothing was assumed for it."""
    return proposal.sure >= SURE and not proposal.unclear


def proposals_in_words(
    proposals: Sequence[Proposal], left: Sequence[str], fates: Mapping[str, Fate], at: int, width: int, palette: Palette
) -> tuple[Content, int]:
    """Every proposal, the chosen one marked, then what nothing was read from; and the line of the chosen one."""
    decided = sum(proposal.sentence in fates for proposal in proposals)
    tail = f"{len(proposals)}, {decided} decided; sure  claim  seller's words" if proposals else ""
    lines = [heading("proposed claims", palette, tail)]
    if not proposals:
        words = "No proposals yet. Accept, edit or drop each claim that is read from the text."
        lines += [Content(""), Content.styled(words, palette.quiet)]
    half = max(20, (width - 18) // 2)
    chosen_line, group = 0, ""
    for index, each in enumerate(proposals):
        if group_of(each.sentence) != group:
            group = group_of(each.sentence)
            lines.append(Content.styled(f"  {sanitize(group, half)}", palette.quiet))
        chosen_line = len(lines) if index == at else chosen_line
        lines.append(_line(each, fates.get(each.sentence), index == at, half, palette))
        if index == at and each.unclear:
            lines.append(Content.styled(f"            {sanitize('; '.join(each.unclear), width - 12)}", palette.partly))
    if left:
        lines += [Content(""), heading("no claim read from", palette, f"{len(left)}"), Content("")]
        lines += [Content.styled(f"  {sanitize(' '.join(each.split()), width - 4)}", palette.quiet) for each in left]
    return Content("\n").join(lines), chosen_line


def _line(proposal: Proposal, fate: Fate | None, chosen: bool, half: int, palette: Palette) -> Content:
    quiet = fate is not None
    sure = palette.holds if is_sure(proposal) else palette.partly
    style = f"bold {palette.accent}" if chosen else palette.quiet if quiet else palette.ink
    return Content.assemble(
        ("▸ " if chosen else "  ", palette.accent),
        (f"{fate.value:8}" if fate else f"{proposal.sure:4.0%}    ", palette.quiet if quiet else sure),
        (f"  {proposal.sentence[: half - 2]:{half - 2}}  ", style),
        *_quoted(proposal, half, palette),
    )  # fmt: skip


def _quoted(proposal: Proposal, width: int, palette: Palette) -> list[tuple[str, str]]:
    """The seller's words, from the claim's first figure on where they are long; its figures are marked."""
    numbers = {number.replace(",", ".") for number in _NUMBER.findall(proposal.sentence)}
    words = sanitize(" ".join(proposal.quoted.split()), len(proposal.quoted) + 1)
    marks = [match for match in _NUMBER.finditer(words) if match[0].replace(",", ".") in numbers]
    if len(words) > width and marks and marks[0].end() > width - 2:
        start = max(0, marks[0].end() - width // 2)
        words = f"…{words[start:]}"
        marks = [match for match in _NUMBER.finditer(words) if match[0].replace(",", ".") in numbers]
    parts: list[tuple[str, str]] = []
    last = 0
    for match in marks:
        if match.end() > width:
            break
        parts += [(words[last : match.start()], palette.quiet), (match[0], f"bold {palette.ink}")]
        last = match.end()
    return [*parts, (words[last:width], palette.quiet)]
