"""Plug moves: what the hands do between two set-ups."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.model.device import DEVICE, Device
from auditra.core.model.rig import Rig
from auditra.core.model.setup import Plugged, SetUp


class Action(StrEnum):
    """What a hand does."""

    PULL = "pull"
    PLUG = "plug"


@dataclass(frozen=True)
class PlugMove:
    """One thing pulled or plugged."""

    action: Action
    what: Plugged
    device: str = DEVICE
    """Which device of a kit it is about."""

    @property
    def port(self) -> str | None:
        """The device's port that the hand is at."""
        return self.what.socket if self.what.owner == DEVICE else None


def moves_between(before: SetUp | None, after: SetUp, tested: Collection[str]) -> tuple[PlugMove, ...]:
    """Pulls first, then plugs, the gear under test last: always plugged in again, so that its appearance is seen."""
    standing = before.plugged if before else ()
    changes = {DEVICE} if before is not None and before.device != after.device else set()
    leaves = {*tested, *changes}
    stays = [each for each in standing if each in after.plugged and not {each.gear, each.owner} & leaves]
    was = before.device if before is not None else after.device
    pulls = [PlugMove(Action.PULL, each, was) for each in reversed(standing) if each not in stays]
    plugs = [PlugMove(Action.PLUG, each, after.device) for each in after.plugged if each not in stays]
    plugs.sort(key=lambda move: (move.what.gear in tested, move.what.gear != DEVICE))
    return (*pulls, *plugs)


def in_words(move: PlugMove, device: Device, rig: Rig) -> str:
    """``Plug the fast SSD into A1 with lead CC-1``."""
    plugged = move.what
    name = f"the {device.model}" if plugged.gear == DEVICE else f"the {rig.name_of(plugged.gear)}"
    place = plugged.socket if plugged.owner == DEVICE else f"{rig.name_of(plugged.owner)} {plugged.socket}"
    if move.action is Action.PULL:
        return f"unplug {name} from {place}"
    lead = f" with lead {plugged.lead}" if plugged.lead else ""
    through = "".join(f" through the {rig.name_of(each)}" for each in plugged.through)
    return f"plug {name} into {place}{lead}{through}"
