"""The order of trials: the fewest plug moves by their cost, baselines before what relies on them, long soaks last."""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import reduce
from itertools import pairwise
from operator import or_
from random import Random

from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.moves import OTHER_HOST_COST, cost_of_plug, in_place, is_same, out_of_order

MOST_FOR_EXACT = 9
"""As many trials are ordered exactly, by dynamic programming over sets (Held and Karp, 1962, with precedence)."""
_LONGEST_PIECE = 5
"""Of a longer route, a piece of up to so many trials is moved at a time."""
_MOST_ROUNDS = 6
_WORK = 9_000
_MOST_SHAKES, _LONGEST_SHAKEN = 4, 5
"""How much an order is disturbed before it is improved again, and how often in all: some tenths of a second."""


def route(trials: Iterable[PlannedTrial], standing: SetUp | None = None) -> tuple[PlannedTrial, ...]:
    """The trials in the order that costs the hands least, from what is connected now.

    Exact up to `MOST_FOR_EXACT` trials, near it above; of orders that cost the same, one near the given order.
    """
    trials = tuple(trials)
    if len(trials) < 2:
        return trials
    costs, before = _Costs(trials, standing), _predecessors(trials)
    if len(trials) <= MOST_FOR_EXACT:
        return tuple(trials[index] for index in _exact(costs, before))
    starts = (_greedy(costs, before), _device_by_device(trials, standing), list(range(len(trials))))
    allowed = (start for start in starts if start and _is_allowed(start, before))
    best = min((_improved(start, costs, before) for start in allowed), key=costs.of)
    return tuple(trials[index] for index in _shaken(best, costs, before))


def route_on(
    trials: Sequence[PlannedTrial], known: Sequence[PlannedTrial], standing: SetUp | None
) -> tuple[PlannedTrial, ...]:
    """The rest of a route from what is connected now: the known order, improved where something else is connected than
    expected, or trials were added. Faster than a new route, and never more work than the known order.
    """
    place = {trial.identity: index for index, trial in enumerate(known)}
    in_order = sorted(trials, key=lambda trial: (_is_soaked(trial), place.get(trial.identity, len(known))))
    if len(in_order) <= MOST_FOR_EXACT:
        return route(in_order, standing)
    costs, before = _Costs(in_order, standing), _predecessors(in_order)
    return tuple(in_order[index] for index in _improved(list(range(len(in_order))), costs, before))


class Router:
    """The order of what is left to do, kept for as long as neither that nor what is connected changes."""

    def __init__(self) -> None:
        self._known: tuple[Sequence[PlannedTrial], tuple[PlannedTrial, ...]] | None = None
        self._kept: tuple[tuple[PlannedTrial, ...], SetUp | None, tuple[PlannedTrial, ...]] | None = None

    def order(
        self, sheet: Sequence[PlannedTrial], left: tuple[PlannedTrial, ...], standing: SetUp | None
    ) -> tuple[PlannedTrial, ...]:
        """The trials that are left, the next one first."""
        if self._kept is None or self._kept[:2] != (left, standing):
            self._kept = left, standing, route_on(left, self.whole(sheet), standing)
        return self._kept[2]

    def whole(self, sheet: Sequence[PlannedTrial]) -> tuple[PlannedTrial, ...]:
        """All trials of a sheet, in the order for one who has nothing connected.

        A sheet that changed a little keeps the order that the reviewer has seen, as far as that is a good one.
        """
        if self._known is None:
            self._known = sheet, route(sheet)
        elif self._known[0] is not sheet:
            self._known = sheet, route_on(sheet, self._known[1], None)
        return self._known[1]


def cost_of(trials: Sequence[PlannedTrial], standing: SetUp | None = None) -> int:
    """What an order of trials costs the hands."""
    costs = _Costs(trials, standing)
    return costs.of(range(len(trials)))


