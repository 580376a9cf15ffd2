"""Claims, sockets and faces put down, mended and taken back; what is refused leaves everything as it was."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import AuditraError, InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Fact, RigNoted
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.capabilities import capability_grid, look_alikes
from auditra.core.judge.judgement import judge
from auditra.core.model.capability import Capability
from auditra.core.model.device import Device, Extra, Price
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.source import Source
from auditra.workflows.audits import claim_edits as claiming
from tests.support.audits import HUB, PROFILE, audit_of, entries, judged, rates, with_trial

BOX = Source("box", "2026-02-20", "two sockets")
AUDIT = audit_of("A1 data 5 Gb/s", "A2 data 5 Gb/s while A1 gives 4.5 W", "P1 takes 90 W")


def after(audit: Audit, facts: tuple[Fact, ...]) -> Audit:
    """The audit once these facts are written."""
    before = entries([*(each for each in _facts_of(audit))])
    return fold_audit("test", [*before, *entries(list(facts), "more")])


def _facts_of(audit: Audit) -> list[Fact]:
    claims = [ClaimMade(each.id, str(each), each.source, each.device) for each in audit.claims]
    return [DeviceNoted(audit.device), RigNoted(audit.rig), *claims]


def ports(device: Device) -> list[list[str]]:
    return [[port.id for port in face.ports] for face in device.faces]


def test_a_typed_sentence_is_as_many_claims_as_it_makes_with_ids_of_their_own() -> None:
    audit = after(AUDIT, claiming.claims_made(AUDIT, "N1 links 1 Gb/s, frames 9 kB", BOX))
    assert [str(each) for each in audit.claims[3:]] == ["N1 links 1 Gb/s", "N1 frames 9 kB"]
    assert len({each.id for each in audit.claims}) == 5
    assert {each.source for each in audit.claims[3:]} == {BOX}


def test_a_claim_is_mended_sourced_and_dropped() -> None:
    audit = after(AUDIT, claiming.claim_edited(AUDIT, "claim1", "A1 data 10 Gb/s"))
    assert str(audit.claims[0]) == "A1 data 10 Gb/s"
    audit = after(AUDIT, claiming.source_noted(AUDIT, "claim1", "manual 2026-03-01: ten gigabit"))
    assert audit.claims[0].source == Source("manual", "2026-03-01", "ten gigabit")
    audit = after(AUDIT, claiming.claim_dropped(AUDIT, "claim1"))
    assert [each.id for each in audit.claims] == ["claim2", "claim3"]


def test_sockets_are_added_moved_renamed_and_taken_off() -> None:
    audit = after(AUDIT, claiming.port_added(AUDIT, "A3 usb-a", "A1"))
    assert ports(audit.device)[0] == ["A1", "A3", "A2", "S1"]
    audit = after(AUDIT, claiming.port_added(AUDIT, "P2 usb-c inlet right", "A1"))
    assert ports(audit.device)[1] == ["N1", "H1", "P1", "P2"]
    audit = after(AUDIT, claiming.port_moved(AUDIT, "A1", 1))
    assert ports(audit.device)[0] == ["A2", "A1", "S1"]
    audit = after(AUDIT, claiming.port_moved(AUDIT, "S1", 1))
    assert ports(audit.device)[:2] == [["A1", "A2"], ["S1", "N1", "H1", "P1"]]
    audit = after(AUDIT, claiming.port_renamed(AUDIT, "A1", "B7"))
    assert [str(each) for each in audit.claims][:2] == ["B7 data 5 Gb/s", "A2 data 5 Gb/s while B7 gives 4.5 W"]
    audit = after(AUDIT, claiming.port_removed(AUDIT, "N1"))
    assert ports(audit.device)[1] == ["H1", "P1"]
    audit = after(AUDIT, claiming.face_added(AUDIT, "top"))
    assert audit.device.faces[-1].name == "top"
    assert after(AUDIT, claiming.face_renamed(AUDIT, "N1", "back")).device.faces[1].name == "back"


def test_a_new_socket_goes_to_the_face_whose_whole_name_is_typed() -> None:
    face = claiming.face_added(AUDIT, "left side")
    audit = after(AUDIT, face)
    added = after(audit, claiming.port_added(audit, "K1 usb-a left side", "A1"))
    assert [port.id for port in added.device.faces[-1].ports] == ["K1"]
    left = after(audit, claiming.port_added(audit, "K2 Type-C LEFT", "N1"))
    assert left.device.port("K2") in left.device.faces[0].ports
    assert left.device.port("K2").connector == "usb-c"  # type: ignore[union-attr]
    with pytest.raises(InputError, match="no such connector"):
        claiming.port_added(audit, "K3 usb-a far side", "A1")


def test_correcting_a_claim_that_was_looked_at_leaves_its_trial_done() -> None:
    audit = audit_of("body weighs 95 g")
    key = judged(audit).sheet.trials[0].key
    done = with_trial(audit, key, Reading("T", Quantity.MASS, "body", "scales", Grade.TYPED, Number((0.0953,))))
    facts = claiming.claim_edited(done, "claim1", "body weighs 105 g")
    corrected = replace(after(audit, facts), trials=done.trials)
    assert [str(each) for each in corrected.claims] == ["body weighs 105 g"]
    assert judged(corrected).to_do == ()


def test_what_one_pays_in_all_is_known_where_all_of_it_is() -> None:
    price, lead = Price(49.9, "EUR"), Extra("HDMI lead", Price(12, "EUR"))
    assert replace(HUB, price=price, extras=(lead,)).cost == Price(61.9, "EUR")
    assert replace(HUB, price=price).cost == price
    assert replace(HUB, price=price, extras=(Extra("lead"),)).cost is None
    assert replace(HUB, price=price, extras=(Extra("lead", Price(5, "USD")),)).cost is None
    assert HUB.cost is None


def with_device(device: Device) -> Audit:
    return audit_of("A1 data 5 Gb/s", device=device)


def test_results_are_not_carried_to_a_look_alike() -> None:
    known = with_device(after(AUDIT, claiming.device_edited(AUDIT, replace(HUB, revision="B"))).device)
    tried = with_trial(known, "A1/storage/fast-ssd", *rates("A1", 450.0))
    with pytest.raises(InputError, match="look-alike"):
        claiming.device_edited(tried, replace(HUB, revision="C"))
    assert claiming.device_edited(tried, replace(HUB, revision="B", firmware="1.2"))


REFUSED: list[tuple[Callable[[], object], str]] = [
    (lambda: claiming.claims_made(AUDIT, "Z9 data 5 Gb/s", BOX), "no port Z9"),
    (lambda: claiming.claims_made(AUDIT, "far:A1 data 5 Gb/s", BOX), "no such device"),
    (lambda: claiming.claims_made(AUDIT, "A1 data 5 Gb/s", BOX), "already exists"),
    (lambda: claiming.claims_made(AUDIT, "A1 works with \x1b[31mred", BOX), "column"),
    (lambda: claiming.claim_edited(AUDIT, "claim2", "A1 data 5 Gb/s"), "already exists"),
    (lambda: claiming.claim_edited(AUDIT, "claim9", "A1 data 5 Gb/s"), "no longer exists"),
    (lambda: claiming.source_noted(AUDIT, "claim1", "somewhere: words"), "no source given"),
    (lambda: claiming.port_added(AUDIT, "A1 usb-a", None), "another socket"),
    (lambda: claiming.port_added(AUDIT, "body usb-a", None), "not a valid port id"),
    (lambda: claiming.port_added(AUDIT, "A3", None), "an id and a connector"),
    (lambda: claiming.port_moved(AUDIT, "A1", -1), "already at the end"),
    (lambda: claiming.port_removed(AUDIT, "A1"), "it has a claim"),
    (lambda: claiming.port_removed(AUDIT, "Z9"), "no such port"),
    (lambda: claiming.face_added(AUDIT, "left"), "already used"),
    (lambda: claiming.face_added(AUDIT, "\x1b]0;x\x07"), "expected plain text"),
]


@pytest.mark.parametrize(("change", "why"), REFUSED)
def test_what_does_not_fit_is_refused_with_the_reason(change: Callable[[], object], why: str) -> None:
    with pytest.raises(AuditraError, match=why):
        change()


def test_a_socket_that_was_tried_keeps_its_name_and_its_place_on_the_faces() -> None:
    audit = audit_of("A1 data 5 Gb/s")
    tried = with_trial(audit, "A1/storage/fast-ssd", *rates("A1", 450.0))
    for change in (claiming.port_removed, lambda a, p: claiming.port_renamed(a, p, "B1")):
        with pytest.raises(InputError):
            change(tried, "A1")


@given(st.text(max_size=60))
def test_any_text_in_any_field_is_taken_or_refused(text: str) -> None:
    fields: tuple[Callable[[], tuple[Fact, ...]], ...] = (
        lambda: claiming.claims_made(AUDIT, text, BOX), lambda: claiming.source_noted(AUDIT, "claim1", f"box: {text}"),
        lambda: claiming.port_added(AUDIT, text, "A1"), lambda: claiming.port_renamed(AUDIT, "N1", text),
        lambda: claiming.face_added(AUDIT, text),
    )  # fmt: skip
    for field in fields:
        try:
            after(AUDIT, field())
        except AuditraError as error:
            assert error.why


def test_the_grid_shows_what_a_socket_is_for_and_what_it_must_not_do() -> None:
    audit = audit_of("A1 data 5 Gb/s", "A1 gives 4.5 W", "P1 takes 90 W", "P1 no data", "H1 shows 3840x2160@30")
    rows = {row.port.id: row for row in capability_grid(audit.device, judge(audit, PROFILE))}
    assert rows["A1"].cell(Capability.DATA).words == "5 Gb/s"
    assert rows["P1"].cell(Capability.DATA).forbidden
    assert rows["S1"].cell(Capability.DATA).silent
    assert len(rows) == 7
    assert look_alikes(rows.values()) == (
        "usb-a: data on A1; no claim for A2", "usb-a: power out on A1; no claim for A2",
    )  # fmt: skip
    assert audit.device.counted_ports == ("A1", "A2", "S1", "N1", "H1", "P1")
