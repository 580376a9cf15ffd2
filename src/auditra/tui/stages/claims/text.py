"""The Claims stage in words: what the seller says beside the claims read from it; what every socket is for."""

from __future__ import annotations

import textwrap
from collections.abc import Iterable, Iterator, Mapping
from itertools import groupby, zip_longest

from textual.content import Content

from auditra.core.claims.claim import Claim
from auditra.core.journal.audit import Audit, UnreadableClaim
from auditra.core.judge.capabilities import Cell, Row, capability_grid, look_alikes
from auditra.core.judge.judgement import Judgement
from auditra.core.model.capability import Capability
from auditra.core.model.device import MARKS, Device, Role
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.noted import in_words as noted_in_words
from auditra.core.model.rig import Origin, Rig
from auditra.core.model.source import Source
from auditra.core.sanitize import sanitize
from auditra.documents.typed_noun import as_typed
from auditra.tui.renderables.labels import hanging, heading
from auditra.tui.theme import Palette

_EMPTY = (
    "No claims yet. Press g to paste the seller's text: claims and sockets are proposed from it. "
    "Or press s to add a socket, such as A1 usb-a, then n to type a claim, such as A1 data 5 Gb/s."
)
_DETAILS = {
    "box_contents": "in the box", "price": "price", "other_prices": "other prices", "extras": "sold separately",
    "disclosure": "how obtained", "paid_by": "paid by", "seen_before_by": "seen before by",
}  # fmt: skip
"""What is known of a device, by its key, and what it is called on the screen."""
_MARK_WIDTH = 5
_SOCKET_WIDTH = 5
_MIN_CELL_WIDTH, _MAX_CELL_WIDTH = 9, 14
_LEFT_QUOTE, _RIGHT_QUOTE = "\N{LEFT DOUBLE QUOTATION MARK}", "\N{RIGHT DOUBLE QUOTATION MARK}"


def in_order(audit: Audit) -> tuple[Claim, ...]:
    """Claims as they are listed: those from the same words together, in the order in which they were made."""
    first: dict[Source, int] = {}
    for index, claim in enumerate(audit.claims):
        first.setdefault(claim.source, index)
    return tuple(sorted(audit.claims, key=lambda claim: first[claim.source]))


def listed_claims(audit: Audit) -> tuple[Claim | UnreadableClaim, ...]:
    """Every claim in the order of the list, those that cannot be read at its end."""
    return (*in_order(audit), *audit.unreadable)


def sentence_of(claim: Claim | UnreadableClaim) -> str:
    """The claim as it is typed."""
    return claim.sentence if isinstance(claim, UnreadableClaim) else str(claim)


