"""What a reader must be told: how the reviewer came by it, who pays, who saw it; which device it was, and its box."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.model.device import Device, OwnSupply, Price
from auditra.core.model.noted import NOT_NOTED
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Said, Table, Tone, refs, said
from auditra.core.report.material import Material

DISCLOSED = {
    "disclosure": "How the reviewer got it", "paid_by": "Who pays for the work",
    "seen_before_by": "Who saw the result before", "helper_gear": "Gear that was lent, or of the same maker",
}  # fmt: skip
"""What nothing is published without, by the field of the device."""
_IDENTITY = {
    "maker": "Maker", "model": "Model", "kind": "Kind", "variant": "Variant", "revision": "Revision",
    "firmware": "Firmware", "seller": "Seller", "reviewed_by": "Reviewed by",
}  # fmt: skip
_SHARES = (0.34, 0.66)


def _blocks(material: Material) -> Iterator[Block]:
    for device in material.judged.audit.devices or (material.judged.audit.device,):
        rows = [*_rows(device, DISCLOSED, always=True), *_rows(device, _IDENTITY), *_box(device)]
        if len(material.judged.audit.devices) > 1:
            yield Heading(f"{device.name} ({device.id})")
        yield Table((), tuple(rows), _SHARES)


def _rows(device: Device, names: dict[str, str], *, always: bool = False) -> Iterator[tuple[tuple[Said, ...], ...]]:
    for field, label in names.items():
        value = getattr(device, field)
        if value is NOT_NOTED and not always:
            continue
        words = "not said" if value is NOT_NOTED else "none" if value is None else str(value)
        tone = Tone.ALARM if value is NOT_NOTED else Tone.PLAIN
        yield _row(label, words, field, tone)


def _row(label: str, words: str, field: str, tone: Tone = Tone.PLAIN) -> tuple[tuple[Said, ...], ...]:
    typed = refs(From.TYPED, field)
    return (said(label, typed, tone=Tone.QUIET),), (said(words, typed, tone=tone),)


def _box(device: Device) -> Iterator[tuple[tuple[Said, ...], ...]]:
    if isinstance(device.box_contents, tuple):
        yield _row("In the box", ", ".join(device.box_contents), "box_contents")
    if isinstance(device.supply, OwnSupply):
        watts = device.supply.volts * device.supply.amperes
        yield _row("Its own supply", f"{device.supply.volts:g} V, {device.supply.amperes:g} A, {watts:g} W", "supply")
    for extra in device.extras if isinstance(device.extras, tuple) else ():
        price = f", {extra.price.amount:.2f} {extra.price.money}" if isinstance(extra.price, Price) else ""
        yield _row("Sold separately", f"{extra.name}{price}", "extras")


DISCLOSURE = ChapterRule("disclosure", 110, "Disclosure, and what was examined", _blocks)
