"""Plug moves as the host sees them: whether they are done, and whether what came is what the sheet asks for."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from auditra.core.host.snapshot import Snapshot, UsbDevice
from auditra.core.journal.audit import Audit
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.rig import Display, Drive, Reader, Rig
from auditra.core.model.trial import DIRECT
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import Action, PlugMove
from auditra.workflows.trials.doors import KernelAttributes, Links

Look = Callable[[Links], bool]


def watch_moves(
    moves: Iterable[PlugMove], rig: Rig, device: Device, kernel: KernelAttributes
) -> Callable[[], bool] | None:
    """Says whether the host sees all these moves done; None where one of them is such that no host can see it.

    A supply, a load or another lead for the same drive change nothing that a host reports.
    """
    before = kernel.links()
    moves = tuple(moves)
    looks = [_look_for(move, rig, device, before) for move in moves]
    if len({move.what for move in moves}) < len(moves):  # what is pulled and plugged again ends where it began
        return None
    if not looks or any(look is None for look in looks):
        return None
    asked = [look for look in looks if look is not None]

    def seen() -> bool:
        now = kernel.links()
        return all(look(now) for look in asked)

    return seen


def _look_for(move: PlugMove, rig: Rig, device: Device, before: Links) -> Look | None:
    if move.action not in (Action.PULL, Action.PLUG):
        return None
    comes = move.action is Action.PLUG
    gear = rig.find(move.what.gear)
    if isinstance(gear, Drive | Reader):
        return _usb_look(_ids_of_gear(gear), before, comes=comes, hubs=False)
    if move.what.gear == DEVICE:
        ids = frozenset(device.usb_ids) if isinstance(device.usb_ids, tuple) else frozenset[str]()
        return _usb_look(ids, before, comes=comes, hubs=True)
    if isinstance(gear, Display):
        return _display_look(before, comes=comes)
    return None


def _ids_of_gear(gear: Drive | Reader) -> frozenset[str]:
    known = gear.usb_id if isinstance(gear, Drive) else None
    return frozenset({known}) if isinstance(known, str) else frozenset()


def _usb_look(ids: frozenset[str], before: Links, *, comes: bool, hubs: bool) -> Look | None:
    """Something of these ids that was not there, or is not there any more; without ids, anything new of its sort."""
    if not comes and not ids:
        return None
    known = {(each.name, each.usb_id) for each in before.usb}
    if not comes and not any(each.usb_id in ids for each in before.usb):
        return None

    def seen(now: Links) -> bool:
        if not comes:
            return not any(each.usb_id in ids for each in now.usb)
        new = [each for each in now.usb if (each.name, each.usb_id) not in known and each.is_hub == hubs]
        return any(each.usb_id in ids for each in new) if ids else bool(new)

    return seen


def _display_look(before: Links, *, comes: bool) -> Look:
    connected = {connector.name for connector in before.connectors if connector.connected}

    def seen(now: Links) -> bool:
        still = {each.name for each in now.connectors if each.connected}
        return bool(still - connected) if comes else bool(connected - still)

    return seen


def unlike_the_sheet(
    planned: PlannedTrial, rig: Rig, device: Device, before: Snapshot, after: Snapshot
) -> Iterator[str]:
    """What came that the sheet does not ask for, and drives that hang where they should not. In words."""
    asked = {each.gear for each in planned.setup.plugged}
    known = {drive.usb_id: drive for drive in rig.drives if isinstance(drive.usb_id, str)}
    there = {each.name for each in before.usb}
    for each in after.usb:
        drive = known.get(each.usb_id)
        if drive is None or each.is_hub:
            continue
        if drive.id not in asked and each.name not in there:
            yield f"the {drive.name} appeared ({each.usb_id}), which this trial does not need"
        elif drive.id in asked:
            yield from _wrong_place(each, drive, planned, device, after)


def _wrong_place(
    found: UsbDevice, drive: Drive, planned: PlannedTrial, device: Device, after: Snapshot
) -> Iterator[str]:
    """On the host itself instead of the device, or the other way about; known where the device's hubs are noted."""
    if not isinstance(device.usb_ids, tuple):
        return
    behind = any(step.usb_id in device.usb_ids for step in after.way_to(found.name)[:-1])
    owner = next((each.owner for each in planned.setup.plugged if each.gear == drive.id), None)
    if owner == DEVICE and not behind:
        yield f"the {drive.name} is at {found.name}, not behind the {device.model}"
    elif owner not in (None, DEVICE) and behind:
        yield f"the {drive.name} is behind the {device.model}, but the run sheet needs it without"


def other_socket(audit: Audit, said: str, before: Snapshot, after: Snapshot) -> str | None:
    """The port that the host saw something come to, where that is not the one that was said; None where they agree.

    Places on the bus are known by port from earlier trials of this audit.
    """
    known = {link.device: link.at for record in audit.trials for link in record.links if link.at != DIRECT}
    there = {each.name for each in before.usb}
    came = [known[each.name] for each in after.usb if each.name not in there and each.name in known]
    return came[0] if came and said not in came else None
