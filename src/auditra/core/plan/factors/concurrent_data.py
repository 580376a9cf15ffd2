"""Data on several ports at once: the fewest trials that bring every two of them together."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from auditra.core.model.setup import Picture
from auditra.core.plan.factor import Added, Factor
from auditra.core.plan.factors.displays import NAME as A_PICTURE
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.port_groups import Member, groups, pairs
from auditra.core.plan.run_sheet import PlannedTrial


def _groups(tried: list[Tried], planning: Planning) -> Added:
    """The groups, each beside a picture where there is one; in reserve what tells what ran from what it ran with.

    That is the group without the picture, each two of it, and each port alone with the gear that it had in the group.
    """
    members = {
        each.port.id: Member(each.claim, each.port, asked)
        for each in tried
        if (asked := each.claim.promise.upstream_bps)
    }
    whole = groups(tuple(members.values()), planning.stand.socket.data_bps)
    parts = [pair for group in whole if len(group) > 2 for pair in pairs(group)]
    alone = _planned(whole, planning)
    beside = [beside_picture(planning, trial) or trial for trial in alone]
    covers = frozenset(
        (claim, port, A_PICTURE)
        for trial, with_picture in zip(alone, beside, strict=True) if with_picture is not trial
        for claim, port in zip(trial.claims, (each.socket for each in trial.setup.members), strict=True)
    )  # fmt: skip
    without = [trial for trial in alone if trial not in beside]
    few = _planned(parts, planning)
    by_itself = [
        same for each in tried for trial in (*alone, *few) if (same := _with_gear_of(each, trial, planning)) is not None
    ]
    return Added(tuple(beside), (*without, *few, *by_itself), covers)


def _with_gear_of(tried: Tried, group: PlannedTrial, planning: Planning) -> PlannedTrial | None:
    """A port by itself, with what was in it in a group; None where that is what it is tried with anyway."""
    there = next((each for each in group.setup.members if each.socket == tried.port.id), None)
    trial = tried.trial
    if there is None or there.gear == trial.gear or tried.claim.id not in group.claims:
        return None
    here = (there.owner, there.socket)
    plugged = tuple(there if (each.owner, each.socket) == here else each for each in trial.setup.plugged)
    name = planning.rig.name_of(there.gear)
    return replace(
        trial, title=f"{trial.title}, with the {name}", why="is it the gear, or what ran beside it?", gear=there.gear,
        setup=replace(trial.setup, plugged=plugged),
    )  # fmt: skip


def beside_picture(planning: Planning, trial: PlannedTrial) -> PlannedTrial | None:
    """A group beside a picture on an output that is no part of it; None where there is none free."""
    found = planning.display(planning.pictures, ids_of(trial.setup))
    if found is None or trial.setup.gear_at(found[1].socket) is not None:
        return None
    words, display = found
    setup = planning.stand.beside(trial.setup, [display], (words,))
    on = (Picture(display.socket, display.gear, on=True),)
    return replace(
        trial, title=f"{trial.title}, with {display.socket}", setup=replace(setup, pictures=on),
        why=f"do these ports slow each other down, and does a picture on {display.socket}?",
    )  # fmt: skip


def _planned(sets: Iterable[tuple[Member, ...]], planning: Planning) -> tuple[PlannedTrial, ...]:
    return tuple(trial for members in sets if (trial := planning.group(members)) is not None)


CONCURRENT_DATA = Factor("concurrent data", 3, groups=_groups)
