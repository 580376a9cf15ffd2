"""A snapshot of a host with 60 devices beside bare reads of the same files; and decoders, in things a second."""

from __future__ import annotations

import os
import tempfile
import time
from pathlib import Path

from auditra.bench.kernel.tree import KernelTree
from auditra.core.decode.display.edid import decode_edid
from auditra.core.decode.power_delivery.objects import decode_objects
from auditra.core.decode.usb_descriptors import decode_descriptors
from auditra.core.simulate import descriptors
from auditra.core.simulate import display_description as display
from benchmarks.pairs import take_pairs

DEVICES, PAIRS, ROUNDS, AIM_TIMES = 60, 9, 400, 3.0
_ATTRIBUTES = {
    "speed": "480", "version": " 2.10", "idVendor": "1f6e", "idProduct": "5501", "bDeviceClass": "00",
    "bMaxPower": "500mA", "bmAttributes": "80", "maxchild": "0", "product": "made-up disk", "manufacturer": "nobody",
    "serial": "000", "rx_lanes": "1", "tx_lanes": "1",
}  # fmt: skip


def make_host(root: Path) -> list[str]:
    """A bus with so many devices, and the paths of all its files."""
    bus = root / "bus/usb/devices"
    bus.mkdir(parents=True)
    for port in range(1, DEVICES + 1):
        home = root / f"devices/pci0/usb1/1-{port}"
        home.mkdir(parents=True)
        for name, value in _ATTRIBUTES.items():
            (home / name).write_text(f"{value}\n")
        (home / "bos_descriptors").write_bytes(descriptors.capabilities(descriptors.superspeed()))
        (bus / f"1-{port}").symlink_to(f"../../../devices/pci0/usb1/1-{port}")
    return [str(path) for path in root.rglob("*") if path.is_file() and not path.is_symlink()]


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        files = make_host(Path(folder))
        tree = KernelTree(Path(folder))

        def snapshots_a_second() -> float:
            begun = time.perf_counter()
            found = tree.snapshot()
            seconds = time.perf_counter() - begun
            assert len(found.usb) == DEVICES
            return 1 / seconds

        def bare_reads_a_second() -> float:
            begun = time.perf_counter()
            for path in files:
                file = os.open(path, os.O_RDONLY)
                os.read(file, 4096)
                os.close(file)
            return 1 / (time.perf_counter() - begun)

        pairs = take_pairs(bare_reads_a_second, snapshots_a_second, PAIRS)
        aim = f"aim: at most {AIM_TIMES:g} times the time of bare reads of the same {len(files)} files"
        print(pairs.told(f"snapshots of {DEVICES} devices", "a second", aim=aim))
    disk = descriptors.disk()
    edid = display.base(display.detailed(3840, 2160, 594_000, 560, 90), extensions=1) + display.cta(
        display.video(97, 96, 95, 16, 31, 5, 4), display.hdmi(codes=(1, 3)), display.hdmi_forum(fixed=6), display.hdr()
    )
    words = [0x0001912C, 0x0002D12C, 0x000641F4, 0xC9A4213C, 0xD3C0968C] * 20
    print(f"USB descriptors: {_a_second(lambda: decode_descriptors(disk)):,.0f} devices a second")
    print(f"EDID, two blocks: {_a_second(lambda: decode_edid(edid)):,.0f} a second (aim 2,000)")
    print(f"power data objects: {100 * _a_second(lambda: decode_objects(words)):,.0f} a second (aim 100,000)")


def _a_second(decode: object) -> float:
    assert callable(decode)
    begun = time.perf_counter()
    for _ in range(ROUNDS):
        decode()
    return ROUNDS / (time.perf_counter() - begun)


if __name__ == "__main__":
    main()
