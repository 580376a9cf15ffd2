"""The form of an own trial: any set-up and any procedure, filled with what is planned next."""

from __future__ import annotations

from dataclasses import fields

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact
from auditra.core.model.circumstance import Aspect
from auditra.core.model.rig import Rig
from auditra.core.model.trial import DIRECT
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import all_procedures, procedure_of
from auditra.documents.typed_noun import FieldRefused
from auditra.tui.forms.form import Choices, Form, FormField, Texts, fixed
from auditra.tui.forms.gear import Saving
from auditra.workflows.audits.own_trials import NOTHING, OwnTrial, OwnTrialRefused, facts_of_own_trial
from auditra.workflows.audits.trial_as_typed import as_typed

_INTRO = (
    "It stands on the run sheet beside the planned ones. Change one thing of a planned trial to see what that thing "
    "does; leave empty what does not matter."
)
_LABELS = {
    "at": "port", "gear": "measured with", "host_socket": "host socket", "host_lead": "lead to the host",
    "lead": "lead to the gear", "through": "adapters in line", "also": "also connected", "running": "also in use",
    "arranged": "you arrange", "soaked_minutes": "minutes at full load", "flipped": "plug turned over",
    "supply": "fed by", "switched_off": "displays switched off", "host_flipped": "host plug turned over",
    "replugged": "connected again", "departs": "differs on purpose in", "promised": "promised by the seller",
    "order": "order of connecting", "driver": "driver", "recorder": "recorder", "wireless": "wireless on",
    "streams": "network streams",
    "battery_percent": "battery, %", "why": "what it is to show",
}  # fmt: skip
_HINTS = {
    "at": "a port of the device, or direct for the gear on the host itself",
    "gear": "nothing for a trial of looking",
    "also": "port, gear and lead; a semicolon between two",
    "running": "functions that are in use at the same time, as claims; a semicolon between two",
    "claims": "what it bears on; left empty, what this procedure tries at the port",
    "arranged": "what only you can do: inlet pulled during the copy, lid closed, without driver",
    "order": "what was connected, in order, with commas between",
    "driver": "none where there is none",
    "streams": "at once to a network peer, 1 to 16; one where it is left empty",
    "supply": "what feeds the device; none for none",
    "switched_off": "ports whose display is connected and dark; a semicolon between two",
    "departs": "what is otherwise than the seller intends; a semicolon between two",
    "promised": "no if the seller promises nothing for it; a failure then breaks no promise",
}
_EXAMPLES = {
    "also": "H1 projector HD-1; P1 supply-90", "running": "H1 shows 3840x2160@60", "soaked_minutes": "45",
    "order": "supply, display, drive", "through": "small-hub", "streams": "4", "title": "A1 with the long lead",
}  # fmt: skip
_BETWEEN = {
    "also": ";", "arranged": ";", "running": ";", "claims": ";", "through": ";", "order": ",", "switched_off": ";",
    "departs": ";",
}  # fmt: skip
_ARRANGEMENTS = (
    "no power at the inlet",
    "inlet pulled during the copy",
    "inlet connected during the copy",
    "lid closed",
    "after sleep",
    "after a restart",
    "without driver",
)
_REQUIRED = ("procedure", "at", "host", "host_socket")


def own_trial_form(audit: Audit, like: PlannedTrial | None, port: str | None, saving: Saving) -> Form:
    """A trial like a planned one, to be changed; without one, at the chosen port."""
    typed = as_typed(like, audit) if like is not None else _empty(audit, port)
    choices = _choices(audit)
    made = tuple(
        FormField(
            name, _LABELS.get(name, name), _shown(name, getattr(typed, name)), _HINTS.get(name, ""),
            _EXAMPLES.get(name, ""), name in _REQUIRED, choices.get(name, fixed()), _BETWEEN.get(name, ""),
        ) for name in (field.name for field in fields(OwnTrial))
    )  # fmt: skip
    save = saving(facts_of_texts, "plan a trial", "The trial is on the run sheet.")
    return Form("Own trial", _INTRO, made, save, "own trial")


def facts_of_texts(audit: Audit, texts: Texts) -> tuple[Fact, ...]:
    """The planned trial of what was typed. Raises: FieldRefused, InputError."""
    try:
        return facts_of_own_trial(audit, OwnTrial(**texts))
    except OwnTrialRefused as error:
        raise FieldRefused(error.field, error.what, error.why, error.do) from error


def _shown(name: str, text: str) -> str:
    return procedure_of(text).title if name == "procedure" and text else text


def _empty(audit: Audit, port: str | None) -> OwnTrial:
    host = next(iter(audit.rig.in_use.hosts), None)
    socket = host.sockets[0].id if host is not None and host.sockets else ""
    return OwnTrial("", port or DIRECT, NOTHING, host.id if host is not None else "", socket)


def _choices(audit: Audit) -> dict[str, Choices]:
    rig: Rig = audit.rig.in_use
    leads = fixed(NOTHING, *(lead.id for lead in rig.leads))
    claims = fixed(*map(str, audit.claims))

    def sockets(texts: Texts) -> tuple[str, ...]:
        host = rig.host(texts.get("host", "").strip())
        return tuple(socket.id for socket in host.sockets) if host is not None else ()

    return {
        "procedure": fixed(*(each.title for each in all_procedures().values())),
        "at": fixed(*(port.id for port in audit.device.ports()), DIRECT),
        "gear": fixed(NOTHING, *(part.id for part in rig.gear())),
        "host": fixed(*(host.id for host in rig.hosts)), "host_socket": sockets, "host_lead": leads, "lead": leads,
        "through": fixed(*(part.id for part in (*rig.adapters, *rig.meters))), "running": claims, "claims": claims,
        "supply": fixed("none", *(part.id for part in rig.supplies)), "departs": fixed(*Aspect),
        "switched_off": fixed(*(port.id for port in audit.device.ports())), "host_flipped": fixed("yes", "no"),
        "promised": fixed("yes", "no"), "flipped": fixed("yes", "no"),
        "replugged": fixed("yes", "no"), "wireless": fixed("yes", "no"),
        "arranged": fixed(*_ARRANGEMENTS), "driver": fixed("none"), "recorder": fixed("none"),
    }  # fmt: skip
