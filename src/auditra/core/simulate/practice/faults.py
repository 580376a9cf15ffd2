"""What may be wrong with a rig in practice: one thing at a time, and never so that nobody could tell."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass

from auditra.core.model.rig import Rig
from auditra.core.simulate.rig_fault import (
    FillsUp,
    RecorderOn,
    RigFault,
    SickInstrument,
    SlowDrive,
    SlowLead,
    StaleWitness,
    WeakHost,
    WrongRoute,
)


@dataclass(frozen=True)
class Fault:
    """A name, and what it does to the rig or to the hands."""

    name: str
    faults: tuple[RigFault, ...] = ()
    wrong_socket_one_in: int = 0
    slip_one_in: int = 0


def _bad_lead(rig: Rig, dice: random.Random) -> Fault | None:
    """One of several with the same ends, so that another one shows it."""
    several = [lead for lead in rig.leads if len(rig.leads_between(*lead.ends)) > 1 and lead.ends != ("hdmi", "hdmi")]
    return Fault("bad lead", (SlowLead(dice.choice(several).id, 480e6),)) if several else None


def _bad_picture_lead(rig: Rig, dice: random.Random) -> Fault | None:
    """One of several, again."""
    several = [lead for lead in rig.leads if lead.ends == ("hdmi", "hdmi")]
    return Fault("bad picture lead", (SlowLead(dice.choice(several).id, 4.95e9),)) if len(several) > 1 else None


def _filling_disk(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("disk that fills up", (FillsUp(dice.choice(rig.drives).id, dice.uniform(0.5e9, 3e9), 0.3),))


def _wrong_route(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("wrong route", (WrongRoute(dice.choice(rig.peers).id, dice.uniform(2e8, 8e8)),))


def _stale_witness(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("stale witness", (StaleWitness(480e6),))


def _weak_host(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("weak host", (WeakHost(dice.choice(rig.hosts).id, dice.choice((480e6, 5e9))),))


def _slow_disk(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("slow disk", (SlowDrive(dice.choice(rig.drives).id, dice.uniform(0.2, 0.7)),))


def _sick_instrument(rig: Rig, dice: random.Random) -> Fault | None:
    """Where there is another instrument to tell it by."""
    in_line = [meter.id for meter in rig.meters if meter.is_in_line]
    if not in_line or not rig.loads:
        return None
    sick = dice.choice((in_line[0], rig.loads[0].id))
    return Fault("sick meter", (SickInstrument(sick, dice.uniform(0.75, 0.9)),))


def _recorder_on(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("recorder on", (RecorderOn(rig.hosts[0].id, dice.uniform(60, 300) * 8e6),))


def _wrong_socket(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("wrong plug", wrong_socket_one_in=12)


def _typing_slip(rig: Rig, dice: random.Random) -> Fault | None:
    return Fault("typing slip", slip_one_in=2)


_FAULTS: tuple[Callable[[Rig, random.Random], Fault | None], ...] = (
    _bad_lead, _bad_picture_lead, _weak_host, _slow_disk, _filling_disk, _wrong_route, _stale_witness,
    _sick_instrument, _recorder_on, _wrong_socket, _typing_slip,
)  # fmt: skip


def random_fault(rig: Rig, dice: random.Random) -> Fault | None:
    """One thing that is wrong with the rig, or with the hands; None where it cannot be."""
    return dice.choice(_FAULTS)(rig, dice)
