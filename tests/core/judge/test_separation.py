"""What separates failing set-ups from passing ones: the fewest circumstances, and none where two could be it."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decide.circumstance_text import exception_text, setup_text
from auditra.core.judge.separation import separating
from auditra.core.model.circumstance import AtPort, Circumstances, Running, Soaked

A, B, C, D = Running("A1 data 5 Gb/s"), Running("C1 gives 27 W"), Soaked(2700.0), AtPort("C2")
circumstances = st.lists(st.sampled_from((A, B, C, D)), max_size=4, unique=True).map(tuple)


def test_a_circumstance_that_only_failing_set_ups_have_is_it() -> None:
    assert separating([(A, B), (A, C)], [(B,), (C,), ()]) == ((A,),)


def test_two_that_could_each_be_it_are_both_named() -> None:
    assert {each[0] for each in separating([(A, B)], [()])} == {A, B}


def test_two_that_fail_only_together_are_named_together() -> None:
    assert [set(each) for each in separating([(A, B)], [(A,), (B,)])] == [{A, B}]


def test_nothing_separates_what_fails_alone_or_passes_everywhere() -> None:
    assert separating([()], [(A,)]) == ()
    assert separating([(A,)], []) == ()
    assert separating([(A,)], [(A,)]) == ()


@given(st.lists(circumstances, min_size=1, max_size=4), st.lists(circumstances, min_size=1, max_size=4))
def test_what_is_named_is_in_every_failing_set_up_and_in_no_passing_one(
    bad: list[Circumstances], good: list[Circumstances]
) -> None:
    for found in separating(bad, good):
        assert all(set(found) <= set(each) for each in bad)
        assert not any(set(found) <= set(each) for each in good)


def test_words_for_people() -> None:
    both = (Running("C1 gives 27 W"), Running("C2 gives 27 W"))
    assert exception_text(both) == "unless C1 (gives 27 W) and C2 (gives 27 W) are in use"
    assert exception_text((Running("S1 cards 250 MB/s"),)) == "unless S1 is in use (cards 250 MB/s)"
    assert exception_text((Running("C1+C2 share 30 W"),)) == "unless C1 and C2 are in use (share 30 W)"
    assert exception_text((Soaked(2700.0),)) == "except after 45 min of full load"
    assert exception_text((D, A)) == "except at C2 with A1 in use (data 5 Gb/s)"
    assert setup_text(both) == "with C1 (gives 27 W) and C2 (gives 27 W) in use"
    assert exception_text(()) == setup_text(()) == ""
