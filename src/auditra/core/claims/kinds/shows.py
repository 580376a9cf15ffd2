"""``H1 shows 3840x2160@60 10 bit hdr vrr``: a display on this socket runs this mode, with what is named beside it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import ClassVar

from auditra.core.claims.observed import Stated, Working
from auditra.core.claims.promise import CANNOT_PROVE, Look, Promise
from auditra.core.claims.terms import Amount, Flag, ModeTerm, OneOf, said
from auditra.core.decide.counts import refuses
from auditra.core.decide.estimates import Estimate
from auditra.core.decide.evidence import Evidence, OtherCount
from auditra.core.decide.rules import as_credit, too_weak
from auditra.core.links.display import Mode, mode_of, parse_mode
from auditra.core.links.picture_links import Chroma
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.rig import Display, Gear
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.units import Dimension

_BITS = (Dimension.DEPTH,)
MIRRORED, EXTENDED = "mirrored", "extended"


@dataclass(frozen=True)
class Shows(Promise):
    """A display mode with depth and options; 0, empty or false where the claim does not name them."""

    mode: Mode = said(ModeTerm(), hedged=True)
    depth_bits: float = said(Amount(Dimension.DEPTH, example="10 bit"), default=0.0)
    chroma: str = said(OneOf(*(each.words for each in Chroma)), default="")
    hdr: bool = said(Flag("hdr"), default=False)
    vrr: bool = said(Flag("vrr"), default=False)
    compression: str = said(OneOf("compressed", "uncompressed"), default="")
    layout: str = said(OneOf(MIRRORED, EXTENDED, spellings={"mirror": MIRRORED, "extend": EXTENDED}), default="")

    words, of_many = "shows", "show"
    example = "shows 3840x2160@60"
    procedure = ProcedureId.DISPLAY
    capability = Capability.PICTURE
    cannot_be_without = "display"

    @property
    def brief(self) -> str:
        more = "+" if any((self.depth_bits, self.chroma, self.hdr, self.vrr)) else ""
        return f"{self.mode.height}p{self.mode.refresh_hz:g}{more}"

    def at_mode(self, mode: Mode) -> str:
        """The sentence with the mode that was shown, without options that it may not have had."""
        return Shows(mode).sentence(several=False)

    def margin(self, gear: Gear) -> float | None:
        if not isinstance(gear, Display) or (self.vrr and gear.vrr is not True):
            return None
        modes = tuple(map(parse_mode, gear.modes))
        covering = [mode.pixels_a_second for mode in modes if mode.covers(self.mode)]
        if covering:
            return max(covering) / self.mode.pixels_a_second
        return min(max(mode.pixels_a_second for mode in modes) / self.mode.pixels_a_second, CANNOT_PROVE)

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        reading = self._best_reading(evidence)
        if reading is None:
            return (Part("mode", Verdict.OPEN, "not tried"),)
        weak = too_weak("mode", evidence, reading, Grade.TYPED)
        return weak or self._decide_mode(evidence, mode_of(reading.text)), *self._besides(evidence)

    def _best_reading(self, evidence: Evidence) -> Reading | None:
        """Of the readings of the highest grade, the one that shows most of the promise: a mode is chosen, not given."""
        found = [reading for reading in evidence.taken.of(Quantity.MODE) if mode_of(reading.text) is not None]
        best = max((reading.grade for reading in found), default=None)
        return max(
            (reading for reading in found if reading.grade == best),
            key=lambda reading: (self._is_covered_by(mode_of(reading.text)), _pixels(reading)),
            default=None,
        )

    def _is_covered_by(self, mode: Mode | None) -> bool:
        return mode is not None and mode.covers(self.mode)

    def _besides(self, evidence: Evidence) -> Iterator[Part]:
        """Depth and whatever else was promised with the mode; each is open until somebody reads it."""
        if self.depth_bits:
            yield _decide_depth(self.depth_bits, evidence)
        for name in self._words_besides:
            yield _decide_word(name, evidence)

    def looks_besides(self, spot: str) -> tuple[Look, ...]:
        depth = Look(f"How many bits a sample does the host say that {spot} has?", Quantity.DEPTH, "10 bit", _BITS)
        words = tuple(
            Look(f"Does the host say that {spot} is {name}?", name, "yes", grade=Grade.TYPED)
            for name in self._words_besides
        )
        return (depth, *words) if self.depth_bits else words

    @property
    def _words_besides(self) -> tuple[str, ...]:
        words = (self.chroma, "hdr" * self.hdr, "vrr" * self.vrr, self.compression, self.layout)
        return tuple(word for word in words if word)

    def _decide_mode(self, evidence: Evidence, shown: Mode | None) -> Part:
        assert shown is not None
        if shown.covers(self.mode):
            return Part("mode", Verdict.HOLDS, str(shown), f"{shown} covers {self.mode}", Decimal(1))
        clearing = evidence.rig.clearing_of_mode(str(shown), str(self.mode))
        if not clearing.cleared:
            why = f"{shown} is less than {self.mode}, but {clearing.text}"
            return Part(
                "mode", Verdict.UNPROVEN, str(shown), why, low=not clearing.blames_rig, excused=clearing.blames_rig
            )
        credit = as_credit(shown.pixels_a_second / self.mode.pixels_a_second)
        why = f"{shown} is less than {self.mode}; {clearing.text}"
        return Part("mode", Verdict.SHORT, str(shown), why, credit)

    @property
    def lacking(self) -> str:
        return f"a display that runs {self.mode}{' with vrr' if self.vrr else ''}"


def _pixels(reading: Reading) -> float:
    mode = mode_of(reading.text)
    return mode.pixels_a_second if mode is not None else 0.0


def _decide_depth(promised: float, evidence: Evidence) -> Part:
    witness = evidence.witness(Quantity.DEPTH)
    if witness is None:
        return Part("depth", Verdict.OPEN, "depth not read")
    if (weak := too_weak("depth", evidence, witness.reading, Grade.TYPED)) is not None:
        return weak
    bits = min(witness.reading.values)
    if bits >= promised:
        return Part("depth", Verdict.HOLDS, f"{bits:g} bit", f"{bits:g} bit >= {promised:g} bit", Decimal(1))
    sum_ = f"{bits:g} bit < {promised:g} bit"
    clearing = evidence.rig.clearing(Quantity.DEPTH, Estimate(bits, 0.0, 1), promised)
    if not clearing.cleared:
        return Part(
            "depth",
            Verdict.UNPROVEN,
            f"{bits:g} bit",
            f"{sum_}, but {clearing.text}",
            low=not clearing.blames_rig,
            excused=clearing.blames_rig,
        )
    return Part("depth", Verdict.SHORT, f"{bits:g} bit", f"{sum_}; {clearing.text}", as_credit(bits / promised))


def _decide_word(name: str, evidence: Evidence) -> Part:
    """Something that is on or not, as the machine's own screen says."""
    reading = evidence.said(name)
    if reading is None or reading.yes is None:
        return Part(name, Verdict.OPEN, f"{name} not read")
    if (weak := too_weak(name, evidence, reading, Grade.TYPED)) is not None:
        return weak
    if evidence.contradicts(reading):
        why = "two answers of equal standing contradict each other"
        return Part(name, Verdict.UNPROVEN, f"{name}: yes and no", why)
    if reading.yes:
        return Part(name, Verdict.HOLDS, name, f"{name} is on", Decimal(1))
    clearing = evidence.rig.clearing_of_word(name)
    if not clearing.cleared:
        return Part(
            name,
            Verdict.UNPROVEN,
            f"no {name}",
            f"no {name}, but {clearing.text}",
            low=not clearing.blames_rig,
            excused=clearing.blames_rig,
        )
    return Part(name, Verdict.SHORT, f"no {name}", f"no {name}; {clearing.text}", Decimal("0.5"))


