"""The paper check: every rule over a sheet, the gravest remarks first."""

from __future__ import annotations

from collections.abc import Iterable

from auditra.core.claims.claim import Claim
from auditra.core.model.device import Device
from auditra.core.paper_check.paper import Paper
from auditra.core.paper_check.remark import Remark, Rule, Weight
from auditra.core.paper_check.rules import carriage, consistency, power

RULES: tuple[Rule, ...] = (*consistency.RULES, *power.RULES, *carriage.RULES)
_GRAVEST_FIRST = tuple(Weight)


def check(device: Device, claims: Iterable[Claim]) -> tuple[Remark, ...]:
    """What can be said against the claims of one device."""
    paper = Paper(device, tuple(claim for claim in claims if claim.device == device.id))
    remarks = [remark for rule in RULES for remark in rule.remarks(paper)]
    unique = {remark.key: remark for remark in reversed(remarks)}
    return tuple(sorted(unique.values(), key=lambda each: (_GRAVEST_FIRST.index(each.weight), each.rule, each.key)))


def check_kit(devices: Iterable[Device], claims: Iterable[Claim]) -> tuple[Remark, ...]:
    """The same for every device of a kit."""
    claims = tuple(claims)
    return tuple(remark for device in devices for remark in check(device, claims))
