"""What a report is made of: chapters, blocks in them, and sentences that each name what they come from.

A document is the same for HTML, PDF, Markdown and the screen. Text in it may come from outside: whoever prints it shows
it as text.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, fields
from datetime import datetime
from decimal import Decimal
from enum import StrEnum

from auditra.core.judge.charts import Chart
from auditra.core.judge.reasoning.chain import ChainView
from auditra.core.model.verdict import Verdict
from auditra.core.sanitize import sanitize

MAX_TEXT = 4000
"""The longest sentence of a report; a longer one is cut with a mark."""


class From(StrEnum):
    """What sort of thing a sentence comes from."""

    CLAIM = "claim"
    """By its id: its words, its verdict, what was shown of it."""
    FINDING = "finding"
    """By the id of its cause."""
    TRIAL = "trial"
    TYPED = "typed"
    """What the reviewer wrote, by what it is about: a field of the device, a note, an answer."""
    RIG = "rig"
    """By the id of a part."""
    PAPER = "paper check"
    """By the key of a remark."""
    JUDGEMENT = "judgement"
    """A figure of the whole: score, coverage, advice."""
    JOURNAL = "journal"
    METHOD = "method"
    """How Auditra works, by the page of its documentation: true of every report."""


@dataclass(frozen=True)
class Ref:
    """One thing that a sentence comes from."""

    kind: From
    name: str


class Tone(StrEnum):
    """How a sentence is set."""

    PLAIN = "plain"
    STRONG = "strong"
    QUIET = "quiet"
    ALARM = "alarm"


@dataclass(frozen=True)
class Said:
    """A sentence, or a piece of one in a cell. A verdict is shown with its mark."""

    text: str
    refs: tuple[Ref, ...]
    tone: Tone = Tone.PLAIN
    verdict: Verdict | None = None

    def __post_init__(self) -> None:
        """Words from outside cannot steer whoever shows them, whatever prints them."""
        object.__setattr__(self, "text", sanitize(self.text, MAX_TEXT))


@dataclass(frozen=True)
class Para:
    """Sentences one after the other; `lead` for the paragraph that a reader may stop after."""

    said: tuple[Said, ...]
    lead: bool = False


@dataclass(frozen=True)
class Heading:
    """A heading inside a chapter."""

    text: str

    def __post_init__(self) -> None:
        object.__setattr__(self, "text", sanitize(self.text, MAX_TEXT))


@dataclass(frozen=True)
class Items:
    """A list, each item of one or more sentences."""

    items: tuple[tuple[Said, ...], ...]


Cell = tuple[Said, ...]
"""Lines of a cell; empty for nothing."""


@dataclass(frozen=True)
class Table:
    """Rows below a head. `shares` are the widths of the columns, of 1; a column of `numbers` is set to the right."""

    head: tuple[str, ...]
    rows: tuple[tuple[Cell, ...], ...]
    shares: tuple[float, ...]
    numbers: tuple[int, ...] = ()
    foot: tuple[Cell, ...] = ()

    def __post_init__(self) -> None:
        object.__setattr__(self, "head", tuple(sanitize(each, MAX_TEXT) for each in self.head))


@dataclass(frozen=True)
class Paste:
    """Lines that are made to be copied as they stand."""

    lines: tuple[Said, ...]


@dataclass(frozen=True)
class Faces:
    """The drawing of the device with the verdict at every port."""

    caption: Said


@dataclass(frozen=True)
class ChartFigure:
    """A chart with what it shows."""

    chart: Chart
    caption: Said


@dataclass(frozen=True)
class ChainFigure:
    """The ceilings of a claim from the host outwards, with what was measured at the end."""

    chain: ChainView
    caption: Said


@dataclass(frozen=True)
class Photo:
    """A picture of the reviewer's, by its SHA-256."""

    sha256: str
    media_type: str
    caption: Said


Block = Para | Heading | Items | Table | Paste | Faces | ChartFigure | ChainFigure | Photo


@dataclass(frozen=True)
class Chapter:
    """One chapter; `id` is its anchor."""

    id: str
    title: str
    blocks: tuple[Block, ...]


@dataclass(frozen=True)
class Summary:
    """What a search engine or a card is told of a report: plain values."""

    device: str
    maker: str
    model: str
    kind: str
    reviewer: str
    day: datetime | None
    advice: str
    score: Decimal | None
    lowest: Decimal
    highest: Decimal
    price: str = ""
    money: str = ""

    def __post_init__(self) -> None:
        for each in fields(self):
            if isinstance(value := getattr(self, each.name), str):
                object.__setattr__(self, each.name, sanitize(value, MAX_TEXT))


def band_text(summary: Summary) -> str:
    """The band behind a score; empty where nothing can move it any more."""
    if summary.score is None or summary.lowest == summary.highest:
        return ""
    return f", {summary.lowest} to {summary.highest} of 100"


@dataclass(frozen=True)
class Document:
    """A whole report, or a line-up."""

    title: str
    subtitle: str
    chapters: tuple[Chapter, ...]
    version: str
    """Which version of it this is, in words."""
    summary: Summary | None = None

    def __post_init__(self) -> None:
        for name in ("title", "subtitle"):
            object.__setattr__(self, name, sanitize(getattr(self, name), MAX_TEXT))

    def sentences(self) -> Iterator[Said]:
        """Every sentence in it, in order."""
        for chapter in self.chapters:
            for block in chapter.blocks:
                yield from sentences_of(block)


def sentences_of(block: Block) -> Iterator[Said]:
    """The sentences of a block, in order."""
    match block:
        case Para(said):
            yield from said
        case Items(items):
            yield from (each for item in items for each in item)
        case Table():
            yield from (each for row in (*block.rows, block.foot) for cell in row for each in cell)
        case Paste(lines):
            yield from lines
        case Faces() | ChartFigure() | ChainFigure() | Photo():
            yield block.caption
        case Heading():
            return


def refs(kind: From, *names: str) -> tuple[Ref, ...]:
    """References of one kind."""
    return tuple(Ref(kind, name) for name in names)


def said(text: str, *kinds: tuple[Ref, ...], tone: Tone = Tone.PLAIN) -> Said:
    """A sentence with all that it comes from."""
    return Said(text, tuple(dict.fromkeys(ref for each in kinds for ref in each)), tone)


def of_claims(ids: Iterable[str], trials: Iterable[str] = ()) -> tuple[Ref, ...]:
    """References to claims and to the trials behind them."""
    return (*refs(From.CLAIM, *ids), *refs(From.TRIAL, *trials))
