"""Elimination: suspects are what all failing tries have in common; a try that worked clears what took part in it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from auditra.core.decide.counts import APPEARS
from auditra.core.decide.rules import CLEARLY_MORE
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.part_limits import gear_limit, rate_limit, socket_limit
from auditra.core.judge.reasoning.tries import ALWAYS_KNOWN, Try, is_of_seller
from auditra.core.judge.records import Records
from auditra.core.judge.rig_parts import BITS_A_PIXEL
from auditra.core.judge.separation import Seen, separating
from auditra.core.judge.verdicts import TIMES_THAT_SEPARATE
from auditra.core.links.display import Mode
from auditra.core.model.circumstance import (
    Aspect,
    AtPort,
    Circumstance,
    Circumstances,
    Connected,
    OnHost,
    Running,
    Through,
    Under,
)
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Adapter
from auditra.core.model.trial import DIRECT

_GET_ON_WITH_A_DEVICE = frozenset({Aspect.HOST, Aspect.HOST_SOCKET, Aspect.GEAR, Aspect.DRIVE, Aspect.PROTOCOL})
"""What may be sound by itself and still not get on with a device: that it works direct does not clear it."""


class Method(StrEnum):
    """How one suspect was left."""

    SWAP = "swap"
    """Two tries that differ in this one thing."""
    BISECTION = "bisection"
    """Parts of a chain were left out until it worked."""
    TWINS = "twins"
    """Ports that look alike do it."""
    ELIMINATION = "elimination"


@dataclass(frozen=True)
class Cleared:
    """A suspect, and the trials that it worked in; none where its own record clears it."""

    suspect: Circumstance
    trials: tuple[str, ...] = ()


@dataclass(frozen=True)
class Elimination:
    """Who is left of the suspects. One that stands for itself is the cause; of several, none is named."""

    failed: tuple[Try, ...]
    worked: tuple[Try, ...]
    left: tuple[Circumstances, ...]
    """Each explanation that is left: one thing, or several that only fail together."""
    cleared: tuple[Cleared, ...]
    method: Method = Method.ELIMINATION
    shipped: Circumstances = ()
    """Parts that came with the device and were never left out: they are the seller's, as it is."""

    @property
    def cause(self) -> Circumstances:
        """The one explanation that is left; empty where several are, or where it never worked."""
        return self.left[0] if len(self.left) == 1 and self.worked else ()

    @property
    def rests_on_a_record(self) -> bool:
        """Whether a suspect was cleared by what is noted of it alone."""
        return any(not each.trials for each in self.cleared)

    @property
    def is_seen_twice(self) -> bool:
        """Whether either side was seen more than once."""
        return all(sum(tried.times for tried in side) >= TIMES_THAT_SEPARATE for side in (self.failed, self.worked))

    @property
    def trials(self) -> tuple[str, ...]:
        """The trials on both sides, the failing ones first."""
        return tuple(dict.fromkeys(trial for tried in (*self.failed, *self.worked) for trial in tried.trials))


def eliminate(verdict: ClaimVerdict, tries: Sequence[Try], records: Records) -> Elimination | None:
    """Who is left of those that could explain why a claim fails; None where it failed nowhere by itself.

    A failure that the record of a part explains is that part's, and says nothing of the others.
    """
    unexplained = tuple(tried for tried in tries if tried.failed and tried.limit is None)
    carried_more = tuple(_beyond_the_ports(unexplained))
    everywhere = tuple(tried for tried in unexplained if tried not in carried_more)
    fully = tuple(tried for tried in tries if not tried.failed)
    failed = _of_one_cause(everywhere, fully)
    worked = (*fully, *carried_more, *_as_far_as_the_rig_goes(tries, failed))
    if not any(tried.is_own for tried in failed):
        return None
    common = frozenset.intersection(*(tried.suspects for tried in failed))
    cleared = tuple(_cleared(common, worked, hosts_differ=bool(verdict.claim.promise.hosts_named)))
    left = common - {each.suspect for each in cleared}
    alone = _without_what_follows(left, records)
    others = _at_other_ports(everywhere)
    if others and any(isinstance(each, Through) for each in left):
        failed = (*failed, *others)  # other ports fail too, and none works: what they share is left, not the port
        alone = frozenset(each for each in alone if not isinstance(each, AtPort)) | {
            each for each in left if isinstance(each, Through)
        }
    shipped = tuple(sorted((each for each in left - alone if is_of_seller(each, records)
                            and not isinstance(each, AtPort | Through)), key=_order))  # fmt: skip
    by_record = frozenset(each for each in alone if _is_sure_by_record(each, verdict, records))
    if len(alone) > 1 and alone - by_record:
        alone, cleared = alone - by_record, (*cleared, *map(Cleared, sorted(by_record, key=_order)))
    explanations: tuple[Circumstances, ...] = tuple((suspect,) for suspect in sorted(alone, key=_order))
    if not explanations and worked:
        explanations = _in_common(_together(failed, worked), [tried for tried in tries if tried.is_own])
    known = all(_is_known(explanation, worked) for explanation in explanations)
    if not known and len(explanations) == 1:  # it may have been there, unnoted, where it worked
        explanations = (*explanations, ())
    if not explanations and worked and _comes_up_by_chance(verdict):
        explanations = ((AtPort(verdict.claim.port),),)
    found = Elimination(failed, worked, explanations, cleared, shipped=shipped)
    return replace(found, method=_method(found)) if found.cause else found