def _device_by_device(trials: Sequence[PlannedTrial], standing: SetUp | None) -> list[int]:
    """The trials of each device of a kit in their own order, one device after the other; empty for a single device."""
    devices = list(dict.fromkeys(trial.setup.device for trial in trials))
    if len(devices) == 1:
        return []
    place = {trial.identity: index for index, trial in enumerate(trials)}
    own = ([trial for trial in trials if trial.setup.device == device] for device in devices)
    one_by_one = sorted((trial for each in own for trial in route(each, standing)), key=_is_soaked)
    return [place[trial.identity] for trial in one_by_one]


def _is_soaked(trial: PlannedTrial) -> bool:
    return trial.setup.soaked_s > 0


def _predecessors(trials: Sequence[PlannedTrial]) -> tuple[int, ...]:
    """Of each trial, as bits, what it is compared with: the direct ones, and the plain one of each of its ports.

    Long soaks come after all else: what they heat would spoil it.
    """
    direct: dict[str, list[int]] = {}
    plain: dict[tuple[str, str | None, str], list[int]] = {}
    cold = 0
    for index, trial in enumerate(trials):
        cold |= 0 if trial.setup.soaked_s else 1 << index
        if trial.port is None:
            direct.setdefault(trial.gear, []).append(index)
        elif trial.depth is Depth.QUICK:
            plain.setdefault((trial.setup.device, trial.port, trial.procedure), []).append(index)
    relied_on = (_bits_of(_relied_on(trial, trials, direct, plain)) for trial in trials)
    return tuple(
        bits | cold if trial.setup.soaked_s else bits & cold for trial, bits in zip(trials, relied_on, strict=True)
    )


def _relied_on(
    trial: PlannedTrial,
    trials: Sequence[PlannedTrial],
    direct: Mapping[str, list[int]],
    plain: Mapping[tuple[str, str | None, str], list[int]],
) -> Iterator[int]:
    procedure = procedure_of(trial.procedure)
    if trial.port is None or procedure.by_eye:
        return
    for gear in trial.tested:
        for index in direct.get(gear, ()):
            if procedure.compares_with(procedure_of(trials[index].procedure)):
                yield index
    if trial.depth is not Depth.QUICK:
        yield from plain.get((trial.setup.device, trial.port, trial.procedure), ())


def _bits_of(places: Iterable[int]) -> int:
    return reduce(or_, (1 << place for place in places), 0)


