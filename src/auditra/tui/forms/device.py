"""Forms of the device: what marks it, what came with it, what it costs; and how the reviewer came by it."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact
from auditra.core.model.device import Device, Port
from auditra.core.model.noted import NOT_NOTED
from auditra.documents.typed_noun import noun_from
from auditra.tui.forms.form import Form, Texts, fields_of_noun
from auditra.tui.forms.gear import Saving
from auditra.workflows.audits.beginning import DEVICE_KINDS
from auditra.workflows.audits.claim_edits import device_edited, port_edited

DISCLOSURE = ("disclosure", "paid_by", "seen_before_by", "helper_gear")
"""What a reader must be told before anything is published."""
_ELSEWHERE = ("faces", "id", "lamps")
"""Fields that are no text: faces are arranged on the stage itself."""
_INTRO = (
    "What marks this one, what came in its box, what it costs and where. "
    "Leave empty what is not known; write none where there is none."
)
_DISCLOSURE_INTRO = (
    "A reader must know how the reviewer got the device, who pays, who saw the result before, and which gear was lent. "
    "Write none where there is none."
)
_HINTS = {
    "disclosure": "bought in a shop, lent by the maker, ...",
    "paid_by": "who pays for the work", "seen_before_by": "who saw the result before it was published",
    "helper_gear": "gear that was lent, or is of the same maker",
    "price": "what the seller of this one asks: amount, money, day, and list, street or used",
    "other_prices": "at other dates and sellers, or used; a semicolon between two",
    "extras": "what must be bought as well: name, price amount and money; a semicolon between two",
}  # fmt: skip


def details_form(audit: Audit, saving: Saving) -> Form:
    """All that is known of the device but its faces."""
    device = audit.device
    fields = tuple(
        replace(field, hint=_HINTS.get(field.key, field.hint))
        for field in fields_of_noun(Device, device, without=_ELSEWHERE, choices={"kind": lambda _: DEVICE_KINDS})
    )

    def facts(newest: Audit, texts: Texts) -> tuple[Fact, ...]:
        old = newest.device
        new = noun_from(Device, texts, _ELSEWHERE, faces=old.faces, id=old.id, lamps=old.lamps)
        return device_edited(newest, new)

    save = saving(facts, "device details", "The device is described.")
    return Form(f"{device.name}", _INTRO, fields, save, "device")


def socket_form(audit: Audit, port: Port, saving: Saving) -> Form:
    """What a socket is, and what stands beside it on the case."""
    fields = fields_of_noun(Port, port, without=("id",))

    def facts(newest: Audit, texts: Texts) -> tuple[Fact, ...]:
        return port_edited(newest, port.id, noun_from(Port, texts, ("id",), id=port.id))

    save = saving(facts, f"describe {port.id}", f"{port.id} is described.")
    return Form(f"Socket {port.id}", "What it is, and what is printed beside it.", fields, save, f"socket {port.id}")


def lacks_disclosure(device: Device) -> bool:
    """Whether something is not noted that a reader must be told."""
    return any(getattr(device, name) is NOT_NOTED for name in DISCLOSURE)


def disclosure_form(audit: Audit, saving: Saving) -> Form:
    """What a reader must be told; every field must have an answer."""
    without = tuple(name for name in Device.__dataclass_fields__ if name not in DISCLOSURE)
    fields = tuple(
        replace(field, hint=_HINTS[field.key], required=True)
        for field in fields_of_noun(Device, audit.device, without=without)
    )

    def facts(newest: Audit, texts: Texts) -> tuple[Fact, ...]:
        missing = next((field for field in fields if not texts[field.key].strip()), None)
        if missing is not None:
            raise InputError(missing.label, why="it needs an answer", do="Write none where there is none")
        kept = {name: getattr(newest.device, name) for name in without}
        return device_edited(newest, noun_from(Device, texts, without, **kept))

    save = saving(facts, "disclosure", "The disclosure is noted.")
    return Form("Disclosure", _DISCLOSURE_INTRO, fields, save, "disclosure")
