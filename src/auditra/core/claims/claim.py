"""A claim: one checkable promise about a port, a group of ports or the whole device, with the words it was made in."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from auditra.core.claims.promise import Promise
from auditra.core.model.circumstance import AtPort, Circumstances
from auditra.core.model.device import BODY, DEVICE
from auditra.core.model.setup import SetUp
from auditra.core.model.source import Source


class Joined(StrEnum):
    """How the ports of a claim belong together; the value stands between them."""

    TOGETHER = "+"
    ONE_AT_A_TIME = "|"


class ConditionKind(StrEnum):
    """The words that open a condition, in the order in which conditions are printed."""

    WHILE = "while"
    WITHOUT = "without"
    ON = "on"
    WITH = "with"


ARRANGED_KINDS = (ConditionKind.WITHOUT, ConditionKind.WITH)
"""What a person arranges, and no other part of a set-up shows."""


@dataclass(frozen=True)
class Condition:
    """Under what a promise is made: another claim at work, something left out, a host, something added."""

    kind: ConditionKind
    words: str
    ports: tuple[str, ...] = ()
    """The ports of the claim that is at work meanwhile."""

    def __str__(self) -> str:
        return f"{self.kind.value} {self.words}"


@dataclass(frozen=True)
class Claim:
    """One promise, about `port` and the `others` that are joined with it."""

    id: str
    port: str
    promise: Promise
    source: Source = Source()
    device: str = DEVICE
    others: tuple[str, ...] = ()
    joined: Joined | None = None
    conditions: tuple[Condition, ...] = ()

    def __str__(self) -> str:
        return self._sentence

    @cached_property
    def _sentence(self) -> str:
        of = "" if self.device == DEVICE else f"{self.device}:"
        subject = of + (self.joined or Joined.TOGETHER).value.join(self.ports)
        return " ".join((subject, self.promise.sentence(several=len(self.ports) > 1), *map(str, self.conditions)))

    @property
    def ports(self) -> tuple[str, ...]:
        return (self.port, *self.others)

    @property
    def is_joined_together(self) -> bool:
        """It is promised of its ports all at the same time."""
        return self.joined is Joined.TOGETHER

    @property
    def is_of_all_ports(self) -> bool:
        """It is tried port by port while the other ports of the group are at work."""
        return self.is_joined_together and not self.promise.of_group

    @property
    def of_body(self) -> bool:
        """It is about the device as a whole."""
        return self.port == BODY

    def sentence_of(self, port: str) -> str:
        """What a group promises, said of one of its ports."""
        return f"{port} {self.promise.sentence(several=False)}"

    @cached_property
    def own_words(self) -> frozenset[str]:
        """The claims that run in its set-ups because the claim itself requires them."""
        named = (condition.words for condition in self.conditions if condition.kind is ConditionKind.WHILE)
        return frozenset((str(self), *map(self.sentence_of, self.ports), *named))

    def circumstances_in(self, setup: SetUp, port: str | None, *, whole_group: bool = False) -> Circumstances:
        """What is special about a set-up for this claim; of a group's ports, the one that is tried by itself."""
        at = (AtPort(port),) if self.others and not whole_group and port is not None else ()
        return (*at, *setup.circumstances(self.own_words))

    def wants(self, kind: ConditionKind) -> tuple[str, ...]:
        """The words of its conditions of one kind."""
        return tuple(condition.words for condition in self.conditions if condition.kind is kind)