@dataclass(frozen=True)
class NoDisplay(Working):
    """``C2 no display``: a display in this socket is to stay dark, though it works elsewhere."""

    words = "no display"
    example = "no display"
    sold_as: ClassVar[Mapping[str, tuple[str, ...]]] = {
        "": (
            "no (?:picture|video|display)s?(?! (?:is|are|connected|attached|sockets?|outputs?|ports?)\\b)",
            "without (?:picture|video)s?",
            "(?:does|do|is|are) not (?:support|carry|output|for) (?:video|pictures?|displays?)",
        ),
    }
    sold_of_ports = True
    capability = Capability.PICTURE
    forbids = True
    asks = "Plug a display into {spot}: does a picture come?"

    @property
    def brief(self) -> str:
        return "no display"

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        taken, elsewhere = (evidence.pool.of(each).count() for each in (Quantity.WORKS, Quantity.WORKS_WITHOUT))
        other = OtherCount(elsewhere, "elsewhere") if elsewhere.tries else evidence.rig.other_count(Quantity.WORKS)
        return (refuses("no display", taken, other),)


@dataclass(frozen=True)
class BothAtOnce(Stated):
    """``H1+H2 at once``: a picture on each of several outputs at the same time, whatever the mode."""

    words = "at once"
    example = "at once"
    of_group = True

    def question(self, spot: str) -> str:
        return f"With a display on each of {spot}: is there a picture on each at the same time?"

    @property
    def brief(self) -> str:
        return "at once"


@dataclass(frozen=True)
class OneAtATime(Stated):
    """``H1|D1 one at a time``: of several outputs, just one gives a picture."""

    words = "one at a time"
    example = "one at a time"
    sold_as: ClassVar[Mapping[str, tuple[str, ...]]] = {
        "": (
            r"only one (?:display|screen|picture|video|output|of (?:them|the two|these))[^.;]*\bat a time",
            r"(?<=\()one at a time(?=\))", "(?:only|just) one at a time",
            r"(?<=, )one at a time", "(?:use|only) one or the other", "nur einer gleichzeitig",
            "one (?:display|screen) at a time",
            r"one of (?:them|these|the \w+) at a time",
            "not at the same time",
            r"(?:can't|can not|cannot) be read (?:together|at once|at the same time|simultaneously)",
            "not at once", r"not together(?=\s*[.;,)]|$)",
            "(?:but )?not both at once", "cannot be used (?:together|at once|at the same time)",
            "one or the other",
            "either HDMI or", r"not both(?=\s*[.;,)]|$)", "two ends of one output",
            r"if both are (?:in use|used|connected)[^.;]*\b(?:dark|off|blank|black)",
        ),
    }  # fmt: skip
    sold_of_ports = True
    of_group = True

    def question(self, spot: str) -> str:
        return f"With a display on each of {spot}: is there a picture on one of them alone?"

    @property
    def brief(self) -> str:
        return "one of them"
