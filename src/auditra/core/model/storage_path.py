"""The path under test: from a folder to the mount, the block device, the USB path and the link it hangs on."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class UsbStep:
    """One USB device on the way, from the host outwards. `speed_bps` is None where the kernel does not say."""

    name: str
    usb_id: str
    speed_bps: float | None
    product: str = ""
    is_hub: bool = False


@dataclass(frozen=True)
class PathTrace:
    """What the kernel reports about a folder's way to the host. An empty `usb` says that no USB link lies on it."""

    folder: str
    mount: str
    file_system: str
    block_device: str
    usb: tuple[UsbStep, ...] = ()
    why_not: str = ""
    """Why the way could not be followed to its end; empty where it was."""

    @property
    def drive(self) -> UsbStep | None:
        """The USB device that the folder is on."""
        return self.usb[-1] if self.usb else None

    @property
    def drive_identity(self) -> str:
        """What a drive is known by, whichever socket it is in."""
        return (
            f"{self.drive.usb_id} {self.drive.product}".strip() if self.drive else f"block device {self.block_device}"
        )

    def leads_through(self, hubs: frozenset[str], usb_ids: frozenset[str]) -> bool:
        """Whether one of these hubs, by name or by vendor and product, lies between the host and the drive."""
        return any(step.name in hubs or step.usb_id in usb_ids for step in self.usb[:-1] if step.is_hub)

    def in_words(self) -> str:
        """``/media/film on /dev/sdb1, usb 2-1.3 at 5 Gb/s behind 2-1``."""
        if self.drive is None:
            return f"{self.folder}: on {self.block_device}, {self.why_not or 'on no USB link'}"
        behind = f" behind {', '.join(step.name for step in self.usb[:-1])}" if len(self.usb) > 1 else ""
        return f"{self.folder}: on {self.block_device}, usb {self.drive.name}{behind}"
