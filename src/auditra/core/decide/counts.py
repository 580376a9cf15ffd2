"""The decision rule for counts: how often something worked, against how often the same works elsewhere.

A single miss in many is no fault, and in a few no proof that all is well. Two counts differ where the interval of
their difference leaves out zero (Newcombe).
"""

from __future__ import annotations

from decimal import Decimal

from auditra.core.counted import counted
from auditra.core.decide.estimates import difference, wilson
from auditra.core.decide.evidence import Evidence, OtherCount
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.rules import as_credit
from auditra.core.model.reading import Count, Quantity
from auditra.core.model.verdict import Part, Verdict

APPEARS = "appears"
"""The part of a decision that says whether gear comes up."""
MIN_TRIES_THAT_ACCUSE = 3
MIN_TRIES_THAT_DECIDE = 5
SOUND_SHARE = 0.75
"""What comes up three times in four is not sound: with one miss it takes 19 tries (Wilson) to show that it comes up
more often. Six tries of such a thing have just one miss in more than a third of all cases."""


def works_when_asked(name: str, evidence: Evidence) -> Part:
    """Whether something worked as often as it was tried; a failure counts where the same works without the device."""
    taken = evidence.pool.of(Quantity.WORKS).count()
    if taken.tries == 0:
        return Part(name, Verdict.OPEN, "not tried")
    shown = f"worked in {taken.seen} of {counted(taken.tries, 'try')}"
    if taken.seen == taken.tries:
        return Part(name, Verdict.HOLDS, shown, _each(evidence.pool.of(Quantity.WORKS)) or shown, Decimal(1))
    found = misses(name, taken, _without(evidence), shown, _each(evidence.pool.of(Quantity.WORKS)))
    if found is None:
        return Part(name, Verdict.TOO_CLOSE, shown, "a single miss is no fault yet: try it more often")
    return found


def _without(evidence: Evidence) -> OtherCount:
    """The same without the device, as it was noted beside it; else what the rig knows of it."""
    without = evidence.pool.of(Quantity.WORKS_WITHOUT).count()
    return OtherCount(without, "without the device") if without.tries else evidence.rig.other_count(Quantity.WORKS)


def appears(name: str, taken: Count, other: OtherCount, each: str = "") -> Part | None:
    """Whether something appears as often as it does elsewhere; None if the count shows no fault."""
    if taken.tries == 0 or taken.seen == taken.tries:
        return None
    shown = f"appeared in {taken.seen} of {counted(taken.tries, 'try')}"
    found, bounds = misses(name, taken, other, shown, each), wilson(taken)
    if found is not None or bounds.low >= SOUND_SHARE:
        return found
    why = (
        f"{taken.seen} of {taken.tries}: {bounds.low:.2f} to {bounds.high:.2f}; a single miss is no fault yet, and too "
    )
    return Part(name, Verdict.TOO_CLOSE, shown, f"{why}few tries show that it is chance", low=True)


def misses(name: str, taken: Count, other: OtherCount, shown: str, each: str = "") -> Part | None:
    """What some misses say. None for a single one in many, which says nothing."""
    missed, bounds = taken.tries - taken.seen, wilson(taken)
    apart = difference(other.count, taken)
    sum_ = (
        f"{taken.seen} of {taken.tries}: {bounds.low:.2f} to {bounds.high:.2f}{each and f' ({each})'}; "
        f"{other.where} {other.count.seen} of {other.count.tries}"
    )
    if missed == 1 and taken.tries >= MIN_TRIES_THAT_DECIDE:
        return None
    if other.count.seen == 0:
        return Part(name, Verdict.UNPROVEN, shown, f"{sum_}: the same gear was not seen to work elsewhere", low=True)
    better = other.count.seen * taken.tries > taken.seen * other.count.tries
    if taken.seen == 0 and taken.tries >= MIN_TRIES_THAT_ACCUSE and wilson(other.count).high >= 0.5:
        return Part(name, Verdict.BROKEN, shown, sum_, Decimal(0))
    if taken.tries >= MIN_TRIES_THAT_DECIDE and better and (apart.low > 0 or bounds.high < 0.5):
        if apart.low <= 0:
            return Part(name, Verdict.TOO_CLOSE, shown, f"{sum_}; more tries of both decide it", low=True)
        by = f"{sum_}; the difference is {apart.low:.2f} at least"
        if bounds.high < 0.5:
            return Part(name, Verdict.BROKEN, shown, by, Decimal(0))
        return Part(name, Verdict.SHORT, shown, by, as_credit(taken.seen / taken.tries))
    if taken.tries < MIN_TRIES_THAT_DECIDE:
        needed = MIN_TRIES_THAT_ACCUSE if taken.seen == 0 else MIN_TRIES_THAT_DECIDE
        more = needed - taken.tries
        why = f"{more} more {'try decides' if more == 1 else 'tries decide'} it"
        return Part(name, Verdict.TOO_CLOSE, shown, why, low=True)
    if not better:
        return Part(name, Verdict.UNPROVEN, shown, f"{sum_}: the same gear misses as often there")
    return Part(name, Verdict.TOO_CLOSE, shown, f"{sum_}; no clear difference yet", low=True)


def refuses(name: str, taken: Count, other: OtherCount) -> Part:
    """Whether a thing stays away where it is said to, though it works elsewhere."""
    if taken.tries == 0:
        return Part(name, Verdict.OPEN, "not tried")
    shown = f"appeared in {taken.seen} of {counted(taken.tries, 'try')}"
    if taken.seen > 0:
        return Part(name, Verdict.BROKEN, shown, f"{taken.seen} of {taken.tries} tries worked", Decimal(0))
    if other.count.seen == 0:
        return Part(name, Verdict.UNPROVEN, shown, "the same gear was not seen to work elsewhere")
    if taken.tries < MIN_TRIES_THAT_ACCUSE:
        return Part(name, Verdict.TOO_CLOSE, shown, f"{MIN_TRIES_THAT_ACCUSE} tries decide it")
    text = f"0 of {taken.tries} tries; {other.where} {other.count.seen} of {other.count.tries}"
    return Part(name, Verdict.HOLDS, shown, text, Decimal(1))


def needs_its_control(name: str, evidence: Evidence) -> Part:
    """Whether a press does it: it must happen with the press, and must not without."""
    pressed = evidence.pool.of(Quantity.WORKS)
    part = works_when_asked(name, Evidence(pressed, pressed, evidence.rig))
    if part.verdict is not Verdict.HOLDS:
        return part
    control = evidence.pool.of(Quantity.WORKS_WITHOUT).count()
    if control.tries == 0:
        return Part(name, Verdict.UNPROVEN, part.shown, "it was not tried without the press, where it might happen too")
    if control.seen:
        why = f"without the press it happens in {control.seen} of {control.tries} tries too"
        return Part(name, Verdict.UNPROVEN, part.shown, why)
    return Part(name, Verdict.HOLDS, part.shown, f"{part.shown}; without the press 0 of {control.tries}", Decimal(1))


def _each(counts: ReadingSet) -> str:
    """The count of each trial, where there are several: ``2 of 2, 0 of 3``."""
    found = [reading.count for reading in counts if reading.count is not None]
    return ", ".join(f"{count.seen} of {count.tries}" for count in found) if len(found) > 1 else ""


def each_count(counts: ReadingSet) -> str:
    """The count of each trial in words; empty for one."""
    return _each(counts)
