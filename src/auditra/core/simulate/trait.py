"""A trait: one thing that a simulated device does otherwise than its plain figures say.

Each domain asks every trait of the device in turn. Traits know nothing of each other, so any number go together, and
some mask one another. They are in `traits/`, a file a domain.
"""

from __future__ import annotations

from collections.abc import Container, Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from auditra.core.links.display import Mode
    from auditra.core.simulate.connections import Connections, Standing
    from auditra.core.simulate.rig_fault import RigFault


class Pictures(Protocol):
    """The displays, as far as traits look at them."""

    @property
    def are_running(self) -> bool: ...

    @property
    def most_pixels_a_second(self) -> float:
        """Of the largest mode that runs through the device; 0 for none."""
        ...

    def runs_at(self, socket: str) -> bool:
        """Whether a display at this socket of the device has a picture."""
        ...


class Warmth(Protocol):
    """How warm the device is."""

    @property
    def rise_k(self) -> float: ...


class Scene(Protocol):
    """What a trait may look at."""

    @property
    def connections(self) -> Connections: ...
    @property
    def displays(self) -> Pictures: ...
    @property
    def heat(self) -> Warmth: ...
    @property
    def faults(self) -> Sequence[RigFault]:
        """What is wrong with the rig."""
        ...

    def figure(self, spot: str, quantity: str) -> float | None:
        """What a person reads of a spot; None for what cannot be seen."""
        ...

    @property
    def driver_runs(self) -> bool:
        """Where a driver of the device is installed, it is at work."""
        ...

    @property
    def kept_up_s(self) -> float:
        """For how long a person has kept something at work by hand; 0 where nothing is."""
        ...

    @property
    def busy(self) -> Container[str]:
        """Gear that is kept at work beside what is measured."""
        ...


@dataclass(frozen=True)
class Asked:
    """What a person looks at: a spot, and the opening words of the promise that it is asked for."""

    spot: str
    about: str


class Trait:
    """Every hook leaves things as they are; a trait says otherwise where it has something to say.

    Rates are bits per second, powers watts, `at` is where the gear is plugged in.
    """

    def phase(self, scene: Scene) -> Hashable:
        """What it depends on besides what is plugged, switched and at work: while that stays, so do the rates."""
        return None

    def upstream_bps(self, scene: Scene, link_bps: float) -> float:
        """The link between device and host."""
        return link_bps

    def link_bps(self, scene: Scene, at: Standing, link_bps: float) -> float:
        """The link that a drive makes at a socket; 0 where it makes none."""
        return link_bps

    def share(self, scene: Scene, at: Standing) -> float:
        """The part of its payload that gear at a socket keeps, 0 to 1; 0 while it is lost."""
        return 1.0

    def shared_bps(self) -> Iterator[tuple[frozenset[str], float]]:
        """Payload that some sockets have between them."""
        yield from ()

    def miss(self, scene: Scene, socket: str) -> float:
        """How often what is plugged into a socket does not come up, 0 to 1."""
        return 0.0

    def corrupts(self, socket: str) -> bool:
        """Whether it now and then hands back a wrong byte."""
        return False

    def processor_percent(self, scene: Scene) -> float:
        """What it takes of the host's processors."""
        return 0.0

    def shows(self, scene: Scene, at: Standing, mode: Mode) -> bool:
        """Whether a display at a socket can be in this mode."""
        return True

    def host_w(self, scene: Scene, giving: Mapping[str, float], watts: float) -> float:
        """What is passed on to the host while these sockets give so much."""
        return watts

    def figure(self, scene: Scene, spot: str, quantity: str) -> float | None:
        """What is read of a spot, in SI; None where it has nothing to say."""
        return None

    def is_so(self, scene: Scene, asked: Asked) -> bool:
        """Whether a spot is as it is said to be."""
        return True

    def works(self, scene: Scene, asked: Asked) -> float:
        """How often something works that is tried at a spot, 0 to 1."""
        return 1.0

    def misses(self, asked: Asked, number: int) -> bool:
        """Whether something fails at the try of this number, counted from 1, whatever chance says."""
        return False

    def happens_anyway(self, asked: Asked) -> bool:
        """Whether it happens by itself too, without what is to make it happen."""
        return False
