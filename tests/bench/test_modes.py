"""The mode that an output runs, asked of a made-up kernel; and events that nobody may hear."""

from __future__ import annotations

import ctypes
import socket
import struct
from pathlib import Path

import pytest

from auditra.bench.displays import HostDisplays
from auditra.bench.kernel.events import KernelEvents
from auditra.bench.kernel.modes import Modes, open_modes
from auditra.bench.kernel.tree import KernelTree
from auditra.core.errors import BenchError
from tests.support.hosts import add_files

CONNECTOR, ENCODER, DRIVER = 31, 41, 51
MODE = struct.pack("=I10H3I32s", 533_250, 3840, 3888, 3920, 4000, 0, 2160, 2163, 2168, 2222, 0, 60, 0, 0, b"made up")


class Kernel:
    """Answers mode-setting requests as the kernel does; `mode` of None drives nothing."""

    def __init__(self, mode: bytes | None = MODE, *, encoder: int = ENCODER, fails_at: int | None = None) -> None:
        self.mode, self.encoder, self.fails_at = mode, encoder, fails_at
        self.asked: list[int] = []

    def __call__(self, file: int, request: int, data: bytearray) -> None:
        number = request & 0xFF
        self.asked.append(number)
        assert request >> 16 & 0x3FFF == len(data)
        if number == self.fails_at:
            raise OSError(13, "Permission denied")
        {0xA0: self.resources, 0xA7: self.connector, 0xA6: self.encode, 0xA1: self.drive}[number](data)

    def resources(self, data: bytearray) -> None:
        room, count = struct.unpack_from("=Q", data, 16)[0], struct.unpack_from("=I", data, 40)[0]
        if count and room:
            ctypes.memmove(room, struct.pack("=I", CONNECTOR), 4)
        struct.pack_into("=I", data, 40, 1)

    def connector(self, data: bytearray) -> None:
        assert struct.unpack_from("=I", data, 48)[0] == CONNECTOR
        assert struct.unpack_from("=I", data, 32)[0] == 1, "asked for no modes, the kernel may look for a display anew"
        struct.pack_into("=I", data, 44, self.encoder)

    def encode(self, data: bytearray) -> None:
        struct.pack_into("=I", data, 8, DRIVER)

    def drive(self, data: bytearray) -> None:
        assert struct.unpack_from("=I", data, 12)[0] == DRIVER
        struct.pack_into("=I", data, 32, int(self.mode is not None))
        data[36:104] = self.mode or bytes(68)


def test_the_running_mode_with_its_exact_refresh() -> None:
    running = Modes([0], Kernel())()[CONNECTOR]
    assert (running.width, running.height, running.pixel_clock_khz) == (3840, 2160, 533_250)
    assert running.refresh_millihz == 59_997


def test_an_interlaced_mode_shows_two_fields_a_picture() -> None:
    flags = struct.pack("=I10H3I32s", 74_250, 1920, 2008, 2052, 2200, 0, 1080, 1084, 1094, 1125, 0, 60, 1 << 4, 0, b"")
    running = Modes([0], Kernel(flags))()[CONNECTOR]
    assert (running.refresh_millihz, running.interlaced) == (60_000, True)


@pytest.mark.parametrize(
    "kernel",
    [Kernel(None), Kernel(encoder=0), Kernel(bytes(68)), *(Kernel(fails_at=each) for each in (0xA0, 0xA7, 0xA1))],
)
def test_what_is_not_driven_or_not_permitted_has_no_mode(kernel: Kernel) -> None:
    assert Modes([0], kernel)() == {}


def test_only_questions_are_asked() -> None:
    kernel = Kernel()
    Modes([0], kernel)()
    assert set(kernel.asked) == {0xA0, 0xA7, 0xA6, 0xA1}


def test_a_machine_without_graphics_has_nothing_to_tell(tmp_path: Path) -> None:
    (tmp_path / "card0").write_bytes(b"no card")
    for folder in (tmp_path, tmp_path / "none"):
        with open_modes(folder) as modes:
            assert modes() == {}


def test_where_events_may_not_be_heard_one_looks_again(monkeypatch: pytest.MonkeyPatch) -> None:
    def refuse(*_: object) -> socket.socket:
        raise PermissionError(1, "Operation not permitted")

    monkeypatch.setattr(socket, "socket", refuse)
    events = KernelEvents()
    assert not events.are_heard
    assert events.wait(0.01)


def test_only_events_of_links_are_worth_a_look(monkeypatch: pytest.MonkeyPatch) -> None:
    ours, kernel = socket.socketpair(socket.AF_UNIX, socket.SOCK_DGRAM)
    monkeypatch.setattr("auditra.bench.kernel.events._listen", lambda: ours)
    events = KernelEvents()
    assert not events.wait(0.01)
    kernel.send(b"add@/devices/x\0ACTION=add\0SUBSYSTEM=input\0")
    assert not events.wait(0.01)
    for _ in range(3):
        kernel.send(b"add@/devices/usb1/1-1\0ACTION=add\0SUBSYSTEM=usb\0")
    assert events.wait(0.01)
    assert not events.wait(0.01)
    events.close()
    kernel.close()


class Asked:
    """Answers one question, and counts."""

    def __init__(self, answer: str = "") -> None:
        self.answer, self.times = answer, 0

    def ask(self, question: str, hint: str) -> str:
        self.times += 1
        return self.answer


def host(tmp_path: Path, **connectors: int) -> KernelTree:
    """Connectors with a display each, by number; those of the host itself too."""
    for name, number in connectors.items():
        add_files(tmp_path, f"class/drm/card0-{name.replace('_', '-')}", {
            "status": "connected", "connector_id": number, "enabled": "enabled",
        })  # fmt: skip
    kernel = Kernel()
    return KernelTree(tmp_path, Modes([0], kernel))


def test_the_one_display_that_is_on_is_the_one_that_is_meant(tmp_path: Path) -> None:
    person = Asked()
    displays = HostDisplays(host(tmp_path, DP_1=CONNECTOR, eDP_1=7), person)  # type: ignore[arg-type]
    assert str(displays.mode_of("projector")) == "3840x2160@59.997"
    assert person.times == 0


def test_of_several_a_person_says_which_and_is_asked_once(tmp_path: Path) -> None:
    person = Asked("card0-DP-1")
    displays = HostDisplays(host(tmp_path, DP_1=CONNECTOR, HDMI_A_1=8), person)  # type: ignore[arg-type]
    assert displays.mode_of("projector") is not None
    assert displays.mode_of("projector") is not None
    assert person.times == 1


def test_a_connector_that_is_not_there_ends_the_trial_and_accuses_nobody(tmp_path: Path) -> None:
    displays = HostDisplays(host(tmp_path, DP_1=CONNECTOR, DP_2=8), Asked("DP-9"))  # type: ignore[arg-type]
    with pytest.raises(BenchError, match="no display"):
        displays.mode_of("projector")


def test_without_a_display_or_a_running_mode_there_is_no_picture(tmp_path: Path) -> None:
    assert HostDisplays(host(tmp_path), Asked()).mode_of("projector") is None  # type: ignore[arg-type]
    displays = HostDisplays(host(tmp_path, DP_3=99), Asked())  # type: ignore[arg-type]
    assert displays.mode_of("projector") is None
