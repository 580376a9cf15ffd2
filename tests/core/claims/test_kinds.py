"""Each kind of promise: which gear proves it, what it is held against, how it decides."""

from __future__ import annotations

import pytest

from auditra.core.claims.language import parse_claim, promise_kinds
from auditra.core.claims.promise import Promise
from auditra.core.model.reading import Grade, Quantity, Reading, Words, YesNo
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Verdict
from tests.support.audits import appeared, galley, number, rates
from tests.support.evidence import evidence_of


def promise(sentence: str) -> Promise:
    return parse_claim(f"X1 {sentence}", claim_id="c").promise


def mode(text: str, grade: Grade = Grade.READ) -> Reading:
    return Reading("T", Quantity.MODE, "H1", "mode read back", grade, Words(text))


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
    [("data 5 Gb/s", "projector"), ("links 1 Gb/s", "disk"), ("length 15 cm", "rule")],
)
def test_gear_of_another_kind_proves_nothing(sentence: str, gear: str) -> None:
    found = galley().find(gear)
    assert found is not None
    assert promise(sentence).margin(found) is None


@pytest.mark.parametrize(
    ("sentence", "gear", "share"),
    [("shows 3840x2160@60", "monitor", 0.999), ("shows 7680x4320@60", "projector", 0.25),
     ("takes 90 W", "supply-90", 0.999), ("takes 180 W", "supply-90", 0.5)],
)  # fmt: skip
def test_gear_that_lacks_something_reaches_a_part(sentence: str, gear: str, share: float) -> None:
    found = galley().find(gear)
    assert found is not None
    assert promise(sentence).margin(found) == pytest.approx(share)


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
    return [part.verdict for part in promise(sentence).decide(evidence_of(*taken, direct=direct))]


def test_link_and_payload_are_judged_apart() -> None:
    direct = rates("direct", 1000, link_bps=10e9)
    assert worst("data 5 Gb/s", rates("A1", 450), direct) == 3 * [Verdict.HOLDS]
    assert worst("data 5 Gb/s", rates("A1", 300), direct) == [Verdict.HOLDS, Verdict.SHORT, Verdict.SHORT]
    assert worst("data 5 Gb/s", rates("A1", 40, link_bps=480e6), direct) == 3 * [Verdict.SHORT]


def test_a_way_that_nobody_promised_and_nobody_measured_is_a_gap() -> None:
    link, write, _ = rates("A1", 450)
    parts = promise("data 5 Gb/s").decide(evidence_of(link, write))
    assert [part.verdict for part in parts] == [Verdict.HOLDS, Verdict.HOLDS, Verdict.OPEN]
    assert [part.gap for part in parts] == [False, False, True]


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


def test_one_way_that_is_named_is_all_that_is_asked_for() -> None:
    link, write, read = rates("X1", 450)
    slow = number(Quantity.WRITE, 100 * 8e6, at="X1")
    assert worst("data 5 Gb/s up", (link, slow, read)) == [Verdict.HOLDS, Verdict.HOLDS]
    assert worst("data 5 Gb/s down", (link, write, number(Quantity.READ, 8e6, at="X1"))) == [Verdict.HOLDS] * 2
    assert promise("data 5 Gb/s up").margin(galley().drives[0]) == promise("reads 425 MB/s").margin(galley().drives[0])


def test_payload_that_is_promised_as_payload_is_owed_in_full() -> None:
    link, write, read = rates("X1", 440)
    assert worst("reads 450 MB/s", (link, write, read), rates("direct", 1000)) == [Verdict.SHORT]
    assert worst("writes 430 MB/s", (link, write, read)) == [Verdict.HOLDS]
    assert promise("data 5 Gb/s").scale() != promise("reads 500 MB/s").scale()


def test_about_gives_five_per_cent_and_up_to_none() -> None:
    direct = (number(Quantity.POWER, 140.0),)
    for sentence, watts, verdict in (
        ("takes 90 W", 87.0, Verdict.SHORT), ("takes about 90 W", 87.0, Verdict.HOLDS),
        ("takes about 90 W", 84.0, Verdict.SHORT), ("takes up to 90 W", 87.0, Verdict.SHORT),
        ("takes at least 90 W", 91.0, Verdict.HOLDS),
    ):  # fmt: skip
        assert worst(sentence, (number(Quantity.POWER, watts),), direct) == [verdict], sentence


