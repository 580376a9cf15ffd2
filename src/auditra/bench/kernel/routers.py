"""USB4 and Thunderbolt: routers with their links, the controllers they hang on, and what repairs the signal between.

Source: Linux, Documentation/ABI (sysfs-bus-thunderbolt).
"""

from __future__ import annotations

import re

from auditra.bench.kernel.attributes import Attributes
from auditra.core.host.routers import Retimer, Router, RouterDomain, RouterPort

FOLDER = "bus/thunderbolt/devices"
_ROUTER = re.compile(r"[0-9]{1,3}-[0-9a-f]{1,16}")
_RETIMER = re.compile(r"([0-9]{1,3}-[0-9a-f]{1,16}):[0-9]{1,3}\.[0-9]{1,3}")
_DOMAIN = re.compile(r"domain[0-9]{1,3}")
_ROUTER_PORT = re.compile(r"usb4_port([0-9]{1,3})")


def read_routers(files: Attributes) -> tuple[Router, ...]:
    """USB4 and Thunderbolt routers with the link towards the host."""
    names = [name for name in files.entries(FOLDER) if _ROUTER.fullmatch(name)]
    return tuple(_router(files, name, place) for name in names if (place := files.home(FOLDER, name)) is not None)


def _router(files: Attributes, name: str, place: str) -> Router:
    authorized = files.integer(place, "authorized")
    return Router(
        name, files.text(place, "device_name", 80) or "", files.text(place, "vendor_name", 80) or "",
        files.integer(place, "generation"), _mbps(files, place, "rx_speed"), _mbps(files, place, "tx_speed"),
        files.integer(place, "rx_lanes"), files.integer(place, "tx_lanes"),
        None if authorized is None else authorized > 0,
        tuple(
            RouterPort(int(found[1]), files.text(f"{place}/{entry}", "link") or None,
                       files.points_to(f"{place}/{entry}", "connector"))
            for entry in files.entries(place) if (found := _ROUTER_PORT.fullmatch(entry)) is not None
        ),
    )  # fmt: skip


def read_domains(files: Attributes) -> tuple[RouterDomain, ...]:
    """The controllers that routers hang on."""
    names = [name for name in files.entries(FOLDER) if _DOMAIN.fullmatch(name)]
    return tuple(
        RouterDomain(name, files.text(place, "security") or None, files.flag(place, "iommu_dma_protection"))
        for name in names if (place := files.home(FOLDER, name)) is not None
    )  # fmt: skip


def read_retimers(files: Attributes) -> tuple[Retimer, ...]:
    """What repairs the signal between two routers."""
    found = ((name, match[1]) for name in files.entries(FOLDER) if (match := _RETIMER.fullmatch(name)) is not None)
    return tuple(
        Retimer(name, router, files.hexadecimal(place, "vendor"), files.hexadecimal(place, "device"),
                files.text(place, "nvm_version", 40) or None)
        for name, router in found if (place := files.home(FOLDER, name)) is not None
    )  # fmt: skip


def _mbps(files: Attributes, place: str, name: str) -> float | None:
    """``20.0 Gb/s`` in Mb/s; None without a link."""
    gbps = files.decimal(place, name, "Gb/s")
    return gbps * 1000 if gbps is not None and gbps > 0 else None
