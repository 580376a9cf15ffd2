"""The run sheet as a list to choose from: what is done, what is due, what is skipped, and how much work is left."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import Judgement
from auditra.core.model.depth import Depth
from auditra.core.model.setup import MINUTE_S
from auditra.core.plan.estimate import Work, pace_of, work_of
from auditra.core.plan.offers import SheetOffer
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.identity import identity_of
from auditra.tui.renderables.cells import cut
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette


class Standing(Enum):
    """Where a trial of the sheet stands; the value is its mark."""

    DONE = "✓"
    DUE = "·"
    SKIPPED = "–"
    SPARED = "="


@dataclass(frozen=True)
class SheetItem:
    """One trial of the list."""

    planned: PlannedTrial
    standing: Standing
    why: str = ""


def sheet_items(audit: Audit, judgement: Judgement) -> tuple[SheetItem, ...]:
    """Every trial of the sheet in order, then those of the reviewer's own and what answers wait for besides."""
    skipped = {identity_of(each.trial): each.why for each in audit.skipped}
    due, spared = set(judgement.left), set(judgement.spared)
    known = dict.fromkeys((*judgement.in_order, *judgement.to_do))
    return tuple(
        SheetItem(planned, Standing.SKIPPED, skipped[planned.identity])
        if planned.identity in skipped
        else SheetItem(planned, Standing.SPARED, "decided without it")
        if planned in spared
        else SheetItem(planned, Standing.DUE if planned in due else Standing.DONE)
        for planned in known
    )


def sheet_list(
    items: Sequence[SheetItem], chosen: PlannedTrial | None, work: Work, palette: Palette, width: int, room: int,
    depth: Depth = Depth.FULL,
) -> Content:  # fmt: skip
    """As much of the list around the chosen trial as there is room for."""
    due = sum(item.standing is Standing.DUE for item in items)
    lines = [heading(f"{depth} sheet", palette, f"{due} of {len(items)} left" if due else "no trials left")]
    left = f"{counted(work.moves, 'move')}, about {max(1, round(work.seconds / MINUTE_S))} min" if due else ""
    lines += [Content.styled(cut(left, width), palette.quiet), Content("")]
    at = next((index for index, item in enumerate(items) if item.planned == chosen), 0)
    shown = max(1, room - 3)
    first = max(0, min(at - shown // 2, len(items) - shown))
    lines += [
        _line(number, item, item.planned == chosen, palette, width)
        for number, item in enumerate(items[first : first + shown], start=first + 1)
    ]
    return Content("\n").join(lines)


def left_to_do(audit: Audit, judgement: Judgement) -> Work:
    """The work that is left, from what is connected now."""
    return work_of(judgement.to_do, audit.last_setup, pace_of(audit.trials))


def offer_line(offer: SheetOffer) -> str:
    """A run sheet with the work that it still asks for."""
    if not offer.left:
        return f"{offer.depth:<9} all done"
    minutes = max(1, round(offer.work.seconds / MINUTE_S))
    return f"{offer.depth:<9} {offer.left:>3} trials left  {offer.work.moves:>3} moves  about {minutes:>3} min"


def offer_note(offer: SheetOffer) -> str:
    """What it has, and what it leaves untried."""
    beside: list[str] = list(offer.aspects)
    match offer.depth:
        case Depth.FULL:
            beside = ["what went together here each by itself", "every two together", *beside]
        case Depth.FORENSIC:
            return f"{_sentence(offer.depth.words)} It leaves untried what only three or more together would show."
    left = f"It leaves {counted(offer.untried, 'set-up')} untried: {', '.join(beside)}." if offer.untried else ""
    return f"{_sentence(offer.depth.words)} {left}"


def _sentence(words: str) -> str:
    return f"{words[0].upper()}{words[1:]}."


def _line(number: int, item: SheetItem, chosen: bool, palette: Palette, width: int) -> Content:
    title = item.planned.title if not item.why else f"{item.planned.title}: {item.why}"
    quiet = item.standing is not Standing.DUE
    style = f"bold {palette.accent}" if chosen else palette.quiet if quiet else palette.ink
    mark = palette.holds if item.standing is Standing.DONE else palette.quiet
    return Content.assemble(
        ("▸" if chosen else " ", palette.accent), (f"{number:>3} ", palette.quiet), (f"{item.standing.value} ", mark),
        (cut(title, max(0, width - 7)), style),
    )  # fmt: skip
