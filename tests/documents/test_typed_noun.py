"""A noun typed field by field: what is typed reads as the noun, and a noun is typed as what reads as it."""

from __future__ import annotations

from typing import Any

import pytest

from auditra.core.model.device import Device, Extra, OwnSupply, Price, PriceKind
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Card, Drive, Host, HostSocket, Lead, Meter, Peer, Rig, Rule, Supply, SupplyStep
from auditra.documents.typed_noun import FieldRefused, Shape, as_typed, noun_from, typed_fields
from tests.support.audits import HUB, galley

GALLEY: Rig = galley()


@pytest.mark.parametrize("part", [*GALLEY.parts()], ids=lambda part: part.id)
def test_every_part_of_the_rig_reads_as_it_is_typed(part: Any) -> None:
    assert noun_from(type(part), as_typed(part)) == part


def test_a_device_reads_as_it_is_typed_but_for_its_faces() -> None:
    texts = as_typed(HUB, without=("faces",))
    assert noun_from(type(HUB), texts, ("faces",), faces=HUB.faces) == HUB


def test_units_lists_truths_and_none_are_read() -> None:
    texts = {
        "id": "desk", "name": "desk computer", "wants": "none", "battery_wh": "",
        "sockets": "C1, usb-c, 40 Gb/s, display yes, modes 3840x2160@60 + 1920x1080@60; A1, usb-a, 480 Mb/s",
    }  # fmt: skip
    host = noun_from(Host, texts)
    assert host.wants_w is None
    assert host.battery_wh is NOT_NOTED
    first, second = host.sockets
    assert first == HostSocket("C1", "usb-c", 40e9, display=True, modes=("3840x2160@60", "1920x1080@60"))
    assert second == HostSocket("A1", "usb-a", 480e6)


def test_steps_of_a_supply_are_a_list_of_nouns() -> None:
    texts = {
        "id": "s", "name": "s", "connector": "usb-c plug", "volts": "20 V", "watts": "65 W",
        "steps": "5 V, 3 A; 20 V, 3.25 A",
    }  # fmt: skip
    supply = noun_from(Supply, texts)
    assert supply.steps == (SupplyStep(5, 3), SupplyStep(20, 3.25))
    assert as_typed(supply)["steps"] == "5 V, 3 A; 20 V, 3.25 A"


def test_prices_are_typed_with_day_and_kind_also_within_an_extra() -> None:
    texts = {
        "maker": "Osierpell", "model": "OP-6", "kind": "hub", "price": "49,90 EUR 2026-03-01 street",
        "other_prices": "39 EUR 2026-05-02 used; 59 EUR list", "extras": "HDMI lead, price 12 EUR; longer lead",
        "supply": "20 V, 7.5 A", "box_contents": "none",
    }  # fmt: skip
    device = noun_from(Device, texts, ("faces",), faces=HUB.faces)
    assert device.price == Price(49.9, "EUR", "2026-03-01", PriceKind.STREET)
    assert device.other_prices == (
        Price(39, "EUR", "2026-05-02", PriceKind.USED), Price(59, "EUR", kind=PriceKind.LIST),
    )  # fmt: skip
    assert device.extras == (Extra("HDMI lead", Price(12, "EUR")), Extra("longer lead"))
    assert (device.supply, device.box_contents) == (OwnSupply(20, 7.5), None)
    assert noun_from(Device, as_typed(device, ("faces",)), ("faces",), faces=HUB.faces) == device
    with pytest.raises(FieldRefused, match="not a price"):
        noun_from(Device, texts | {"price": "cheap"}, ("faces",), faces=HUB.faces)


@pytest.mark.parametrize(
    ("noun", "texts", "key", "why"),
    [
        (Drive, {"id": "x", "name": "x", "connector": "usb-c", "read": "440", "write": "1 MB/s"}, "read", "unit"),
        (Drive, {"id": "x", "name": "x", "connector": "usb-c", "read": "", "write": "1 MB/s"}, "read", "value"),
        (Drive, {"id": "9x", "name": "x", "connector": "usb-c", "read": "1 MB/s", "write": "1 MB/s"}, "id", "letter"),
        (
            Card,
            {"id": "x", "name": "x", "connector": "sd plug", "bus": "fast", "read": "1 MB/s", "write": "1 MB/s"},
            "bus",
            "",
        ),
        (Lead, {"id": "x", "ends": "usb-c"}, "ends", ""),
        (Lead, {"id": "x", "ends": "usb-c, type-z"}, "ends", ""),
        (Host, {"id": "x", "name": "x", "sockets": "C1, usb-c"}, "sockets", "lacks: data rate"),
        (Host, {"id": "x", "name": "x", "sockets": "C1, usb-c, 5 Gb/s, colour red"}, "sockets", "no field"),
        (
            Peer,
            {"id": "x", "name": "x", "connector": "rj45", "rate": "1 Gb/s", "mtu_bytes": "many"},
            "mtu_bytes",
            "whole",
        ),
        (
            Meter,
            {"id": "x", "name": "x", "connector": "usb-c", "power_error_percent": "half"},
            "power_error_percent",
            "number",
        ),
        (Rule, {"id": "x", "name": "x\x1b[2J", "division": "1 mm"}, "name", "control"),
    ],
)
def test_what_is_wrong_names_its_field(noun: Any, texts: dict[str, str], key: str, why: str) -> None:
    with pytest.raises(FieldRefused) as refused:
        noun_from(noun, texts)
    assert refused.value.key == key
    assert why in refused.value.why


def test_fields_say_what_may_stand_in_them() -> None:
    by_key = {field.key: field for field in typed_fields(Lead)}
    assert by_key["ends"].shape is Shape.LIST
    assert "usb-c" in by_key["ends"].choices
    assert by_key["origin"].choices == ("shipped", "bought", "borrowed")
    assert by_key["length"].example == "0.8 m"
    assert [field.key for field in typed_fields(Lead)][:2] == ["id", "ends"]
