"""A planned trial as it would be typed, to be changed in one thing."""

from __future__ import annotations

from auditra.core.journal.audit import Audit
from auditra.core.model.device import DEVICE
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.setup import MINUTE_S, NetworkPath, Plugged, SetUp
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.workflows.audits.own_trials import NOTHING, OwnTrial


def as_typed(planned: PlannedTrial, audit: Audit) -> OwnTrial:
    """A planned trial as it would be typed, to be changed in one thing."""
    setup = planned.setup
    upstream = next((each for each in setup.plugged if each.gear == DEVICE), None)
    place = (DEVICE, planned.port) if planned.port is not None else (setup.host, setup.host_socket)
    tested = [each for each in setup.plugged if each.gear == planned.gear and (each.owner, each.socket) == place]
    others = [each for each in setup.plugged if each is not upstream and each not in tested]
    by_id = {claim.id: str(claim) for claim in audit.claims}
    return OwnTrial(
        procedure=planned.procedure, at=planned.place, gear=planned.gear if planned.gear != DEVICE else NOTHING,
        host=setup.host, host_socket=setup.host_socket,
        host_lead=(upstream.lead if upstream else None) or "", lead=(tested[0].lead if tested else None) or "",
        through="; ".join(tested[0].through if tested else ()),
        also="; ".join(_spoken(each) for each in others), running="; ".join(setup.running),
        arranged="; ".join(setup.arranged),
        claims="; ".join(by_id[claim] for claim in planned.claims if claim in by_id),
        soaked_minutes=f"{setup.soaked_s / MINUTE_S:g}" if setup.soaked_s else "",
        supply=_said(setup.charger), switched_off="; ".join(_dark(setup)), flipped=_said(setup.flipped),
        host_flipped=_said(setup.host_flipped), replugged=_said(setup.replugged),
        order=", ".join(setup.order) if isinstance(setup.order, tuple) else "", driver=_said(setup.driver),
        recorder=_said(setup.recorder), departs="; ".join(setup.departs), promised="no" if setup.unpromised else "",
        **_network_as_typed(setup),
    )  # fmt: skip


def _network_as_typed(setup: SetUp) -> dict[str, str]:
    network = setup.network
    if not isinstance(network, NetworkPath):
        return {}
    return {
        "wireless": _said(network.wireless),
        "streams": f"{network.streams}" if isinstance(network.streams, int) else "",
    }


def _said(noted: object) -> str:
    """A noted value as it would be typed; empty where it was not noted."""
    if noted is NOT_NOTED:
        return ""
    return "none" if noted is None else str(noted) if isinstance(noted, str) else "yes" if noted else "no"


def _dark(setup: SetUp) -> tuple[str, ...]:
    pictures = setup.pictures if isinstance(setup.pictures, tuple) else ()
    return tuple(picture.port for picture in pictures if picture.on is False)


def _spoken(plugged: Plugged) -> str:
    place = plugged.socket if plugged.owner == DEVICE else f"{plugged.owner}/{plugged.socket}"
    through = [word for part in plugged.through for word in ("through", part)]
    return " ".join(filter(None, (place, plugged.gear, plugged.lead or "", *through)))
