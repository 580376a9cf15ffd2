"""What is wrong with a claim that reads well: ports that are not there, conditions that cannot occur."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.claims.claim import Claim, ConditionKind
from auditra.core.model.device import Device
from auditra.core.sanitize import sanitize


def problems_of(claim: Claim, device: Device) -> tuple[str, ...]:
    """In words; nothing where the claim can be tried on this device."""
    return tuple(_problems(claim, device))


def _problems(claim: Claim, device: Device) -> Iterator[str]:
    named = (*claim.ports, *(port for condition in claim.conditions for port in condition.ports))
    for port in dict.fromkeys(named):
        if not device.has(port):
            yield f"the device has no port {sanitize(port, 20)}"
    if claim.promise.of_group and not claim.joined:
        yield f'"{claim.promise.words}" applies to several ports, joined by + or |'
    yield from _of_while(claim)
    yield from _of_without(claim)


def _of_while(claim: Claim) -> Iterator[str]:
    own = {claim.sentence_of(port) for port in claim.ports} | {str(claim)}
    for condition in claim.conditions:
        if condition.kind is ConditionKind.WHILE:
            if condition.words in own:
                yield f'it cannot be "{condition}": that is the promise itself'
            if "others" in claim.wants(ConditionKind.WITHOUT):
                yield f'it cannot be "without others" and "{condition}" at once'


def _of_without(claim: Claim) -> Iterator[str]:
    added = " ".join(claim.wants(ConditionKind.WITH)).split()
    for thing in claim.wants(ConditionKind.WITHOUT):
        if thing == claim.promise.cannot_be_without:
            yield f'it cannot be "without {thing}": the promise is of that'
        if thing in added:
            yield f'it cannot be "without {thing}" and "with {thing}" at once'
