"""Proof that what is measured is on the device under audit, so that no inner disk can pass for a dock."""

from __future__ import annotations

from auditra.core.errors import TargetError
from auditra.core.journal.facts import PathTraced
from auditra.core.model.storage_path import PathTrace
from auditra.workflows.trials.measure.session import TrialSession


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


def _through_device(session: TrialSession, path: PathTrace) -> bool:
    """By the ids of its hubs where they are noted; else by the hubs that came with it."""
    noted = session.device.usb_ids
    ids = frozenset(noted) if isinstance(noted, tuple) else frozenset()
    known = {each.name for each in session.before.usb}
    came = {each.name for each in session.bench.kernel.links().usb if each.is_hub and each.name not in known}
    return path.leads_through(frozenset(came) if session.device_came else frozenset(), ids)
