"""A port of the device, or the device as a whole, once everything else that took part was seen to work."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause
from auditra.core.judge.reasoning.elimination import Method
from auditra.core.judge.reasoning.explained import Explained, explained
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.circumstance import AtPort, Circumstances, Through


@dataclass(frozen=True, kw_only=True)
class DevicePart(Explained):
    kind = "device part"

    @property
    def subject(self) -> str:
        """The port; the ports that fail alike, where the device as a whole is left; and what came with it."""
        own = self.named if isinstance(self.things[0], AtPort) else " and ".join(self._failing_ports)
        return " or ".join((own, *self.shipped))

    @property
    def sentence(self) -> str:
        if isinstance(self.things[0], Through):
            return f"{self.claim} fails at {self.subject} alike: what they share inside the device is the cause"
        elsewhere = (
            "a port like it works with the same gear" if self.method is Method.TWINS else "the rig works without"
        )
        itself = " or ".join((f"{self.named} itself", *(f"the {each} that comes with it" for each in self.shipped)))
        return f"{self.claim} fails because of {itself}: {elsewhere}"

    @property
    def _failing_ports(self) -> list[str]:
        return sorted({tried.place for tried in self.elimination.failed})


def _belongs(things: Circumstances) -> bool:
    return len(things) == 1 and isinstance(things[0], AtPort | Through)


def _find(inquiry: Inquiry) -> Iterator[DevicePart]:
    """What is left of the device when every other suspect worked elsewhere."""
    yield from explained(inquiry, DevicePart, _belongs)


DEVICE_PART = Cause(
    "device part", "elimination; twins", "the same gear, leads and host tried without the device or at a like port",
    _find,
)  # fmt: skip
