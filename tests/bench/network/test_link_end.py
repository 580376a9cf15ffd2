"""One end of a link, told to the other: what makes no sense is unknown, and never believed."""

from __future__ import annotations

from dataclasses import asdict

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.bench.network.link_end import LinkEnd
from auditra.core.host.snapshot import NetworkInterface


@pytest.mark.parametrize(
    ("interface", "words"),
    [
        (NetworkInterface("lan0", "up", 2500, "full"), "2.5 Gb/s full duplex"),
        (NetworkInterface("lan0", "up", 100, "half"), "100 Mb/s half duplex"),
        (NetworkInterface("wlan0", "up", wireless=True), "link rate unknown, wireless"),
        (None, "link rate unknown"),
    ],
)
def test_an_end_is_told_and_heard(interface: NetworkInterface | None, words: str) -> None:
    end = LinkEnd.of(interface)
    assert LinkEnd.told(asdict(end)) == end
    assert end.words == words


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(),
    lambda inner: st.lists(inner) | st.dictionaries(st.sampled_from(["speed_mbps", "duplex", "wireless"]), inner),
)


@given(JSON)
def test_whatever_is_told_the_words_are_those_of_a_link(message: object) -> None:
    end = LinkEnd.told(message)
    assert end.speed_mbps is None or 0 < end.speed_mbps <= 1_000_000
    assert end.duplex in (None, "full", "half")
    assert end.words.isprintable()
