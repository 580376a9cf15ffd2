"""The verdict on one claim as a value: what it rests on, what it was shown under, and what it was not tried under."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from auditra.core.claims.claim import Claim
from auditra.core.decide.circumstance_text import exception_text, setup_text
from auditra.core.judge.comparison import Comparison
from auditra.core.judge.counting import SetAside
from auditra.core.judge.separation import Seen
from auditra.core.model.circumstance import Circumstances, OnHost
from auditra.core.model.reading import Reading
from auditra.core.model.verdict import Part, Verdict

LEAST_TO_WORST = (
    Verdict.HOLDS, Verdict.HOLDS_IF, Verdict.OPEN, Verdict.UNPROVEN, Verdict.TOO_CLOSE, Verdict.SHORT, Verdict.BROKEN,
)  # fmt: skip
ALONE = "alone"
"""What a set-up is called that nothing special was noted of."""


@dataclass(frozen=True)
class SetUpVerdict:
    """What one set-up showed of a claim: all its trials together. `beside` says what is special about it."""

    beside: Circumstances
    verdict: Verdict
    parts: tuple[Part, ...]
    credit: Decimal | None
    trials: tuple[str, ...]
    seen: Seen = Seen(frozenset())
    """Everything that was noted of it."""
    varied: Circumstances = ()
    """Of what is special, the part that run sheets vary."""
    times: int = 0
    """How often it was seen: its trials, or its tries where those are counted."""
    disagrees: bool = False
    """Its trials say different things, and too few of them either."""
    meets_conditions: bool = True
    """What the claim itself names was so; else it shows less, or something else, than was promised."""

    unpromised: bool = False
    """It was tried otherwise than its seller intends: what fails here breaks no promise."""

    @property
    def speaks_against(self) -> bool:
        """It accuses, under what was promised."""
        return self.verdict.accuses and not self.unpromised

    @property
    def reached_the_rigs_end(self) -> bool:
        """What keeps it below the promise is the rig, for each part that is below."""
        below = [part for part in self.parts if not part.gap and part.verdict is not Verdict.HOLDS]
        return self.verdict is Verdict.UNPROVEN and bool(below) and all(part.excused for part in below)

    @property
    def hosts(self) -> tuple[str, ...]:
        """The host that it was tried on."""
        return tuple(each.host for each in self.seen.circumstances if isinstance(each, OnHost))

    @property
    def text(self) -> str:
        """What is special about it, in words."""
        return setup_text(self.beside) or ALONE


@dataclass(frozen=True)
class ClaimVerdict:
    """The verdict on a claim, with the set-ups behind it and the least and most credit it may still get: what they
    showed of it, before a score profile says what a condition costs."""

    claim: Claim
    verdict: Verdict
    shown: str
    sums: tuple[str, ...]
    """The arithmetic behind it, or why the rig cannot show it."""
    set_ups: tuple[SetUpVerdict, ...]
    lowest: Decimal
    highest: Decimal
    unless: Circumstances = ()
    """Where it does not hold, though it does elsewhere."""
    rests_on: tuple[Reading, ...] = ()
    """The readings at the claim's port that were looked at, in order."""
    comparisons: tuple[Comparison, ...] = ()
    not_tried: tuple[str, ...] = ()
    """What it was not tried under yet, in words: set-ups, hosts, directions."""
    set_aside: tuple[SetAside, ...] = ()
    """Trials of the claim that decide nothing, or only what they reached."""

    @property
    def trials(self) -> tuple[str, ...]:
        """The trials behind it, each once, in order."""
        return tuple(dict.fromkeys(trial for set_up in self.set_ups for trial in set_up.trials))

    @property
    def failing(self) -> tuple[SetUpVerdict, ...]:
        """The set-ups that speak against it."""
        return tuple(set_up for set_up in self.set_ups if set_up.speaks_against)

    @property
    def shown_under(self) -> tuple[str, ...]:
        """The set-ups that it was shown under, in words."""
        held = (each for each in self.set_ups if each.verdict is Verdict.HOLDS and each.meets_conditions)
        return tuple(dict.fromkeys(set_up.text for set_up in held))

    @property
    def why(self) -> str:
        """Its sums on one line."""
        return "; ".join(self.sums)

    @property
    def condition(self) -> str:
        """Where it does not hold, in words; empty for none."""
        return exception_text(self.unless)

    @property
    def share_shown(self) -> Decimal:
        """How much of the promise has been shown so far, 0 to 1: the credit of its set-ups, untried ones as 0."""
        credits = [set_up.credit or Decimal(0) for set_up in self.set_ups]
        return sum(credits, Decimal(0)) / len(credits) if credits else Decimal(0)


def worst_of(parts: Iterable[Part]) -> Verdict:
    """The weakest part names the verdict; a failure stands even while other parts are still open. Gaps do not count."""
    verdicts = (part.verdict for part in parts if not part.gap)
    return max(verdicts, key=LEAST_TO_WORST.index, default=Verdict.OPEN)
