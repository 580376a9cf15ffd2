"""The faces of a device as text: every port a tile in its place, with what it promises and how that stands."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from enum import Enum

from rich.cells import cell_len
from textual.content import Content

from auditra.core.claims.claim import Claim
from auditra.core.judge.judgement import Judgement
from auditra.core.model.device import Device
from auditra.core.model.verdict import Verdict
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import cut
from auditra.tui.theme import Palette

TILE_WIDTH, TILE_GAP, FACE_GAP = 13, 1, 3
_INNER = TILE_WIDTH - 2
_FULL, _REST = "━", "╌"
_HEAVY, _THIN = ("┏", "┓", "┗", "┛", "┃"), ("┌", "┐", "└", "┘", "│")


class TileSize(Enum):
    """How much of a tile there is room for; the value is its height in rows."""

    LARGE = 4
    SMALL = 1
    BARE = 0


@dataclass(frozen=True)
class Tile:
    """One port as its tile shows it. `move` says that the next plug move is at it."""

    port: str
    connector: str
    brief: str
    verdict: Verdict | None
    share: Decimal
    move: bool = False
    running: bool = False
    typed: bool = False
    """What it promises is just being typed."""

    @property
    def mark(self) -> str:
        return self.verdict.mark if self.verdict else " "

    @property
    def word(self) -> str:
        if self.running or self.typed:
            return "running" if self.running else "typing"
        return self.verdict.word if self.verdict else "no claim"


@dataclass(frozen=True)
class Placed:
    """A tile, or the name of a face, with its cell; the height tells a tile from a name."""

    x: int
    y: int
    width: int
    height: int
    tile: Tile | None
    face: str = ""


def tiles_of(device: Device, judgement: Judgement) -> tuple[tuple[str, tuple[Tile, ...]], ...]:
    """The tiles of each face, in the order of the ports."""
    return tuple(
        (face.name, tuple(_tile(port.id, port.connector, judgement) for port in face.ports)) for face in device.faces
    )


def _tile(port: str, connector: str, judgement: Judgement) -> Tile:
    verdicts = judgement.of_port(port)
    more = f" +{len(verdicts) - 1}" if len(verdicts) > 1 else ""
    brief = verdicts[0].claim.promise.brief + more if verdicts else ""
    share = sum((verdict.share_shown for verdict in verdicts), Decimal(0)) / len(verdicts) if verdicts else Decimal(0)
    return Tile(port, connector, brief, judgement.worst_of_port(port), share)


def size_for(width: int) -> TileSize:
    """What fits a terminal of so many columns."""
    return TileSize.LARGE if width >= 140 else TileSize.SMALL if width >= 96 else TileSize.BARE


def place(faces: Iterable[tuple[str, tuple[Tile, ...]]], width: int, size: TileSize) -> tuple[Placed, ...]:
    """Faces side by side; one that does not fit begins a new row, and one wider than the screen is cut."""
    return tuple(_place_bare(faces) if size is TileSize.BARE else _place_tiles(faces, width, size.value))


def _place_tiles(faces: Iterable[tuple[str, tuple[Tile, ...]]], width: int, height: int) -> Iterator[Placed]:
    x, y = 1, 0
    pitch = TILE_WIDTH + TILE_GAP
    for name, tiles in faces:
        if x > 1 and x + len(tiles) * pitch - TILE_GAP > width:
            x, y = 1, y + height + 1
        yield Placed(x, y, max(cell_len(name), TILE_WIDTH), 1, None, name)
        for tile in tiles:
            if x + TILE_WIDTH > width:
                x, y = 1, y + height + 1
            yield Placed(x, y + 1, TILE_WIDTH, height, tile)
            x += pitch
        x += FACE_GAP - TILE_GAP


def _place_bare(faces: Iterable[tuple[str, tuple[Tile, ...]]]) -> Iterator[Placed]:
    x = 1
    for name, tiles in faces:
        yield Placed(x, 0, cell_len(name), 1, None, name)
        x += cell_len(name) + 1
        for tile in tiles:
            text = f"{tile.port}{tile.mark}"
            yield Placed(x, 0, len(text), 1, tile)
            x += len(text) + 1
        x += 1


def render_faces(placed: Iterable[Placed], size: TileSize, selected: str | None, palette: Palette) -> Content:
    """The tiles in their places, row by row."""
    spans: dict[int, list[tuple[int, Content]]] = {}
    for each in placed:
        lines = (
            [_name(each.face, palette)]
            if each.tile is None
            else _lines(each.tile, size, each.tile.port == selected, palette)
        )
        for row, line in enumerate(lines):
            spans.setdefault(each.y + row, []).append((each.x, line))
    rows = [_row(sorted(spans.get(y, []), key=lambda span: span[0])) for y in range(max(spans, default=0) + 1)]
    return Content("\n").join(rows)


def _row(spans: list[tuple[int, Content]]) -> Content:
    parts: list[Content] = []
    at = 0
    for x, content in spans:
        parts += [Content(" " * (x - at)), content]
        at = x + content.cell_length
    return Content.assemble(*parts)


def _name(name: str, palette: Palette) -> Content:
    return Content.styled(cut(sanitize(name, 20), 20), palette.quiet)


def _lines(tile: Tile, size: TileSize, selected: bool, palette: Palette) -> list[Content]:
    colour = palette.accent if tile.running or tile.typed else palette.of(tile.verdict)
    match size:
        case TileSize.LARGE:
            return _large(tile, selected, colour, palette)
        case TileSize.SMALL:
            text = _one_line(tile)
            style = f"bold {palette.ground} on {colour}" if selected else colour
            return [Content.styled(text.ljust(TILE_WIDTH), style)]
        case TileSize.BARE:
            style = f"bold {palette.ground} on {colour}" if selected else colour
            return [Content.styled(f"{tile.port}{tile.mark}", style)]


_MAX_CONNECTOR_LENGTH = 7
_SHORT = {
    "displayport": "dp", "mini displayport": "mini dp", "mini hdmi": "hdmi", "micro hdmi": "hdmi",
    "usb mini-b": "mini-b", "usb micro-b": "micro-b", "cfexpress": "cfe", "compactflash": "cf", "magnetic": "magnet",
    "lock slot": "lock",
}  # fmt: skip
"""Names of connectors for a tile, where the usual one has no room."""


def _connector(tile: Tile) -> str:
    """The connector, or its short name; nothing where neither has room: a name is never cut."""
    name = tile.connector.removesuffix(" plug")
    name = _SHORT.get(name, name)
    return sanitize(name, _MAX_CONNECTOR_LENGTH) if len(name) <= _MAX_CONNECTOR_LENGTH else ""


def _large(tile: Tile, selected: bool, colour: str, palette: Palette) -> list[Content]:
    """Four rows. The selected tile has heavy corners in the accent colour."""
    edge = f"bold {palette.accent}" if selected else colour
    left_top, right_top, left_foot, right_foot, side = _HEAVY if selected else _THIN
    line = "━" if selected else "─"
    head = f"{_arrow(tile)}{tile.port} {_connector(tile)}"[: _INNER - 1].rstrip()
    filled = int(tile.share * _INNER)
    word = f"{tile.mark} {tile.word}".strip()
    name_style = f"bold {palette.accent}" if tile.move or selected else f"bold {colour}"
    return [
        Content.assemble((left_top, edge), (head, name_style), (line * (_INNER - len(head)), edge), (right_top, edge)),
        Content.assemble((side, edge), (tile.brief[:_INNER].center(_INNER), palette.ink), (side, edge)),
        Content.assemble(
            (side, edge), (_FULL * filled, colour), (_REST * (_INNER - filled), palette.rule), (side, edge)
        ),
        Content.assemble(
            (left_foot, edge), (_footing(word), f"bold {colour}" if selected else colour),
            (line * (_INNER - len(_footing(word))), edge), (right_foot, edge),
        ),
    ]  # fmt: skip


def _arrow(tile: Tile) -> str:
    return "▸" if tile.move else " "


def with_moves(
    faces: tuple[tuple[str, tuple[Tile, ...]], ...], moves: frozenset[str], running: str | None
) -> tuple[tuple[str, tuple[Tile, ...]], ...]:
    """The same tiles, with those marked that the next plug moves are at, and the one under trial."""
    return tuple(
        (name, tuple(replace(tile, move=tile.port in moves, running=tile.port == running) for tile in tiles))
        for name, tiles in faces
    )


def with_typed(
    faces: tuple[tuple[str, tuple[Tile, ...]], ...], claims: Sequence[Claim]
) -> tuple[tuple[str, tuple[Tile, ...]], ...]:
    """The same tiles, those of claims that are being typed with what they would promise."""
    typed = {port: claim.promise.brief for claim in claims for port in claim.ports}
    return tuple(
        (name, tuple(replace(t, brief=typed[t.port], typed=True) if t.port in typed else t for t in tiles))
        for name, tiles in faces
    )


def neighbour(placed: Iterable[Placed], selected: str | None, dx: int, dy: int) -> str | None:
    """The port next to the selected one in a direction; the selected one where there is none."""
    tiles = [each for each in placed if each.tile is not None]
    here = next((tile for tile in tiles if tile.tile is not None and tile.tile.port == selected), None)
    if here is None:
        return tiles[0].tile.port if tiles and tiles[0].tile else None
    if dx:
        order = tiles.index(here) + dx
        there = tiles[order] if 0 <= order < len(tiles) else here
    else:
        rows = [each for each in tiles if (each.y - here.y) * dy > 0]
        nearest_row = min((abs(each.y - here.y) for each in rows), default=0)
        row = [each for each in rows if abs(each.y - here.y) == nearest_row]
        there = min(row, key=lambda each: abs(each.x - here.x), default=here)
    return there.tile.port if there.tile else selected


def _one_line(tile: Tile) -> str:
    """Port, mark and word in one line, with as many gaps as there is room for."""
    head, told = f"{_arrow(tile)}{tile.port:2}", f"{tile.mark} {tile.word}".strip()
    candidates = (f"{head} {told}", f"{head}{told}", f"{head}{tile.mark}{tile.word}", f"{head}{told}"[:TILE_WIDTH])
    return next(text for text in candidates if len(text) <= TILE_WIDTH)


def _footing(word: str) -> str:
    """The verdict in the tile's foot, with a gap at both sides while there is room for it."""
    return next(text for text in (f" {word} ", f" {word}", word[:_INNER]) if len(text) <= _INNER)
