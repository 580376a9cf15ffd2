"""What every kind of promise can do: be read, printed, proved by gear, and decided from readings."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal
from enum import Enum, StrEnum
from typing import Any, ClassVar, Self

from auditra.core.claims.terms import Amount, Said, terms_of
from auditra.core.claims.tokens import Words
from auditra.core.decide.evidence import Evidence
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.rig import Gear
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import Format
from auditra.core.quantities.units import Dimension


class Sense(Enum):
    """Which way a figure is promised."""

    AT_LEAST = "at least"
    AT_MOST = "at most"
    SIZE = "size"


@dataclass(frozen=True)
class Scale:
    """How the readings of a claim are shown on one scale: the quantities, the limit and the most the link carries."""

    quantities: tuple[Quantity | str, ...]
    limit: float
    ceiling: float | None = None
    ceiling_words: str = ""
    sense: Sense = Sense.AT_LEAST
    stated: bool = True
    """The limit is the figure that the seller states; else it was worked out of one, such as a floor below a link."""


class Hedge(StrEnum):
    """How a figure is promised; the value is what stands before it."""

    PLAIN = ""
    UP_TO = "up to"
    ABOUT = "about"
    AT_LEAST = "at least"


BITS_A_BYTE = 8.0
CANNOT_PROVE = 0.999
"""The margin of gear that comes as near as can be and still proves nothing: it lacks just what is promised."""
_NOUNS = ("cards", "ports")
"""Words that open a promise, end in s and are no verbs."""
_HEDGES = tuple(each.value for each in Hedge if each.value)
ABOUT_SHARE = 0.05
"""How far a figure may be off that is promised with "about"."""


class ReadOff(Enum):
    """What the rig's own instruments may be asked in a person's stead."""

    DROP = "the drop of a lead"
    THROUGH = "what goes through a lead"
    OWN_USE = "what a device keeps for itself"
    WARMTH = "how warm it gets"
    FRAME = "the largest packet"


@dataclass(frozen=True)
class Look:
    """What a person is asked about a promise that no instrument decides by itself, and what may be answered.

    A number where dimensions are named; else how often it worked, or with no tries yes or no.
    """

    question: str
    quantity: Quantity | str
    hint: str
    dimensions: tuple[Dimension, ...] = ()
    tries: int = 0
    grade: Grade = Grade.SEEN
    """What a yes or no is worth: seen by eye, or read off a rule or a page."""
    control: str = ""
    """Of a count: what shows that it does not happen by itself; asked each time where there is one."""
    read_off: ReadOff | None = None
    """Which instruments may answer it; only a person where there are none."""
    behind_a: float | None = None
    """The current under which a figure is promised, in amperes."""
    without: Quantity | None = None
    """What is asked too where a figure falls short: the same with another thing in its place."""
    about: str = ""
    """The opening words of the promise that it is asked for."""


@dataclass(frozen=True)
class Promise(ABC):
    """One kind of promise: a frozen dataclass under this class, in a file of kinds/, found by itself.

    Its grammar is its fields: those made with `said` are read and printed in their order. A kind that is written
    otherwise has its own `parse` and `__str__`.
    """

    hedge: Hedge = field(default=Hedge.PLAIN, kw_only=True)

    words: ClassVar[str]
    """The words that open its sentence, after the port."""
    of_many: ClassVar[str] = ""
    """The same where several ports are named; empty where nothing changes."""
    example: ClassVar[str]
    procedure: ClassVar[str]
    """The id of the procedure that tries it."""
    capability: ClassVar[Capability] = Capability.OTHER
    forbids: ClassVar[bool] = False
    """It says that the port does not do it."""
    cannot_be_without: ClassVar[str] = ""
    """A word of "without" that would contradict it: a promise of data cannot be "without data"."""
    beside_display: ClassVar[bool] = False
    """It is promised whatever else runs, so it is tried with a display running too."""
    soaks: ClassVar[bool] = False
    """It is promised however long it has been at work, so it is tried after a long time at full load too."""
    of_group: ClassVar[bool] = False
    """It is said of a group of ports as a whole, not of each."""
    on_every_host: ClassVar[bool] = False
    """It is promised of whichever host comes, so it is tried on each."""
    can_be_disturbed: ClassVar[bool] = False
    """Data that moves beside it may be heard in it, so it is tried beside that too."""
    needs_gear: ClassVar[bool] = False
    """A person who looks needs a piece of gear for it too."""
    on_body: ClassVar[bool] = False
    """It is said of the whole device as a rule."""
    sold_as: ClassVar[Mapping[str, tuple[str, ...]]] = {}
    """How sellers say it where it takes words and no figure: by what stands behind its opening words, patterns of
    theirs. The reader of sellers' texts proposes it from these, of the whole device."""
    sold_near: ClassVar[tuple[str, ...]] = ()
    """Patterns of words of which one must stand beside or over those; none where they say it by themselves."""
    sold_of_ports: ClassVar[bool] = False
    """Sellers say it of sockets: the reader has a rule of its own for which."""

    @classmethod
    def parse(cls, words: Words) -> Self:
        """Read what follows the opening words. Raises: ClaimError."""
        required, optional = terms_of(cls)
        values: dict[str, Any] = {}
        for each in required:
            if each.after:
                words.expect(each.after)
            if each.hedged and (hedge := take_hedge(words)):
                values["hedge"] = hedge
            values[each.name] = each.term.read(words)
        values |= _read_optional(optional, words)
        return cls(**values)

    def __str__(self) -> str:
        """The canonical sentence, without the port."""
        return self.sentence(several=False)

    def sentence(self, *, several: bool) -> str:
        """The canonical sentence, without the ports, as it is said of one or of several."""
        each = ("each",) if several and not self.of_group else ()
        return " ".join((self.of_many or self.words if several else self.words, *self._said(), *each))

    def _said(self) -> Iterable[str]:
        """What stands behind the opening words."""
        required, optional = terms_of(type(self))
        for each in required:
            if each.hedged and self.hedge:
                yield self.hedge.value
            yield each.show(getattr(self, each.name))
        for each in optional:
            if (value := getattr(self, each.name)) != each.default:
                yield each.show(value)

    @property
    @abstractmethod
    def brief(self) -> str:
        """What stands on a tile of eleven cells."""

    @property
    def format(self) -> Format:
        """How values of the promised quantity are shown; kinds without a number keep this one."""
        return Format("", 1.0, 0)

    def scale(self) -> Scale | None:
        """The scale that readings grow on; None where there is no number to watch."""
        return None

    def margin(self, gear: Gear) -> float | None:
        """How far a piece of gear reaches beyond the promise, as a ratio; None for gear of another kind.

        Below 1 it cannot prove the claim.
        """
        return None

    @abstractmethod
    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        """The parts of the decision, from one trial's readings and what is known of the rig."""

    def floors(self) -> Mapping[Quantity, float]:
        """What measured values must reach for certain, each by itself, for the promise to hold.

        A trial that shows all of these clearly needs no further look; empty where it takes more than that to decide.
        """
        return {}

    def owes(self) -> Mapping[Quantity, float]:
        """What each quantity must reach for the promise to be kept: what a part on the way must carry."""
        floors, scale = self.floors(), self.scale()
        if floors or scale is None or scale.sense is not Sense.AT_LEAST:
            return floors
        return {quantity: scale.limit for quantity in scale.quantities if isinstance(quantity, Quantity)}

    def look(self, spot: str) -> Look | None:
        """What a person is asked at a port; None where a procedure measures by itself."""
        return None

    def looks_besides(self, spot: str) -> tuple[Look, ...]:
        """What a person is asked besides what the procedure measures."""
        return ()

    @property
    def target(self) -> float:
        """What a trial works towards, in the unit of the promise; 0 where it just measures."""
        return 0.0

    @property
    def upstream_bps(self) -> float:
        """The payload that it puts on the way to the host, in bits per second; 0 where that is nothing to speak of."""
        return 0.0

    @property
    def hosts_named(self) -> tuple[str, ...]:
        """The hosts that it is promised for, each of which has to show it; none where it names none."""
        return ()

    @property
    def lacking(self) -> str:
        """What a rig that cannot prove this lacks."""
        return f"gear for {self.words}"

    def at_shown(self, shown: Mapping[Quantity | str, float]) -> str:
        """The sentence that these values keep, in SI by quantity; empty where they do not change it."""
        scale = self.scale()
        values = [shown[quantity] for quantity in scale.quantities if quantity in shown] if scale else []
        terms = {each.name: each.term for each in terms_of(type(self))[0]}
        name, term = next(((name, term) for name, term in terms.items() if isinstance(term, Amount)), ("", None))
        if scale is None or not values or term is None:
            return ""
        value = max(values) if scale.sense is Sense.AT_MOST else min(values)
        rounded = rounded_to_keep(value, scale.sense, BITS_A_BYTE if Dimension.BYTE_RATE in term.dimensions else 1.0)
        if not rounded:
            return self.denied
        return replace(self, **{name: rounded}, hedge=Hedge.PLAIN).sentence(several=False)

    @property
    def denied(self) -> str:
        """That it does not do it: ``does not show 3840x2160@60``."""
        verb, _, rest = self.sentence(several=False).partition(" ")
        if verb.endswith("s") and verb not in _NOUNS:
            return f"does not {verb[:-1]} {rest}".strip()
        return f"has no {verb} {rest}".strip()

    def owed(self, limit: float) -> float:
        """What has to be shown of a limit: a little less where it was promised with "about"."""
        return limit * (1 - ABOUT_SHARE) if self.hedge is Hedge.ABOUT else limit


