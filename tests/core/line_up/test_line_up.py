"""The line-up: like with like, ties inside the scatter, gaps that are told apart from losses, superlatives checked."""

from __future__ import annotations

import csv
from dataclasses import replace
from io import StringIO

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.promise import Sense
from auditra.core.decide.estimates import Estimate
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.line_up.drawer import COLUMNS, drawer_of
from auditra.core.line_up.line_up import Cell, Gap, Row, reason_of
from auditra.core.line_up.make import document_of_line_up, line_up_of, table_of_line_up
from auditra.core.model.device import Device, Face, Port, Price, PriceKind, Role
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Rig
from auditra.publish.csv_table import csv_of
from tests.support.audits import HUB, appeared, audit_of, galley, judged, number, rates, with_trial
from tests.support.finished import finished

DRIVE, ALONE = "direct/storage", "A1/storage/fast-ssd/on laptop"


def hub(model: str, mb: float | None, *sentences: str, rig: Rig | None = None, **more: object) -> JudgedAudit:
    """A hub with one measured drive, or none."""
    device = replace(HUB, model=model, **more)  # type: ignore[arg-type]
    audit = replace(audit_of("A1 data 5 Gb/s", *sentences, device=device, rig=rig), name=model)
    if mb is not None:
        audit = with_trial(audit, DRIVE, *rates("direct", 1000, link_bps=10e9), appeared("direct", 12, 12))
        audit = with_trial(audit, ALONE, *rates("A1", mb))
    return as_judged(audit)


def as_judged(audit: Audit) -> JudgedAudit:
    return JudgedAudit(audit, judged(audit), "simulated bench")


def row(audits: list[JudgedAudit], title: str) -> Row:
    return next(each for each in line_up_of(audits).rows if each.title == title)


def test_the_clearly_better_one_wins_and_the_reason_has_both_figures() -> None:
    fast, slow = hub("fast", 450), hub("slow", 430)
    found = row([slow, fast], "usb-a data 5 Gb/s, write rate")
    assert found.winner == 1
    assert reason_of(found, ("slow", "fast")) == "fast: 450.0 MB/s against 430.0 MB/s"


def test_a_difference_inside_the_scatter_is_a_tie_and_nobody_wins() -> None:
    found = row([hub("one", 450.0), hub("other", 450.3)], "usb-a data 5 Gb/s, write rate")
    assert (found.winner, found.leaders) == (None, (0, 1))
    assert "a tie" in reason_of(found, ("one", "other"))


def test_other_gear_or_another_host_is_named_and_has_no_winner() -> None:
    rig = galley()
    drives = tuple(replace(drive, name="old SSD") if drive.id == "fast-ssd" else drive for drive in rig.drives)
    found = row([hub("one", 450), hub("other", 300, rig=replace(rig, drives=drives))], "usb-a data 5 Gb/s, write rate")
    assert found.winner is None
    assert "fast SSD on laptop 40 Gb/s against old SSD on laptop 40 Gb/s" in reason_of(found, ("one", "other"))


def test_what_was_not_tried_is_no_loss_and_what_is_not_there_is_neither() -> None:
    audits = [hub("tried", 450), hub("untried", None), hub("other", 440, "N1 links 1 Gb/s")]
    assert row(audits, "usb-a data 5 Gb/s, write rate").cells[1] is Gap.NOT_TRIED
    network = row(audits, "rj45 links 1 Gb/s, send rate")
    assert network.cells == (Gap.HAS_NONE, Gap.HAS_NONE, Gap.NOT_TRIED)
    assert line_up_of(audits).wins[1] == 0


def test_ports_of_two_classes_are_not_compared_and_the_weakest_of_twins_speaks_for_them() -> None:
    both = hub("twins", 450, "A2 data 5 Gb/s")
    audit = with_trial(both.audit, "A2/storage/fast-ssd/on laptop", *rates("A2", 400))
    found = row([as_judged(audit), hub("one", 440)], "usb-a data 5 Gb/s, write rate")
    cell = found.cells[0]
    assert isinstance(cell, Cell)
    assert (cell.port, found.winner) == ("A2", 1)
    dock, small = finished("BW-11"), finished("OP-6")
    titles = [each.title for each in line_up_of([dock, small]).rows]
    assert "rj45 links 1 Gb/s, send rate" in titles
    assert "rj45 links 2.5 Gb/s, send rate" in titles


def test_three_devices_of_the_shelf_have_every_row_told_and_every_sentence_its_source() -> None:
    made = line_up_of([finished("OP-6"), finished("BW-11"), hub("OP-7", 450, "N1 links 1 Gb/s")])
    document = document_of_line_up(made)
    names = {"OP-6", "BW-11", "OP-7"}
    for each in document.sentences():
        assert each.refs or not each.text
        assert all(ref.name.partition(":")[0] in names for ref in each.refs)
    told = {each.text for each in document.sentences()}
    assert {each.title for each in made.rows} <= told
    assert "has none" in told
    assert "not tried" in told


def test_prices_are_compared_in_one_money_only() -> None:
    euro, pound = (Price(50.0, money, kind=PriceKind.LIST) for money in ("EUR", "GBP"))
    dear = replace(euro, amount=80.0)
    assert row([hub("a", 450, price=euro), hub("b", 450, price=dear)], "list price").winner == 0
    assert row([hub("a", 450, price=euro), hub("b", 450, price=pound)], "list price").winner is None


