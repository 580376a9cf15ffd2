"""Proof that what is measured is on the device under audit, so that no inner disk can pass for a dock."""

from __future__ import annotations

from auditra.core.errors import BenchError, TargetError
from auditra.core.host.snapshot import UsbDevice
from auditra.core.journal.facts import PathTraced
from auditra.core.model.storage_path import PathTrace
from auditra.workflows.trials.measure.session import TrialSession

_MAX_HUBS = 8
"""Source: USB 2.0, 4.1.1: seven tiers with the host's."""


def prove_path(session: TrialSession, path: PathTrace) -> None:
    """Record the way to the drive, and check that it leads through the device, or past it for a direct trial.

    Raises: TargetError where it does not, or where that is unknown.
    """
    session.put(PathTraced(session.trial, path))
    port, device = session.planned.port, session.device
    if port is None:
        if _through_device(session, path):
            why = f"it is behind the {device.model}, and a direct trial is without it"
            raise TargetError(path.in_words(), why=why, do="Plug the drive into the host itself")
        return
    if path.drive is None:
        why = f"that is not on the {device.model}, so it proves nothing of {port}"
        raise TargetError(path.in_words(), why=why, do="Name a folder on a drive in that socket, or try it direct")
    if not _through_device(session, path):
        why = f"nothing shows that the {device.model} lies on that way"
        do = f"Plug the {device.model} when the trial asks for it, or note its usb_ids in the claim sheet"
        raise TargetError(path.in_words(), why=why, do=do)
    other = session.tried_at.get(path.drive.name, port)
    if other != port:
        why = f"{other} was tried there"
        raise TargetError(path.in_words(), why=why, do=f"Check that the drive is in {port}")


def prove_interface(session: TrialSession, name: str) -> None:
    """Check that a network interface is wired, and that one which is a USB adapter is behind the device, or without it
    for a direct trial.

    What is built into the host, or tunnelled, shows no way through hubs, and is left to the counters on the wire.
    Raises: BenchError.
    """
    snapshot = session.bench.kernel.snapshot()
    found = next((each for each in snapshot.network if each.name == name), None)
    if found is not None and found.wireless:
        why = f"it is wireless, so it proves nothing of {session.spot}"
        raise BenchError(name, why=why, do="Name the interface of the cable, and switch the wireless one off")
    adapter = snapshot.device(found.usb) if found is not None else None
    ids, came = _ids_and_hubs(session)
    if adapter is None or not (ids or came):
        return
    above: list[UsbDevice] = []
    while adapter is not None and len(above) < _MAX_HUBS:
        above.append(adapter)
        adapter = snapshot.device(adapter.parent)
    behind = any(each.usb_id in ids or each.name in came for each in above)
    port, model = session.planned.port, session.device.model
    if port is None and behind:
        why = f"it is behind the {model}, and a direct trial is without it"
        raise BenchError(name, why=why, do="Plug the adapter into the host itself")
    if port is not None and not behind:
        do = f"Name the interface of {port}, or note the usb_ids of the {model} in the claim sheet"
        raise BenchError(name, why=f"nothing shows that the {model} lies on the way to it", do=do)


def _through_device(session: TrialSession, path: PathTrace) -> bool:
    """By the ids of its hubs where they are noted; else by the hubs that came with it."""
    ids, came = _ids_and_hubs(session)
    return path.leads_through(came, ids)


def _ids_and_hubs(session: TrialSession) -> tuple[frozenset[str], frozenset[str]]:
    """What the device is known by among USB devices: the ids that are noted, and the hubs that came with it."""
    noted = session.device.usb_ids
    ids = frozenset(noted) if isinstance(noted, tuple) else frozenset[str]()
    known = {each.name for each in session.before.usb}
    came = {each.name for each in session.bench.kernel.links().usb if each.is_hub and each.name not in known}
    return ids, frozenset(came) if session.device_came else frozenset()
