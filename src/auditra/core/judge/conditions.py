"""Whether a set-up is the one that a claim names: what runs, what is left out, on which host, with what added."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.claims.claim import Claim, ConditionKind
from auditra.core.model.rig import Rig, Supply
from auditra.core.model.setup import SetUp

DRIVER_WORDS = ("driver", "drivers")
_AT_WORK = {
    "display": {"shows", "show"},
    "data": {"data", "cards", "reads", "read", "writes", "write"},
    "network": {"links", "link"},
}
"""The words of claims that run something, by what a claim may be made without."""


@dataclass(frozen=True)
class Unmet:
    """A condition that the set-up does not meet. `can_only_add`: with it the device would have had more to do."""

    text: str
    can_only_add: bool = False


def unmet_conditions(claim: Claim, setup: SetUp, rig: Rig) -> tuple[Unmet, ...]:
    """What a claim names and a set-up lacks; empty where it is as promised."""
    return tuple(_unmet(claim, setup, rig)) if claim.conditions else ()


def _unmet(claim: Claim, setup: SetUp, rig: Rig) -> Iterator[Unmet]:
    for condition in claim.conditions:
        match condition.kind:
            case ConditionKind.WHILE:
                if condition.words not in setup.running:
                    yield Unmet(f'"{condition.words}" did not run', can_only_add=True)
            case ConditionKind.ON:
                if not is_host(rig, setup.host, condition.words):
                    yield Unmet(f"it ran on {rig.name_of(setup.host)}, not on {condition.words}")
            case ConditionKind.WITHOUT:
                if not _is_without(condition.words, setup, rig):
                    yield Unmet(f"it was not tried without {condition.words}")
            case ConditionKind.WITH:
                if not _is_with(condition.words, setup, rig):
                    yield Unmet(f"it was not tried with {condition.words}", can_only_add=False)


def is_host(rig: Rig, host_id: str, name: str) -> bool:
    """Whether a host of the rig goes by that name."""
    host = rig.host(host_id)
    return name.lower() in {host_id.lower(), host.name.lower() if host is not None else ""}


def _is_without(thing: str, setup: SetUp, rig: Rig) -> bool:
    """Arranged as the claim says, or noted to be absent."""
    if f"without {thing}" in setup.arranged:
        return True
    if thing in DRIVER_WORDS:
        return setup.driver is None
    if thing == "supply":
        fed = any(isinstance(rig.find(each.gear), Supply) for each in setup.plugged)
        return not fed and not isinstance(setup.charger, str)
    at_work = {words.split()[1] for words in setup.running if " " in words}
    return not at_work & _AT_WORK[thing] if thing in _AT_WORK else thing == "others" and not setup.running


def _is_with(thing: str, setup: SetUp, rig: Rig) -> bool:
    """Arranged as the claim says, noted, or plugged in."""
    if f"with {thing}" in setup.arranged or (thing in DRIVER_WORDS and isinstance(setup.driver, str)):
        return True
    names = {name.lower() for each in setup.plugged for name in (each.gear, rig.name_of(each.gear), each.lead or "")}
    return thing.lower() in names
