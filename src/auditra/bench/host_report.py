"""What any computer shows of itself through its system's own public interfaces, with nothing but Python.

Nothing is imported here that does not come with Python, so that the same code runs on hosts without the rest of
Auditra: `write_program` puts it into one file.
"""

from __future__ import annotations

import json
import platform
import subprocess
import sys
import zipfile
from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

from auditra.core.host.limits import lane_limits, power_limits
from auditra.core.host.link import link_states
from auditra.core.host.other_systems.mac import DATA_TYPES, snapshot_of_mac
from auditra.core.host.other_systems.windows import QUERY, snapshot_of_windows
from auditra.core.host.snapshot import Flaw, Snapshot
from auditra.core.sanitize import escaped_json

Run = Callable[[Sequence[str]], str]
"""Runs a command; what it prints. Raises: OSError, subprocess.SubprocessError."""
WITHIN_S = 120.0
MAX_OUTPUT = 32 << 20
_SYS = Path("/sys")
_PARTS = ("auditra.bench.host_report", "auditra.bench.kernel.modes", "auditra.bench.kernel.tree")
_MAIN = "from auditra.bench.host_report import main\nmain()\n"


def main() -> None:
    """Print the report as `auditra probe --json` does."""
    root = str(_SYS) if sys.platform.startswith("linux") else sys.platform
    sys.stdout.write(escaped_json(json.dumps(report_of(snapshot_of_this_computer(), root), indent=2)) + "\n")


def report_of(snapshot: Snapshot, root: str) -> dict[str, Any]:
    """The tables of a probe file, format version 2."""
    limits = [
        {"port": each.name, "power": list(power_limits(each)), "lanes": list(lane_limits(each))}
        for each in snapshot.type_c
    ]
    links = [asdict(each) for each in link_states(snapshot)]
    return {
        "format": "auditra probe", "version": 2, "root": root, "snapshot": asdict(snapshot), "usb_links": links,
        "type_c_limits": limits,
    }  # fmt: skip


def snapshot_of_this_computer(system: str = sys.platform, run: Run | None = None) -> Snapshot:
    """By the system's own commands, or the kernel's attributes. What a command does not say is a flaw, and told so."""
    run = run or _run
    if system == "darwin":
        snapshot = _of_mac(run)
    elif system == "win32":
        snapshot = _of_windows(run)
    else:
        snapshot = _of_linux()
    return replace(snapshot, host=replace(snapshot.host, system=f"{platform.system()} {platform.release()}"))


def _of_linux() -> Snapshot:
    from auditra.bench.kernel.modes import open_modes  # neither can be loaded on other systems
    from auditra.bench.kernel.tree import KernelTree

    with open_modes() as running:
        return KernelTree(_SYS, running).snapshot()


def _of_mac(run: Run) -> Snapshot:
    told: dict[str, Any] = {}
    flaws: list[Flaw] = []
    for kind in DATA_TYPES:  # one by one: a kind that this release does not know costs only itself
        told.update(_json_of(run, ("system_profiler", "-json", kind), flaws))
    ifconfig = _text_of(run, ("ifconfig", "-a"), flaws)
    ports = _text_of(run, ("networksetup", "-listallhardwareports"), flaws)
    snapshot = snapshot_of_mac(told, ifconfig, ports)
    return replace(snapshot, flaws=tuple(flaws))


def _of_windows(run: Run) -> Snapshot:
    flaws: list[Flaw] = []
    told = _json_of(run, ("powershell", "-NoProfile", "-NonInteractive", "-Command", QUERY), flaws)
    return replace(snapshot_of_windows(told), flaws=tuple(flaws))


def _text_of(run: Run, command: Sequence[str], flaws: list[Flaw]) -> str:
    try:
        return run(command)
    except (OSError, subprocess.SubprocessError) as error:
        flaws.append(Flaw(" ".join(command[:3])[:80], f"it cannot be run: {type(error).__name__}"))
        return ""


def _json_of(run: Run, command: Sequence[str], flaws: list[Flaw]) -> Mapping[str, Any]:
    text = _text_of(run, command, flaws)
    try:
        told = json.loads(text) if text.strip() else {}
    except (ValueError, RecursionError):
        told = None
    if isinstance(told, Mapping):
        return told
    flaws.append(Flaw(" ".join(command[:3])[:80], "what it printed is no JSON object"))
    return {}


def _run(command: Sequence[str]) -> str:
    done = subprocess.run(command, capture_output=True, timeout=WITHIN_S, check=False, stdin=subprocess.DEVNULL)
    return done.stdout[:MAX_OUTPUT].decode("utf-8", "replace")


def write_program(path: Path) -> int:
    """One file that prints the report on any computer with Python 3.11 or newer; how many modules it took.

    Raises: OSError.
    """
    listing = f"import sys, {', '.join(_PARTS)}; print(*(n for n in sys.modules if n.split('.')[0] == 'auditra'))"
    names = subprocess.run(
        (sys.executable, "-c", listing), capture_output=True, text=True, check=True, timeout=WITHIN_S
    ).stdout.split()
    source = Path(__file__).parents[2]
    with zipfile.ZipFile(path, "w") as packed:
        for name in sorted(names):
            place = Path(*name.split("."))
            package = source / place / "__init__.py"
            file = package if package.exists() else source / place.with_suffix(".py")
            packed.writestr(_as_of_no_day(file.relative_to(source).as_posix()), file.read_bytes())
        packed.writestr(_as_of_no_day("__main__.py"), _MAIN)
    return len(names)


def _as_of_no_day(name: str) -> zipfile.ZipInfo:
    """The same program is the same file, whenever it is written."""
    made = zipfile.ZipInfo(name)
    made.compress_type = zipfile.ZIP_DEFLATED
    return made
