"""The decision rule: what was shown, with its uncertainty, against what was promised.

Guarded acceptance: JCGM 106:2012, 8.3.2. Nothing is called short while the rig could explain it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from decimal import Decimal

from auditra.core.decide.estimates import Estimate, estimate, wilson
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.model.reading import Count, Grade, Quantity, Reading
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import MEGABYTES_A_SECOND, Format

MIN_TRIES_THAT_ACCUSE = 3
MIN_TRIES_THAT_DECIDE = 5
CONTENT = "content"
"""The part of a decision that compares every byte read with what was written."""
WHAT_ANY_WAY_COSTS = 0.03
"""A loss that every hub may cause. Gear that reaches so little beyond a promise cannot show that it is not kept."""
_CREDIT_STEP = Decimal("0.001")

Show = Callable[[float], str]


def as_credit(share: float) -> Decimal:
    """A share of the promise as credit, 0 to 1."""
    return Decimal(str(min(1.0, max(0.0, share)))).quantize(_CREDIT_STEP)


def too_weak(name: str, reading: Reading, lowest: Grade) -> Part | None:
    """Unproven, where the evidence is of too low a grade to decide; None where it will do."""
    if reading.grade >= lowest:
        return None
    why = f"evidence of grade {reading.grade.value}; only grade {lowest.value} or better decides this"
    return Part(name, Verdict.UNPROVEN, f"reported by {reading.instrument}", why)


def at_least(
    name: str,
    reading: Reading | None,
    limit: float,
    direct: Reading | None,
    fmt: Format,
    lowest: Grade = Grade.MEASURED,
    *,
    blames_device: bool = False,
) -> Part:
    """Whether a reading reaches a limit; with the same gear direct, whether the device is what keeps it from that.

    `blames_device`: nothing of the rig could explain a reading below it, such as a lead that is too short.
    """
    if reading is None or not reading.values:
        return Part(name, Verdict.OPEN, "not tried")
    if (weak := too_weak(name, reading, lowest)) is not None:
        return weak
    y = estimate(reading)
    shown = fmt.pair(y.value, y.expanded)
    if y.low >= limit:
        return Part(
            name,
            Verdict.HOLDS,
            shown,
            f"{fmt.number(y.value)} - {fmt.number(y.expanded)} >= {fmt.show(limit)}",
            Decimal(1),
        )
    if y.high >= limit:
        text = f"{shown} straddles {fmt.show(limit)}"
        return Part(name, Verdict.TOO_CLOSE, shown, text)
    if blames_device:
        return _short(name, y, limit, shown, fmt)
    return _below(name, y, limit, direct, shown, fmt)


def _short(name: str, y: Estimate, limit: float, shown: str, fmt: Format) -> Part:
    sum_ = f"{fmt.number(y.value)} + {fmt.number(y.expanded)} < {fmt.show(limit)}"
    return Part(name, Verdict.SHORT, shown, sum_, as_credit(y.value / limit if limit > 0 else 0.0))


def at_most(name: str, reading: Reading | None, limit: float, fmt: Format, lowest: Grade = Grade.MEASURED) -> Part:
    """Whether a reading stays at or below a limit: the mirror of `at_least`, for what only the device can cause."""
    if reading is None or not reading.values:
        return Part(name, Verdict.OPEN, "not tried")
    if (weak := too_weak(name, reading, lowest)) is not None:
        return weak
    y = estimate(reading)
    shown = fmt.pair(y.value, y.expanded)
    if y.high <= limit:
        sum_ = f"{fmt.number(y.value)} + {fmt.number(y.expanded)} <= {fmt.show(limit)}"
        return Part(name, Verdict.HOLDS, shown, sum_, Decimal(1))
    if y.low <= limit:
        return Part(name, Verdict.TOO_CLOSE, shown, f"{shown} straddles {fmt.show(limit)}")
    sum_ = f"{fmt.number(y.value)} - {fmt.number(y.expanded)} > {fmt.show(limit)}"
    return Part(name, Verdict.SHORT, shown, sum_, as_credit(limit / y.value if y.value > 0 else 0.0))


def is_so(name: str, reading: Reading | None, lowest: Grade) -> Part:
    """Whether something is as it is said to be, by one who looked."""
    if reading is None or reading.yes is None:
        return Part(name, Verdict.OPEN, "not looked at")
    if (weak := too_weak(name, reading, lowest)) is not None:
        return weak
    if reading.yes:
        return Part(name, Verdict.HOLDS, "confirmed", f"seen by {reading.instrument}", Decimal(1))
    return Part(name, Verdict.BROKEN, "not confirmed", f"seen by {reading.instrument}", Decimal(0))


def works_when_asked(name: str, taken: Count, without: Count) -> Part:
    """Whether something worked as often as it was tried; a failure counts where the same works without the device."""
    if taken.tries == 0:
        return Part(name, Verdict.OPEN, "not tried")
    shown = f"worked in {taken.seen} of {taken.tries} tries"
    if taken.seen == taken.tries:
        return Part(name, Verdict.HOLDS, shown, shown, Decimal(1))
    found = works(name, taken, without)
    if found is None:
        more = f"fewer than {MIN_TRIES_THAT_DECIDE} tries are too few to call it a failure"
        return Part(name, Verdict.TOO_CLOSE, shown, more)
    return Part(name, found.verdict, shown, found.arithmetic, found.credit)


def _below(name: str, y: Estimate, limit: float, direct: Reading | None, shown: str, fmt: Format) -> Part:
    sum_ = f"{fmt.number(y.value)} + {fmt.number(y.expanded)} < {fmt.show(limit)}"
    if direct is None or not direct.values:
        return Part(name, Verdict.UNPROVEN, shown, f"{sum_}, and the same gear was not tried direct")
    d = estimate(direct)
    if y.high >= d.low:
        return Part(name, Verdict.UNPROVEN, shown, f"{sum_}, but the same gear direct gives {fmt.show(d.value)} too")
    if y.value >= d.value * (1 - WHAT_ANY_WAY_COSTS):
        lost = 1 - y.value / d.value
        return Part(
            name,
            Verdict.UNPROVEN,
            shown,
            f"{sum_}, but the same gear direct gives only {fmt.show(d.value)}; "
            f"a {lost:.0%} loss is within what any hub may cost",
        )
    credit = as_credit(y.value / limit if limit > 0 else 0.0)
    return Part(name, Verdict.SHORT, shown, f"{sum_}; direct {fmt.pair(d.value, d.expanded)}", credit)


def within(name: str, reading: Reading | None, size: float, share: float, fmt: Format, lowest: Grade) -> Part:
    """Whether a size is what was promised, give or take a share of it."""
    if reading is None or not reading.values:
        return Part(name, Verdict.OPEN, "not tried")
    if (weak := too_weak(name, reading, lowest)) is not None:
        return weak
    y = estimate(reading)
    off, allowed = abs(y.value - size), share * size
    shown = fmt.pair(y.value, y.expanded)
    sum_ = f"{fmt.show(y.value)} is {fmt.show(off)} off {fmt.show(size)}; {fmt.show(allowed)} is allowed"
    if off + y.expanded <= allowed:
        return Part(name, Verdict.HOLDS, shown, sum_, Decimal(1))
    if off - y.expanded > allowed:
        return Part(name, Verdict.SHORT, shown, sum_, as_credit(1 - off / size))
    return Part(name, Verdict.TOO_CLOSE, shown, f"{sum_}, with {fmt.show(y.expanded)} of uncertainty")


def link_at_least(name: str, reading: Reading | None, promised: float, direct: Reading | None, show: Show) -> Part:
    """Whether the negotiated link is the promised one; compared exactly, since a link is what it says it is."""
    if reading is None or not reading.values:
        return Part(name, Verdict.OPEN, "not tried")
    if (weak := too_weak(name, reading, Grade.READ)) is not None:
        return weak
    link = min(reading.values)
    if link >= promised:
        return Part(name, Verdict.HOLDS, f"link {show(link)}", f"{show(link)} >= {show(promised)}", Decimal(1))
    sum_ = f"{show(link)} < {show(promised)}"
    if direct is None or not direct.values:
        return Part(name, Verdict.UNPROVEN, f"link {show(link)}", f"{sum_}, and the same gear was not tried direct")
    if min(direct.values) <= link:
        text = f"{sum_}, but the same gear links no faster direct ({show(min(direct.values))})"
        return Part(name, Verdict.UNPROVEN, f"link {show(link)}", text)
    text = f"{sum_}; direct {show(min(direct.values))}"
    return Part(name, Verdict.SHORT, f"link {show(link)}", text, as_credit(link / promised))


def works(name: str, taken: Count, direct: Count) -> Part | None:
    """Whether something appears as often as it does direct; None if the count shows no fault.

    A single miss never does. Two counts differ where their intervals do not meet: a count alone, taken for the truth,
    would call every miss beside an unbroken direct row a fault.
    """
    if taken.tries == 0 or taken.seen == taken.tries:
        return None
    shown = f"appeared in {taken.seen} of {taken.tries} tries"
    if direct.seen == 0:
        return Part(name, Verdict.UNPROVEN, shown, "the same gear was not seen to work direct")
    bounds, same = wilson(taken), wilson(direct)
    sum_ = (
        f"{taken.seen} of {taken.tries}: {bounds.low:.2f} to {bounds.high:.2f}; direct {direct.seen} of {direct.tries}"
    )
    if taken.seen == 0 and taken.tries >= MIN_TRIES_THAT_ACCUSE:
        return Part(name, Verdict.BROKEN, shown, sum_, Decimal(0))
    if taken.tries >= MIN_TRIES_THAT_DECIDE and taken.tries - taken.seen > 1:
        if bounds.high < 0.5:
            return Part(name, Verdict.BROKEN, shown, sum_, Decimal(0))
        if bounds.high < same.low:
            return Part(name, Verdict.SHORT, shown, sum_, as_credit(taken.seen / taken.tries))
    if taken.seen == 0:
        more = MIN_TRIES_THAT_ACCUSE - taken.tries
        return Part(name, Verdict.TOO_CLOSE, shown, f"{more} more {'try decides' if more == 1 else 'tries decide'} it")
    return None


def refuses(name: str, taken: Count, direct: Count) -> Part:
    """Whether a thing stays away where it is said to, though it works elsewhere."""
    if taken.tries == 0:
        return Part(name, Verdict.OPEN, "not tried")
    shown = f"appeared in {taken.seen} of {taken.tries} tries"
    if taken.seen > 0:
        return Part(name, Verdict.BROKEN, shown, f"{taken.seen} of {taken.tries} tries worked", Decimal(0))
    if direct.seen == 0:
        return Part(name, Verdict.UNPROVEN, shown, "the same gear was not seen to work elsewhere")
    if taken.tries < MIN_TRIES_THAT_ACCUSE:
        return Part(name, Verdict.TOO_CLOSE, shown, f"{MIN_TRIES_THAT_ACCUSE} tries decide it")
    text = f"0 of {taken.tries} tries; direct {direct.seen} of {direct.tries}"
    return Part(name, Verdict.HOLDS, shown, text, Decimal(1))


def payload_parts(
    taken: ReadingSet,
    direct: ReadingSet,
    floor_bps: float,
    quantities: Iterable[Quantity] = (Quantity.WRITE, Quantity.READ),
) -> tuple[Part, ...]:
    """Write and read, or one of them, against a floor, and every byte against what was written."""
    parts = tuple(
        at_least(
            "write" if quantity is Quantity.WRITE else "read",
            taken.of(quantity).last(),
            floor_bps,
            direct.of(quantity).last(),
            MEGABYTES_A_SECOND,
        )
        for quantity in quantities
    )
    return (*parts, *wrong_bytes(taken, direct))


def wrong_bytes(taken: ReadingSet, direct: ReadingSet) -> tuple[Part, ...]:
    """Nothing while every byte came back as it was written; a wrong one is of the gravest kind."""
    wrong = sum(sum(reading.values) for reading in taken.of(Quantity.WRONG_BYTES))
    if not wrong:
        return ()
    if any(sum(reading.values) for reading in direct.of(Quantity.WRONG_BYTES)):
        return (
            Part(
                CONTENT,
                Verdict.UNPROVEN,
                f"{wrong:.0f} wrong bytes",
                "the same gear gives wrong bytes direct",
            ),
        )
    return (
        Part(
            CONTENT,
            Verdict.BROKEN,
            f"{wrong:.0f} wrong bytes",
            "every byte must be read back as written",
            Decimal(0),
        ),
    )
