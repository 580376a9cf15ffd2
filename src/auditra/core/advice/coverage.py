"""How much was tried: claims, ports and hosts, and what may be said of a device on that.

Below a share of the weight, nothing is recommended or advised against, and where what is open could still bring the
score below the line, the words say so.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from auditra.core.journal.audit import Audit
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.conditions import is_host
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.score import Score
from auditra.core.model.device import Device, Role
from auditra.core.model.profile import Limits, Profile
from auditra.core.model.verdict import Verdict


class Advice(StrEnum):
    """What is said of a device as a whole."""

    RECOMMENDED = "recommended"
    AS_TRIED = "recommended as far as it was tried"
    WITHIN_LIMITS = "recommended within its limits"
    MIXED = "neither recommended nor advised against"
    NOT_RECOMMENDED = "not recommended"
    DANGER = "not recommended: it is dangerous"
    SO_FAR = "no recommendation yet"

    def of(self, name: str) -> str:
        """As a sentence about a device."""
        return f"Of the {name}: {self}." if self is Advice.SO_FAR else f"The {name} is {self}."


@dataclass(frozen=True)
class Tried:
    """What was tried of something, and what was not, by name."""

    tried: tuple[str, ...]
    left: tuple[str, ...]

    @property
    def of(self) -> int:
        return len(self.tried) + len(self.left)

    @property
    def words(self) -> str:
        return f"{len(self.tried)} of {self.of}"


@dataclass(frozen=True)
class Coverage:
    """What stands beside the score of a device."""

    claims: Tried
    """Decided ones, as sentences."""
    ports: Tried
    hosts: Tried
    """Of the rig, and those that a claim names and the rig does not have."""
    weight_decided: Decimal
    """The share of the weight that is decided, 0 to 1."""
    advice: Advice


def coverage_of(audit: Audit, judgement: Judgement, device: Device, profile: Profile | None = None) -> Coverage:
    """Coverage of one device of an audit; under another profile than the audit's own where one is named."""
    own = tuple(each for each in judgement.claims if each.claim.device == device.id)
    limits = (profile or judgement.profile).limits
    scores = judgement.scores if profile is None else judgement.scored_with(profile)
    score = scores.get(device.id, judgement.score)
    share = score.weight_decided / score.weight if score.weight else Decimal(0)
    return Coverage(
        claims=_split((str(each.claim), each.verdict.decided) for each in own),
        ports=_ports(audit, device),
        hosts=_hosts(audit, own),
        weight_decided=share,
        advice=_advice(score, share, own, limits),
    )


def _split(named: Iterable[tuple[str, bool]]) -> Tried:
    names = dict(named)
    return Tried(tuple(name for name, done in names.items() if done), tuple(name for name in names if not names[name]))


def _ports(audit: Audit, device: Device) -> Tried:
    """A port is tried once something was connected to it, or read at it, in a trial of its device."""
    trials = [record for record in audit.trials if record.readings and record.trial.setup.device == device.id]
    at = {plug.socket for record in trials for plug in record.trial.setup.plugged if plug.owner == device.id}
    at |= {reading.at for record in trials for reading in record.readings}
    looked = {claim for record in trials if record.trial.port is not None for claim in record.trial.claims}
    at |= {port for claim in audit.claims if claim.id in looked and claim.device == device.id for port in claim.ports}
    upstream = device.first(Role.UPSTREAM)
    if upstream and any(plug.gear == device.id for record in trials for plug in record.trial.setup.plugged):
        at.add(upstream.id)
    return _split((port.id, port.id in at) for port in device.ports())


def _hosts(audit: Audit, own: Iterable[ClaimVerdict]) -> Tried:
    tried = {record.trial.setup.host for record in audit.trials if record.readings}
    known = [(host.name, host.id in tried) for host in audit.rig.in_use.hosts]
    named = {name for each in own for name in each.claim.promise.hosts_named}
    beyond = sorted(name for name in named if not any(is_host(audit.rig, host.id, name) for host in audit.rig.hosts))
    return _split((*known, *((name, False) for name in beyond)))


def _advice(score: Score, share: Decimal, own: Iterable[ClaimVerdict], limits: Limits) -> Advice:
    if score.danger:
        return Advice.DANGER
    if score.value is None or share < limits.decided:
        return Advice.SO_FAR
    if score.value < limits.not_recommended:
        return Advice.NOT_RECOMMENDED if score.highest < limits.recommended else Advice.SO_FAR
    if score.value < limits.recommended:
        return Advice.MIXED
    if any(each.verdict.accuses or each.verdict is Verdict.HOLDS_IF for each in own):
        return Advice.WITHIN_LIMITS
    return Advice.RECOMMENDED if score.lowest >= limits.recommended else Advice.AS_TRIED
