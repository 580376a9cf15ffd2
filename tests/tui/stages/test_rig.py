"""The Rig stage: gear is added, edited, copied and retired by keys, a host fills itself in, and reach follows."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from textual.pilot import Pilot

from auditra.core.host.snapshot import Maker, NetworkInterface, Snapshot, TypeCPort
from auditra.store.gear_drawer import FOLDER, GearDrawer
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.screens.choice import ChoiceScreen
from auditra.tui.screens.form import FormScreen
from auditra.tui.stages.rig.stage import RigStage
from auditra.workflows.hosts.probing import unlike_the_rig
from tests.support.audits import galley
from tests.support.forms import fill_in
from tests.support.workshops import demo_app
from tests.tui.test_application import open_audit, text_of, until

LAPTOP = galley().hosts[0]
SOUND = Snapshot(type_c=(TypeCPort("port0"), TypeCPort("port1")), network=(NetworkInterface("lan0", "up", 2500),))


async def open_rig(pilot: Pilot[None]) -> AuditScreen:
    screen = await open_audit(pilot)
    await pilot.press("3")
    await until(pilot, lambda: "▸ laptop" in text_of(screen, "#drawer-text"))
    return screen


def chosen_part(screen: AuditScreen) -> str:
    chosen = screen.query_one(RigStage).chosen
    assert chosen is not None
    return chosen.id


@pytest.mark.parametrize("size", [(160, 50), (100, 30), (80, 24)])
async def test_a_host_that_is_asked_tells_its_chain_and_it_is_kept(tmp_path: Path, size: tuple[int, int]) -> None:
    async with demo_app(tmp_path).run_test(size=size) as pilot:
        screen = await open_rig(pilot)
        assert "Press h to probe" in text_of(screen, "#part-text")
        await pilot.press("h")
        await until(pilot, lambda: "as probed" in text_of(screen, "#part-text"))
        told = text_of(screen, "#part-text")
        assert "simulated host" in told
        assert "USB-C ports" in told
        assert screen.judged.audit.evidence[-1].about == "host laptop"
        await pilot.press("u")
        await until(pilot, lambda: screen.judged.audit.evidence == ())
        await until(pilot, lambda: "Press h to probe" in text_of(screen, "#part-text"))


async def test_parts_are_chosen_and_pages_turned_by_keys(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(80, 24)) as pilot:
        screen = await open_rig(pilot)
        await pilot.press("j")
        await until(pilot, lambda: "▸ older laptop" in text_of(screen, "#drawer-text"))
        stage = screen.query_one(RigStage)
        await pilot.press("pagedown")
        await until(pilot, lambda: stage.front.scroll_offset.y > 0)
        await pilot.press("tab")
        await until(pilot, lambda: stage.front.id == "part")
        assert "older laptop" in text_of(screen, "#part-text")


async def test_a_new_lead_is_typed_in_a_form_and_is_in_the_drawer_and_the_reach(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(160, 50)) as pilot:
        screen = await open_rig(pilot)
        await pilot.press("n")
        await until(pilot, lambda: isinstance(pilot.app.screen, ChoiceScreen))
        kinds = pilot.app.screen._choices  # type: ignore[attr-defined]
        await pilot.press("abcdefghijklmnop"[kinds.index("lead")])
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        await fill_in(pilot, id="AC-9", ends="usb-a, usb-c", data="40 Gb/s", amperes="3 A")
        await until(pilot, lambda: screen.judged.audit.rig.part("AC-9") is not None)
        assert GearDrawer(tmp_path / "library" / FOLDER).rig("galley") == screen.judged.audit.rig
        await until(pilot, lambda: "the lead AC-9" not in text_of(screen, "#reach-text"))
        assert "as it is in the gear drawer" in text_of(screen, "#drawer-text")
        await pilot.press("u")
        await until(pilot, lambda: screen.judged.audit.rig.part("AC-9") is None)
        assert GearDrawer(tmp_path / "library" / FOLDER).rig("galley") == screen.judged.audit.rig


async def test_a_wrong_value_is_refused_in_its_field_and_the_form_stays(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(100, 30)) as pilot:
        screen = await open_rig(pilot)
        await pilot.press("e")
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        await fill_in(pilot, wants="ninety")
        form = pilot.app.screen
        assert isinstance(form, FormScreen)
        await until(pilot, lambda: "draws" in str(form.query_one("#form-message").render()))
        assert form.focused is not None
        assert form.focused.id == "field-wants"
        await fill_in(pilot, wants="100 W", serial="LB-7")
        await until(pilot, lambda: screen.judged.audit.rig.hosts[0].wants_w == 100.0)
        assert screen.judged.audit.rig.hosts[0].serial == "LB-7"


async def test_a_copy_has_a_name_of_its_own_and_a_part_is_retired_and_used_again(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(160, 50)) as pilot:
        screen = await open_rig(pilot)
        while chosen_part(screen) != "CC-1":
            await pilot.press("j")
        await pilot.press("c")
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        await fill_in(pilot)
        await until(pilot, lambda: screen.judged.audit.rig.part("CC-3") is not None)
        await pilot.press("x")
        await until(pilot, lambda: screen.judged.audit.rig.retired == ("CC-1",))
        assert "retired" in text_of(screen, "#part-text")
        await pilot.press("x")
        await until(pilot, lambda: screen.judged.audit.rig.retired == ())
        await pilot.press("d")
        await until(pilot, lambda: screen.judged.audit.rig.part("CC-1") is None)


async def test_what_is_typed_and_not_saved_is_there_the_next_time(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(100, 30)) as pilot:
        await open_rig(pilot)
        await pilot.press("e")
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        await fill_in(pilot, save=False, remark="bought for the barge")
        await pilot.press("escape")
        await until(pilot, lambda: isinstance(pilot.app.screen, AuditScreen))
    async with demo_app(tmp_path).run_test(size=(100, 30)) as pilot:  # the application was closed meanwhile
        screen = await open_rig(pilot)
        await pilot.press("e")
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        form = pilot.app.screen
        assert isinstance(form, FormScreen)
        assert form.texts["remark"] == "bought for the barge"
        await pilot.press("ctrl+s")
        await until(pilot, lambda: screen.judged.audit.rig.hosts[0].remark == "bought for the barge")
        await pilot.press("e")
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        assert "last time" not in str(pilot.app.screen.query_one("#form-message").render())


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
