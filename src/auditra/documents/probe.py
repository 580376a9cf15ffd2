"""A host's snapshot as JSON: what `auditra probe --json` writes, and what is kept as evidence with each trial."""

from __future__ import annotations

from pydantic import BaseModel, ValidationError

from auditra.core.errors import InputError
from auditra.core.host.limits import lane_limits, power_limits
from auditra.core.host.link import UsbLinkState, link_states
from auditra.core.host.snapshot import Snapshot
from auditra.core.sanitize import sanitize

MEDIA_TYPE = "application/json"


class TypeCLimits(BaseModel):
    """What limits a C socket, in words."""

    port: str
    power: tuple[str, ...]
    lanes: tuple[str, ...]


class ProbeFile(BaseModel):
    """A snapshot, and what follows from it for each link."""

    format: str = "auditra probe"
    version: int = 2
    root: str = ""
    snapshot: Snapshot
    usb_links: tuple[UsbLinkState, ...] = ()
    type_c_limits: tuple[TypeCLimits, ...] = ()


def probe_file(snapshot: Snapshot, root: str = "") -> ProbeFile:
    limits = tuple(
        TypeCLimits(port=each.name, power=tuple(power_limits(each)), lanes=tuple(lane_limits(each)))
        for each in snapshot.type_c
    )
    return ProbeFile(root=root, snapshot=snapshot, usb_links=link_states(snapshot), type_c_limits=limits)


def read_probe_file(data: bytes, name: str) -> Snapshot:
    """The snapshot in a file. Raises: InputError, with the place of what is wrong."""
    try:
        return ProbeFile.model_validate_json(data).snapshot
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(map(str, first["loc"]))
        why = f"{place}: {first['msg']}" if place else first["msg"]
        raise InputError(name, why=sanitize(why, 300), do="Name a file that probe --json wrote") from error