@pytest.mark.parametrize(
    ("mb", "told"), [(500.0, "true of these"), (300.0, "refuted"), (450.2, "tied"), (None, "no row")]
)
def test_a_superlative_is_held_against_the_set(mb: float | None, told: str) -> None:
    made = line_up_of([hub("boasts", mb, "body is the fastest of 12 hubs at 2026-03-01"), hub("other", 450)])
    assert told in made.superlatives[0].answer
    if told == "true of these":
        assert "proves nothing of the rest" in made.superlatives[0].answer


def test_two_to_six_are_lined_up() -> None:
    for count in (0, 1, 7):
        with pytest.raises(InputError, match="Choose 2 to 6"):
            line_up_of([hub(f"h{n}", None) for n in range(count)])


values = st.floats(1, 1e6)


@given(
    st.lists(st.tuples(values, st.floats(0, 1e5)), min_size=2, max_size=6),
    st.sampled_from([Sense.AT_LEAST, Sense.AT_MOST]),
)
def test_the_best_value_is_always_among_the_leaders_and_a_winner_beats_every_other(
    pairs: list[tuple[float, float]], sense: Sense
) -> None:
    cells = tuple(Cell("x", Estimate(value, expanded, 3)) for value, expanded in pairs)
    made = Row("row", cells, sense)
    pick = max if sense is Sense.AT_LEAST else min
    best = pairs.index(pick(pairs, key=lambda each: each[0]))
    assert best in made.leaders
    if made.winner is not None:
        assert made.winner == best
        others = [value for number, (value, _) in enumerate(pairs) if number != best]
        assert all(
            (pairs[best][0] > value) if sense is Sense.AT_LEAST else (pairs[best][0] < value) for value in others
        )


def cable(model: str, ohms: bool = False) -> JudgedAudit:
    faces = (
        Face("plug end", (Port("K1", "usb-c plug", Role.UPSTREAM),)),
        Face("tail end", (Port("K2", "usb-c plug"),)),
    )
    device = Device("Sluisgate", model, "cable", faces, price=Price(29.0, "EUR"))
    audit = audit_of("body length 1.2 m", device=device)
    reading = number(Quantity.LENGTH, 1.21 if ohms else 1.5, at="body")
    return as_judged(with_trial(replace(audit, name=model), "body/rule", reading))


def test_leads_have_a_drawer_with_a_row_each() -> None:
    drawer = drawer_of([cable("C240", ohms=True), cable("C100")])
    at = COLUMNS.index("length")
    assert [texts[at] for texts in drawer.rows] == ["1.21 m", "1.5 m"]
    assert drawer.rows[0][COLUMNS.index("price")] == "29.00 EUR"
    document = document_of_line_up(line_up_of([cable("C240"), cable("C100")]))
    assert document.chapters[1].title == "The cable drawer"
    assert all(
        chapter.id != "drawer" for chapter in document_of_line_up(line_up_of([hub("a", 450), cable("C")])).chapters
    )


def test_many_leads_have_a_row_each_where_devices_have_a_column() -> None:
    leads = [cable(f"C{number}") for number in range(12)]
    document = document_of_line_up(line_up_of(leads))
    assert [chapter.id for chapter in document.chapters] == ["in-short", "drawer"]
    assert all(judged.audit.device.name in str(document.chapters[1]) for judged in leads)
    with pytest.raises(InputError, match="13 cannot be lined up"):
        line_up_of([*leads, hub("a", 450)])
    with pytest.raises(InputError, match="Choose 2 to 40 audits"):
        line_up_of([cable(f"C{number}") for number in range(41)])


@pytest.mark.parametrize(
    ("connector", "bps", "pairs"),
    [
        ("usb-c plug", 480e6, "none fast shown"), ("usb-c plug", 10e9, "2 fast at least"),
        ("usb-c plug", 40e9, "2 fast at least"), ("usb-c plug", 80e9, "4 fast at least"),
        ("rj45", 100e6, "2 at least"), ("rj45", 1e9, "4"), ("usb-c plug", None, ""),
    ],
)  # fmt: skip
def test_a_link_proves_how_many_pairs_a_lead_has(connector: str, bps: float | None, pairs: str) -> None:
    faces = (Face("plug end", (Port("K1", connector, Role.UPSTREAM),)), Face("tail end", (Port("K2", connector),)))
    audit = audit_of("body length 1.2 m", device=Device("Sluisgate", "C", "cable", faces))
    readings = [] if bps is None else [number(Quantity.LINK, bps, at="K2")]
    lead = as_judged(with_trial(audit, "body/rule", *readings))
    assert drawer_of([lead]).rows[0][COLUMNS.index("pairs")] == pairs


def test_the_table_reads_back_with_values_and_no_cell_is_a_formula() -> None:
    made = line_up_of([hub("=cmd()", 450), hub("other", 430)])
    lines = list(csv.reader(StringIO(csv_of(table_of_line_up(made)).decode())))
    assert len({len(line) for line in lines}) == 1
    written = next(line for line in lines if line[0] == "usb-a data 5 Gb/s, write rate")
    assert float(written[2]) == pytest.approx(450 * 8e6)
    assert all(not cell.startswith(("=", "@", "+")) for line in lines for cell in line)
    assert csv_of([["-1.5", "-x", "+2"]]) == b"-1.5,'-x,+2\r\n"
