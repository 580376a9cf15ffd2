"""Probing a host of the rig: the result is kept as evidence and compared with what the rig file says."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.errors import InputError
from auditra.core.host.snapshot import Snapshot
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import EvidenceKept, Fact
from auditra.core.model.rig import Host
from auditra.core.plan.planner import run_sheet_of
from auditra.workflows.trials.doors import EvidenceKeeper, Journal

_C_SOCKETS = ("usb-c",)


def facts_of_probe(host: Host, snapshot: Snapshot, keeper: EvidenceKeeper) -> tuple[Fact, ...]:
    """The facts that record a probed host. Raises: StoreError."""
    from auditra.documents.probe import MEDIA_TYPE, probe_file  # an audit opens without it

    data = probe_file(snapshot).model_dump_json().encode()
    sha256 = keeper.keep(data)
    return (EvidenceKept(sha256, f"host-{host.id}.json", len(data), media_type=MEDIA_TYPE, about=_about(host.id)),)


def last_probe(host_id: str, audit: Audit, journal: Journal) -> Snapshot | None:
    """What a host said when it was asked last; None where it never was. Raises: StoreError, InputError."""
    kept = [each for each in audit.evidence if each.about == _about(host_id)]
    if not kept:
        return None
    from auditra.documents.probe import read_probe_file

    return read_probe_file(journal.evidence_of(kept[-1].sha256), kept[-1].name)


def host_of(audit: Audit, host_id: str) -> Host:
    """Raises: InputError where there is no such host in the rig."""
    host = audit.rig.host(host_id)
    if host is None:
        known = ", ".join(each.id for each in audit.rig.hosts)
        raise InputError(f'"{host_id}"', why="there is no such host in the rig", do=f"It has: {known}")
    return host


def this_host(audit: Audit) -> str:
    """The host of the rig that this machine is: the one that trials run on; before any, the one they are planned on."""
    if audit.last_setup is not None:
        return audit.last_setup.host
    planned = run_sheet_of(audit).trials
    return planned[0].setup.host if planned else next((host.id for host in audit.rig.hosts), "")


def require_this_host(audit: Audit, host: Host) -> None:
    """Raises: InputError for another host than this machine: it cannot answer for that one."""
    here = this_host(audit)
    if host.id != here:
        why = f"this machine is the {audit.rig.name_of(here)}, and cannot answer for another"
        do = (
            "On that computer run: auditra probe --json > probe.json; then press v in stage 3 and name that file, "
            f"or run: auditra attach AUDIT {host.id} probe.json"
        )
        raise InputError(f"the {host.name}", why=why, do=do)


def unlike_the_rig(host: Host, snapshot: Snapshot) -> Iterator[str]:
    """Where a host's own word and the rig file differ, in words; a class that the kernel does not have says nothing."""
    noted = [socket for socket in host.sockets if socket.connector in _C_SOCKETS]
    if "type_c" not in snapshot.absent and len(noted) != len(snapshot.type_c):
        yield f"the rig file lists {len(noted)} USB-C ports, the host reports {len(snapshot.type_c)}"
    wired = [each for each in host.sockets if each.connector == "rj45"]
    interfaces = [each for each in snapshot.network if not each.virtual or each.speed_mbps is not None]
    if "network" not in snapshot.absent and wired and not interfaces:
        yield "the rig file lists a network port, the host reports none"
    model = snapshot.host.model
    if isinstance(host.variant, str) and model and host.variant.casefold() not in snapshot.host.words.casefold():
        yield f"the rig file says {host.variant}, the host reports {snapshot.host.words}"


def _about(host_id: str) -> str:
    return f"host {host_id}"
