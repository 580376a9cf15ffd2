"""Data on several ports at once: the fewest trials that bring every two of them together."""

from __future__ import annotations

from collections.abc import Iterable

from auditra.core.plan.factor import Added, Factor
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.port_groups import Member, groups, pairs
from auditra.core.plan.run_sheet import PlannedTrial


def _add(tried: list[Tried], planning: Planning) -> Added:
    """The groups; and in reserve each two of a larger one."""
    members = {
        each.port.id: Member(each.claim, each.port, asked)
        for each in tried
        if (asked := each.claim.promise.upstream_bps)
    }
    whole = groups(tuple(members.values()), planning.stand.socket.data_bps)
    parts = [pair for group in whole if len(group) > 2 for pair in pairs(group)]
    return Added(_planned(whole, planning), _planned(parts, planning))


def _planned(sets: Iterable[tuple[Member, ...]], planning: Planning) -> tuple[PlannedTrial, ...]:
    return tuple(trial for members in sets if (trial := planning.group(members)) is not None)


CONCURRENT_DATA = Factor("concurrent data", 3, _add)
