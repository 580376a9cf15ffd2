"""The decision rule, at and around its limits."""

from __future__ import annotations

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decide.counts import appears, refuses, works_when_asked
from auditra.core.decide.evidence import OtherCount
from auditra.core.decide.payload import payload_parts
from auditra.core.decide.rules import at_least, at_most, is_so, link_at_least, within
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, YesNo
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import WATTS, bit_rate, format_for
from auditra.core.quantities.units import Dimension
from tests.support.audits import number
from tests.support.evidence import evidence_of


def watts(value: float, error: float) -> Reading:
    return number(Quantity.POWER, value, error=error)


@pytest.mark.parametrize(
    ("value", "error", "direct", "verdict"),
    [
        (90.0, 0.0, None, Verdict.UNPROVEN),
        (90.0, 1e-9, None, Verdict.TOO_CLOSE),
        (90.3, 0.2, None, Verdict.HOLDS),
        (90.1, 0.2, 140.0, Verdict.TOO_CLOSE),
        (89.9, 0.2, 140.0, Verdict.TOO_CLOSE),
        (60.0, 0.2, 100.0, Verdict.SHORT),
        (60.0, 0.2, 60.1, Verdict.UNPROVEN),
        (60.0, 0.2, None, Verdict.UNPROVEN),
    ],
)
def test_at_least_90_w(value: float, error: float, direct: float | None, verdict: Verdict) -> None:
    same = () if direct is None else (number(Quantity.POWER, direct, error=0.2),)
    evidence = evidence_of(number(Quantity.POWER, value, error=error), direct=same)
    part = at_least("power", evidence, Quantity.POWER, 90.0, WATTS)
    assert part.verdict is verdict
    assert (part.credit is not None) == verdict.decided


def test_a_lamp_never_proves_watts() -> None:
    evidence = evidence_of(number(Quantity.POWER, 95.0, error=0.1, grade=Grade.SEEN))
    part = at_least("power", evidence, Quantity.POWER, 90.0, WATTS)
    assert part.verdict is Verdict.UNPROVEN
    assert "grade 2" in part.arithmetic


def test_short_earns_what_was_shown() -> None:
    evidence = evidence_of(watts(45.0, 0.1), direct=(watts(95.0, 0.1),))
    part = at_least("power", evidence, Quantity.POWER, 90.0, WATTS)
    assert part.credit == Decimal("0.500")


def decided(value: float, error: float, limit: float, direct: float = 300.0) -> Verdict:
    evidence = evidence_of(watts(value, error), direct=(watts(direct, 0.01),))
    return at_least("p", evidence, Quantity.POWER, limit, WATTS).verdict


@given(st.floats(1, 200), st.floats(0.001, 5), st.floats(1, 200), st.floats(1e-3, 1e3))
def test_units_do_not_matter(value: float, error: float, limit: float, factor: float) -> None:
    near = abs(abs(value - limit) - 0.95 * error) < 1e-6 * limit
    scaled = evidence_of(watts(value * factor, error * factor), direct=(watts(300.0 * factor, 0.01 * factor),))
    part = at_least("p", scaled, Quantity.POWER, limit * factor, WATTS)
    assert near or decided(value, error, limit) is part.verdict


@given(st.floats(1, 200), st.floats(0.001, 5), st.floats(0.001, 5))
def test_more_uncertainty_never_decides_more(value: float, one: float, other: float) -> None:
    sharp, blunt = sorted((one, other))
    assert decided(value, blunt, 90.0) in (decided(value, sharp, 90.0), Verdict.TOO_CLOSE)


@pytest.mark.parametrize(
    ("link", "direct", "verdict"),
    [(5e9, None, Verdict.HOLDS), (10e9, None, Verdict.HOLDS), (480e6, 5e9, Verdict.SHORT),
     (480e6, 480e6, Verdict.UNPROVEN), (480e6, None, Verdict.UNPROVEN)],
)  # fmt: skip
def test_links_compare_exactly(link: float, direct: float | None, verdict: Verdict) -> None:
    same = () if direct is None else (number(Quantity.LINK, direct, grade=Grade.READ),)
    evidence = evidence_of(number(Quantity.LINK, link, grade=Grade.READ), direct=same)
    part = link_at_least("link", evidence, 5e9, bit_rate)
    assert part.verdict is verdict


@pytest.mark.parametrize(
    ("seen", "tries", "verdict"),
    [(1, 1, None), (9, 10, Verdict.TOO_CLOSE), (0, 1, Verdict.TOO_CLOSE), (0, 2, Verdict.TOO_CLOSE),
     (0, 3, Verdict.BROKEN),
     (1, 2, Verdict.TOO_CLOSE), (3, 4, Verdict.TOO_CLOSE), (1, 8, Verdict.BROKEN), (6, 12, Verdict.SHORT),
     (10, 12, Verdict.TOO_CLOSE), (17, 18, Verdict.TOO_CLOSE), (18, 19, None), (40, 41, None)],
)  # fmt: skip
def test_appearing(seen: int, tries: int, verdict: Verdict | None) -> None:
    part = appears("appears", Count(seen, tries), OtherCount(Count(12, 12)))
    assert (part.verdict if part else None) is verdict


