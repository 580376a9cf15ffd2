"""`auditra probe` and `auditra decode usb`, as a person or a program runs them."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.cli.commands import app
from auditra.cli.probe import watch
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import Plugged
from auditra.core.simulate import descriptors
from auditra.core.simulate.kernel_tree import kernel_tree
from tests.bench.test_snapshot import session
from tests.support.hosts import add_device, write_tree

RUN = CliRunner()


@pytest.fixture
def trees(tmp_path: Path) -> tuple[Path, Path]:
    """The same desk before and after a drive was plugged."""
    empty, with_drive = session(), session(Plugged(DEVICE, "A1", "fast-ssd", "AC-1"))
    return write_tree(tmp_path / "before", kernel_tree(empty)), write_tree(tmp_path / "after", kernel_tree(with_drive))


def said(*arguments: object, code: int = 0) -> str:
    result = RUN.invoke(app, [str(each) for each in arguments])
    assert result.exit_code == code, result.output
    return result.output


def test_for_a_person_the_chain_stands_in_order_with_units(trees: tuple[Path, Path]) -> None:
    lines = said("probe", "--root", trees[1]).splitlines()
    at = next(n for n, line in enumerate(lines) if "fast SSD" in line)
    assert "5 Gb/s  = at the best rate both ends support" in lines[at]
    assert lines[at + 1].strip() == "usb2 10 Gb/s > 2-1 10 Gb/s > 2-1.8 5 Gb/s > 2-1.8.1 5 Gb/s"
    assert lines[at + 2].strip() == "it supports 10 Gb/s, but 2-1.8 supports 5 Gb/s, 1f6e:5501, at most 896 mA"


def test_json_has_plain_names_and_what_follows(trees: tuple[Path, Path]) -> None:
    told = json.loads(said("probe", "--root", trees[1], "--json"))
    drive = next(each for each in told["snapshot"]["usb"] if each["name"] == "2-1.8.1")
    assert (drive["speed_mbps"], drive["max_power_ma"], drive["vid"], drive["pid"]) == (5000, 896, 0x1F6E, 0x5501)
    assert {each["device"]: each["answer"] for each in told["usb_links"]}["1-1"] == "best"


def test_the_difference_of_two_trees_and_of_two_files(trees: tuple[Path, Path], tmp_path: Path) -> None:
    of_trees = said("probe", "--diff", *trees)
    assert of_trees.startswith("2-1.8.1: fast SSD (1f6e:5501) at 5 Gb/s, behind Osierpell OP-6, inner hub")
    files = [tmp_path / "one.json", tmp_path / "two.json"]
    for tree, file in zip(trees, files, strict=True):
        file.write_text(said("probe", "--root", tree, "--json"))
    assert said("probe", "--diff", *files) == of_trees
    assert json.loads(said("probe", "--diff", *files, "--json"))["changes"][0]["kind"] == "came"


@pytest.mark.parametrize("text", ["", "{}", "[1]", '{"snapshot": {"usb": 3}}', "\x00"])
def test_a_file_that_is_no_snapshot_is_refused_in_words(text: str, tmp_path: Path) -> None:
    bad = tmp_path / "bad.json"
    bad.write_text(text)
    result = RUN.invoke(app, ["probe", "--diff", str(bad), str(bad)])
    assert result.exit_code != 0
    assert "bad.json" in str(result.exception)


def test_watching_says_what_comes_while_it_looks(trees: tuple[Path, Path], capsys: pytest.CaptureFixture[str]) -> None:
    def plug(_: float) -> None:
        if not (trees[0] / "devices/pci0/usb1/1-5").exists():
            add_device(trees[0], "pci0/usb1/1-5", speed="480", idVendor="1f6e", idProduct="5509", product="lamp")

    ticks = iter(range(100))
    watch(trees[0], 3, as_json=False, now=lambda: next(ticks), sleep=plug)
    out = capsys.readouterr().out
    assert out.count("1-5: lamp (1f6e:5509) at 480 Mb/s") == 1


def test_the_schema_of_a_probe_names_its_units() -> None:
    assert "speed_mbps" in said("schema", "probe")
    assert "max_power_ma" in said("schema", "decode-usb")


def test_descriptors_from_a_file_from_hex_and_from_hex_in_a_file(tmp_path: Path) -> None:
    data = descriptors.disk()
    (tmp_path / "raw").write_bytes(data)
    (tmp_path / "hex").write_text(data.hex(" "))
    outputs = {said("decode", "usb", tmp_path / "raw"), said("decode", "usb", tmp_path / "hex"),
               said("decode", "usb", "--hex", data.hex())}  # fmt: skip
    (told,) = outputs
    assert "device 1f6e:0601, USB 3.20" in told
    assert "endpoint 1 in: bulk, 1024 B, bursts of 16" in told
    found = json.loads(said("decode", "usb", tmp_path / "raw", "--json"))
    assert found["descriptors"]["configurations"][0]["max_power_ma"] == 896


def test_what_is_wrong_stands_below_what_was_read() -> None:
    assert "! byte 18: a descriptor of 0 bytes" in said("decode", "usb", "--hex", descriptors.device().hex() + "0000")


@pytest.mark.parametrize("arguments", [["--hex", "xyz"], ["--hex", "123"], ["no-such-file"], []])
def test_what_cannot_be_taken_for_bytes_is_refused(arguments: list[str]) -> None:
    assert RUN.invoke(app, ["decode", "usb", *arguments]).exit_code != 0


@pytest.mark.parametrize("words", [(), ("--json",), ("--watch", "--for", "0")])
def test_a_root_that_is_not_there_or_holds_nothing_of_a_kernel_is_an_error(
    tmp_path: Path, words: tuple[str, ...]
) -> None:
    (tmp_path / "empty").mkdir()
    for root in ("nowhere", "empty"):
        ran = subprocess.run(
            [sys.executable, "-m", "auditra", "probe", "--root", str(tmp_path / root), *words],
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        assert ran.returncode == 1
        assert root in ran.stderr
