"""What a display's description says, as a file, and as gear of a rig."""

from __future__ import annotations

import re

from pydantic import BaseModel

from auditra.core.decode.display.comparison import DisplayChange, compare_displays
from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.edid import decode_edid
from auditra.core.decode.display.needs import LinkNeed, links_for
from auditra.core.decode.display.timing import DisplayTiming
from auditra.core.errors import InputError
from auditra.core.model.rig import Display

_MAX_MODES = 40
_BASE_MODE = "640x480@60"
"""What every display shows, whatever it says. Source: VESA E-EDID A2, 3.1.1 (base video mode)."""


class EdidFile(BaseModel):
    """What a display's description says: its modes, what each takes, and how another description differs."""

    format: str = "auditra decode edid"
    version: int = 1
    edid: Edid
    modes: tuple[DisplayTiming, ...]
    links: tuple[LinkNeed, ...]
    preferred: str | None = None
    native: tuple[str, ...] = ()
    depths_bits: tuple[int, ...] = ()
    colour_formats: tuple[str, ...] = ()
    hdr: bool = False
    adaptive_hz: tuple[int, int | None] | None = None
    """Between which rates it follows its source; None behind the first where that is the mode's own."""
    differs: tuple[DisplayChange, ...] | None = None


def edid_of(data: bytes, other: bytes | None = None) -> EdidFile:
    """A description; `other` is the same display's through something else."""
    edid = decode_edid(data)
    differs = compare_displays(edid, decode_edid(other)) if other is not None else None
    links = tuple(links_for(mode) for mode in edid.modes)
    return EdidFile(
        edid=edid, modes=edid.modes, links=links, differs=differs,
        preferred=edid.preferred.name if edid.preferred is not None else None,
        native=tuple(each.name for each in edid.native), depths_bits=edid.depths_bits,
        colour_formats=edid.colour_formats, hdr=edid.hdr, adaptive_hz=edid.adaptive,
    )  # fmt: skip


def display_as_gear(edid: Edid) -> Display:
    """The display as a part of the rig: its name, and every whole picture that it takes, best first.

    Raises: InputError, if its description cannot be read.
    """
    if not edid.is_readable:
        do = "Read it again, or enter the modes by hand"
        raise InputError("the display description", why="it is unreadable", do=do)
    modes = tuple(mode.name for mode in edid.modes if not mode.interlaced) or (_BASE_MODE,)
    name = edid.name or "display"
    connector = "displayport" if edid.interface == "DisplayPort" and not edid.cta else "hdmi"
    words = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "display"
    return Display(words, name, connector, modes[:_MAX_MODES], vrr=edid.adaptive is not None)
