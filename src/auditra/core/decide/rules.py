"""The decision rule for values: what was shown, with its uncertainty, against what was promised.

Guarded acceptance: JCGM 106:2012, 8.3.2. Nothing is called short while the rig could explain it.
"""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.decide.evidence import Evidence, Witness
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import Format

CONTENT = "content"
"""The part of a decision that compares every byte read with what was written."""
CLEARLY_MORE = 1.3
"""By so much one rate must be above another to say something: no sound part costs a quarter of a rate."""
WHAT_ANY_WAY_COSTS = 0.03
"""A loss that every hub may cause. Gear that reaches so little beyond a promise cannot show that it is not kept."""
_CREDIT_STEP = Decimal("0.001")
_ONE = Decimal(1)


class _Silent(Format):
    """Puts no figure into words."""

    def pair(self, value: float, expanded: float) -> str:
        return ""

    def number(self, value: float) -> str:
        return ""

    def show(self, value: float) -> str:
        return ""


SILENT = _Silent("", 1.0, 0)

Show = Callable[[float], str]


def as_credit(share: float) -> Decimal:
    """A share of the promise as credit, 0 to 1."""
    return Decimal(str(min(1.0, max(0.0, share)))).quantize(_CREDIT_STEP)


def too_weak(name: str, evidence: Evidence, reading: Reading, lowest: Grade) -> Part | None:
    """Unproven, where the evidence is of too low a grade to decide; None where it will do."""
    grade = evidence.grade(reading)
    enough = evidence.decides_watts(reading) if lowest is Grade.MEASURED else grade >= lowest
    if enough:
        return None
    needed = f"only grade {lowest.value} or better decides this"
    if lowest is Grade.MEASURED:
        needed = "only a measurement, or an instrument of the rig whose error is known, decides this"
    why = f"evidence of grade {reading.grade.value}; {needed}"
    return Part(name, Verdict.UNPROVEN, f"reported by {reading.instrument}", why)


def unfounded(name: str, y: Estimate, shown: str) -> Part | None:
    """Unproven, for a single value of which neither error nor last digit is known."""
    if y.founded:
        return None
    why = "a single value with neither error nor last digit decides nothing: repeat it, or note the instrument's error"
    return Part(name, Verdict.UNPROVEN, shown, why)


def at_least(
    name: str,
    evidence: Evidence,
    quantity: Quantity | str,
    limit: float,
    fmt: Format,
    lowest: Grade = Grade.MEASURED,
    *,
    blames_device: bool = False,
) -> Part:
    """Whether a quantity reaches a limit; below it, whether the device is what keeps it from that.

    `blames_device`: nothing of the rig could explain a value below it, such as a lead that is too short.
    """
    fmt = SILENT if evidence.quiet else fmt
    witness = evidence.witness(quantity)
    early = _undecidable(name, evidence, witness, fmt, lowest)
    if witness is None or early is not None:
        return early or Part(name, Verdict.OPEN, "not tried")

    def decide(y: Estimate) -> Part:
        shown = fmt.pair(y.value, y.expanded)
        if impossible := evidence.rig.exceeds_a_part(quantity, y):
            return Part(name, Verdict.UNPROVEN, shown, f"{shown} cannot be: {impossible}")
        if y.low >= limit:
            sum_ = f"{fmt.number(y.value)} - {fmt.number(y.expanded)} >= {fmt.show(limit)}"
            return Part(name, Verdict.HOLDS, shown, sum_, _ONE)
        if y.high >= limit:
            return Part(name, Verdict.TOO_CLOSE, shown, f"{shown} straddles {fmt.show(limit)}")
        sum_ = f"{fmt.number(y.value)} + {fmt.number(y.expanded)} < {fmt.show(limit)}"
        if not blames_device:
            clearing = evidence.rig.clearing(quantity, y, limit)
            if not clearing.cleared:
                return Part(
                    name,
                    Verdict.UNPROVEN,
                    shown,
                    f"{sum_}, but {clearing.text}",
                    low=not clearing.blames_rig,
                    excused=clearing.blames_rig,
                )
            sum_ = f"{sum_}; {clearing.text}"
        return Part(name, Verdict.SHORT, shown, sum_, as_credit(y.value / limit if limit > 0 else 0.0))

    return _agreed(name, witness, decide, fmt)


