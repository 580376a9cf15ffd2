"""One name for each connector, whatever people call it; the unknown is refused, never left to fit nothing."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import InputError
from auditra.core.links.connectors import CONNECTORS, parse_connector


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("Type-C", "usb-c"), ("USB Type-C", "usb-c"), ("usb-c plug", "usb-c plug"), ("USB C male", "usb-c plug"),
        ("DP", "displayport"), ("Mini DP", "mini displayport"), ("Ethernet", "rj45"), ("RJ-45 port", "rj45"),
        ("SD card slot", "sd"), ("TF", "microsd"), ("3.5mm", "3.5 mm"), ("DC in", "barrel"), ("hdmi", "hdmi"),
        ("other  dock plate", "other dock plate"),
    ],
)  # fmt: skip
def test_what_people_write_becomes_the_one_name(text: str, name: str) -> None:
    assert parse_connector(text) == name


@pytest.mark.parametrize("text", ["", "usb-d", "plug", "other", "USB-C\x1b[31m"])
def test_the_unknown_is_refused_with_what_there_is(text: str) -> None:
    with pytest.raises(InputError, match="no such connector") as refused:
        parse_connector(text)
    assert "usb-c" in str(refused.value)
    assert "\x1b" not in str(refused.value)


def test_a_near_miss_says_what_may_be_meant() -> None:
    with pytest.raises(InputError, match="Did you mean displayport"):
        parse_connector("displayprt")


@given(st.sampled_from(CONNECTORS), st.sampled_from(["", " plug"]))
def test_a_name_is_its_own_and_is_read_in_any_case(name: str, plug: str) -> None:
    assert parse_connector(name + plug) == name + plug
    assert parse_connector((name + plug).upper()) == name + plug
