"""The kernel's own word that something came or went, where it may be heard; else time passes and one looks again.

Source: Linux, lib/kobject_uevent.c; netlink(7), NETLINK_KOBJECT_UEVENT.
"""

from __future__ import annotations

import select
import socket
import time

_KOBJECT_UEVENT, _FROM_THE_KERNEL = 15, 1
_MAX_EVENT_LENGTH = 8192
_SUBSYSTEMS = (b"usb", b"typec", b"net", b"drm", b"block", b"thunderbolt", b"power_supply")
_LOOK_EVERY_S = 0.5
_MAX_AT_ONCE = 256


class KernelEvents:
    """Waits until something may have changed. Without permission to listen it says so after half a second."""

    def __init__(self) -> None:
        self._socket = _listen()

    @property
    def are_heard(self) -> bool:
        return self._socket is not None

    def wait(self, seconds: float) -> bool:
        """Whether it is worth looking again: something changed, or it is unknown."""
        if self._socket is None:
            time.sleep(min(seconds, _LOOK_EVERY_S))
            return True
        ready, _, _ = select.select([self._socket], [], [], seconds)
        return bool(ready) and self._is_of_interest()

    def close(self) -> None:
        if self._socket is not None:
            self._socket.close()

    def _is_of_interest(self) -> bool:
        """Take in all that has been said, so that one look answers it."""
        assert self._socket is not None
        found = False
        for _ in range(_MAX_AT_ONCE):
            try:
                event = self._socket.recv(_MAX_EVENT_LENGTH, socket.MSG_DONTWAIT)
            except BlockingIOError:
                break
            except OSError:
                return True  # more was said than was kept
            found = found or any(b"SUBSYSTEM=" + each in event for each in _SUBSYSTEMS)
        return found


def _listen() -> socket.socket | None:
    family = getattr(socket, "AF_NETLINK", None)
    if family is None:
        return None
    try:
        made = socket.socket(family, socket.SOCK_RAW, _KOBJECT_UEVENT)
        made.bind((0, _FROM_THE_KERNEL))
    except OSError:
        return None
    return made
