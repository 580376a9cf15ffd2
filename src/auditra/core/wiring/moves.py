"""What the hands do between two set-ups: plugs pulled, put in and turned over, displays switched, things arranged."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from auditra.core.links.connectors import TURNABLE
from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Rig
from auditra.core.model.setup import Plugged, SetUp

OTHER_HOST_COST = 5
"""What it costs to go on at another host, in plug moves: the person and the whole device go there."""

RESTS = "leave it unplugged for ten seconds"
DRIVER_OFF, DRIVER_ON = "have no driver of the device running", "have the driver of the device running again"


class Action(StrEnum):
    """What a hand does."""

    PULL = "pull"
    PLUG = "plug"
    SWITCH_OFF = "switch off"
    SWITCH_ON = "switch on"
    ARRANGE = "arrange"


@dataclass(frozen=True)
class PlugMove:
    """One thing that is done by hand. `words` say it where it is no plug that moves."""

    action: Action
    what: Plugged
    device: str = DEVICE
    """Which device of a kit it is about."""
    turned: bool | None = None
    """Which way a plug goes in that fits both ways; None where that does not matter."""
    words: str = ""
    aspect: Aspect | None = None
    """What is arranged, where it is more than words."""
    on: bool = True
    """It is arranged so from here on; else no longer."""

    @property
    def port(self) -> str | None:
        """The device's port that the hand is at."""
        return self.what.socket if self.what.owner == DEVICE else None


@dataclass(frozen=True)
class InPlace:
    """A plug where it is, and whether it is turned over."""

    what: Plugged
    turned: bool = False


def in_place(setup: SetUp) -> tuple[InPlace, ...]:
    """Everything that is plugged in a set-up."""
    return tuple(InPlace(each, each.gear in setup.turned) for each in setup.plugged)


def out_of_order(before: Sequence[str], after: Sequence[str], there: Callable[[str], bool]) -> Iterator[str]:
    """Of gear that has to come in an order, what must come anew: what follows something that does, and what is not
    known to have come after the one before it."""
    broken = False
    last: int | None = None
    for gear in after:
        place = before.index(gear) if gear in before else -1
        is_after = last is None or 0 <= last < place
        if broken or not there(gear) or not is_after:
            broken = True
            yield gear
        last = place


def is_same(before: SetUp, after: SetUp) -> bool:
    """Nothing that hands do differs: the second is a repeat of the first, for which its gear comes anew."""
    return (before.plugged, before.turned, before.switched_off, before.arranged, before.departs) == (
        after.plugged, after.turned, after.switched_off, after.arranged, after.departs
    )  # fmt: skip


def moves_between(
    before: SetUp | None, after: SetUp, tested: Collection[str], may_stay: Collection[str] = (),
    unseen: Collection[str] = (),
) -> tuple[PlugMove, ...]:  # fmt: skip
    """Pulls first, then plugs, the gear under test last.

    That is plugged in again even where it is, so that its appearance is seen; unless the host knows it again
    (`may_stay`) and something else than a repeat is done beside it. So is what no host sees (`unseen`), where a slip of
    the hands would stay.
    """
    standing = in_place(before) if before is not None else ()
    wanted, plugged_again = in_place(after), {*tested, *unseen}
    if before is not None and not is_same(before, after) and Aspect.REPLUGGED not in after.departs:
        plugged_again -= set(may_stay) - set(unseen)
    there = {
        each.what.gear for each in standing if each in wanted and not {each.what.gear, each.what.owner} & plugged_again
    }
    plugged_again |= set(out_of_order(_order_of(before), _order_of(after), there.__contains__)) & there
    if Aspect.REPLUGGED in after.departs:  # its plug is turned when it is connected again, not before
        wanted = tuple(_as_it_stands(each, standing) for each in wanted)
    rests = before is not None and Aspect.REPLUGGED in before.departs
    is_another_device = before is not None and before.device != after.device
    leaves = plugged_again | ({DEVICE} if is_another_device else set())
    dark = {DEVICE, before.charger} if before is not None and rests else set()
    stays = [
        each for each in standing
        if each in wanted and not {each.what.gear, each.what.owner} & leaves and each.what.gear not in dark
    ]  # fmt: skip
    was = before.device if before is not None else after.device
    pulls = [PlugMove(Action.PULL, each.what, was) for each in reversed(standing) if each not in stays]
    plugs = [
        PlugMove(Action.PLUG, each.what, after.device, _side(each, after, tested))
        for each in wanted if each not in stays
    ]  # fmt: skip
    plugs.sort(key=lambda move: _turn(move.what.gear, _order_of(after), tested))
    back = {DEVICE} & {move.what.gear for move in pulls} & {move.what.gear for move in plugs}
    rest = (_rest(pulls, after),) if pulls and (rests or back) else ()
    return (*pulls, *rest, *plugs, *_again(after), *_switched(before, after), *_arranged(before, after))


def _rest(pulls: Sequence[PlugMove], after: SetUp) -> PlugMove:
    """What it kept from being connected again is gone once it was away for a while; and it keeps nothing of a plug
    that was only turned over, or moved to another host."""
    return PlugMove(Action.ARRANGE, pulls[0].what, after.device, words=RESTS, aspect=Aspect.REPLUGGED, on=False)