def test_a_length_is_held_to_what_the_seller_gives_or_takes() -> None:
    for sentence, metres, verdict in (
        ("length 40 cm", 0.405, Verdict.HOLDS), ("length 40 cm", 0.41, Verdict.SHORT),
        ("length 40 cm give or take 2 cm", 0.415, Verdict.HOLDS), ("length about 40 cm", 0.415, Verdict.HOLDS),
        ("length up to 40 cm", 0.1, Verdict.HOLDS), ("length up to 40 cm", 0.41, Verdict.SHORT),
        ("length at least 40 cm", 0.9, Verdict.HOLDS), ("length at least 40 cm", 0.3, Verdict.SHORT),
    ):  # fmt: skip
        reading = number(Quantity.LENGTH, metres, at="X1", grade=Grade.TYPED)
        assert worst(sentence, (reading,)) == [verdict], sentence


def test_a_class_of_cards_is_a_line_rate_and_a_generation_has_its_own_coding() -> None:
    assert promise("cards UHS-II").scale() == promise("cards 312 MB/s").scale()
    two_lanes, one = promise("data Gen 1x2").scale(), promise("data Gen 2x1").scale()
    assert two_lanes is not None
    assert one is not None
    assert two_lanes.limit < one.limit
    assert (two_lanes.ceiling, one.ceiling) == pytest.approx((8e9, 10e9 * 128 / 132))


def yes(name: str, so: bool, grade: Grade = Grade.TYPED) -> Reading:
    return Reading("T", name, "X1", "the eye", grade, YesNo(so))


def test_each_thing_that_is_promised_with_a_mode_is_a_part_of_its_own() -> None:
    sentence = "shows 2560x1440@144 10 bit 4:4:4 vrr"
    shown = mode("2560x1440@144")
    deep, shallow = number(Quantity.DEPTH, 10, grade=Grade.READ), number(Quantity.DEPTH, 8, grade=Grade.READ)
    good = (shown, deep, yes("4:4:4", True), yes("vrr", True))
    assert worst(sentence, good) == [Verdict.HOLDS] * 4
    assert worst(sentence, (shown,)) == [Verdict.HOLDS, *[Verdict.OPEN] * 3]
    less = (shown, shallow, yes("4:4:4", False), yes("vrr", False))
    assert worst(sentence, less, good) == [Verdict.HOLDS, *[Verdict.SHORT] * 3]
    assert worst(sentence, less) == [Verdict.HOLDS, *[Verdict.UNPROVEN] * 3]
    assert worst(sentence, (shown, deep, yes("4:4:4", True), yes("vrr", True, Grade.TOLD)))[-1] is Verdict.UNPROVEN
    assert promise("shows 2560x1440@144 vrr").margin(galley().displays[0]) is None


def test_looking_alone_decides_no_watts_and_a_marker_must_be_read() -> None:
    assert worst("is marked 50 V 5 A", (yes("seen to be", True, Grade.SEEN),)) == [Verdict.UNPROVEN]
    assert worst("is marked 50 V 5 A", (yes("seen to be", True),)) == [Verdict.HOLDS]
    assert worst("shares 60 W", (number(Quantity.POWER, 61.0, at="X1", grade=Grade.SEEN),)) == [Verdict.UNPROVEN]
    assert worst("uses 11 W", (number(Quantity.OWN_USE, 9.0, at="X1", grade=Grade.TYPED),)) == [Verdict.UNPROVEN]
    assert worst("uses 11 W", (number(Quantity.OWN_USE, 9.0, at="X1"),)) == [Verdict.HOLDS]


@pytest.mark.parametrize("kind", promise_kinds(), ids=lambda kind: kind.words)
def test_every_kind_can_be_asked_told_and_left_open(kind: type[Promise]) -> None:
    made = promise(kind.example)
    assert made.brief
    assert len(made.lacking) > 4
    assert {part.verdict for part in made.decide(evidence_of())} <= {Verdict.OPEN}
    look = made.look("X1")
    assert (look is not None) == (made.procedure == ProcedureId.LOOK)
    if look is not None:
        assert look.question.endswith("?")
        assert look.hint