def at_most(
    name: str, evidence: Evidence, quantity: Quantity | str, limit: float, fmt: Format, lowest: Grade = Grade.MEASURED
) -> Part:
    """Whether a quantity stays at or below a limit: the mirror of `at_least`, for what only the device can cause."""
    fmt = SILENT if evidence.quiet else fmt
    witness = evidence.witness(quantity)
    early = _undecidable(name, evidence, witness, fmt, lowest)
    if witness is None or early is not None:
        return early or Part(name, Verdict.OPEN, "not tried")

    def decide(y: Estimate) -> Part:
        shown = fmt.pair(y.value, y.expanded)
        if y.high <= limit:
            sum_ = f"{fmt.number(y.value)} + {fmt.number(y.expanded)} <= {fmt.show(limit)}"
            return Part(name, Verdict.HOLDS, shown, sum_, _ONE)
        if y.low <= limit:
            return Part(name, Verdict.TOO_CLOSE, shown, f"{shown} straddles {fmt.show(limit)}")
        sum_ = f"{fmt.number(y.value)} - {fmt.number(y.expanded)} > {fmt.show(limit)}"
        return Part(name, Verdict.SHORT, shown, sum_, as_credit(limit / y.value if y.value > 0 else 0.0))

    return _agreed(name, witness, decide, fmt)


def within(
    name: str,
    evidence: Evidence,
    quantity: Quantity | str,
    size: float,
    share: float,
    fmt: Format,
    lowest: Grade,
) -> Part:
    """Whether a size is what was promised, give or take a share of it."""
    fmt = SILENT if evidence.quiet else fmt
    witness = evidence.witness(quantity)
    early = _undecidable(name, evidence, witness, fmt, lowest)
    if witness is None or early is not None:
        return early or Part(name, Verdict.OPEN, "not tried")

    def decide(y: Estimate) -> Part:
        off, allowed = abs(y.value - size), share * size
        shown = fmt.pair(y.value, y.expanded)
        sum_ = f"{fmt.show(y.value)} is {fmt.show(off)} off {fmt.show(size)}; {fmt.show(allowed)} is allowed"
        if off + y.expanded <= allowed:
            return Part(name, Verdict.HOLDS, shown, sum_, Decimal(1))
        if off - y.expanded > allowed:
            return Part(name, Verdict.SHORT, shown, sum_, as_credit(1 - off / size))
        return Part(name, Verdict.TOO_CLOSE, shown, f"{sum_}, with {fmt.show(y.expanded)} of uncertainty")

    return _agreed(name, witness, decide, fmt)


def _undecidable(name: str, evidence: Evidence, witness: Witness | None, fmt: Format, lowest: Grade) -> Part | None:
    """Why nothing can be decided before any limit is looked at; None where it can."""
    if witness is None:
        return None
    if (weak := too_weak(name, evidence, witness.reading, lowest)) is not None:
        return weak
    y = estimate(witness.reading)
    return unfounded(name, y, fmt.pair(y.value, y.expanded))


def _agreed(name: str, witness: Witness, decide: Callable[[Estimate], Part], fmt: Format) -> Part:
    """What the witness decides, unless one of equal standing that contradicts it would decide otherwise."""
    part = decide(estimate(witness.reading))
    others = [decide(estimate(other)).verdict for other in witness.against]
    if all(verdict is part.verdict for verdict in others):
        return part
    values = " and ".join(fmt.show(estimate(each).value) for each in (witness.reading, *witness.against))
    return Part(name, Verdict.UNPROVEN, part.shown, f"two readings of equal standing contradict each other: {values}")


