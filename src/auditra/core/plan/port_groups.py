"""Which ports are tried at the same time: every two of them once, in as few trials as that takes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.data import Data
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.device import Port

GOOD_LINK_SHARE = 0.9
"""The part of a link's payload ceiling that may be asked of it before the link itself explains a fall."""


@dataclass(frozen=True)
class Member:
    """A port with the promise that is tried on it."""

    claim: Claim
    port: Port
    asked_bps: float
    """The payload that it puts on the way to the host."""


def groups(members: Sequence[Member], socket_bps: float) -> tuple[tuple[Member, ...], ...]:
    """Sets of ports to be tried at once, so that every two that may be together are together in one of them.

    Only as much is asked at once as the way to the host has room for: the fastest rate that the device promises, or
    the host's socket where that is slower. What two ports lose beyond that, the seller has not denied.
    Greedy cover: each set begins with a pair that was not together yet and takes in whoever adds the most new pairs.
    """
    room = _room_bps(members, socket_bps)
    owed = [pair for pair in combinations(members, 2) if pair[0].asked_bps + pair[1].asked_bps <= room]
    found: list[tuple[Member, ...]] = []
    while owed:
        group = list(owed[0])
        for member in members:
            new = [pair for pair in owed if member in pair and (pair[0] in group or pair[1] in group)]
            if member not in group and new and _asked([*group, member]) <= room:
                group.append(member)
        found.append(tuple(member for member in members if member in group))
        owed = [pair for pair in owed if not (pair[0] in group and pair[1] in group)]
    return tuple(found)


def pairs(group: Sequence[Member]) -> tuple[tuple[Member, ...], ...]:
    """Every two of a group."""
    return tuple(combinations(group, 2))


def _asked(members: Sequence[Member]) -> float:
    return sum(member.asked_bps for member in members)


def _room_bps(members: Sequence[Member], socket_bps: float) -> float:
    promised = [member.claim.promise.rate_bps for member in members if isinstance(member.claim.promise, Data)]
    return GOOD_LINK_SHARE * payload_ceiling_bps(min(max(promised), socket_bps)) if promised else 0.0
