"""The modes that outputs run now, by the kernel's public mode-setting interface: asked, never changed.

Nothing here needs to be the display's master. Without permission, or without graphics, there is nothing to tell.
Source: Linux, include/uapi/drm/drm_mode.h (structures and request numbers).
"""

from __future__ import annotations

import array
import fcntl
import os
import struct
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from auditra.core.host.snapshot import RunningMode

CARDS = Path("/dev/dri")
Ask = Callable[[int, int, bytearray], None]
"""Answers a request on an open card in place, as ioctl(2) does. Raises: OSError."""
_RESOURCES, _CONNECTOR, _ENCODER, _CRTC = 0xA0, 0xA7, 0xA6, 0xA1
_RESOURCES_FORM, _CONNECTOR_FORM, _ENCODER_FORM = "=4Q8I", "=4Q8I", "=5I"
_CRTC_FORM = "=Q7I" + "I10H3I32s"
_MODE_BYTES = 68
_MAX_CARDS, _MAX_OUTPUTS = 8, 64
_INTERLACED, _DOUBLED = 1 << 4, 1 << 5


def _request(number: int, size: int) -> int:
    """Both ways, of the type of graphics. Source: Linux, include/uapi/asm-generic/ioctl.h."""
    return 3 << 30 | size << 16 | ord("d") << 8 | number


def _ioctl(file: int, request: int, data: bytearray) -> None:
    fcntl.ioctl(file, request, data, True)


class Modes:
    """Open cards. Called, it says which mode each connector runs, by the number of the connector."""

    def __init__(self, files: list[int], ask: Ask = _ioctl) -> None:
        self._files, self._ask = files, ask

    @property
    def are_told(self) -> bool:
        """Whether any card may be asked at all."""
        return bool(self._files)

    def __call__(self) -> dict[int, RunningMode]:
        found: dict[int, RunningMode] = {}
        for file in self._files:
            try:
                found.update(self._of_card(file))
            except OSError:
                continue
        return found

    def _of_card(self, file: int) -> Iterator[tuple[int, RunningMode]]:
        for connector in self._connectors(file):
            mode = self._mode(file, connector)
            if mode is not None:
                yield connector, mode

    def _connectors(self, file: int) -> list[int]:
        """Asked twice: how many there are, then which."""
        form = bytearray(struct.calcsize(_RESOURCES_FORM))
        self._ask(file, _request(_RESOURCES, len(form)), form)
        count = min(struct.unpack(_RESOURCES_FORM, form)[6], _MAX_OUTPUTS)
        if not count:
            return []
        room = array.array("I", [0] * count)
        form = bytearray(struct.pack(_RESOURCES_FORM, 0, 0, room.buffer_info()[0], 0, 0, 0, count, 0, 0, 0, 0, 0))
        self._ask(file, _request(_RESOURCES, len(form)), form)
        return list(room)

    def _mode(self, file: int, connector: int) -> RunningMode | None:
        """Connector to encoder to what drives it. Room for a mode is offered: asked without, the kernel may probe."""
        room = array.array("B", bytes(_MODE_BYTES))
        form = bytearray(struct.pack(_CONNECTOR_FORM, 0, room.buffer_info()[0], 0, 0, 1, 0, 0, 0, connector, 0, 0, 0))
        form += bytearray(16)
        self._ask(file, _request(_CONNECTOR, len(form)), form)
        encoder = struct.unpack_from(_CONNECTOR_FORM, form)[7]
        if not encoder:
            return None
        form = bytearray(struct.pack(_ENCODER_FORM, encoder, 0, 0, 0, 0))
        self._ask(file, _request(_ENCODER, len(form)), form)
        driver = struct.unpack(_ENCODER_FORM, form)[2]
        if not driver:
            return None
        form = bytearray(struct.calcsize(_CRTC_FORM))
        struct.pack_into("=I", form, 12, driver)
        self._ask(file, _request(_CRTC, len(form)), form)
        return _running(struct.unpack(_CRTC_FORM, form))


def _running(told: tuple[int, ...]) -> RunningMode | None:
    """The mode of what drives an output; None while it drives none."""
    valid, clock_khz, width, total_width = told[7], told[8], told[9], told[12]
    height, total_height, flags = told[14], told[17], told[20]
    if not valid or not clock_khz or not total_width or not total_height:
        return None
    refresh = clock_khz * 1_000_000 / (total_width * total_height)
    interlaced, doubled = bool(flags & _INTERLACED), bool(flags & _DOUBLED)
    refresh *= 2 if interlaced else 1
    refresh /= 2 if doubled else 1
    return RunningMode(width, height, round(refresh), clock_khz, interlaced)


@contextmanager
def open_modes(folder: Path = CARDS) -> Iterator[Modes]:
    """The cards that may be opened; none is as good as an answer of nothing."""
    files = []
    try:
        names = sorted(each for each in os.listdir(folder) if each.startswith("card"))[:_MAX_CARDS]
    except OSError:
        names = []
    for name in names:
        try:
            files.append(os.open(folder / name, os.O_RDWR | os.O_CLOEXEC))
        except OSError:
            continue
    try:
        yield Modes(files)
    finally:
        for file in files:
            os.close(file)
