"""A kit beside the sockets: each piece gets the least that will do, nothing gets two, and what is short is said."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import InputError
from auditra.core.judge.kit_fit import Fit, Piece, Placed, fit_kit, parse_kit
from auditra.core.links.display import Mode
from tests.support.audits import HUB, audit_of, judged, rates, with_trial

CLAIMS = ("A1 data 10 Gb/s", "A2 data 5 Gb/s", "A2 gives 4.5 W", "N1 links 1 Gb/s", "H1 shows 3840x2160@60")


def placed(text: str) -> list[tuple[str, str | None, Fit | None]]:
    audit = audit_of(*CLAIMS)
    found = fit_kit(parse_kit(text), audit.device, judged(audit).claims)
    return [(each.piece.name, each.port, each.fit) for each in found]


def test_pieces_are_read_with_what_they_need() -> None:
    assert parse_kit("2 x fast drive usb-a 5 Gb/s; projector hdmi 3840x2160@60; phone type-c 18 W; printer usb-a") == (
        Piece("fast drive", "usb-a", data_bps=5e9), Piece("fast drive", "usb-a", data_bps=5e9),
        Piece("projector", "hdmi", mode=Mode(3840, 2160, 60)), Piece("phone", "usb-c", watts=18.0),
        Piece("printer", "usb-a"),
    )  # fmt: skip


@pytest.mark.parametrize("text", ["", ";", "drive", "drive somewhere", "drive usb-a soon", "99 x drive usb-a"])
def test_what_is_no_kit_is_refused(text: str) -> None:
    with pytest.raises(InputError):
        parse_kit(text)


def test_a_fast_socket_is_left_for_what_needs_it() -> None:
    assert placed("slow drive usb-a 1 Gb/s; fast drive usb-a 10 Gb/s") == [
        ("slow drive", "A2", Fit.GOOD), ("fast drive", "A1", Fit.GOOD),
    ]  # fmt: skip


def test_what_is_short_or_too_little_or_not_stated_is_said() -> None:
    assert placed("drive usb-a 10 Gb/s; drive usb-a 10 Gb/s") == [
        ("drive", "A1", Fit.GOOD), ("drive", "A2", Fit.TOO_LITTLE),
    ]  # fmt: skip
    assert placed("card sd 95 MB/s; screen hdmi 7680x4320@60; phone usb-a 18 W; thing rca") == [
        ("card", "S1", Fit.NOT_STATED), ("screen", "H1", Fit.TOO_LITTLE), ("phone", "A1", Fit.NOT_STATED),
        ("thing", None, None),
    ]  # fmt: skip


def test_a_socket_that_failed_is_the_last_choice() -> None:
    audit = audit_of("A1 data 5 Gb/s", "A2 data 5 Gb/s")
    audit = with_trial(audit, "direct/storage", *rates("direct", 1050, 1055, 1060))
    for _ in range(2):
        audit = with_trial(audit, "A1/storage", *rates("A1", 200, 201, 202))
    found = fit_kit(parse_kit("2 x drive usb-a 5 Gb/s"), audit.device, judged(audit).claims)
    assert {(each.port, each.fit) for each in found} == {("A1", Fit.FAILED), ("A2", Fit.GOOD)}


@given(st.lists(st.sampled_from(["drive usb-a", "screen hdmi", "card sd", "net rj45 1 Gb/s"]), min_size=1, max_size=12))
def test_no_socket_is_given_twice_and_none_is_left_idle_where_a_piece_would_fit(kit: list[str]) -> None:
    audit = audit_of(*CLAIMS)
    found: tuple[Placed, ...] = fit_kit(parse_kit("; ".join(kit)), HUB, judged(audit).claims)
    used = [each.port for each in found if each.port is not None]
    assert len(used) == len(set(used))
    for each in (each for each in found if each.port is None):
        fitting = {port.id for port in HUB.ports() if port.connector == each.piece.connector}
        assert fitting <= set(used)
