"""The core is values in, values out."""

from __future__ import annotations

import subprocess
import sys

_PROGRAM = """
import pkgutil, sys, auditra.core
for module in pkgutil.walk_packages(auditra.core.__path__, "auditra.core."):
    __import__(module.name)
unwanted = {"textual", "rich", "sqlalchemy", "sqlite3", "socket", "matplotlib", "reportlab", "pyvisa", "pydantic"}
wrong = unwanted & set(sys.modules)
print(len([name for name in sys.modules if name.startswith("auditra.core.")]), sorted(wrong))
"""


def test_all_of_the_core_loads_without_interface_storage_or_sockets() -> None:
    ran = subprocess.run([sys.executable, "-c", _PROGRAM], capture_output=True, text=True, check=True)
    count, wrong = ran.stdout.split(maxsplit=1)
    assert wrong.strip() == "[]"
    assert int(count) > 40
