"""The device as it stands on the desk, and what it promises at every socket."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.judge.capabilities import Cell as GridCell
from auditra.core.judge.capabilities import capability_grid, look_alikes
from auditra.core.model.capability import Capability
from auditra.core.model.device import Device, Port
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, Faces, From, Heading, Items, Said, Table, refs, said
from auditra.core.report.material import Material

_SHARES = (0.26, 0.15, 0.15, 0.15, 0.15, 0.14)


def _blocks(material: Material) -> Iterator[Block]:
    judgement, device = material.judged.judgement, material.judged.audit.device
    if not any(device.ports()):
        return
    everything = refs(From.CLAIM, *(each.claim.id for each in judgement.claims))
    yield Faces(said("Every port in its place, with what is promised there and the verdict.", everything,
                     refs(From.TYPED, "faces")))  # fmt: skip
    rows = capability_grid(device, judgement)
    yield Heading("What each socket does")
    yield Table(
        ("socket", *map(str, Capability)),
        tuple((_socket(row.port), *(_cell(cell, row.port.id, judgement.of_port(row.port.id)) for cell in row.cells))
              for row in rows), _SHARES,
    )  # fmt: skip
    if alike := look_alikes(rows):
        yield Heading("Easy to mistake")
        yield Items(tuple((said(each, everything, refs(From.TYPED, "faces")),) for each in alike))
    yield from _counted(device)


def _socket(port: Port) -> tuple[Said, ...]:
    printed = f', printed "{port.printed}"' if isinstance(port.printed, str) else ""
    return (said(f"{port.id}  {port.connector}{printed}", refs(From.TYPED, "faces")),)


def _cell(cell: GridCell, port: str, verdicts: object) -> tuple[Said, ...]:
    if not cell.words:
        return ()
    if cell.verdict is None:
        return (said(cell.words, refs(From.FINDING, "wrong plug")),)
    ids = [each.claim.id for each in verdicts] if isinstance(verdicts, tuple) else []
    return (Said(cell.words, refs(From.CLAIM, *ids), verdict=cell.verdict),)


def _counted(device: Device) -> Iterator[Block]:
    if not isinstance(device.printed_count, int):
        return
    counted = device.counted_ports
    same = "the same" if device.printed_count == len(counted) else "not the same"
    ours = f"every socket once and the host's plug not, there are {len(counted)} ({', '.join(counted)}): {same}."
    words = f"The box counts {device.printed_count}; by one rule for all devices, {ours}"
    yield Items(((said(words, refs(From.TYPED, "printed_count", "faces")),),))


THE_DEVICE = ChapterRule("device", 20, "The device", _blocks)
