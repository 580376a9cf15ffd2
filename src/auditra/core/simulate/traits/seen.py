"""What a person sees, hears and counts: times that scatter, things that work now and then, a button with a catch."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.model.device import DEVICE
from auditra.core.simulate.trait import Asked, Scene, Trait

_FIRST_MISS = 2


@dataclass(frozen=True)
class Takes(Trait):
    """A figure that is another one each time it is read."""

    spot: str
    quantity: str
    least: float
    most: float

    def figure(self, scene: Scene, spot: str, quantity: str) -> float | None:
        wanted = (spot, quantity) == (self.spot, self.quantity)
        return scene.connections.random.uniform(self.least, self.most) if wanted else None


@dataclass(frozen=True)
class WorksNowAndThen(Trait):
    """What is promised of a spot in such words works only so often."""

    spot: str
    about: str
    chance: float

    def works(self, scene: Scene, asked: Asked) -> float:
        return self.chance if asked == Asked(self.spot, self.about) else 1.0


@dataclass(frozen=True)
class MissesEvery(Trait):
    """What is promised of a spot in such words fails once in so many tries, the second one first."""

    spot: str
    about: str
    tries: int

    def misses(self, asked: Asked, number: int) -> bool:
        return asked == Asked(self.spot, self.about) and number % self.tries == _FIRST_MISS


@dataclass(frozen=True)
class StopsAfter(Trait):
    """What is promised of a spot in such words stops once it was kept up for so long."""

    spot: str
    about: str
    after_s: float

    def works(self, scene: Scene, asked: Asked) -> float:
        return 0.0 if scene.kept_up_s > self.after_s and asked == Asked(self.spot, self.about) else 1.0


@dataclass(frozen=True)
class FailsOnHosts(Trait):
    """What is promised of a spot in such words does not work on some hosts."""

    spot: str
    about: str
    hosts: frozenset[str]

    def works(self, scene: Scene, asked: Asked) -> float:
        here = scene.connections.find(DEVICE)
        on_them = here is not None and here.plugged.owner in self.hosts
        return 0.0 if on_them and asked == Asked(self.spot, self.about) else 1.0


@dataclass(frozen=True)
class IsNotSo(Trait):
    """A spot is not as it is said to be in such words."""

    spot: str
    about: str

    def is_so(self, scene: Scene, asked: Asked) -> bool:
        return asked != Asked(self.spot, self.about)


@dataclass(frozen=True)
class HappensAnyway(Trait):
    """What a spot is said to do happens without it too: a lid that is opened wakes a host by itself."""

    spot: str
    about: str

    def happens_anyway(self, asked: Asked) -> bool:
        return asked == Asked(self.spot, self.about)


@dataclass(frozen=True)
class FailsBeside(Trait):
    """What is promised of a spot in such words does not work while something is in one of these sockets."""

    spot: str
    about: str
    others: frozenset[str]

    def works(self, scene: Scene, asked: Asked) -> float:
        disturbed = any(scene.connections.gear_at(each) is not None for each in self.others)
        return 0.0 if disturbed and asked == Asked(self.spot, self.about) else 1.0
