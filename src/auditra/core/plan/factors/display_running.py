"""A picture that runs on another port."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Added, Factor
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial


def _add(tried: list[Tried], planning: Planning) -> Added:
    return Added(tuple(_beside_display(tried, planning)))


def _beside_display(tried: list[Tried], planning: Planning) -> Iterator[PlannedTrial]:
    displays = [each for each in tried if each.claim.promise.procedure == ProcedureId.DISPLAY]
    for each in tried if displays else ():
        taken = ids_of(each.trial.setup)
        found = planning.display(displays, taken) if each.claim.promise.beside_display else None
        if found is not None and found[1].socket != each.port.id:
            words, display = found
            yield replace(
                each.trial,
                title=f"{each.trial.title}, with {display.socket}",
                why=f"does a picture on {display.socket} slow {each.port.id} down?",
                setup=planning.stand.beside(each.trial.setup, (display,), (words,)),
            )


DISPLAY_RUNNING = Factor("display running", 1, _add)
