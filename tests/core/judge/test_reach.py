"""Reach: how far a rig shows a claim, its weakest link, and that a claim reached in part accuses nobody."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.judge.reach import ClaimReach, reach_of
from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.reading import Grade, Quantity, Reading, Words
from auditra.core.model.rig import Hop, HostSocket, Rig
from auditra.core.plan.planner import run_sheet_of
from tests.support.audits import audit_of, galley, judged, number, planned, rates, with_trial


def reach(sentence: str, rig: Rig | None = None) -> ClaimReach:
    audit = audit_of(sentence, rig=rig)
    return reach_of(audit, run_sheet_of(audit))[0]


def with_lead(lead: str, **changes: object) -> Rig:
    rig = galley()
    leads = tuple(replace(each, **changes) if each.id == lead else each for each in rig.leads)  # type: ignore[arg-type]
    return replace(rig, leads=leads)


def test_a_rig_that_is_good_enough_shows_all() -> None:
    shown = reach("A1 data 5 Gb/s")
    assert shown.is_whole
    assert shown.lacking == ""


@pytest.mark.parametrize(
    ("sentence", "share", "weakest"),
    [
        ("A1 data 40 Gb/s", 0.25, "lead AC-1"), ("P1 takes 240 W", 100 / 240, "lead CC"),
        ("H1 shows 7680x4320@60", 0.25, "monitor"), ("N1 links 25 Gb/s", 0.4, "film server"),
    ],
)  # fmt: skip
def test_a_promise_beyond_the_gear_is_reached_in_part(sentence: str, share: float, weakest: str) -> None:
    shown = reach(sentence)
    assert shown.share == pytest.approx(share, rel=0.15)
    assert shown.lacking
    assert shown.weakest is not None
    assert weakest in shown.weakest.part


def test_a_slow_lead_or_host_socket_is_the_weakest_link() -> None:
    slow = with_lead("AC-1", data_bps=480e6)
    slow = replace(slow, leads=tuple(each for each in slow.leads if each.id != "AC-2"))
    shown = reach("A1 data 5 Gb/s", slow)
    assert shown.weakest is not None
    assert shown.weakest.part == "the lead AC-1"
    assert shown.share < 0.12
    host = replace(galley().hosts[0], sockets=(HostSocket("C1", "usb-c", 5e9),))
    shown = reach("A1 data 10 Gb/s", replace(galley(), hosts=(host,)))
    assert shown.weakest is not None
    assert shown.weakest.part == "socket C1 of the laptop"
    assert not shown.is_whole


def test_a_lead_without_a_figure_is_named_as_unknown() -> None:
    rig = with_lead("AC-1", data_bps=NOT_NOTED)
    rig = replace(rig, leads=tuple(each for each in rig.leads if each.id != "AC-2"))
    assert reach("A1 data 5 Gb/s", rig).unknown == ("the lead AC-1",)


def test_a_lead_for_charging_alone_reaches_nothing_of_data() -> None:
    rig = with_lead("AC-1", data_bps=None)
    rig = replace(rig, leads=tuple(each for each in rig.leads if each.id != "AC-2"))
    shown = reach("A1 data 5 Gb/s", rig)
    assert shown.share == 0
    assert shown.weakest is not None
    assert shown.weakest.part == "the lead AC-1"


@pytest.mark.parametrize(
    ("category", "length_m", "pairs", "bps"),
    [("6", 3.0, NOT_NOTED, 10e9), ("6", 80.0, NOT_NOTED, 5e9), ("5", 3.0, NOT_NOTED, 1e9), ("6A", 3.0, 2, 100e6)],
)
def test_a_network_lead_reaches_what_its_category_length_and_pairs_let_through(
    category: str, length_m: float, pairs: Noted[int], bps: float
) -> None:
    rig = with_lead("NT-1", category=category, length_m=length_m, pairs=pairs, data_bps=NOT_NOTED)
    rig = replace(rig, leads=tuple(each for each in rig.leads if "rj45" not in each.ends or each.id == "NT-1"))
    shown = reach("N1 links 10 Gb/s", rig)
    assert shown.share == pytest.approx(bps / 10e9, rel=0.12)


def test_a_hop_on_the_way_to_the_peer_counts() -> None:
    peers = tuple(replace(each, hops=(Hop("desk switch", 1e9),)) for each in galley().peers)
    shown = reach("N1 links 10 Gb/s", replace(galley(), peers=peers))
    assert shown.weakest is not None
    assert "desk switch" in shown.weakest.part


def test_a_socket_that_the_device_does_not_have_is_not_reached_at_all() -> None:
    assert reach("Z9 data 5 Gb/s").share == 0
    assert "no port Z9" in reach("Z9 data 5 Gb/s").lacking


def test_power_names_how_far_its_instruments_may_be_off() -> None:
    assert reach("P1 takes 90 W").error.startswith("± ")


def mode(text: str, at: str) -> Reading:
    return Reading("T", Quantity.MODE, at, "test", Grade.READ, Words(text))


@pytest.mark.parametrize(
    ("sentence", "key", "through", "direct"),
    [
        ("A1 data 40 Gb/s", "storage", rates("A1", 1000, 1010, 1020, link_bps=10e9), rates("direct", 1055, 1060)),
        ("H1 shows 7680x4320@60", "display", (mode("3840x2160@60", "H1"),), (mode("3840x2160@60", "direct"),)),
        (
            "P1 takes 240 W", "power_in",
            (number(Quantity.POWER, 138.0, at="P1"), number(Quantity.POWER, 125.0, at="UP")),
            (number(Quantity.POWER, 139.0, at="direct"),),
        ),
        (
            "N1 links 25 Gb/s", "network",
            tuple(number(each, 9.3e9, at="N1") for each in (Quantity.SEND, Quantity.RECEIVE, Quantity.LINK)),
            tuple(number(each, 9.4e9, at="direct") for each in (Quantity.SEND, Quantity.RECEIVE, Quantity.LINK)),
        ),
    ],
)  # fmt: skip
def test_a_claim_that_is_reached_in_part_is_tried_and_never_accused(
    sentence: str, key: str, through: tuple[Reading, ...], direct: tuple[Reading, ...]
) -> None:
    audit = audit_of(sentence)
    port = sentence.split()[0]
    assert planned(audit, f"{port}/{key}").port == port
    for turn in range(3):
        audit = with_trial(audit, f"direct/{key}", *direct) if turn != 1 else audit
        audit = with_trial(audit, f"{port}/{key}", *through)
        verdict = judged(audit).claims[0].verdict
        assert not verdict.accuses, (turn, judged(audit).claims[0].shown)
        assert verdict.word != "holds"