def said_and_claimed(
    audit: Audit, judgement: Judgement, chosen: str | None, width: int, palette: Palette
) -> tuple[Content, int]:
    """The seller's words on the left, the claims on the right; and the line at which the chosen one stands."""
    left = max(20, min(46, width * 2 // 5))
    right = max(20, width - left - 2)
    head = heading("the seller's words", palette)
    gap = " " * max(2, left + 2 - head.cell_length)
    lines = [Content.assemble(head, gap, heading("claims", palette, f"{len(audit.claims)}")), Content("")]
    if not audit.claims and not audit.unreadable:
        lines += hanging("", "", _EMPTY, palette.ink, width)
    at = 0
    for source, claims in groupby(in_order(audit), key=lambda claim: claim.source):
        words = list(_words_of(source, left, palette))
        said: list[Content] = []
        for claim in claims:
            if claim.id == chosen:
                at = len(lines) + len(said)
            said += _claim_lines(claim, judgement, claim.id == chosen, right, palette)
        for one, other in zip_longest(words, said, fillvalue=Content("")):
            lines.append(Content.assemble(one, " " * (left + 2 - one.cell_length), other))
        lines.append(Content(""))
    for unreadable in audit.unreadable:
        if unreadable.id == chosen:
            at = len(lines)
        lines += [*_unreadable_lines(unreadable, unreadable.id == chosen, width, palette), Content("")]
    return Content("\n").join(lines), at


def _unreadable_lines(claim: UnreadableClaim, chosen: bool, width: int, palette: Palette) -> Iterator[Content]:
    """The sentence as it was recorded, why it cannot be read, and what can be done."""
    sign = ("▸ " if chosen else "  ", palette.accent)
    yield Content.assemble(sign, ("?  ", palette.unsure), (sanitize(claim.sentence, max(20, width - 8)), palette.ink))
    words = f"cannot be read: {sanitize(claim.why, 200)}. It is not judged. Press e to edit it, d to drop it."
    for line in textwrap.wrap(words, max(20, width - _MARK_WIDTH)):
        yield Content.styled(" " * _MARK_WIDTH + line, palette.partly)


def _words_of(source: Source, width: int, palette: Palette) -> Iterator[Content]:
    if isinstance(source.quoted, str):
        quoted = f"{_LEFT_QUOTE}{sanitize(source.quoted, 300)}{_RIGHT_QUOTE}"
        for line in textwrap.wrap(quoted, width):
            yield Content.styled(line, palette.ink)
    else:
        yield Content.styled("no quote recorded", palette.quiet)
    where = [sanitize(str(part), 40) for part in (source.kind, source.seen) if isinstance(part, str)]
    yield Content.styled(f"{', '.join(where) or 'source and date not recorded'}"[:width], palette.quiet)


def _claim_lines(claim: Claim, judgement: Judgement, chosen: bool, width: int, palette: Palette) -> list[Content]:
    verdict = judgement.of_claim(claim.id)
    mark = (f"{verdict.verdict.mark:2} ", palette.of(verdict.verdict)) if verdict else ("   ", palette.quiet)
    sign = ("▸ " if chosen else "  ", palette.accent)
    style = f"bold {palette.accent}" if chosen else palette.ink
    wrapped = textwrap.wrap(str(claim), max(12, width - _MARK_WIDTH)) or [""]
    first = Content.assemble(sign, mark, (wrapped[0], style))
    return [first, *(Content.styled(" " * _MARK_WIDTH + line, style) for line in wrapped[1:])]


def what_it_is_for(audit: Audit, judgement: Judgement, selected: str | None, width: int, palette: Palette) -> Content:
    """The capability grid, what looks alike, how sockets were counted, and device details."""
    device, rows = audit.device, capability_grid(audit.device, judgement)
    lines = [
        heading("port capabilities", palette),
        Content(""),
        *_grid(rows, selected, width, palette),
        Content(""),
    ]
    alike = look_alikes(rows)
    lines += [heading("same connector, different function", palette), Content("")] if alike else []
    lines += [each for one in alike for each in _wrapped(one, width, palette.partly, palette)]
    lines += [Content("")] if alike else []
    lines += [heading("the device", palette), Content(""), *_count_lines(device, width, palette)]
    lines += list(_known_lines(device, audit.rig, width, palette))
    return Content("\n").join(lines)


def _grid(rows: Iterable[Row], selected: str | None, width: int, palette: Palette) -> Iterator[Content]:
    column = max(_MIN_CELL_WIDTH, min(_MAX_CELL_WIDTH, (width - _SOCKET_WIDTH) // len(Capability)))
    shown = [each for each in Capability if (tuple(Capability).index(each) + 1) * column + _SOCKET_WIDTH <= width]
    yield Content.styled(" " * _SOCKET_WIDTH + "".join(f"{each.value:{column}}" for each in shown), palette.quiet)
    for row in rows:
        style = f"bold {palette.accent}" if row.port.id == selected else palette.ink
        cells = [_cell(row.cell(each), 0 if each is shown[-1] else column, palette) for each in shown]
        yield Content.assemble((f"{row.port.id:{_SOCKET_WIDTH}}", style), *cells)


def _cell(cell: Cell, column: int, palette: Palette) -> Content:
    """Cut to its column; the last, of width 0, may be as long as it is."""
    if cell.verdict is None:
        return Content.styled(f"{cell.words or '-':{column or 1}}", palette.quiet if cell.words else palette.rule)
    text = f"{cell.verdict.mark} {cell.words}"
    if column and len(text) >= column:
        text = f"{cell.verdict.mark}{cell.words}"[: column - 1]
    return Content.styled(f"{text:{column or 1}}", palette.of(cell.verdict) if cell.verdict.decided else palette.ink)


def _count_lines(device: Device, width: int, palette: Palette) -> list[Content]:
    counted = device.counted_ports
    printed = device.printed_count
    if isinstance(printed, int) and printed == len(counted):
        words = f'"{printed} in 1" on the box, and {len(counted)} ports are listed'
    elif isinstance(printed, int):
        words = f'"{printed} in 1" on the box, but {len(counted)} ports are listed'
    else:
        words = f"{len(counted)} ports; count on the box: {noted_in_words(printed)}"
    matches = not isinstance(printed, int) or printed == len(counted)
    if isinstance(printed, int) and printed == len(counted) + 1 and device.first(Role.UPSTREAM):
        words = f'"{printed} in 1" on the box: {len(counted)} ports, host port included'
    style = palette.ink if matches else palette.partly
    rule = f"counted: {' '.join(counted)}; each port counted once, the host plug not counted"
    return [*_wrapped(words, width, style, palette), *_wrapped(rule, width, palette.quiet, palette), Content("")]


def _known_lines(device: Device, rig: Rig, width: int, palette: Palette) -> Iterator[Content]:
    """What marks it, what came with it, what it costs, and how the reviewer came by it."""
    texts = as_typed(device, ("faces",))
    yield from _told("marks", ", ".join(f"{mark} {_of(texts, mark)}" for mark in MARKS), width, palette)
    for key, name in _DETAILS.items():
        yield from _told(name, _of(texts, key), width, palette)
    if (cost := device.cost) is not None and isinstance(device.extras, tuple):
        yield from _told("to pay in all", f"{cost.amount:.2f} {cost.money}", width, palette)
    lent = [part.name for part in rig.supplies if part.origin is Origin.BORROWED]
    lent += [part.name for part in rig.adapters if part.origin is Origin.BORROWED]
    helper = ", ".join(lent) if device.helper_gear is NOT_NOTED and lent else _of(texts, "helper_gear")
    yield from _told("gear used with it", helper, width, palette)


def _of(texts: Mapping[str, str], key: str) -> str:
    return texts.get(key) or str(NOT_NOTED)


def _told(name: str, words: str, width: int, palette: Palette) -> Iterator[Content]:
    for number, line in enumerate(textwrap.wrap(f"{name}: {sanitize(words, 400)}", max(20, width)) or [name]):
        if number == 0:
            yield Content.assemble((line[: len(name) + 1], palette.quiet), (line[len(name) + 1 :], palette.ink))
        else:
            yield Content.styled(f"  {line}", palette.ink)


def _wrapped(text: str, width: int, style: str, palette: Palette) -> list[Content]:
    return [Content.styled(line, style) for line in textwrap.wrap(text, max(20, width))]
