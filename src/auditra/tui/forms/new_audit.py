"""Forms of the shelf: a new audit, and one that follows another."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from auditra.core.errors import InputError
from auditra.core.links.connectors import parse_connector
from auditra.core.model.rig import Rig
from auditra.core.sanitize import sanitize
from auditra.documents.typed_noun import FieldRefused
from auditra.tui.forms.form import Form, FormField, Texts, fixed
from auditra.workflows.audits.beginning import (
    DEVICE_KINDS,
    facts_of_follow_up,
    facts_of_new,
    new_device,
    rig_of_this_machine,
)

if TYPE_CHECKING:
    from auditra.workflows.audits.audit_session import AuditSession
    from auditra.workflows.services import Services

_NEW_RIG = "a new rig"
_PLUGS = ("usb-c plug", "usb-c", "usb-a plug", "usb-b", "usb-a")
_NEW_INTRO = (
    "What is audited, and with which rig. The next step is the seller's text: paste it, or type the claims. "
    "A new rig begins with this machine as its host; add your gear in stage 3."
)
_FOLLOW_INTRO = (
    "Claims, rig and open doubts are kept, trials are not. Change one thing, and name it: then a difference shows "
    "what that thing does."
)


def new_audit_form(services: Services, opened: Callable[[str], None]) -> Form:
    """A new audit; `opened` is given its name once it is on the shelf."""
    rigs = services.open_drawer().names()

    def save(texts: Texts) -> str:
        name = texts["name"].strip()
        device = new_device(
            _word(texts, "maker", "maker"), _word(texts, "model", "model"), _word(texts, "kind", "kind"),
            _connector(texts["plug"].strip()),
        )  # fmt: skip
        services.create_audit(name, facts_of_new(device, _rig(services, texts["rig"].strip(), name)))
        opened(name)
        return f"{sanitize(name, 64)} is on the shelf."

    fields = (
        FormField("name", "name of the audit", hint="as shown on the shelf", example="quay dock", required=True),
        FormField("maker", "maker", required=True),
        FormField("model", "model", required=True),
        FormField("kind", "kind", required=True, choices=fixed(*DEVICE_KINDS), hint="or any other word"),
        FormField(
            "plug", "to the host", "usb-c plug", "its host plug or socket; of a cable, what is at both ends",
            required=True, choices=fixed(*_PLUGS),
        ),
        FormField(
            "rig", "rig", rigs[0] if rigs else _NEW_RIG, "one of the gear drawer, or a name for a new one",
            required=True, choices=fixed(*rigs, _NEW_RIG),
        ),
    )  # fmt: skip
    return Form("New audit", _NEW_INTRO, fields, save, "shelf new audit")


def follow_up_form(services: Services, session: AuditSession, opened: Callable[[str], None]) -> Form:
    """An audit that follows the one of a session."""
    earlier = session.judged.audit

    def save(texts: Texts) -> str:
        name = texts["name"].strip()
        services.create_audit(name, facts_of_follow_up(earlier, texts["changed"], session.head_link))
        opened(name)
        return f"{sanitize(name, 64)} is on the shelf."

    fields = (
        FormField("name", "name of the audit", f"{earlier.name[:60]}-2", required=True),
        FormField(
            "changed", "what is changed", hint="the one thing that is different", example="firmware 1.4", required=True
        ),
    )
    return Form(f"Follow-up of {earlier.name}", _FOLLOW_INTRO, fields, save, f"shelf follow {earlier.name}")


def _word(texts: Texts, key: str, label: str) -> str:
    text = " ".join(texts[key].split())
    if not text or len(text) > 80 or sanitize(text, 81) != text:
        raise FieldRefused(key, label, "expected 1 to 80 plain characters")
    return text


def _connector(text: str) -> str:
    try:
        return parse_connector(text)
    except InputError as error:
        raise FieldRefused("plug", "to the host", error.why, error.do) from None


def _rig(services: Services, wanted: str, audit: str) -> Rig:
    """The drawer's rig of this name; else a new one of it, with this machine as its host."""
    known = services.open_drawer().rig(wanted)
    if known is not None:
        return known
    name = wanted if wanted and wanted != _NEW_RIG else f"{audit} rig"
    return rig_of_this_machine(name[:64], services.probe())
