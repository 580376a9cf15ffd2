"""``H1 shows 3840x2160@30``: a display on this socket runs this mode."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from typing import Self

from auditra.core.audit.reading import Grade, Quantity, Reading
from auditra.core.audit.rig import Display, Gear
from auditra.core.audit.trial import Procedure
from auditra.core.audit.verdict import Part, Verdict
from auditra.core.claims.promise import Promise
from auditra.core.claims.words import Words
from auditra.core.judge.evidence import Evidence
from auditra.core.judge.rules import as_credit, too_weak
from auditra.core.links.display import Mode, parse_mode


@dataclass(frozen=True)
class Shows(Promise):
    """A display mode."""

    mode: Mode

    words = "shows"
    example = "shows 3840x2160@60"
    procedure = Procedure.DISPLAY

    @classmethod
    def parse(cls, words: Words) -> Self:
        return cls(words.take_mode())

    def __str__(self) -> str:
        return f"shows {self.mode}"

    @property
    def brief(self) -> str:
        return f"{self.mode.height}p{self.mode.refresh_hz:g}"

    def scale(self) -> None:
        return None

    def margin(self, gear: Gear) -> float | None:
        if not isinstance(gear, Display):
            return None
        best = [mode for mode in map(parse_mode, gear.modes) if mode.covers(self.mode)]
        return max(mode.pixels_a_second for mode in best) / self.mode.pixels_a_second if best else None

    def decide(self, taken: Evidence, direct: Evidence) -> tuple[Part, ...]:
        reading = taken.last(Quantity.MODE)
        if reading is None or reading.text is None:
            return (Part("mode", Verdict.OPEN, "not tried"),)
        return (too_weak("mode", reading, Grade.TYPED) or self._decide_mode(reading, direct.last(Quantity.MODE)),)

    def _decide_mode(self, reading: Reading, direct: Reading | None) -> Part:
        shown = parse_mode(reading.text or "")
        if shown.covers(self.mode):
            return Part("mode", Verdict.HOLDS, str(shown), f"{shown} covers {self.mode}", Decimal(1))
        if direct is None or not parse_mode(direct.text or "").covers(self.mode):
            why = f"{shown} is less than {self.mode}, but the display was not seen to run that direct"
            return Part("mode", Verdict.UNPROVEN, str(shown), why)
        credit = as_credit(shown.pixels_a_second / self.mode.pixels_a_second)
        return Part(
            "mode",
            Verdict.SHORT,
            str(shown),
            f"{shown} is less than {self.mode}; direct {direct.text}",
            credit,
        )

    @property
    def lacking(self) -> str:
        return f"a display that runs {self.mode}"
