"""What an audit begins with: one typed in the application, or one that follows another."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.claims.claim import Claim
from auditra.core.errors import InputError
from auditra.core.host.as_rig_host import host_from
from auditra.core.host.snapshot import Snapshot
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import (
    BenchNoted,
    ClaimMade,
    DeviceNoted,
    Fact,
    FollowUpNoted,
    ProfileChosen,
    RigNoted,
)
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Rig
from auditra.core.sanitize import sanitize

MAX_NAME_LENGTH = 64
DEVICE_KINDS = ("dock", "hub", "adapter", "cable", "charger", "card reader", "switch")
"""What is audited most; any other words are a kind too."""
THIS_MACHINE = "this-machine"
_ENDS_OF_A_CABLE = (("plug end", "K1"), ("tail end", "K2"))


def check_name(name: str) -> None:
    """Raises: InputError for a name that no audit can have."""
    if not 0 < len(name) <= MAX_NAME_LENGTH or sanitize(name) != name or name.strip() != name:
        raise InputError(
            f'"{sanitize(name, 80)}"', why=f"a name has 1 to {MAX_NAME_LENGTH} plain characters", do="Choose one"
        )


def new_device(maker: str, model: str, kind: str, plug: str) -> Device:
    """A device of which little is known yet: its host plug, and a front for the sockets that claims will name."""
    if kind == "cable":
        faces = tuple(Face(name, (Port(port, plug),)) for name, port in _ENDS_OF_A_CABLE)
        return Device(maker, model, kind, faces)
    upstream = Port("UP", plug, Role.UPSTREAM)
    return Device(maker, model, kind, (Face("front", ()), Face("back", (upstream,))))


def facts_of_new(device: Device, rig: Rig) -> tuple[Fact, ...]:
    """An audit on this machine, with no claim yet."""
    return BenchNoted(LIVE_BENCH), DeviceNoted(device), RigNoted(rig)


def rig_of_this_machine(name: str, snapshot: Snapshot) -> Rig:
    """A rig with the one host that everybody has."""
    return Rig(name, (host_from(snapshot, THIS_MACHINE),))


def facts_of_follow_up(audit: Audit, changed: str, head: str) -> tuple[Fact, ...]:
    """A later audit of the same device: claims, rig and open doubts are kept, trials are not. Raises: InputError."""
    words = " ".join(changed.split())
    if not words:
        why, do = "nothing is named that changed", "Name the one thing: a firmware, a lead, a host, a second sample"
        raise InputError("the follow-up", why=why, do=do)
    bench: tuple[Fact, ...] = (BenchNoted(audit.bench),) if audit.bench is not None else ()
    profile: tuple[Fact, ...] = (ProfileChosen(audit.profile),) if audit.profile is not None else ()
    doubts = (
        replace(doubt.raised, id=f"D{number}", moment=NOT_NOTED)
        for number, doubt in enumerate((each for each in audit.doubts if each.ended is None), start=1)
    )
    return (
        *bench, *profile, *map(DeviceNoted, audit.devices or (audit.device,)), RigNoted(audit.rig),
        *map(_made, audit.claims), FollowUpNoted(audit.name, sanitize(words, 200), head), *doubts,
    )  # fmt: skip


def _made(claim: Claim) -> ClaimMade:
    return ClaimMade(claim.id, str(claim), claim.source, claim.device)
