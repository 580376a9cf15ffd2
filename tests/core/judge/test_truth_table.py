"""A button's truth table: each lid and state has its cell, with the control beside the press."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.judge.truth_table import truth_tables
from auditra.core.model.device import Face, Port
from auditra.core.model.reading import Count, Grade, Quantity, Reading
from auditra.core.model.verdict import Verdict
from tests.support.audits import HUB, audit_of, judged, with_trial

DEVICE = replace(HUB, faces=(*HUB.faces, Face("top", (Port("B1", "button"),))))


def count(quantity: Quantity, seen: int) -> Reading:
    return Reading("T", quantity, "B1", "the eye", Grade.SEEN, Count(seen, 3))


def test_each_claim_stands_in_its_cell_and_gaps_stay() -> None:
    audit = audit_of("B1 button wakes lid closed asleep", "B1 button turns off awake", device=DEVICE)
    audit = with_trial(audit, "B1/look", count(Quantity.WORKS, 3), count(Quantity.WORKS_WITHOUT, 0))
    (table,) = truth_tables(judged(audit).claims)
    assert table.port == "B1"
    assert (table.lids, table.states) == (("", "lid open", "lid closed"), ("awake", "asleep", "off"))
    (press,) = table.cells["lid closed", "asleep"]
    assert (press.what, press.verdict) == ("wakes", Verdict.HOLDS)
    assert (press.worked, press.by_itself) == ("3 of 3", "0 of 3")
    assert ("lid open", "asleep") not in table.cells
    assert table.cells["", "awake"][0].verdict is Verdict.OPEN


def test_without_buttons_there_is_no_table() -> None:
    assert truth_tables(judged(audit_of("A1 data 5 Gb/s")).claims) == ()