def _as_it_stands(each: InPlace, standing: Collection[InPlace]) -> InPlace:
    turned = replace(each, turned=not each.turned)
    return turned if each.what.gear == DEVICE and turned in standing else each


def _order_of(setup: SetUp | None) -> Sequence[str]:
    return setup.order if setup is not None and isinstance(setup.order, tuple) else ()


def _turn(gear: str, order: Sequence[str], tested: Collection[str]) -> tuple[bool, int]:
    """The device first, the gear under test last; between them as the order says."""
    if gear in order:
        return True, order.index(gear)
    return gear in tested, -1 if gear == DEVICE else len(order)


def _side(each: InPlace, setup: SetUp, tested: Collection[str]) -> bool | None:
    if each.turned:
        return True
    noted = setup.host_flipped if each.what.gear == DEVICE else setup.flipped if each.what.gear in tested else NOT_NOTED
    return False if noted is False else None


def _again(setup: SetUp) -> Iterator[PlugMove]:
    """The device is connected again, once everything is in place."""
    if Aspect.REPLUGGED in setup.departs:
        for plugged in (each for each in setup.plugged if each.gear == DEVICE):
            yield PlugMove(Action.PULL, plugged, setup.device)
            yield PlugMove(Action.PLUG, plugged, setup.device, True if DEVICE in setup.turned else None)


def _switched(before: SetUp | None, after: SetUp) -> Iterator[PlugMove]:
    """A display that was off is switched on even where it is not needed next: nobody remembers that later."""
    was = before.switched_off if before is not None else ()
    for plugged in before.plugged if before is not None else ():
        if plugged.gear in was and plugged.gear not in after.switched_off:
            yield PlugMove(Action.SWITCH_ON, plugged, after.device)
    for plugged in after.plugged:
        if plugged.gear in after.switched_off and plugged.gear not in was:
            yield PlugMove(Action.SWITCH_OFF, plugged, after.device)


def _arranged(before: SetUp | None, after: SetUp) -> Iterator[PlugMove]:
    """What was arranged before and is over, then what is arranged besides."""
    nothing = Plugged(after.host, "", "")
    was = tuple(_arrangements(before)) if before is not None else ()
    wanted = tuple(_arrangements(after))
    for each in was:
        if each.ended_by and each not in wanted:
            yield PlugMove(Action.ARRANGE, nothing, after.device, words=each.ended_by, aspect=each.aspect, on=False)
    for each in wanted:
        if each not in was or not each.ended_by:  # what ends by itself is done again for each trial
            yield PlugMove(Action.ARRANGE, nothing, after.device, words=each.words, aspect=each.aspect)


@dataclass(frozen=True)
class _Arrangement:
    """Something that a person sets up and that no plug shows; in words, how it is ended, empty where it ends itself."""

    words: str
    ended_by: str
    aspect: Aspect


def _arrangements(setup: SetUp) -> Iterator[_Arrangement]:
    """What a factor asks a person to arrange; the conditions of a claim stand in the title of its trial."""
    if Aspect.ARRANGED in setup.departs:
        yield from (_Arrangement(words, "", Aspect.ARRANGED) for words in setup.arranged)
    if Aspect.RECORDER in setup.departs and isinstance(setup.recorder, str):
        yield _Arrangement(f"start {setup.recorder}", f"stop {setup.recorder}", Aspect.RECORDER)
    if Aspect.DRIVER in setup.departs and isinstance(setup.driver, str):
        yield _Arrangement(f"install {setup.driver}", f"remove {setup.driver}", Aspect.DRIVER)
    elif Aspect.DRIVER in setup.departs:
        yield _Arrangement(DRIVER_OFF, DRIVER_ON, Aspect.DRIVER)


def cost_of_plug(plugged: Plugged) -> int:
    """What a plug costs the hands, in moves of a single lead: each part in line is one more to be joined."""
    return 1 + len(plugged.through)


def in_words(move: PlugMove, device: Device, rig: Rig) -> str:
    """``Plug the fast SSD into A1 with lead CC-1``."""
    plugged = move.what
    name = f"the {device.model}" if plugged.gear == DEVICE else f"the {rig.name_of(plugged.gear)}"
    place = plugged.socket if plugged.owner == DEVICE else f"{rig.name_of(plugged.owner)} {plugged.socket}"
    match move.action:
        case Action.ARRANGE:
            return move.words
        case Action.PULL:
            return f"unplug {name} from {place}"
        case Action.SWITCH_OFF | Action.SWITCH_ON:
            return f"switch {name} on {place} {'off' if move.action is Action.SWITCH_OFF else 'on again'}"
        case Action.PLUG:
            lead = f" with lead {plugged.lead}" if plugged.lead else ""
            through = "".join(f" through the {rig.name_of(each)}" for each in plugged.through)
            port = device.port(plugged.socket) if plugged.owner == DEVICE else None
            fits_both_ways = port is None or port.connector == TURNABLE
            side = {True: ", turned over", False: ", marked side up", None: ""}[move.turned] if fits_both_ways else ""
            return f"plug {name} into {place}{lead}{through}{side}"
