"""What parts good set-ups from bad: the smallest set of conditions, and none where two could be it."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.judge.conditions import in_words, separating

conditions = st.lists(st.sampled_from("abcd"), max_size=4, unique=True).map(tuple)


def test_one_condition_that_only_bad_set_ups_have_is_it() -> None:
    assert separating([("a", "b"), ("a", "c")], [("b",), ("c",), ()]) == (("a",),)


def test_two_that_could_each_be_it_are_both_told() -> None:
    assert separating([("a", "b")], [()]) == (("a",), ("b",))


def test_two_that_are_bad_only_together_are_told_together() -> None:
    assert separating([("a", "b")], [("a",), ("b",)]) == (("a", "b"),)


def test_nothing_parts_what_is_bad_alone_or_good_everywhere() -> None:
    assert separating([()], [("a",)]) == ()
    assert separating([("a",)], []) == ()
    assert separating([("a",)], [("a",)]) == ()


@given(st.lists(conditions, min_size=1, max_size=4), st.lists(conditions, min_size=1, max_size=4))
def test_what_is_told_is_in_every_bad_set_up_and_in_no_good_one(
    bad: list[tuple[str, ...]], good: list[tuple[str, ...]]
) -> None:
    for found in separating(bad, good):
        assert all(set(found) <= set(each) for each in bad)
        assert not any(set(found) <= set(each) for each in good)


def test_words_are_joined_for_people() -> None:
    assert in_words(("while C1 gives 27 W", "while C2 gives 27 W")) == "not while C1 gives 27 W and C2 gives 27 W"
    assert in_words(("after 45 min of full load",)) == "not after 45 min of full load"