def test_gear_that_never_worked_direct_accuses_nobody() -> None:
    part = appears("appears", Count(0, 9), OtherCount(Count(0, 3)))
    assert part is not None
    assert part.verdict is Verdict.UNPROVEN


@pytest.mark.parametrize(
    ("taken", "direct", "verdict"),
    [(Count(0, 3), Count(1, 1), Verdict.HOLDS), (Count(0, 3), Count(0, 0), Verdict.UNPROVEN),
     (Count(0, 2), Count(1, 1), Verdict.TOO_CLOSE), (Count(1, 3), Count(1, 1), Verdict.BROKEN),
     (Count(0, 0), Count(1, 1), Verdict.OPEN)],
)  # fmt: skip
def test_restrictions(taken: Count, direct: Count, verdict: Verdict) -> None:
    assert refuses("no data", taken, OtherCount(direct)).verdict is verdict


@pytest.mark.parametrize(
    ("metres", "verdict"), [(0.151, Verdict.HOLDS), (0.153, Verdict.TOO_CLOSE), (0.14, Verdict.SHORT)]
)
def test_sizes_may_be_2_per_cent_off(metres: float, verdict: Verdict) -> None:
    reading = number(Quantity.LENGTH, metres, error=0.0005, grade=Grade.TYPED)
    assert (
        within(
            "length", evidence_of(reading), Quantity.LENGTH, 0.15, 0.02, format_for(Dimension.LENGTH, 0.15), Grade.TYPED
        ).verdict
        is verdict
    )


def test_a_wrong_byte_breaks_unless_the_gear_gives_it_elsewhere_or_was_not_checked_there() -> None:
    wrong, sound = (number(Quantity.WRONG_BYTES, count) for count in (3.0, 0.0))
    assert payload_parts(evidence_of(wrong, direct=(sound,)), 1e9)[-1].verdict is Verdict.BROKEN
    assert payload_parts(evidence_of(wrong, direct=(wrong,)), 1e9)[-1].verdict is Verdict.UNPROVEN
    assert payload_parts(evidence_of(wrong), 1e9)[-1].verdict is Verdict.UNPROVEN
    assert len(payload_parts(evidence_of(sound, direct=(sound,)), 1e9)) == 2


@given(st.floats(1, 200), st.floats(0.001, 5), st.floats(1, 200))
def test_at_most_is_the_mirror_of_at_least(value: float, error: float, limit: float) -> None:
    mirrored = {Verdict.HOLDS: Verdict.SHORT, Verdict.SHORT: Verdict.HOLDS, Verdict.TOO_CLOSE: Verdict.TOO_CLOSE}
    evidence = evidence_of(watts(value, error))
    most = at_most("power", evidence, Quantity.POWER, limit, WATTS)
    least = at_least("power", evidence, Quantity.POWER, limit, WATTS, blames_device=True)
    both_at_the_limit = most.verdict is least.verdict is Verdict.HOLDS
    assert most.verdict is mirrored[least.verdict] or both_at_the_limit
    assert (most.credit is not None) == most.verdict.decided


def asked(taken: Count, without: Count) -> Part:
    pairs = (Quantity.WORKS, taken), (Quantity.WORKS_WITHOUT, without)
    return works_when_asked("works", evidence_of(*(Reading("T", q, "A1", "eye", Grade.SEEN, c) for q, c in pairs)))


@pytest.mark.parametrize(
    ("seen", "tries", "without", "verdict"),
    [
        (3, 3, (0, 0), Verdict.HOLDS), (0, 0, (0, 0), Verdict.OPEN), (0, 3, (3, 3), Verdict.BROKEN),
        (0, 3, (0, 0), Verdict.UNPROVEN), (0, 3, (0, 3), Verdict.UNPROVEN), (2, 3, (3, 3), Verdict.TOO_CLOSE),
        (11, 12, (12, 12), Verdict.TOO_CLOSE), (1, 12, (12, 12), Verdict.BROKEN), (0, 1, (1, 1), Verdict.TOO_CLOSE),
    ],
)  # fmt: skip
def test_what_works_when_asked(seen: int, tries: int, without: tuple[int, int], verdict: Verdict) -> None:
    assert asked(Count(seen, tries), Count(*without)).verdict is verdict


@given(st.integers(0, 30), st.integers(0, 30), st.integers(0, 30))
def test_nothing_is_accused_that_was_not_seen_to_work_without_the_device(seen: int, more: int, tried: int) -> None:
    part = asked(Count(seen, seen + more), Count(0, tried))
    assert not part.verdict.accuses


def test_what_was_looked_at_is_so_or_not_and_hearsay_decides_nothing() -> None:
    def told(so: bool | None, grade: Grade) -> Verdict:
        value = Number(()) if so is None else YesNo(so)
        reading = Reading("T", Quantity.SEEN_TO_BE, "body", "x", grade, value)
        return is_so("lock slot", evidence_of(reading), Quantity.SEEN_TO_BE, Grade.TYPED).verdict

    assert told(True, Grade.TYPED) is Verdict.HOLDS
    assert told(False, Grade.TYPED) is Verdict.BROKEN
    assert told(False, Grade.TOLD) is Verdict.UNPROVEN
    assert told(None, Grade.TYPED) is Verdict.OPEN
    assert is_so("lock slot", evidence_of(), Quantity.SEEN_TO_BE, Grade.TYPED).verdict is Verdict.OPEN
