"""Every procedure that measures through a door of the bench has a loop in the module that it names."""

from __future__ import annotations

import importlib

import pytest

from auditra.core.procedures.procedure import Door, Procedure
from auditra.core.procedures.registry import all_procedures
from auditra.workflows.trials import measure

MEASURED = [procedure for procedure in all_procedures().values() if procedure.door is not Door.NONE]


@pytest.mark.parametrize("procedure", MEASURED, ids=lambda procedure: str(procedure.name))
def test_a_procedure_with_a_door_finds_its_loop(procedure: Procedure) -> None:
    loop = importlib.import_module(f"{measure.__name__}.{procedure.loop or procedure.name}")
    assert callable(loop.measure)