def is_so(name: str, evidence: Evidence, quantity: Quantity | str, lowest: Grade) -> Part:
    """Whether something is as it is said to be, by one who looked."""
    reading = evidence.said(quantity)
    if reading is None or reading.yes is None:
        return Part(name, Verdict.OPEN, "not looked at")
    if (weak := too_weak(name, evidence, reading, lowest)) is not None:
        return weak
    if evidence.contradicts(reading):
        return Part(name, Verdict.UNPROVEN, "yes and no", "two answers of equal standing contradict each other")
    if reading.yes:
        return Part(name, Verdict.HOLDS, "confirmed", f"seen by {reading.instrument}", Decimal(1))
    return Part(name, Verdict.BROKEN, "not confirmed", f"seen by {reading.instrument}", Decimal(0))


def link_at_least(
    name: str, evidence: Evidence, promised: float, show: Show, proven_by: Callable[[Evidence], float] | None = None,
    lowest: Grade = Grade.READ,
) -> Part:  # fmt: skip
    """Whether the negotiated link is the promised one; compared exactly, since a link is what it says it is.

    `proven_by` gives the least link that the payload needs, where verified payload came over it; a link that was read
    to be slower is refuted by it.
    """
    show = SILENT.show if evidence.quiet else show
    witness = evidence.witness(Quantity.LINK)
    weak = too_weak(name, evidence, witness.reading, lowest) if witness is not None else None
    link = min(witness.reading.values) if witness is not None and weak is None else None
    if witness is not None and link is not None:
        if any((min(other.values) >= promised) != (link >= promised) for other in witness.against):
            return Part(name, Verdict.UNPROVEN, f"link {show(link)}", "two link readings contradict each other")
        if link >= promised:
            return Part(name, Verdict.HOLDS, f"link {show(link)}", f"{show(link)} >= {show(promised)}", _ONE)
    proven = proven_by(evidence) if proven_by is not None else 0.0
    if proven >= promised:
        refuted = f"; the link reading of {show(link)} is refuted" if link is not None else ""
        sum_ = f"the verified payload needs {show(proven)}, {show(proven)} >= {show(promised)}{refuted}"
        return Part(name, Verdict.HOLDS, f"link {show(proven)} by its payload", sum_, _ONE)
    if link is None:
        return weak or Part(name, Verdict.OPEN, "not tried")
    return _link_below(name, evidence, link, promised, proven, show)


def _link_below(name: str, evidence: Evidence, link: float, promised: float, proven: float, show: Show) -> Part:
    sum_ = f"{show(link)} < {show(promised)}"
    if proven > link:
        text = f"{sum_}, but the verified payload needs {show(proven)}: that link reading is refuted"
        return Part(name, Verdict.UNPROVEN, f"link {show(link)}", text)
    clearing = evidence.rig.clearing(Quantity.LINK, Estimate(link, 0.0, 1), promised)
    if not clearing.cleared:
        why = f"{sum_}, but {clearing.text}"
        return Part(
            name, Verdict.UNPROVEN, f"link {show(link)}", why, low=not clearing.blames_rig, excused=clearing.blames_rig
        )
    text = f"{sum_}; {clearing.text}"
    return Part(name, Verdict.SHORT, f"link {show(link)}", text, as_credit(link / promised))


def wrong_bytes(evidence: Evidence) -> tuple[Part, ...]:
    """Nothing while every byte came back as it was written; a wrong one is of the gravest kind.

    Rig first: the same gear must have given every byte back elsewhere on that host.
    """
    wrong = sum(sum(reading.values) for reading in evidence.taken.of(Quantity.WRONG_BYTES))
    if not wrong:
        return ()
    shown, elsewhere = f"{wrong:.0f} wrong bytes", evidence.rig.elsewhere(Quantity.WRONG_BYTES).numbers()
    if any(sum(reading.values) for reading in elsewhere):
        return (Part(CONTENT, Verdict.UNPROVEN, shown, "the same gear gives wrong bytes elsewhere too", low=True),)
    if not elsewhere:
        why = "the same gear was not checked byte by byte elsewhere"
        return (Part(CONTENT, Verdict.UNPROVEN, shown, why, low=True),)
    return (Part(CONTENT, Verdict.BROKEN, shown, "every byte must be read back as written", Decimal(0)),)