def rounded_to_keep(value: float, sense: Sense, unit: float = 1.0) -> float:
    """A value to three digits, so that whoever relies on it is not let down: down, or up where less is better.

    `unit` is what one digit is of, such as 8 for bits per second that are shown in bytes.
    """
    if not value or not math.isfinite(value):
        return 0.0
    step = 10.0 ** (math.floor(math.log10(abs(value / unit))) - 2)
    whole: Callable[[float], int] = {Sense.AT_LEAST: math.floor, Sense.AT_MOST: math.ceil}.get(sense, round)
    return float(Decimal(whole(value / unit / step)) * Decimal(str(step))) * unit


def take_hedge(words: Words) -> Hedge:
    """How the figure that comes next is promised."""
    if words.peek()[:1].isdigit():
        return Hedge.PLAIN
    return Hedge(words.take_one_of(_HEDGES))


def _read_optional(left: tuple[Said, ...], words: Words) -> dict[str, Any]:
    """What may be left out, in any order, with or without commas between."""
    values: dict[str, Any] = {}
    while left and not words.done:
        place = words.place
        if words.peek() == ",":
            words.take(",")
        found = next((each for each in left if each.name not in values and each.begins(words)), None)
        if found is None:
            words.back(place)
            return values
        values[found.name] = found.term.read(words)
    return values
