"""Identities of partners and cables, from their vendor data objects."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.identity import HostIdentity, Identity, decode_identity, limits_in_words
from tests.support.vectors import vectors

WORD = st.integers(0, 2**34)


@pytest.mark.parametrize("vector", vectors("identities")["identities"], ids=lambda vector: str(vector["name"]))
def test_what_an_identity_says(vector: dict[str, Any]) -> None:
    header, cert, product, *types = (int(each, 16) for each in vector["vdos"])
    found = decode_identity(header, cert, product, tuple(types), of_cable=vector["of cable"])
    assert found is not None
    assert found.sort == vector["sort"]
    told = limits_in_words(found.cable) if found.cable is not None else found.header.partner_type
    assert told == vector["told"]
    assert found.header.vid == 0x1F6E


def test_nothing_was_discovered_yet() -> None:
    assert decode_identity(0, 0, 0, (0, 0, 0), of_cable=True) is None


PASSIVE, ACTIVE = 0x18001F6E, 0x20001F6E
SOUND = 2 << 18 | 1 << 13 | 2 | 1 << 5


def marker(*types: int, header: int = PASSIVE) -> Identity:
    found = decode_identity(header, 0, 0, types, of_cable=True)
    assert found is not None
    return found


@pytest.mark.parametrize(
    ("header", "word", "reserved"),
    [
        (PASSIVE, SOUND, ()),
        (PASSIVE, SOUND | 7, ("cable speed 7",)),
        (PASSIVE, SOUND | 3 << 5, ("cable current 3",)),
        (PASSIVE, SOUND ^ 3 << 18, ("cable plug 1",)),
        (PASSIVE, SOUND | 15 << 13, ("cable latency 15",)),
        (PASSIVE, SOUND ^ 1 << 13, ("cable latency 0",)),
        (PASSIVE, SOUND | 2 << 11, ("cable termination 2",)),
        (ACTIVE, SOUND | 2 << 11, ()),
        (ACTIVE, SOUND | 1 << 11, ("cable termination 1",)),
        (ACTIVE, SOUND | 3 << 11 | 10 << 13, ("cable latency 11",)),
        (PASSIVE & ~(7 << 27) | 5 << 27, SOUND | 7, ("cable type 5",)),
        (PASSIVE & ~(7 << 27), SOUND | 7, ()),
    ],
)
def test_codes_of_a_marker_that_are_kept_for_later_are_told(header: int, word: int, reserved: tuple[str, ...]) -> None:
    assert marker(word, header=header).reserved == reserved


@pytest.mark.parametrize(
    ("header", "reserved"), [(4 << 27, ("device type 4",)), (7 << 23, ("host type 7",)), (2 << 27 | 2 << 23, ())]
)
def test_types_of_a_partner_that_are_kept_for_later_are_told(header: int, reserved: tuple[str, ...]) -> None:
    found = decode_identity(header | 0x1F6E, 0, 0, (), of_cable=False)
    assert found is not None
    assert found.reserved == reserved


@pytest.mark.parametrize("second", [(), (0,)])
def test_an_active_cable_without_its_second_object_promises_nothing_of_what_it_carries(second: tuple[int, ...]) -> None:
    cable = marker(SOUND | 2 << 11, *second, header=ACTIVE).cable
    assert cable is not None
    assert (cable.usb4, cable.usb3, cable.two_lanes, cable.asymmetric, cable.hub_hops) == (None,) * 5


def test_what_the_second_object_of_an_active_cable_says() -> None:
    second = 70 << 24 | 85 << 16 | 1 << 10 | 2 << 6 | 1 << 3 | 1 << 2 | 1 << 1
    cable = marker(SOUND | 2 << 11 | 1 << 3 | 1 << 8, second, header=ACTIVE).cable
    assert cable is not None
    assert (cable.working_c, cable.shutdown_c, cable.optical, cable.isolated) == (70, 85, True, True)
    assert (cable.usb4, cable.usb3, cable.usb2, cable.two_lanes, cable.asymmetric) == (True,) * 5
    assert (cable.hub_hops, cable.far_plug_answers, cable.sideband) == (2, True, False)


@pytest.mark.parametrize(
    ("header", "types", "host"),
    [
        (2 << 23, (7 << 24 | 3,), HostIdentity(True, True, True, 3)),
        (2 << 27 | 2 << 23, (1 << 24, 0, 2 << 24 | 1), HostIdentity(False, True, False, 1)),
        (2 << 27 | 2 << 23, (1 << 24,), None),
        (2 << 27, (1 << 24, 0, 2 << 24), None),
    ],
)
def test_a_partner_that_is_a_host_says_which(header: int, types: tuple[int, ...], host: HostIdentity | None) -> None:
    found = decode_identity(header | 0x1F6E, 0, 0, types, of_cable=False)
    assert found is not None
    assert found.host == host


@given(WORD, WORD, WORD, st.lists(WORD, max_size=4), st.booleans())
def test_any_words_give_a_value(header: int, cert: int, product: int, types: list[int], of_cable: bool) -> None:
    found = decode_identity(header, cert, product, tuple(types), of_cable=of_cable)
    assert found is None or all(0 <= each < 2**32 for each in found.raw)
    assert found is None or found.cable is None or (found.cable.most_w or 0) <= 240
