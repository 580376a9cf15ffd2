"""The Rig stage: hosts of the rig, and what one says when it is asked."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from auditra.core.host.snapshot import Maker, NetworkInterface, Snapshot, TypeCPort
from auditra.tui.stages.rig.stage import RigStage
from auditra.workflows.hosts.probing import unlike_the_rig
from tests.support.audits import galley
from tests.support.workshops import demo_app
from tests.tui.test_application import open_audit, text_of, until

LAPTOP = galley().hosts[0]
SOUND = Snapshot(type_c=(TypeCPort("port0"), TypeCPort("port1")), network=(NetworkInterface("lan0", "up", 2500),))


@pytest.mark.parametrize("size", [(160, 50), (100, 30), (80, 24)])
async def test_a_host_that_is_asked_tells_its_chain_and_it_is_kept(tmp_path: Path, size: tuple[int, int]) -> None:
    async with demo_app(tmp_path).run_test(size=size) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("3")
        await pilot.pause()
        assert "Press h to probe" in text_of(screen, "#hosts")
        await pilot.press("h")
        await until(pilot, lambda: "as probed" in text_of(screen, "#hosts"))
        told = text_of(screen, "#hosts")
        assert "simulated host" in told
        assert "USB-C ports" in told
        assert screen.judged.audit.evidence[-1].about == "host laptop"
        await pilot.press("u")
        await until(pilot, lambda: screen.judged.audit.evidence == ())
        await until(pilot, lambda: "Press h to probe" in text_of(screen, "#hosts"))


async def test_hosts_are_chosen_and_pages_turned_by_keys(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(80, 24)) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("3", "j")
        await until(pilot, lambda: "▸ older laptop" in text_of(screen, "#hosts"))
        await pilot.press("k", "h")
        await until(pilot, lambda: "as probed" in text_of(screen, "#hosts"))
        stage = screen.query_one(RigStage)
        await pilot.press("pagedown")
        await until(pilot, lambda: stage.front.scroll_offset.y > 0)


@pytest.mark.parametrize(
    ("found", "words"),
    [
        (SOUND, ""),
        (replace(SOUND, type_c=SOUND.type_c[:1]), "the rig file lists 2 USB-C ports, the host reports 1"),
        (replace(SOUND, network=()), "the host reports none"),
        (Snapshot(absent=("type_c", "network")), ""),
    ],
)
def test_where_the_rig_and_the_host_differ_is_said(found: Snapshot, words: str) -> None:
    told = list(unlike_the_rig(LAPTOP, found))
    assert len(told) == bool(words)
    assert all(words in each for each in told)


def test_another_machine_than_the_rig_says() -> None:
    host = replace(LAPTOP, variant="W-14")
    assert list(unlike_the_rig(host, replace(SOUND, host=Maker("Wherry", "W-14")))) == []
    (words,) = unlike_the_rig(host, replace(SOUND, host=Maker("Wherry", "W-16")))
    assert words == "the rig file says W-14, the host reports Wherry W-16"
