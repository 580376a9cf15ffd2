"""Power that other ports give while the host is charged."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Added, Factor
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial


def _add(tried: list[Tried], planning: Planning) -> Added:
    """All of them at once; and in reserve each by itself."""
    return Added(
        tuple(_while_others_draw(tried, planning, whole=True)), tuple(_while_others_draw(tried, planning, whole=False))
    )


def _while_others_draw(tried: list[Tried], planning: Planning, *, whole: bool) -> Iterator[PlannedTrial]:
    for each in tried:
        if each.claim.promise.procedure != ProcedureId.CHARGE:
            continue
        drains = planning.drains(ids_of(each.trial.setup))
        for others in [drains] if whole else [[drain] for drain in drains if len(drains) > 1]:
            ports = [plugged.socket for _, plugged in others]
            if ports:
                yield replace(
                    each.trial,
                    title=f"{each.trial.title}, while {' and '.join(ports)} give{'s' if len(ports) == 1 else ''} power",
                    why="does power for other ports reduce the host's share?",
                    setup=planning.stand.beside(
                        each.trial.setup, [plugged for _, plugged in others], tuple(words for words, _ in others)
                    ),
                )


OTHERS_DRAW = Factor("others draw", 2, _add)
