"""Finds what stands in the modules of a package: a file that is put beside the others is enough to add one."""

from __future__ import annotations

import importlib
import pkgutil
from types import ModuleType
from typing import TypeVar

Kind = TypeVar("Kind")


def values_in(package: ModuleType, kind: type[Kind]) -> tuple[Kind, ...]:
    """The values of a kind in a package's modules, by the names of the modules."""
    names = [f"{package.__name__}.{module.name}" for module in pkgutil.iter_modules(package.__path__)]
    found = [value for name in sorted(names) for value in vars(importlib.import_module(name)).values()]
    return tuple(value for value in found if isinstance(value, kind))