def _beyond_the_ports(failed: Sequence[Try]) -> Iterator[Try]:
    """What fell short direct or at another port, and still carried clearly more than the claim's own ports did: all
    that took part there is good for that much."""
    own = [tried.share for tried in failed if tried.is_own]
    return (tried for tried in failed if own and not tried.is_own and tried.share > CLEARLY_MORE * max(own))


def _of_one_cause(everywhere: Sequence[Try], worked: Sequence[Try]) -> tuple[Try, ...]:
    """The failing tries at ports of the claim, and direct on their hosts. What fails on a host that fails direct too
    is explained by that host, unless it works there through the device; where it fails on another one as well, that is
    looked into by itself."""
    own = [tried for tried in everywhere if tried.is_own]
    direct = [tried for tried in everywhere if tried.place == DIRECT]
    bad = _hosts_of(direct) - _hosts_of(tried for tried in worked if _is_through_the_device(tried))
    elsewhere = tuple(tried for tried in own if not bad & tried.suspects)
    return elsewhere or (*own, *(tried for tried in direct if _hosts_of(own) & tried.suspects))


def _at_other_ports(everywhere: Sequence[Try]) -> tuple[Try, ...]:
    """What fails at like ports, on hosts that do not fail direct."""
    bad = _hosts_of(tried for tried in everywhere if tried.place == DIRECT)
    return tuple(
        tried for tried in everywhere
        if not tried.is_own and tried.place != DIRECT and not bad & tried.suspects
    )  # fmt: skip


def _hosts_of(tries: Iterable[Try]) -> frozenset[Circumstance]:
    return frozenset(each for tried in tries for each in tried.suspects if isinstance(each, OnHost))


def _as_far_as_the_rig_goes(tries: Iterable[Try], failed: Sequence[Try]) -> Iterator[Try]:
    """What a part of the rig holds back, and what still reached clearly more than where it failed: all else that took
    part is good for so much."""
    most = max((tried.share for tried in failed), default=0.0)
    return (tried for tried in tries if tried.failed and tried.limit is not None and tried.share > CLEARLY_MORE * most)


def _cleared(common: Iterable[Circumstance], worked: Sequence[Try], *, hosts_differ: bool) -> Iterator[Cleared]:
    """What took part where it worked. Of a promise that names hosts, each is a case of its own."""
    for suspect in sorted(common, key=_order):
        good = [tried for tried in worked if suspect in tried.suspects]
        named = hosts_differ and suspect.aspect in (Aspect.HOST, Aspect.HOST_SOCKET)
        if named or (suspect.aspect in _GET_ON_WITH_A_DEVICE and _separates(suspect, worked)):
            good = [tried for tried in good if _is_through_the_device(tried)]
        trials = tuple(trial for tried in good for trial in tried.trials)
        if trials:
            yield Cleared(suspect, trials)


def _separates(suspect: Circumstance, worked: Sequence[Try]) -> bool:
    """Whether the claim was kept at its own port, and each time without the suspect."""
    own = [tried for tried in worked if tried.is_own]
    return bool(own) and all(suspect not in tried.suspects for tried in own)


def _is_through_the_device(tried: Try) -> bool:
    return any(isinstance(each, Through) for each in tried.suspects)


def _is_sure_by_record(suspect: Circumstance, verdict: ClaimVerdict, records: Records) -> bool:
    """Whether what is noted of a part is clearly enough for what was promised."""
    floors = verdict.claim.promise.owes() or _asked_of_links(verdict)
    if not floors or not isinstance(suspect, Under) or not isinstance(suspect.value, str):
        return False
    return all(_sure(suspect, suspect.value, quantity, records) >= floor for quantity, floor in floors.items())


def _asked_of_links(verdict: ClaimVerdict) -> Mapping[Quantity, float]:
    """What a picture asks of a lead."""
    mode = getattr(verdict.claim.promise, "mode", None)
    return {Quantity.LINK: mode.pixels_a_second * BITS_A_PIXEL} if isinstance(mode, Mode) else {}


