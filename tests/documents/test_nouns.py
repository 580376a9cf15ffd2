"""Sheets are worked out from the nouns: what is written reads as it was, in all three states and with its units."""

from __future__ import annotations

import tomllib
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import SheetError
from auditra.core.journal.facts import ClaimMade
from auditra.core.links.connectors import CONNECTORS
from auditra.core.model.device import Device, Extra, Face, InnerStorage, Lamp, LampState, OwnSupply, Port, Price, Role
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Accuracy, Drive, Hop, Host, HostSocket, Lead, Meter, Origin, Peer, Rig, SupplyStep
from auditra.core.model.rig import Supply as SupplyGear
from auditra.core.model.source import Source
from auditra.documents.claim_sheet import read_claim_sheet, write_claim_sheet
from auditra.documents.nouns import fields_in_order, form_of, key_of, noun_of, table_of
from auditra.documents.rig_file import read_rig, write_rig
from tests.support.audits import HUB, galley

plain = st.text("abcXYZ 0123456789.,-", min_size=1, max_size=20).filter(lambda text: text != "none")
connectors = st.sampled_from([name + plug for name in CONNECTORS for plug in ("", " plug")] + ["other dock plate"])
amounts = st.floats(0, 1e12, allow_nan=False)
counts = st.integers(0, 10**9)


def noted(values: st.SearchStrategy[Any]) -> st.SearchStrategy[Any]:
    return st.sampled_from([NOT_NOTED, None]) | values


prices = st.builds(Price, amounts, st.sampled_from(["EUR", "CHF"]), noted(plain))
lamps = st.builds(Lamp, plain, st.lists(st.builds(LampState, plain, noted(plain)), max_size=2).map(tuple))
devices = st.builds(
    Device, plain, plain, plain, st.just(HUB.faces), noted(plain), noted(plain), noted(counts),
    price=noted(prices),
    extras=noted(st.lists(st.builds(Extra, plain, noted(prices)), max_size=2).map(tuple)),
    supply=noted(st.builds(OwnSupply, amounts, amounts)),
    box_contents=noted(st.lists(plain, max_size=3).map(tuple)),
    disclosure=noted(plain),
    lamps=noted(st.lists(lamps, max_size=2).map(tuple)),
    storage=noted(st.builds(InnerStorage, plain, noted(counts))),
)  # fmt: skip
leads = st.builds(
    Lead, st.just("L-1"), st.tuples(connectors, connectors), noted(amounts), noted(amounts), noted(amounts),
    noted(counts), noted(counts), noted(plain), noted(st.sampled_from(Origin)),
)  # fmt: skip
sockets = st.builds(HostSocket, st.just("C1"), connectors, amounts, st.booleans(), noted(amounts))
hops = st.builds(Hop, plain, amounts, noted(counts)).map(lambda hop: (hop,))
rigs = st.builds(
    Rig,
    plain,
    st.builds(
        Host, st.just("host"), plain,
        st.lists(sockets, max_size=1).map(tuple),
        noted(amounts), noted(amounts), noted(plain), noted(plain), noted(plain), noted(plain),
    ).map(lambda host: (host,)),
    drives=st.builds(Drive, st.just("d"), plain, connectors, amounts, amounts, st.just("1f6e:5501"), noted(plain),
                     noted(counts), noted(amounts)).map(lambda drive: (drive,)),
    supplies=st.builds(SupplyGear, st.just("s"), plain, connectors, amounts, amounts,
                       noted(st.just((SupplyStep(5.0, 3.0), SupplyStep(20.0, 2.25)))),
                       noted(st.sampled_from(Origin))).map(lambda supply: (supply,)),
    peers=st.builds(Peer, st.just("p"), plain, connectors, amounts, st.just(9000),
                    noted(hops)).map(lambda peer: (peer,)),
    meters=st.builds(Meter, st.just("m"), plain, connectors, noted(plain), noted(st.floats(0, 100)), noted(amounts),
                     noted(st.just((Accuracy("voltage", 0.1, 0.01, NOT_NOTED),)))).map(lambda meter: (meter,)),
    leads=leads.map(lambda lead: (lead,)),
)  # fmt: skip


@given(devices, noted(plain))
def test_a_claim_sheet_reads_as_it_was_written(device: Device, quoted: Any) -> None:
    claims = (ClaimMade("claim1", "A1 data 5 Gb/s", Source("box", NOT_NOTED, quoted)),)
    came = read_claim_sheet(write_claim_sheet([device], claims), "sheet.toml")
    assert came.device == device
    assert came.claims == claims


@given(rigs)
def test_a_rig_reads_as_it_was_written(rig: Rig) -> None:
    assert read_rig(write_rig(rig), "rig.toml") == rig


def test_the_demo_is_written_with_units_people_use() -> None:
    text = write_rig(galley())
    assert read_rig(text, "rig.toml") == galley()
    kept = tomllib.loads(text)
    assert kept["host"][0]["sockets"][0]["data"] == "40 Gb/s"
    assert kept["supply"][0]["watts"] == "65 W"
    assert kept["lead"][0]["length"] == "0.8 m"


def test_a_field_is_written_under_its_name_without_its_unit() -> None:
    assert [key_of(each.name) for each in fields_in_order(Drive)][3:6] == ["read", "write", "usb_id"]
    assert table_of(Port("A1", "usb-a", Role.INLET, None)) == {
        "id": "A1", "connector": "usb-a", "role": "inlet", "printed": "none",
    }  # fmt: skip


def test_absent_is_not_noted_and_none_is_none() -> None:
    form = form_of(Lead)
    absent = noun_of(Lead, form.model_validate({"id": "L", "ends": ["usb-a", "usb-c"]}))
    said = noun_of(Lead, form.model_validate({"id": "L", "ends": ["usb-a", "usb-c"], "marker": "none"}))
    assert absent.marker is NOT_NOTED
    assert said.marker is None
    assert replace(said, marker=NOT_NOTED) == absent


@pytest.mark.parametrize(
    ("table", "told"),
    [
        ('price = { amount = nan, money = "EUR" }', "finite"),
        ('price = { amount = 5, money = "euro" }', "price.money"),
        ('supply = { volts = "-20 V", amperes = "5 A" }', "must not be negative"),
        ('supply = { volts = "20 W", amperes = "5 A" }', "unknown unit"),
        ('usb_ids = ["dock"]', "usb_ids"),
        ('weight = "1 kg"', "unknown key"),
    ],
)
def test_what_a_device_cannot_be_is_told_with_its_line(table: str, told: str) -> None:
    text = f'[device]\nmaker = "a"\nmodel = "b"\nkind = "c"\n{table}\n\n[[face]]\nname = "f"\nports = []\n'
    with pytest.raises(SheetError) as refused:
        read_claim_sheet(text, "sheet.toml")
    assert told in str(refused.value)
    assert refused.value.line == 5


def test_a_face_without_ports_is_a_face() -> None:
    text = '[device]\nmaker = "a"\nmodel = "b"\nkind = "c"\n\n[[face]]\nname = "f"\nports = []\n'
    assert read_claim_sheet(text, "sheet.toml").device.faces == (Face("f", ()),)
