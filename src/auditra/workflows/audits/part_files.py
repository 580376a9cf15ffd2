"""A file about a part of the rig: a display's description, a cable's capture or a host's probe fills the part in.

Its bytes are kept as evidence, so that what was filled in can be looked at again.
"""

from __future__ import annotations

from dataclasses import replace

from auditra.core.decode.cable import CableKnown, allows
from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.edid import decode_edid
from auditra.core.decode.identity import limits_in_words
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import EvidenceKept, Fact
from auditra.core.model.noted import Noted
from auditra.core.model.rig import Display, Host, Lead, Part
from auditra.core.sanitize import sanitize
from auditra.documents.cable import read_cable
from auditra.documents.probe import read_probe_file
from auditra.workflows.audits.attaching import EDID_BEGINS, MAX_FILE_BYTES
from auditra.workflows.audits.photos import OTHER_FILE, picture_type
from auditra.workflows.audits.rig_edits import host_filled_in, part_edited
from auditra.workflows.hosts.probing import facts_of_probe
from auditra.workflows.trials.doors import EvidenceKeeper

HIGH_SPEED_BPS = 480e6
"""What one pair of wires carries in USB 2.0, section 7.1."""
MAX_MODES = 24
"""As many of a description's modes as are worth a line of a rig file: the largest."""


def facts_of_part_file(audit: Audit, part_id: str, name: str, data: bytes, keeper: EvidenceKeeper) -> tuple[Fact, ...]:
    """The evidence, and the part with what the file says. Raises: InputError, StoreError."""
    part = audit.rig.part(part_id)
    if part is None:
        raise InputError(sanitize(part_id, 40), why="the rig has no such part any more", do="Choose another")
    if len(data) > MAX_FILE_BYTES:
        raise InputError(sanitize(name, 80), why=f"it is longer than {MAX_FILE_BYTES} bytes", do="Keep a part of it")
    if isinstance(part, Host) and name.endswith(".json"):
        snapshot = read_probe_file(data, name)
        return (*facts_of_probe(part, snapshot, keeper), *host_filled_in(audit, part_id, snapshot))
    filled, kind = _filled(part, name, data)
    sha256 = keeper.keep(data)
    kept = EvidenceKept(sha256, sanitize(name, 80), len(data), media_type=kind, about=f"gear {part_id}")
    if kind.startswith("image/"):
        filled = replace(filled, photo=sha256)
    return (kept, *(part_edited(audit, part_id, filled) if filled != part else ()))


def _filled(part: Part, name: str, data: bytes) -> tuple[Part, str]:
    """The part with what a file says of it, and what sort of file it is. Raises: InputError."""
    if photo := picture_type(data):
        return part, photo
    if isinstance(part, Display) and data.startswith(EDID_BEGINS):
        return _display(part, decode_edid(data)), OTHER_FILE
    if isinstance(part, Lead) and name.endswith(".toml"):
        return _lead(part, read_cable(data, name)), "application/toml"
    return part, OTHER_FILE


def _display(display: Display, edid: Edid) -> Display:
    """Modes, variable refresh and serial as the description has them; nothing of one that is damaged."""
    if not edid.is_whole:
        return display
    modes = {
        str(timing.mode): timing.mode.pixels_a_second
        for timing in edid.timings
        if not timing.interlaced and timing.refresh_millihz
    }
    best = sorted(modes, key=lambda mode: modes[mode], reverse=True)[:MAX_MODES]
    serial = edid.serial_text.strip()
    return replace(
        display, modes=tuple(best) or display.modes, vrr=edid.adaptive is not None,
        serial=sanitize(serial, 40) if serial else display.serial,
    )  # fmt: skip


def _lead(lead: Lead, known: CableKnown) -> Lead:
    """Marker, amperes and data rate as the capture has them."""
    found = allows(known)
    cable = known.marker.cable if known.marker is not None else None
    marker = limits_in_words(cable) if cable is not None else (None if known.answered is False else lead.marker)
    amperes = cable.current_ma / 1000 if cable is not None and cable.current_ma else lead.amperes
    return replace(lead, marker=marker, amperes=amperes, data_bps=_data_rate(known, found.lane_mbps, lead.data_bps))


def _data_rate(known: CableKnown, lane_mbps: int | None, noted: Noted[float]) -> Noted[float]:
    """By its wires where those were seen: without any pair for data it is for charging alone."""
    if known.wires is not None and not {"TX1", "TX2"} & known.wires:
        return HIGH_SPEED_BPS if {"D+", "D-"} <= known.wires else None
    return lane_mbps * 1e6 if lane_mbps else noted
