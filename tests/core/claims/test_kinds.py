"""Each kind of promise: which gear proves it, what it is held against, how it decides."""

from __future__ import annotations

import pytest

from auditra.core.audit.reading import Grade, Quantity, Reading
from auditra.core.audit.verdict import Verdict
from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Promise
from auditra.core.judge.evidence import Evidence
from tests.support.audits import appeared, galley, number, rates


def promise(sentence: str) -> Promise:
    return parse_claim(f"X1 {sentence}", claim_id="c").promise


def mode(text: str, grade: Grade = Grade.READ) -> Reading:
    return Reading("T", Quantity.MODE, "H1", "mode read back", grade, text=text)


MARGINS = [
    ("data 5 Gb/s", "fast-ssd", 1052 / 425),
    ("data 5 Gb/s", "disk", 121 / 425),
    ("cards 95 MB/s", "uhs-2-card", 274 / 95),
    ("cards 104 MB/s", "uhs-1-card", 89 / 88.4),
    ("links 1 Gb/s", "film-server", 10.0),
    ("shows 3840x2160@30", "projector", 2.0),
    ("takes 90 W", "supply-140", 140 / 90),
    ("charges host 60 W", "load", 150 / 60),
    ("gives 15 W", "load", 10.0),
]


@pytest.mark.parametrize(("sentence", "gear", "margin"), MARGINS)
def test_how_far_gear_reaches_beyond_a_promise(sentence: str, gear: str, margin: float) -> None:
    found = galley().find(gear)
    assert found is not None
    assert promise(sentence).margin(found) == pytest.approx(margin)


@pytest.mark.parametrize(
    ("sentence", "gear"),
    [("data 5 Gb/s", "projector"), ("shows 3840x2160@60", "monitor"), ("takes 90 W", "supply-90"),
     ("links 1 Gb/s", "disk"), ("length 15 cm", "rule")],
)  # fmt: skip
def test_gear_of_another_kind_or_without_reach_proves_nothing(sentence: str, gear: str) -> None:
    found = galley().find(gear)
    assert found is not None
    assert promise(sentence).margin(found) is None


SCALES = [
    ("data 5 Gb/s", 3.4e9, 4e9), ("data 480 Mb/s", 0.85 * 425.984e6, 425.984e6), ("links 1 Gb/s", 894.4e6, 941.48e6),
    ("cards 95 MB/s", 760e6, 832e6), ("cards 104 MB/s", 0.85 * 832e6, 832e6), ("takes 90 W", 90.0, None),
    ("length 15 cm", 0.15, None),
]  # fmt: skip


@pytest.mark.parametrize(("sentence", "limit", "ceiling"), SCALES)
def test_the_scale_has_the_limit_and_what_the_link_carries_at_most(
    sentence: str, limit: float, ceiling: float | None
) -> None:
    scale = promise(sentence).scale()
    assert scale is not None
    assert scale.limit == pytest.approx(limit, rel=1e-3)
    assert scale.ceiling == (None if ceiling is None else pytest.approx(ceiling, rel=1e-3))
    assert (scale.ceiling_words != "") == (ceiling is not None)


@pytest.mark.parametrize("sentence", ["no data", "shows 3840x2160@30"])
def test_what_is_no_number_has_no_scale(sentence: str) -> None:
    assert promise(sentence).scale() is None


def worst(sentence: str, taken: tuple[Reading, ...], direct: tuple[Reading, ...] = ()) -> list[Verdict]:
    return [part.verdict for part in promise(sentence).decide(Evidence(taken), Evidence(direct))]


def test_link_and_payload_are_judged_apart() -> None:
    direct = rates("direct", 1000, link_bps=10e9)
    assert worst("data 5 Gb/s", rates("A1", 450), direct) == 3 * [Verdict.HOLDS]
    assert worst("data 5 Gb/s", rates("A1", 300), direct) == [Verdict.HOLDS, Verdict.SHORT, Verdict.SHORT]
    assert worst("data 5 Gb/s", rates("A1", 40, link_bps=480e6), direct) == 3 * [Verdict.SHORT]


def test_one_way_alone_leaves_the_other_open() -> None:
    link, write, _ = rates("A1", 450)
    assert worst("data 5 Gb/s", (link, write)) == [Verdict.HOLDS, Verdict.HOLDS, Verdict.OPEN]


def test_a_mode_that_covers_the_promise_holds_and_a_lesser_one_needs_a_display_that_does_it_direct() -> None:
    assert worst("shows 3840x2160@30", (mode("3840x2160@60"),)) == [Verdict.HOLDS]
    assert worst("shows 3840x2160@30", (mode("1920x1080@60"),)) == [Verdict.UNPROVEN]
    assert worst("shows 3840x2160@30", (mode("1920x1080@60"),), (mode("3840x2160@60"),)) == [Verdict.SHORT]
    assert worst("shows 3840x2160@30", (mode("3840x2160@30", Grade.SEEN),)) == [Verdict.UNPROVEN]
    assert worst("shows 3840x2160@30", ()) == [Verdict.OPEN]


def test_a_picture_seen_is_no_mode_and_a_mode_typed_off_the_screen_is() -> None:
    assert worst("shows 3840x2160@30", (mode("3840x2160@30", Grade.TYPED),)) == [Verdict.HOLDS]


def test_a_drive_in_a_shut_socket_is_counted() -> None:
    direct = (appeared("direct", 1, 1),)
    assert worst("no data", (appeared("P1", 0, 3),), direct) == [Verdict.HOLDS]
    assert worst("no data", (appeared("P1", 0, 1), appeared("P1", 0, 2)), direct) == [Verdict.HOLDS]
    assert worst("no data", (appeared("P1", 0, 3), appeared("P1", 1, 1)), direct) == [Verdict.BROKEN]


def test_a_length_is_held_to_both_sides() -> None:
    for metres, verdict in ((0.15, Verdict.HOLDS), (0.2, Verdict.SHORT), (0.1, Verdict.SHORT)):
        reading = number(Quantity.LENGTH, metres, at="X1", grade=Grade.TYPED)
        assert worst("length 15 cm", (reading,)) == [verdict]


def test_every_kind_says_what_a_rig_lacks() -> None:
    for sentence, gear, _ in MARGINS:
        assert len(promise(sentence).lacking) > 8, gear
