"""What separates failing set-ups from passing ones: the fewest circumstances, and none where two could be it."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decide.circumstance_text import exception_text, setup_text
from auditra.core.judge.separation import Seen, covering
from auditra.core.judge.separation import separating as separating_seen
from auditra.core.model.circumstance import (
    Aspect,
    AtPort,
    Circumstances,
    Connected,
    Either,
    OnHost,
    Running,
    Soaked,
    Under,
)

A, B, C, D = Running("A1 data 5 Gb/s"), Running("C1 gives 27 W"), Soaked(2700.0), AtPort("C2")


def separating(failing: list[Circumstances], holding: list[Circumstances]) -> tuple[Circumstances, ...]:
    """Of set-ups of which everything was noted."""
    return separating_seen(*([Seen(frozenset(each)) for each in side] for side in (failing, holding)))


circumstances = st.lists(st.sampled_from((A, B, C, D)), max_size=4, unique=True).map(tuple)


def test_a_circumstance_that_only_failing_set_ups_have_is_it() -> None:
    assert separating([(A, B), (A, C)], [(B,), (C,), ()]) == ((A,),)


def test_two_that_could_each_be_it_are_both_named() -> None:
    assert {each[0] for each in separating([(A, B)], [()])} == {A, B}


def test_two_that_fail_only_together_are_named_together() -> None:
    assert [set(each) for each in separating([(A, B)], [(A,), (B,)])] == [{A, B}]


def test_that_something_is_in_a_port_at_all_is_named_only_where_what_is_in_use_does_not_explain_it() -> None:
    shows, dark = Running("H1 shows 3840x2160@60"), Under(Aspect.IDLE, "H1")
    assert separating([(shows,), (dark,)], [(), (A,)]) == ((Connected("H1"),),)
    assert separating([(shows,)], [(dark,), ()]) == ((shows,),)
    assert exception_text((Connected("H1"),)) == "except with H1 connected, in use or not"


def test_two_of_which_either_is_enough_are_named_where_nothing_else_would_do() -> None:
    def seen(*things: Circumstances) -> list[Seen]:
        return [Seen(frozenset(each)) for each in things]

    soaked, used = C, Running("H1 shows 3840x2160@60")
    assert set(covering(seen((soaked,), (used,), (used, D)), seen((), (A,)))) == {soaked, used}
    assert covering(seen((soaked,), (used,)), seen((soaked,))) == ()
    assert set(covering(seen((A, B), (A, C), (D,)), seen(()))) == {A, D}
    assert covering(seen((A, B), (D,)), seen(())) == ()
    told = exception_text((Either((used, soaked)),))
    assert told == "unless H1 is in use (shows 3840x2160@60), or after 45 min of full load"


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


def test_what_a_good_set_up_did_not_note_is_not_known_to_be_absent_from_it() -> None:
    driver = Under(Aspect.DRIVER, "1.2")
    bad, silent = Seen(frozenset({driver})), Seen(frozenset(), frozenset({Aspect.HOST}))
    assert separating_seen([bad], [silent]) == ()
    assert separating_seen([bad], [Seen(frozenset({Under(Aspect.DRIVER, None)}))]) == ((driver,),)


def test_a_host_that_separates_brings_its_sockets_along() -> None:
    one, other = ((OnHost(host), Under(Aspect.HOST_SOCKET, f"{host} C1")) for host in ("laptop", "tablet"))
    assert separating([one], [other]) == ((OnHost("laptop"),),)


def test_words_for_people() -> None:
    both = (Running("C1 gives 27 W"), Running("C2 gives 27 W"))
    assert exception_text(both) == "unless C1 (gives 27 W) and C2 (gives 27 W) are in use"
    assert exception_text((Running("S1 cards 250 MB/s"),)) == "unless S1 is in use (cards 250 MB/s)"
    assert exception_text((Running("C1+C2 share 30 W"),)) == "unless C1 and C2 are in use (share 30 W)"
    assert exception_text((Soaked(2700.0),)) == "except after 45 min of full load"
    assert exception_text((D, A)) == "except at C2 with A1 in use (data 5 Gb/s)"
    assert setup_text(both) == "with C1 (gives 27 W) and C2 (gives 27 W) in use"
    assert exception_text(()) == setup_text(()) == ""
