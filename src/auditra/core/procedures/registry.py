"""Finds the procedures: every module of this package that has one."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Mapping
from functools import cache
from types import ModuleType

from auditra.core import procedures
from auditra.core.procedures.procedure import Procedure, connected


def procedures_in(package: ModuleType) -> dict[str, Procedure]:
    """The procedures of a package's modules, by id."""
    modules = [
        importlib.import_module(f"{package.__name__}.{each.name}") for each in pkgutil.iter_modules(package.__path__)
    ]
    found = [value for module in modules for value in vars(module).values() if isinstance(value, Procedure)]
    return {procedure.id: procedure for procedure in found}


@cache
def all_procedures() -> Mapping[str, Procedure]:
    """Every procedure, by id."""
    return procedures_in(procedures)


def procedure_of(procedure_id: str) -> Procedure:
    """The procedure of an id; one that only its name is known of, where a newer Auditra made the trial."""
    return all_procedures().get(procedure_id) or Procedure(procedure_id, "unknown", procedure_id, connected)
