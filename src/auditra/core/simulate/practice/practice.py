"""A practice device, made from its seed: its box, a rig, and what is wrong with either. The same seed, the same."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, replace

from auditra.core.model.device import Device
from auditra.core.model.rig import Rig
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.practice.box_text import box_text
from auditra.core.simulate.practice.devices import DEVICES
from auditra.core.simulate.practice.draft import Planting
from auditra.core.simulate.practice.faults import random_fault
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.practice.on_the_bench import OnTheBench
from auditra.core.simulate.practice.planted.data import mind_what_masks
from auditra.core.simulate.practice.planted.every import MASKING, one_of_any_domain
from auditra.core.simulate.practice.rigs import random_rig
from auditra.core.simulate.rig_fault import RigFault

_INNOCENT, _FAULTY_RIG, _BOTH = 0.45, 0.6, 0.15
_MASKED, _TRIES = 0.15, 12


@dataclass(frozen=True)
class Practice:
    """All of it. Only `device`, `promises`, `box_text` and `rig` are for the bench's eyes."""

    seed: int
    device: Device
    promises: tuple[str, ...]
    box_text: str
    rig: Rig
    model: DeviceModel
    hidden: tuple[Hidden, ...]
    faults: tuple[RigFault, ...]
    wrong_socket_one_in: int = 0
    slip_one_in: int = 0

    @property
    def is_innocent(self) -> bool:
        """The device keeps its word."""
        return not self.hidden


def make_practice(seed: int) -> Practice:
    """The practice of a seed."""
    dice = random.Random(f"practice/{seed}")
    rig = random_rig(dice)
    draft = DEVICES[dice.choice(list(DEVICES))](dice)
    innocent = dice.random() < _INNOCENT
    fault = random_fault(rig, dice) if dice.random() < (_FAULTY_RIG if innocent else _BOTH) else None
    true_rig, most_bps = rig, math.inf
    for each in fault.faults if fault is not None else ():
        true_rig, most_bps = each.truth_of(true_rig), min(most_bps, each.most_payload_bps(rig.hosts[0].id))
    if not innocent:
        detours = {peer.id for peer in rig.peers for each in fault.faults if each.detour_bps(peer.id)} if fault else ()
        on_its_way = replace(true_rig, peers=tuple(peer for peer in true_rig.peers if peer.id not in detours))
        _plant(Planting(draft, OnTheBench(on_its_way, most_bps), dice))
    return Practice(
        seed, draft.device(seed), tuple(str(claim) for claim in draft.claims),
        box_text(draft.kind, draft.claims, dice), rig, draft.model(), tuple(draft.hidden),
        fault.faults if fault is not None else (),
        fault.wrong_socket_one_in if fault is not None else 0, fault.slip_one_in if fault is not None else 0,
    )  # fmt: skip


def _plant(planting: Planting) -> None:
    """One to three traits, now and then two that mask one another."""
    dice, draft = planting.dice, planting.draft
    if dice.random() < _MASKED:
        for plant in dice.choice(MASKING):
            plant(planting)
    wanted = dice.choices((1, 2, 3), weights=(6, 3, 1))[0]
    for _ in range(_TRIES):
        if len(draft.hidden) < wanted:
            one_of_any_domain(dice)(planting)
    mind_what_masks(planting)
