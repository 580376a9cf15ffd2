"""Finds the procedures: every module of this package that has one."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

from auditra.core import procedures
from auditra.core.found import values_in
from auditra.core.procedures.procedure import Procedure, connected


@cache
def all_procedures() -> Mapping[str, Procedure]:
    """Every procedure, by id."""
    return {procedure.id: procedure for procedure in values_in(procedures, Procedure)}


def procedure_of(procedure_id: str) -> Procedure:
    """The procedure of an id; one that only its name is known of, where a newer Auditra made the trial."""
    return all_procedures().get(procedure_id) or Procedure(procedure_id, "unknown", procedure_id, connected)
