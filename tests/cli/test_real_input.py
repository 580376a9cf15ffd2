"""The commands for real things: a new audit, a trial on a folder, out to files and in again, judged as JSON."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import sys
import time
from importlib import resources
from pathlib import Path

import pytest

from tests.support.machines import write

DEMO = resources.files("auditra") / "data" / "demo"
SHEET, RIG = str(DEMO / "brackwater-bw-11.toml"), str(DEMO / "galley.toml")


def auditra(folder: Path, *words: str, said: str = "") -> subprocess.CompletedProcess[str]:
    places = {"AUDITRA_LIBRARY": str(folder / "library"), "XDG_STATE_HOME": str(folder / "state")}
    command = [sys.executable, "-m", "auditra", *words]
    return subprocess.run(
        command, env=os.environ | places, cwd=folder, input=said, capture_output=True, text=True, check=False
    )


@pytest.fixture(scope="module")
def begun_once(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A new audit, made by the command; each test has a copy of its own."""
    folder = tmp_path_factory.mktemp("begun")
    ran = auditra(folder, "new", "quay", "--sheet", SHEET, "--rig", RIG)
    assert ran.returncode == 0, ran.stderr
    assert "12 claims, 39 trials planned" in ran.stdout
    return folder


@pytest.fixture
def begun(begun_once: Path, tmp_path: Path) -> Path:
    return shutil.copytree(begun_once, tmp_path, dirs_exist_ok=True)


def test_a_direct_trial_on_a_folder_is_measured_and_the_inner_disk_is_refused_for_a_port(begun: Path) -> None:
    (begun / "disk").mkdir()
    options = ("--path", "disk", "--gear", "fast-ssd", "--size", "8MB")
    direct = auditra(begun, "trial", "quay", "direct", *options)
    assert direct.returncode == 0, direct.stderr
    assert "live bench" in direct.stdout
    assert "wrong bytes at direct: 0" in direct.stdout
    port = auditra(begun, "trial", "quay", "A1", "--path", "disk", "--size", "8MB")
    assert port.returncode == 1
    assert "proves nothing of A1" in port.stderr
    assert list((begun / "disk").iterdir()) == []
    told = json.loads(auditra(begun, "judge", "quay", "--json").stdout)
    assert [each["trial"] for each in told["set_aside"]] == ["T2"]
    assert told["bench"] == "live bench"


@pytest.mark.parametrize("ending", [signal.SIGTERM, signal.SIGHUP, signal.SIGINT])
def test_a_trial_that_is_ended_by_a_signal_leaves_nothing_on_the_drive(begun: Path, ending: signal.Signals) -> None:
    (begun / "disk").mkdir()
    places = {"AUDITRA_LIBRARY": str(begun / "library"), "XDG_STATE_HOME": str(begun / "state")}
    words = ("trial", "quay", "direct", "--path", "disk", "--gear", "fast-ssd", "--size", "200MB")
    command = [sys.executable, "-m", "auditra", *words]
    trial = subprocess.Popen(command, env=os.environ | places, cwd=begun, stdout=subprocess.DEVNULL)
    deadline = time.monotonic() + 20
    while not list((begun / "disk").glob("*/data.bin")) and time.monotonic() < deadline:
        time.sleep(0.01)
    trial.send_signal(ending)
    assert trial.wait(20) == 128 + ending
    assert list((begun / "disk").iterdir()) == []


def test_typed_readings_are_asked_for_at_the_terminal(begun: Path) -> None:
    ran = auditra(begun, "trial", "quay", "H1", said="\nyes\n3840x2160@60\n")
    assert ran.returncode == 0, ran.stderr
    assert "display mode at H1: 3840x2160@60" in ran.stdout
    assert "holds" in ran.stdout
    silent = auditra(begun, "trial", "quay", "C1")
    assert silent.returncode == 1
    assert "no answer on standard input" in silent.stderr


def test_out_to_files_and_in_again_is_judged_the_same(begun: Path) -> None:
    auditra(begun, "trial", "quay", "H1", said="\nyes\n3840x2160@60\n")
    assert auditra(begun, "export", "quay", "--to", "files").returncode == 0
    came = auditra(begun, "import", "files", "--as", "again")
    assert came.returncode == 0, came.stderr
    assert "is on the shelf" in came.stdout
    one, other = (json.loads(auditra(begun, "judge", name, "--json").stdout) for name in ("quay", "again"))
    assert one["claims"] == other["claims"]
    assert one["score"] == other["score"]
    assert auditra(begun, "import", "files").returncode == 1
    with (begun / "files" / "facts.jsonl").open("a") as file:
        file.write('{"fact":"omen","body":{}}\n')
    refused = auditra(begun, "import", "files", "--as", "third")
    assert refused.returncode == 1
    assert "unknown kind" in refused.stderr
    assert "third" not in auditra(begun, "judge", "third").stdout


def test_the_judgement_fits_its_schema_and_says_all_of_it(begun: Path) -> None:
    schema = json.loads(auditra(begun, "schema", "judgement").stdout)
    told = json.loads(auditra(begun, "judge", "quay", "--json").stdout)
    assert set(told) == set(schema["properties"])
    assert told["coverage"]["claims"] == 12
    assert told["next_trials"][0]["moves"]
    assert json.loads(auditra(begun, "schema", "facts").stdout)["oneOf"]


def test_probe_tells_what_the_kernel_shows_and_what_it_does_not(tmp_path: Path) -> None:
    root = tmp_path / "sys"
    write(root / "bus/usb/devices/2-1", idVendor="1f6e", idProduct="0601", speed="5000", bDeviceClass="09",
          product="dock \x1b[31m")  # fmt: skip
    write(root / "class/net/eth0", speed="2500", operstate="up")
    words = auditra(tmp_path, "probe", "--root", str(root)).stdout
    assert "2-1 5 Gb/s" in words
    assert "1f6e:0601" in words
    assert "\x1b" not in words
    assert "no display connectors" in words
    told = json.loads(auditra(tmp_path, "probe", "--json", "--root", str(root)).stdout)
    assert "displays" in told["snapshot"]["absent"]
    assert [(each["name"], each["speed_mbps"]) for each in told["snapshot"]["network"]] == [("eth0", 2500)]


FAULTS = [
    (("new", "x", "--sheet", "nowhere.toml", "--rig", RIG), "nowhere.toml"),
    (("new", " x", "--sheet", SHEET, "--rig", RIG), "plain characters"),
    (("new", "quay", "--sheet", SHEET, "--rig", RIG), "already exists"),
    (("trial", "quay", "Z9"), "planned at: direct"),
    (("trial", "quay", "A1", "--path", "nowhere"), "no such folder"),
    (("trial", "quay", "A1", "--plugged"), "not seen to appear"),
    (("trial", "quay", "A1", "--path", ".", "--size", "big"), "not a size"),
    (("import", "nowhere"), "facts.jsonl"),
    (("run", "quay", "--bench", "simulated"), "live bench"),
    (("schema", "prophecy"), "facts"),
]


@pytest.mark.parametrize(("words", "told"), FAULTS)
def test_a_fault_is_told_in_words(begun: Path, words: tuple[str, ...], told: str) -> None:
    ran = auditra(begun, *words)
    assert ran.returncode not in (0, 70)
    assert told in ran.stderr
    assert "Traceback" not in ran.stderr