def _sure(suspect: Under, name: str, quantity: Quantity, records: Records) -> float:
    if suspect.aspect is Aspect.LEAD:
        lead = records.lead(name)
        return rate_limit(name, lead.data_bps, quantity).sure if lead is not None else 0.0
    if suspect.aspect is Aspect.HOST_SOCKET:
        host, _, socket = name.partition("/")
        return socket_limit(records.rig, host, socket, quantity).sure
    gear = records.rig.find(name)
    if suspect.aspect is Aspect.ADAPTERS and isinstance(gear, Adapter):
        return rate_limit(name, gear.data_bps, quantity).sure
    return gear_limit(gear, quantity).sure if suspect.aspect in (Aspect.GEAR, Aspect.SUPPLY) else 0.0


def _without_what_follows(left: frozenset[Circumstance], records: Records) -> frozenset[Circumstance]:
    """A host brings its sockets with it, a device its ports; and what is shipped with a device is part of it."""
    found = set(left)
    if any(isinstance(suspect, Running) for suspect in left):  # an order needs two: that the second is there says more
        found = {suspect for suspect in found if suspect.aspect is not Aspect.ORDER}
    if any(isinstance(suspect, OnHost) for suspect in left):
        found = {suspect for suspect in found if suspect.aspect is not Aspect.HOST_SOCKET}
    if any(isinstance(suspect, AtPort) for suspect in found):
        found = {suspect for suspect in found if not isinstance(suspect, Through)}
    if any(isinstance(suspect, AtPort | Through) for suspect in found):
        found = {
            suspect for suspect in found
            if isinstance(suspect, AtPort | Through) or not (is_of_seller(suspect, records) or _is_absence(suspect))
        }  # fmt: skip
    return frozenset(found)


def _is_absence(suspect: Circumstance) -> bool:
    """That something was not there explains nothing where only the device was never tried with it."""
    return isinstance(suspect, Under) and suspect.value is None and suspect.aspect is not Aspect.SUPPLY


def _together(failed: Sequence[Try], worked: Sequence[Try]) -> tuple[Circumstances, ...]:
    """Several things that fail only together."""
    sides = [[Seen(tried.suspects, tried.noted | ALWAYS_KNOWN) for tried in side] for side in (failed, worked)]
    found = separating(*sides)
    return tuple(each for each in found if len(each) > 1 or isinstance(each[0], Connected))


def _comes_up_by_chance(verdict: ClaimVerdict) -> bool:
    """Gear comes up there now and then, whatever else is done, and more often elsewhere: then it is the port."""
    parts = (part for set_up in verdict.set_ups for part in set_up.parts)
    return verdict.verdict.accuses and any(part.name == APPEARS and part.verdict.accuses for part in parts)


def _in_common(sets: tuple[Circumstances, ...], own: Sequence[Try]) -> tuple[Circumstances, ...]:
    """What all explanations share, where that alone parts the tries at the claim's own ports: the rest tells other
    ports apart."""
    shared = frozenset.intersection(*map(frozenset, sets)) if sets else frozenset[Circumstance]()
    core = frozenset(each for each in shared if not isinstance(each, AtPort | Through))
    if len(sets) > 1 and core and all(tried.failed == (core <= tried.suspects) for tried in own):
        return (tuple(sorted(core, key=_order)),)
    return sets


def _is_known(explanation: Iterable[Circumstance], worked: Sequence[Try]) -> bool:
    """Whether one of its things is known to have been absent each time that it worked at a port that promises it."""
    things = tuple(explanation)
    known = [any(tried.is_known_without(thing) for thing in things) for tried in worked]
    return any(known) and all(sure or not tried.is_own for sure, tried in zip(known, worked, strict=True))


def _method(found: Elimination) -> Method:
    (subject, *others) = found.cause
    if others:
        return Method.ELIMINATION
    if isinstance(subject, AtPort) and any(_is_at_another_port(tried, subject) for tried in found.worked):
        return Method.TWINS
    if any(_differ_in_one(bad, good, subject) for bad in found.failed for good in found.worked):
        return Method.SWAP
    chain = {Aspect.LEAD, Aspect.ADAPTERS}
    if subject.aspect in chain and sum(each.suspect.aspect in chain for each in found.cleared) > 1:
        return Method.BISECTION
    return Method.ELIMINATION


def _is_at_another_port(tried: Try, subject: AtPort) -> bool:
    return any(isinstance(each, AtPort) and each != subject for each in tried.suspects)


def _differ_in_one(bad: Try, good: Try, subject: Circumstance) -> bool:
    """Whether two tries differ in the subject alone, and in what stood in its place."""
    apart = bad.suspects ^ good.suspects
    follows = {Aspect.HOST_SOCKET} if isinstance(subject, OnHost) else set[Aspect]()
    return subject in apart and all(each.aspect is subject.aspect or each.aspect in follows for each in apart)


def _order(suspect: Circumstance) -> tuple[int, str]:
    return list(Aspect).index(suspect.aspect), repr(suspect)