@dataclass
class _Costs:
    """What it costs to go from one set-up to the next, in moves of a single lead.

    A set-up is a set of bits, one for each plug in its place (and side) and each display that is switched off.
    """

    trials: Sequence[PlannedTrial]
    standing: SetUp | None
    _bit_of: dict[Hashable, int] = field(default_factory=dict)
    _dear: int = 0
    """The bits of plugs that cost more than one."""
    _extra: dict[int, int] = field(default_factory=dict)
    first: list[int] = field(default_factory=list)
    between: list[list[int]] = field(default_factory=list)

    def __post_init__(self) -> None:
        ends = [self._end(trial) for trial in self.trials]
        start = self._standing()
        self.first = [self._step(start, end) for end in ends]
        self.between = [[self._step(one, other) for other in ends] for one in ends]

    def of(self, order: Sequence[int]) -> int:
        """The cost of a whole order."""
        if not order:
            return 0
        return self.first[order[0]] + sum(self.between[one][other] for one, other in pairwise(order))

    def step(self, before: int | None, after: int) -> int:
        return self.first[after] if before is None else self.between[before][after]

    def _standing(self) -> _End | None:
        """What is connected now; it is measured with nothing."""
        if self.standing is None:
            return None
        return self._end(PlannedTrial("", "", ProcedureId.LOOK, (), self.standing, DEVICE, None))

    def _step(self, one: _End | None, other: _End) -> int:
        if one is None:
            return other.weight + other.own
        accepts = other.accepts
        if other.own or (one.bits == other.bits and is_same(one.setup, other.setup)):
            accepts &= ~other.tested
        stays = one.bits & accepts
        if other.order:
            there = {gear for gear, bit in other.order if stays & bit}
            before = one.setup.order if isinstance(one.setup.order, tuple) else ()
            late = set(out_of_order(before, [gear for gear, _ in other.order], there.__contains__))
            stays &= ~sum(bit for gear, bit in other.order if gear in late)
        travel = OTHER_HOST_COST if one.host and other.host and one.host != other.host else 0
        return one.weight + other.weight - 2 * self._weight(stays) + other.own + travel

    def _end(self, trial: PlannedTrial) -> _End:
        setup, tested = trial.setup, trial.tested
        bits, accepts, under_test = 0, 0, 0
        fresh, again = tested - trial.may_stay, Aspect.REPLUGGED in setup.departs
        bit_of: dict[str, int] = {}
        for each in in_place(setup):
            bit = bit_of[each.what.gear] = self._bit(setup.device, each, cost_of_plug(each.what))
            bits |= bit
            touched = {each.what.gear, each.what.owner}
            accepts |= bit if not touched & fresh else 0
            under_test |= bit if touched & tested else 0
            if again and each.what.gear == DEVICE:  # its plug is turned when it is connected again
                accepts |= self._bit(setup.device, replace(each, turned=not each.turned), 1)
        for gear in setup.switched_off:
            bit = self._bit(setup.device, gear, 1)
            bits, accepts = bits | bit, accepts | bit
        order = setup.order if isinstance(setup.order, tuple) else ()
        return _End(
            setup, bits, accepts, under_test, tuple((gear, bit_of[gear]) for gear in order if gear in bit_of),
            self._weight(bits), _host_of(setup), 2 if again else 0,
        )  # fmt: skip

    def _bit(self, device: str, what: Hashable, cost: int) -> int:
        bit = self._bit_of.setdefault((device, what), 1 << len(self._bit_of))
        if cost > 1:
            self._dear |= bit
            self._extra[bit] = cost - 1
        return bit

    def _weight(self, bits: int) -> int:
        dear, total = bits & self._dear, bits.bit_count()
        while dear:
            lowest = dear & -dear
            total += self._extra[lowest]
            dear ^= lowest
        return total


@dataclass(frozen=True)
class _End:
    """A set-up as bits: what is there, what of it may stay from before, what of it is under test, what has to come in
    an order, what all of it weighs; and its own moves besides."""

    setup: SetUp
    bits: int
    accepts: int
    tested: int
    order: tuple[tuple[str, int], ...]
    weight: int
    host: str | None
    own: int


def _host_of(setup: SetUp) -> str | None:
    """The host that something is plugged into; None where nothing is."""
    return setup.host if any(each.owner == setup.host for each in setup.plugged) else None


def _exact(costs: _Costs, before: Sequence[int]) -> list[int]:
    """The cheapest order that keeps the predecessors; of several, the one that begins most like the given order."""
    count = len(before)
    whole = (1 << count) - 1
    to_go: dict[tuple[int, int | None], tuple[int, int | None]] = {(whole, last): (0, None) for last in range(count)}
    for done in range(whole - 1, -1, -1):
        ready = [index for index in range(count) if not done >> index & 1 and not before[index] & ~done]
        for last in _members(done) if done else (None,):
            ways = (
                (costs.step(last, index) + to_go[done | 1 << index, index][0], index)
                for index in ready
                if (done | 1 << index, index) in to_go
            )
            if cheapest := min(ways, default=None):
                to_go[done, last] = cheapest
    order: list[int] = []
    done, last = 0, to_go[0, None][1]
    while last is not None:
        order.append(last)
        done |= 1 << last
        last = to_go[done, last][1]
    return order


def _members(bits: int) -> Iterator[int]:
    while bits:
        lowest = bits & -bits
        yield lowest.bit_length() - 1
        bits ^= lowest


