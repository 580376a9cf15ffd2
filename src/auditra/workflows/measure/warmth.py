"""The case's temperature beside the room's, taken at the end of work."""

from __future__ import annotations

from auditra.core.audit.reading import Quantity
from auditra.workflows.measure.session import Session

_CASE, _ROOM = "case", "room"
_THERMOMETER_DIGIT_C = 0.1


def take_temperatures(session: Session) -> None:
    """Both temperatures, where the bench has a thermometer and the device takes part."""
    thermometer = session.bench.thermometer
    if thermometer is None or session.planned.port is None or not session.rig.thermometers:
        return
    witness = session.rig.thermometers[0]
    for quantity, spot, celsius in (
        (Quantity.CASE_TEMPERATURE, _CASE, thermometer.case_c()),
        (Quantity.AMBIENT_TEMPERATURE, _ROOM, thermometer.ambient_c()),
    ):
        session.take(
            session.number(
                quantity, witness.name, (celsius,), error=witness.error_k, resolution=_THERMOMETER_DIGIT_C, at=spot
            )
        )
