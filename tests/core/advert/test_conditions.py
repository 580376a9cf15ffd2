"""Under what a figure is promised: in which words it is told, and that a condition is never lost."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.condition_forms import Means
from auditra.core.advert.conditions import conditions
from auditra.core.advert.footnotes import notes_of
from auditra.core.advert.reader import read_text

TOLD = {
    "without supply": (
        "without a power supply", "without its charger", "from the laptop alone", "bus-powered", "over USB power alone",
        "with no supply",
    ),
    "without display": ("without a monitor", "while no display is connected", "if no screen is attached"),
    "with display": ("with a display", "while a monitor is connected", "once a screen is plugged in"),
    "without network": ("without the network", "when the network is not used"),
    "with network": ("with the network in use", "while the network is busy"),
    "without data": ("without data", "if no data flow"),
    "without others": (
        "alone", "by itself", "when nothing else is plugged in", "if nothing hangs on the other socket", "single use",
        "while only C1 is used",
    ),
    "with supply": ("with the supply", "if the supply is plugged in", "provided that the supply is connected"),
    "with 90 W supply": ("with a 90 W supply", "as long as the 90 W supply is attached", "provided the 90 W supply"),
    "on Linux": ("on Linux", "under Linux", "for Linux"),
    "on hosts with USB4": ("on hosts with USB4", "only on hosts with USB4"),
    "with UHS-II cards": ("with UHS-II cards",),
}  # fmt: skip


@pytest.mark.parametrize(("words", "told"), [(words, told) for words, every in TOLD.items() for told in every])
def test_a_condition_in_many_words(words: str, told: str) -> None:
    found = [each.words for each in conditions(f"15 W {told}.") if each.words]
    assert found == [words]


@pytest.mark.parametrize(
    "told", ["with both in use", "all at once", "(dual)", "at the same time", "while all are busy", "always"]
)
def test_all_at_once_is_no_condition(told: str) -> None:
    assert [each.means for each in conditions(f"15 W {told}")] == [Means.ALL]


@pytest.mark.parametrize(
    ("note", "words"),
    [
        ("With the 140 W supply, sold apart.", "with 140 W supply"),
        ("On hosts with USB4; others 30 Hz.", "on hosts with USB4"),
        ("Linux and Windows.", "on Linux and Windows"),
        ("Windows only", "on Windows"),
        ("4K30 on hosts without compression", ""),
        ("shared by all", ""),
    ],
)
@pytest.mark.parametrize("mark", ["[1]", "(1)", "*", "*1", "†"])
def test_a_footnote_is_a_condition_or_an_exception(note: str, words: str, mark: str) -> None:
    """An exception is not read, and makes what it is of less sure."""
    assert notes_of(f"HDMI 4K {mark}\n{mark} {note}")[mark].words == words
    found = read_text(f"Dock.\nHDMI: 4K at 60 Hz {mark}\nWeight: 90 g\n{mark} {note}").proposals
    shown = next(each for each in found if each.sentence.startswith("H1"))
    assert shown.sentence == f"H1 shows 3840x2160@60 {words}".rstrip()
    assert words or shown.unclear


@given(
    st.sampled_from(("while the lid is open", "unless it rains", "once the fan has stopped", "if the moon is full")),
    st.sampled_from(("USB-A: 5 Gb/s", "HDMI: 4K at 60 Hz", "USB-C 1: 15 W", "SD: 90 MB/s", "Network: 2.5 Gb/s")),
    st.booleans(),
)
def test_a_condition_that_nothing_knows_is_kept_or_told(condition: str, promise: str, leads: bool) -> None:
    """Behind what it is about, or before it: no plain claim is surer than one whose condition may be missing."""
    key, _, value = promise.partition(": ")
    text = f"Dock.\n{key}: {condition}, {value}." if leads else f"Dock.\n{promise} {condition}."
    found = read_text(text).proposals
    assert found
    for each in found:
        assert " with " in each.sentence or each.unclear