def _greedy(costs: _Costs, before: Sequence[int]) -> list[int]:
    """Always the trial that costs least next; the first of those that cost the same."""
    order: list[int] = []
    done, left = 0, list(range(len(before)))
    while left:
        ready = [index for index in left if not before[index] & ~done]
        last = order[-1] if order else None
        nearest = min(ready, key=lambda index: costs.step(last, index))
        order.append(nearest)
        left.remove(nearest)
        done |= 1 << nearest
    return order


def _improved(order: list[int], costs: _Costs, before: Sequence[int]) -> list[int]:
    """The order with pieces of it moved elsewhere, as long as that saves moves (Or, 1976)."""
    for _ in range(_MOST_ROUNDS):
        saved = False
        for length in range(1, min(_LONGEST_PIECE, len(order) - 1) + 1):
            start = 0
            while start + length <= len(order):
                moved = _moved_best(order, start, length, costs, before)
                if moved is not None:
                    order, saved = moved, True
                start += 1
        if not saved:
            return order
    return order


def _shaken(order: list[int], costs: _Costs, before: Sequence[int]) -> list[int]:
    """The best of several orders that are disturbed and improved again (Lourenço, Martin and Stützle, 2003): the same
    for the same trials, and fewer of them the longer each takes."""
    chance, best = Random(len(order)), costs.of(order)
    for _ in range(_WORK // len(order) ** 2):
        other = order
        for _ in range(chance.randint(1, _MOST_SHAKES)):
            other = _with_piece_elsewhere(other, before, chance)
        other = _improved(other, costs, before)
        if (cost := costs.of(other)) < best:
            order, best = other, cost
    return order


def _with_piece_elsewhere(order: list[int], before: Sequence[int], chance: Random) -> list[int]:
    start, length = chance.randrange(len(order)), chance.randint(1, _LONGEST_SHAKEN)
    piece, rest = order[start : start + length], order[:start] + order[start + length :]
    earliest, latest = _room_for(piece, rest, before)
    if earliest > latest:
        return order
    at = chance.randint(earliest, latest)
    return rest[:at] + piece + rest[at:]


def _moved_best(order: list[int], start: int, length: int, costs: _Costs, before: Sequence[int]) -> list[int] | None:
    """The order with one piece where it saves most; None where it saves nothing anywhere."""
    piece = order[start : start + length]
    rest = order[:start] + order[start + length :]
    earliest, latest = _room_for(piece, rest, before)
    between = costs.between
    head, tail = piece[0], piece[-1]
    left = order[start - 1] if start else None
    right = order[start + length] if start + length < len(order) else None
    gain = costs.step(left, head)
    if right is not None:
        gain += between[tail][right] - costs.step(left, right)
    best, best_at = gain, -1
    for at in range(earliest, latest + 1):
        if at == start:
            continue
        one = rest[at - 1] if at else None
        other = rest[at] if at < len(rest) else None
        added = costs.step(one, head)
        if other is not None:
            added += between[tail][other] - costs.step(one, other)
        if added < best:
            best, best_at = added, at
    return None if best_at < 0 else rest[:best_at] + piece + rest[best_at:]


def _room_for(piece: Sequence[int], rest: Sequence[int], before: Sequence[int]) -> tuple[int, int]:
    """The first and last place where a piece may stand, behind all it relies on and before all that relies on it."""
    inside, needs = 0, 0
    for index in piece:
        inside |= 1 << index
        needs |= before[index]
    earliest, latest = 0, len(rest)
    for place, index in enumerate(rest):
        if needs >> index & 1:
            earliest = place + 1
        elif latest == len(rest) and before[index] & inside:
            latest = place
    return earliest, latest


def _is_allowed(order: Iterable[int], before: Sequence[int]) -> bool:
    done = 0
    for index in order:
        if before[index] & ~done:
            return False
        done |= 1 << index
    return True
