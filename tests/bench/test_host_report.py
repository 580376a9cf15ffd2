"""The host report: the same file as a probe makes, by nothing but Python, on any system."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from typer.testing import CliRunner

from auditra.bench.host_report import report_of, snapshot_of_this_computer, write_program
from auditra.bench.kernel.tree import KernelTree
from auditra.cli.commands import app
from auditra.core.host.difference import differences
from auditra.core.host.snapshot import Snapshot
from auditra.core.simulate.kernel_tree import kernel_tree
from auditra.core.simulate.world import World
from auditra.documents.probe import probe_file, read_probe_file
from tests.support.audits import HUB, galley
from tests.support.benches import HONEST
from tests.support.hosts import write_tree
from tests.support.vectors import vectors

TOLD = vectors("other_systems")


def isolated(program: Path, *arguments: str) -> subprocess.CompletedProcess[bytes]:
    """In an interpreter that has no package but its own."""
    return subprocess.run((sys.executable, "-I", "-S", str(program), *arguments), capture_output=True, timeout=60)


def test_the_program_runs_with_python_alone_and_says_what_a_probe_of_this_machine_says(tmp_path: Path) -> None:
    program = tmp_path / "report.pyz"
    assert CliRunner().invoke(app, ["host-report", "--write", str(program)]).exit_code == 0
    done = isolated(program)
    assert done.returncode == 0, done.stderr
    told = read_probe_file(done.stdout, "host.json")
    probed = CliRunner().invoke(app, ["probe", "--json"])
    assert differences(told, read_probe_file(probed.stdout.encode(), "probe.json")) == ()
    assert told.host.system.startswith("Linux")


def test_the_program_is_the_same_file_each_time_and_small(tmp_path: Path) -> None:
    one, other = tmp_path / "one.pyz", tmp_path / "other.pyz"
    assert write_program(one) == write_program(other)
    assert one.read_bytes() == other.read_bytes()
    assert one.stat().st_size < 400_000


def test_its_tables_are_those_of_a_probe_file(tmp_path: Path) -> None:
    world = World(HUB, galley(), HONEST, seed=1)
    root = write_tree(tmp_path / "sys", kernel_tree(world))
    snapshot = KernelTree(root).snapshot()
    assert snapshot.type_c
    ours, theirs = report_of(snapshot, "/sys"), probe_file(snapshot, "/sys").model_dump_json()
    assert json.loads(json.dumps(ours)) == json.loads(theirs)


def commands(**printed: str) -> Callable[[Sequence[str]], str]:
    """A system whose commands print so; one that is not named is not there."""

    def run(command: Sequence[str]) -> str:
        key = command[-1] if command[0] == "system_profiler" else command[0]
        if key not in printed:
            raise FileNotFoundError(command[0])
        return printed[key]

    return run


def mac(**other: str) -> Snapshot:
    kinds = {kind: json.dumps({kind: told}) for kind, told in TOLD["mac"].items()}
    run = commands(**{**kinds, "ifconfig": TOLD["ifconfig"], "networksetup": TOLD["networksetup"], **other})
    return snapshot_of_this_computer("darwin", run)


def test_a_mac_is_asked_by_its_own_commands() -> None:
    snapshot = mac()
    assert snapshot.flaws == ()
    assert [each.name for each in snapshot.network if each.wireless] == ["en0"]
    assert len(snapshot.usb) == 6
    assert json.dumps(report_of(snapshot, "darwin"))


def test_a_command_that_is_not_there_or_prints_nonsense_costs_only_itself() -> None:
    snapshot = mac(SPUSBDataType="{oops", SPPowerDataType="[1]", ifconfig="")
    assert sorted(flaw.path for flaw in snapshot.flaws) == [
        "system_profiler -json SPPowerDataType", "system_profiler -json SPUSBDataType",
    ]  # fmt: skip
    assert snapshot.displays
    assert snapshot.network == ()
    nothing = snapshot_of_this_computer("darwin", commands())
    assert all("cannot be run" in flaw.why for flaw in nothing.flaws)
    assert len(nothing.flaws) == 8


def test_windows_is_asked_once() -> None:
    snapshot = snapshot_of_this_computer("win32", commands(powershell=json.dumps(TOLD["windows"])))
    assert (snapshot.flaws, len(snapshot.usb)) == ((), 3)
    empty = snapshot_of_this_computer("win32", commands(powershell=""))
    assert (empty.usb, empty.flaws) == ((), ())


def test_a_place_that_cannot_be_written_is_told(tmp_path: Path) -> None:
    told = CliRunner().invoke(app, ["host-report", "--write", str(tmp_path / "none" / "report.pyz")])
    assert told.exit_code != 0
    assert not (tmp_path / "none").exists()
