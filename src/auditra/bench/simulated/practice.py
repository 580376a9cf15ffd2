"""Practice devices for the shelf: the facts that a reviewer starts with, and the hidden faults."""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.journal.facts import BenchNoted, ClaimMade, DeviceNoted, Fact, NoteWritten, RigNoted
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.device import Device
from auditra.core.model.source import Source
from auditra.core.simulate.practice.practice import Practice, make_practice

_MODEL = re.compile(r"P(\d{1,9})")


def name_of_practice(seed: int) -> str:
    """The name of its audit."""
    return f"practice-{seed}"


def facts_of_practice(seed: int) -> tuple[Fact, ...]:
    """The facts that its audit starts with: device, rig, box text and the claims in it."""
    practice = make_practice(seed)
    claims = (
        ClaimMade(f"claim{number}", sentence, Source("box"))
        for number, sentence in enumerate(practice.promises, start=1)
    )
    box = NoteWritten(f"The box says:\n{practice.box_text}"[:2000], about="box")
    return BenchNoted(SIMULATED_BENCH), DeviceNoted(practice.device), RigNoted(practice.rig), *claims, box


def practice_of(device: Device) -> Practice | None:
    """The practice that a device belongs to, or None."""
    found = _MODEL.fullmatch(device.model)
    practice = make_practice(int(found[1])) if found is not None else None
    return practice if practice is not None and practice.device.name == device.name else None


def describe_faults(seed: int) -> Iterator[str]:
    """The hidden faults of device, rig and hands, one line each."""
    practice = make_practice(seed)
    for hidden in practice.hidden:
        within = "" if hidden.is_reachable else " (this rig cannot show it)"
        yield f"the device: {hidden.words}{within}"
    for fault in practice.faults:
        yield f"the rig: {fault.words}"
    if practice.wrong_socket_one_in:
        yield "the hands: now and then a plug goes into the socket beside the one that was meant"
    if practice.slip_one_in:
        yield "the hands: now and then a figure is typed with its point in the wrong place"
    if not practice.hidden:
        yield "the device keeps every promise"
