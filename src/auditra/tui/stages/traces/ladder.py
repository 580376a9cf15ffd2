"""A power conversation as a ladder: what the source says on the left, what the other side says on the right."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator
from typing import TYPE_CHECKING

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

if TYPE_CHECKING:  # the decoder is loaded once a conversation is looked at
    from auditra.core.decode.power_delivery.conversation import Conversation, Turn
    from auditra.workflows.audits.conversations import RecordedConversation

_TIME_CELLS, _ARROW_CELLS, _MIN_LANE = 10, 5, 14
SOURCE = "source"


def ladder_name(recorded: RecordedConversation) -> str:
    """As it stands in the list of traces."""
    contract = recorded.conversation.contract
    agreed = f" {contract.power_mw / 1000:g} W" if contract is not None and contract.power_mw is not None else ""
    return f"power conversation{agreed}"


def ladder_head(recorded: RecordedConversation, palette: Palette) -> Content:
    turns = counted(len(recorded.conversation.turns), "message")
    return heading(f"power conversation, {recorded.trial}", palette, f"{sanitize(recorded.name, 40)}, {turns}")


def ladder_text(recorded: RecordedConversation, first: int, width: int, height: int, palette: Palette) -> Content:
    """So many rungs as there is room for, beginning with one."""
    lane = max(_MIN_LANE, (width - _TIME_CELLS - _ARROW_CELLS) // 2)
    head = Content.styled(f"{'time':{_TIME_CELLS}}{'source':{lane + _ARROW_CELLS}}sink, cable", palette.quiet)
    turns = recorded.conversation.turns[first : first + max(1, height)]
    rungs = [line for turn in turns for line in _rung(turn, lane, palette)]
    return Content("\n").join([head, *rungs[: max(1, height - 1)]])


def _rung(turn: Turn, lane: int, palette: Palette) -> Iterator[Content]:
    """Its time and words in the lane of who said it; what does not fit goes on below."""
    is_source = turn.sender == SOURCE
    who = "" if turn.sender in (SOURCE, "sink") else f"{turn.sender}: "
    lines = textwrap.wrap(sanitize(f"{who}{turn.words}", 600), lane) or [""]
    for number, words in enumerate(lines):
        time = f"{turn.from_start_s:.3f} s" if number == 0 else ""
        left, right = (words, "") if is_source else ("", words)
        arrow = (" ──▶ " if is_source else " ◀── ") if number == 0 else " " * _ARROW_CELLS
        yield Content.assemble(
            (time.ljust(_TIME_CELLS), palette.quiet), (left.ljust(lane), palette.ink),
            (arrow, palette.accent if is_source else palette.unsure), (right, palette.ink),
        )  # fmt: skip


def ladder_foot(conversation: Conversation, palette: Palette) -> Content:
    """What was agreed, why not more, and what broke a rule."""
    return Content("\n").join(list(_foot(conversation, palette)))


def _foot(conversation: Conversation, palette: Palette) -> Iterator[Content]:
    if conversation.contract is not None:
        yield Content.assemble(("agreed ", f"bold {palette.accent}"), (conversation.contract.words, palette.ink))
    for why in conversation.not_more:
        yield Content.styled(f"not more: {sanitize(why, 120)}", palette.partly)
    for fault in conversation.faults[:2]:
        yield Content.styled(f"fault: {sanitize(fault, 120)}", palette.broken)
