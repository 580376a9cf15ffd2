"""Edits of the rig: what trials were run with stays, ids are free, files fill parts in, the drawer keeps rigs."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import EvidenceKept, Fact, RigNoted
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Display, Host, HostSocket, Lead, Rig
from auditra.core.simulate.display_description import base, detailed, text
from auditra.documents.rig_file import read_rig, write_rig
from auditra.store.evidence import EvidenceFolder
from auditra.store.gear_drawer import GearDrawer
from auditra.workflows.audits.part_files import facts_of_part_file
from auditra.workflows.audits.rig_edits import (
    free_id,
    part_added,
    part_edited,
    part_removed,
    retirement_turned,
    rig_taken,
)
from tests.support.audits import audit_of, galley, rates, with_trial

AUDIT = audit_of("A1 data 5 Gb/s")
LEAD = Lead("CC-9", ("usb-c", "usb-c"))


def rig_of(facts: tuple[Fact, ...]) -> Rig:
    fact = facts[-1]
    assert isinstance(fact, RigNoted)
    return fact.rig


def with_rig(rig: Rig) -> Audit:
    return replace(AUDIT, rig=rig)


def test_a_part_is_added_edited_in_its_place_and_removed() -> None:
    added = rig_of(part_added(AUDIT, LEAD))
    assert added.part("CC-9") == LEAD
    longer = replace(LEAD, id="CC-10", length_m=2.0)
    edited = rig_of(part_edited(with_rig(added), "CC-9", longer))
    assert edited.leads[-1] == longer
    assert rig_of(part_removed(with_rig(edited), "CC-10")) == AUDIT.rig


@pytest.mark.parametrize("facts", [
    lambda: part_added(AUDIT, replace(LEAD, id="CC-1")), lambda: part_edited(AUDIT, "CC-2", replace(LEAD, id="CC-1")),
    lambda: part_edited(AUDIT, "gone", LEAD), lambda: part_removed(AUDIT, "gone"),
    lambda: retirement_turned(AUDIT, "gone"),
    lambda: part_removed(with_rig(Rig("r", (Host("h", "h", ()),))), "h"),
    lambda: retirement_turned(with_rig(Rig("r", (Host("h", "h", ()),))), "h"),
])  # fmt: skip
def test_what_cannot_be_is_refused(facts: object) -> None:
    with pytest.raises(InputError):
        facts()  # type: ignore[operator]


def test_a_retired_part_stays_retired_under_its_new_name() -> None:
    retired = rig_of(retirement_turned(AUDIT, "CC-1"))
    assert retired.in_use.part("CC-1") is None
    renamed = rig_of(part_edited(with_rig(retired), "CC-1", replace(LEAD, id="old")))
    assert renamed.retired == ("old",)
    assert rig_of(retirement_turned(with_rig(renamed), "old")).retired == ()


def test_another_rig_keeps_retired_what_trials_were_run_with() -> None:
    tried = with_trial(AUDIT, "A1/storage", *rates("A1", 440))
    other = Rig("desk", (Host("desk", "desk", (HostSocket("C1", "usb-c", 5e9),)),))
    taken = rig_of(rig_taken(tried, other))
    setup = tried.trials[0].trial.setup
    assert taken.name == "desk"
    assert {setup.host, tried.trials[0].trial.gear} <= set(taken.retired)
    assert rig_of(rig_taken(AUDIT, other)) == other


def test_a_copy_gets_the_next_free_name() -> None:
    assert free_id(AUDIT.rig, "CC-1") == "CC-3"
    assert free_id(AUDIT.rig, "disk") == "disk-2"


def test_retired_parts_are_in_the_rig_file() -> None:
    rig = replace(galley(), retired=("CC-1", "disk"))
    assert read_rig(write_rig(rig), "rig.toml") == rig


# Files about a part


def test_a_description_fills_a_display_in_and_a_photo_is_named(tmp_path: Path) -> None:
    display = AUDIT.rig.displays[0]
    data = base(detailed(2560, 1440, 241_500, 160, 41), text(0xFF, "LB-77"))
    kept, noted = facts_of_part_file(AUDIT, display.id, "edid.bin", data, EvidenceFolder(tmp_path))
    assert isinstance(kept, EvidenceKept)
    assert kept.about == f"gear {display.id}"
    filled = rig_of((noted,)).part(display.id)
    assert isinstance(filled, Display)
    assert filled.modes[0].startswith("2560x1440@59.95")
    assert filled.serial == "LB-77"
    photo, noted = facts_of_part_file(AUDIT, "CC-1", "lead.jpg", b"\xff\xd8\xff\xe0", EvidenceFolder(tmp_path))
    assert isinstance(photo, EvidenceKept)
    assert rig_of((noted,)).leads[0].photo == photo.sha256


def test_a_capture_fills_a_lead_in(tmp_path: Path) -> None:
    capture = b'marker = "none"\nwires = ["VBUS", "GND", "CC"]\n'
    _, noted = facts_of_part_file(AUDIT, "CC-1", "lead.toml", capture, EvidenceFolder(tmp_path))
    lead = rig_of((noted,)).leads[0]
    assert (lead.marker, lead.data_bps) == (None, None)
    (kept,) = facts_of_part_file(AUDIT, "CC-1", "notes.txt", b"just words", EvidenceFolder(tmp_path))
    assert isinstance(kept, EvidenceKept)
    assert AUDIT.rig.leads[0].marker is NOT_NOTED
    with pytest.raises(InputError):
        facts_of_part_file(AUDIT, "CC-1", "lead.toml", b"\xff", EvidenceFolder(tmp_path))


# The gear drawer


def test_the_drawer_keeps_rigs_by_name_and_a_broken_file_hides_none(tmp_path: Path) -> None:
    drawer = GearDrawer(tmp_path / "rigs")
    assert drawer.names() == ()
    drawer.save(galley())
    drawer.save(replace(galley(), name="Galley!"))  # another rig, although its file would be called the same
    assert drawer.names() == ("Galley!", "galley")
    drawer.save(replace(galley(), leads=()))
    found = drawer.rig("galley")
    assert found is not None
    assert found.leads == ()
    (tmp_path / "rigs" / "broken.toml").write_text("name = ")
    assert len(drawer.names()) == 2
    assert "broken.toml" in drawer.troubles()[0]


def test_a_rig_file_comes_in_and_goes_out(tmp_path: Path) -> None:
    drawer = GearDrawer(tmp_path / "rigs")
    written = drawer.write_out(galley(), str(tmp_path))
    assert written == tmp_path / "galley.toml"
    assert drawer.take_in(str(written)) == galley()
    with pytest.raises(InputError, match="file of this name"):
        drawer.write_out(galley(), str(tmp_path))
    drawer.save(replace(galley(), leads=()))
    with pytest.raises(InputError, match="another of this name"):
        drawer.take_in(str(written))
