"""Several ports at work at once: whoever fills the way to the host, or may, accuses nobody."""

from __future__ import annotations

from typing import Any

import pytest

from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import judge
from auditra.core.model.verdict import Verdict
from tests.support.audits import PROFILE
from tests.support.cause_cases import audit_from

A1, A2 = "A1 data 5 Gb/s", "A2 data 5 Gb/s"
ALONE = ({"mb": 470}, {"gear": "ssd2", "mb": 470}, {"port": "A1", "mb": 460}, {"port": "A1", "mb": 460})
"""The rig's socket is noted at 10 Gb/s, and both drives make 5 Gb/s in it."""
FASTER = {"gear": "racer", "lead": "wire", "link": 10e9, "mb": 950}
"""A faster drive shows that the socket makes 10 Gb/s."""


def at_once(mb: float, other_mb: float) -> dict[str, Any]:
    rates = [other_mb * 8e6 + jitter for jitter in (-1e6, 0, 1e6)]
    readings = [["write rate", rates, {"at": "A2"}], ["read rate", rates, {"at": "A2"}]]
    return {
        "procedure": "TOGETHER", "port": "A1", "beside": {"A2": "ssd2"}, "claims": [1, 2], "mb": mb,
        "noted": {"running": [A1, A2]}, "readings": readings,
    }  # fmt: skip


def unmeasured(mb: float, other: str) -> dict[str, Any]:
    """A2 is kept at work, and nobody notes how much it moves."""
    return {"port": "A1", "beside": {"A2": "ssd2"}, "mb": mb, "noted": {"running": [other]}}


def verdict_of(*trials: dict[str, Any]) -> tuple[Verdict, str]:
    claim = judge(audit(*trials), PROFILE).claims[0]
    return claim.verdict, claim.why


def audit(*trials: dict[str, Any]) -> Audit:
    return audit_from({"claims": [A1, A2], "trials": [*ALONE, *trials]})


@pytest.mark.parametrize(("mb", "other_mb"), [(380, 84), (232, 232), (75, 360), (400, 90)])
def test_what_fills_the_fastest_link_that_the_socket_was_seen_to_make_accuses_nobody(
    mb: float, other_mb: float
) -> None:
    """Whether the socket or the device makes no faster link than 5 Gb/s cannot be told apart."""
    verdict, why = verdict_of(at_once(mb, other_mb), at_once(mb, other_mb))
    assert verdict is Verdict.UNPROVEN
    assert "socket C1 was not seen to make a faster one" in why


def test_where_a_faster_drive_was_seen_in_the_socket_the_device_is_left() -> None:
    verdict, _ = verdict_of(FASTER, at_once(232, 232), at_once(232, 232))
    assert verdict is Verdict.HOLDS_IF


def test_what_leaves_room_on_that_link_is_the_devices() -> None:
    verdict, _ = verdict_of(at_once(150, 150), at_once(150, 150))
    assert verdict is Verdict.HOLDS_IF


def test_gear_kept_at_work_unmeasured_may_have_filled_the_way_to_the_host() -> None:
    """10 Gb/s to the host: 120 MB/s seen here and what a port of 10 Gb/s may move fill it, a card never does."""
    verdict, why = verdict_of(unmeasured(120, "A2 data 10 Gb/s"), unmeasured(120, "A2 data 10 Gb/s"))
    assert verdict is Verdict.UNPROVEN
    assert "nothing shows how much A2 moved meanwhile" in why
    verdict, _ = verdict_of(unmeasured(120, "A2 cards 95 MB/s"), unmeasured(120, "A2 cards 95 MB/s"))
    assert verdict is Verdict.HOLDS_IF


def test_a_picture_meanwhile_moves_nothing_to_the_host() -> None:
    beside = {"port": "A1", "beside": {"H1": "screen"}, "mb": 120, "noted": {"running": ["H1 shows 3840x2160@60"]}}
    assert verdict_of(beside, beside)[0] is Verdict.HOLDS_IF
