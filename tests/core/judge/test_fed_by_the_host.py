"""What a socket gives while the host alone feeds the device says little of the device."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import judge
from auditra.core.model.device import Role
from auditra.core.model.verdict import Verdict
from tests.support.audits import PROFILE
from tests.support.cause_cases import audit_from


def watts(value: float, **more: Any) -> dict[str, Any]:
    readings = [["power", [value, value + 0.01, value + 0.02]]]
    return {"procedure": "POWER_OUT", "port": "A1", "gear": "plain-load", "readings": readings, **more}


def direct() -> dict[str, Any]:
    """The load is good for more than is promised anywhere here."""
    return {key: value for key, value in watts(16.0).items() if key != "port"}


def verdict_of(audit: Audit) -> tuple[Verdict, str]:
    claim = judge(audit, PROFILE).claims[0]
    return claim.verdict, claim.why


def without_inlet(audit: Audit) -> Audit:
    faces = tuple(
        replace(face, ports=tuple(port for port in face.ports if port.role is not Role.INLET))
        for face in audit.device.faces
    )
    device = replace(audit.device, faces=faces)
    return replace(audit, device=device, devices=(device,))


def test_a_device_with_an_inlet_is_not_accused_before_it_was_fed() -> None:
    alone = {"claims": ["A1 gives 15 W"], "trials": [direct(), watts(8.3), watts(8.3)]}
    verdict, why = verdict_of(audit_from(alone))
    assert verdict is Verdict.UNPROVEN
    assert "the host 1 alone feeds it: with a supply in P1 it may give more" in why
    fed = {**alone, "trials": [direct(), watts(8.3, beside={"P1": "wall"}), watts(8.3, beside={"P1": "wall"})]}
    assert verdict_of(audit_from(fed))[0] is Verdict.SHORT


@pytest.mark.parametrize(
    ("promised", "shown", "verdict"),
    [(15, 12.0, Verdict.UNPROVEN), (15, 4.0, Verdict.SHORT), (7.5, 6.0, Verdict.SHORT), (15, 15.4, Verdict.HOLDS)],
)
def test_one_without_an_inlet_has_what_the_host_gives_less_what_it_may_use(
    promised: float, shown: float, verdict: Verdict
) -> None:
    """15 W of a C socket, and 4.5 W that a port may draw: 10.5 W are sure to be left."""
    case = {"claims": [f"A1 gives {promised} W"], "trials": [direct(), watts(shown), watts(shown)]}
    assert verdict_of(without_inlet(audit_from(case)))[0] is verdict
