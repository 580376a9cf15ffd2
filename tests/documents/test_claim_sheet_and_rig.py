"""Claim sheets and rigs: read, or refused with file, line, key path and words."""

from __future__ import annotations

import time
import tomllib
from importlib import resources

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.language import parse_claim
from auditra.core.errors import SheetError
from auditra.core.model.device import Role
from auditra.core.model.noted import NOT_NOTED
from auditra.documents.claim_sheet import claims_schema, facts_of, read_claim_sheet, write_claim_sheet
from auditra.documents.rig_file import read_rig

DEMO = resources.files("auditra") / "data" / "demo"
SHEET = DEMO.joinpath("osierpell-op-6.toml").read_text(encoding="utf-8")
RIG = DEMO.joinpath("galley.toml").read_text(encoding="utf-8")


def line_in(text: str, words: str) -> int:
    return text[: text.index(words)].count("\n") + 1


def test_the_demo_sheet_reads_as_it_is_written() -> None:
    sheet = read_claim_sheet(SHEET, "sheet.toml")
    assert sheet.device.name == "Osierpell OP-6"
    assert [port.id for port in sheet.device.ports()] == ["A1", "A2", "S1", "N1", "H1", "P1", "UP"]
    assert sheet.device.first(Role.INLET) == sheet.device.port("P1")
    assert sheet.claims[0].source.quoted == "two sockets for drives, 5 gigabit each"
    assert sheet.claims[0].source.kind == "box"
    assert len(facts_of(sheet, read_rig(RIG, "rig.toml"))) == 2 + len(sheet.claims)


def test_three_states_are_kept_apart() -> None:
    device = read_claim_sheet(SHEET, "sheet.toml").device
    assert device.variant is NOT_NOTED
    assert device.printed_count == 6
    upstream, card_slot = device.port("UP"), device.port("S1")
    assert upstream is not None
    assert upstream.printed is None
    assert card_slot is not None
    assert card_slot.printed is NOT_NOTED


BROKEN_SHEETS = [
    ('says = "A1 data 5 Gb/s"', 'says = "A1 data 5 GB/s"', "claim[1].says", "column 11"),
    ('says = "S1 cards 95 MB/s"', 'says = "S9 cards 95 MB/s"', "claim[3].says", "no port S9"),
    ('maker = "Osierpell"', "maker = 7", "device.maker", "quoted string"),
    ('model = "OP-6"', "", "device.model", "missing"),
    ('kind = "pocket hub"', 'kind = "pocket hub"\ncolour = "red"', "device.colour", "unknown key"),
    ('{ id = "S1", connector = "sd" }', '{ id = "A1", connector = "sd" }', "face[1].ports[3].id", "another port"),
    ('role = "inlet"', 'role = "outlet"', "face[2].ports[3].role", "inlet"),
    ("printed_count = 6", 'printed_count = "six"', "device.printed_count", "whole number"),
]


@pytest.mark.parametrize(("right", "wrong", "key_path", "why"), BROKEN_SHEETS)
def test_a_broken_sheet_names_the_line_and_what_to_mend(right: str, wrong: str, key_path: str, why: str) -> None:
    assert right in SHEET
    broken = SHEET.replace(right, wrong, 1)
    with pytest.raises(SheetError) as refused:
        read_claim_sheet(broken, "sheet.toml")
    error = refused.value
    assert error.key_path == key_path
    assert why in str(error)
    expected = line_in(SHEET, right) + wrong.count("\n") if wrong else line_in(SHEET, "[device]")
    assert error.line == expected
    assert str(error).startswith(f"sheet.toml, line {expected}: ")


BROKEN_RIGS = [
    ('read = "1060 MB/s"', 'read = "1060 MX/s"', "drive[1].read", "unknown unit"),
    ('read = "440 MB/s"', "read = 440", "drive[2].read", "with its unit"),
    ('watts = "65 W"', 'watts = "65 V"', "supply[1].watts", "unknown unit"),
    ('id = "film-ssd"', 'id = "fast-ssd"', "drive[2].id", "another part"),
    ('modes = ["3840x2160@60", ', 'modes = ["4K", ', "display[1].modes[1]", "display mode"),
    ('reader = "card-reader"', 'reader = "no-reader"', "card[1].reader", "no reader"),
    ('ends = ["hdmi", "hdmi"]', 'ends = ["hdmi"]', "lead[5].ends", "at least 2"),
    ("error_k = 1.0", "error_k = nan", "thermometer[1].error_k", "finite"),
]


@pytest.mark.parametrize(("right", "wrong", "key_path", "why"), BROKEN_RIGS)
def test_a_broken_rig_names_the_line_and_what_to_mend(right: str, wrong: str, key_path: str, why: str) -> None:
    assert right in RIG
    broken = RIG.replace(right, wrong, 1)
    with pytest.raises(SheetError) as refused:
        read_rig(broken, "rig.toml")
    assert refused.value.key_path == key_path
    assert why in str(refused.value)
    assert refused.value.line == line_in(RIG, right)


def test_what_is_not_toml_names_its_line() -> None:
    with pytest.raises(SheetError, match=r"line 3: .*not TOML"):
        read_claim_sheet("[device]\nmaker = 'x'\nmodel = \n", "sheet.toml")


def test_hostile_words_are_shown_inert() -> None:
    hostile = SHEET.replace('says = "A1 data 5 Gb/s"', 'says = "A1 \\u001b[2Jdata"', 1)
    with pytest.raises(SheetError) as refused:
        read_claim_sheet(hostile, "sheet.toml")
    assert "\x1b" not in refused.value.words


@pytest.mark.parametrize("text", ["", "face = 1", "a = " + "[" * 5000, "x" * ((1 << 20) + 1), "[[claim]]\n" * 50])
def test_nonsense_is_refused_in_words(text: str) -> None:
    with pytest.raises(SheetError):
        read_claim_sheet(text, "sheet.toml")


@given(st.integers(0, len(SHEET) - 1), st.characters())
def test_a_sheet_with_one_character_changed_is_read_or_refused_in_words(at: int, character: str) -> None:
    try:
        read_claim_sheet(SHEET[:at] + character + SHEET[at + 1 :], "sheet.toml")
    except SheetError as error:
        assert str(error).startswith("sheet.toml")


KIT = """
[[device]]
id = "near"
maker = "Towlyne"
model = "K2 sender"
kind = "extender"
[[device.face]]
name = "front"
ports = [{ id = "A1", connector = "usb-a" }]

[[device]]
id = "far"
maker = "Towlyne"
model = "K2 receiver"
kind = "extender"
[[device.face]]
name = "front"
ports = [{ id = "A1", connector = "usb-a" }, { id = "A2", connector = "usb-a" }]

[[claim]]
says = "A1 data 480 Mb/s"
[[claim]]
says = "far:A1+A2 data 480 Mb/s, give 2.5 W each"
[[claim]]
says = "A2 gives 2.5 W"
device = "far"
"""


def test_a_kit_of_two_boxes_has_claims_on_each_and_is_written_as_it_is_read() -> None:
    sheet = read_claim_sheet(KIT, "kit.toml")
    assert [device.id for device in sheet.devices] == ["near", "far"]
    assert [(claim.id, claim.sentence, claim.device) for claim in sheet.claims] == [
        ("claim1", "near:A1 data 480 Mb/s", "near"), ("claim2", "far:A1+A2 data 480 Mb/s each", "far"),
        ("claim2b", "far:A1+A2 give 2.5 W each", "far"), ("claim3", "far:A2 gives 2.5 W", "far"),
    ]  # fmt: skip
    again = read_claim_sheet(write_claim_sheet(sheet.devices, sheet.claims), "again.toml")
    assert again.devices == sheet.devices
    assert [claim.sentence for claim in again.claims] == [claim.sentence for claim in sheet.claims]


@pytest.mark.parametrize(
    ("old", "new", "why"),
    [
        ('id = "far"', 'id = "near"', "another device has this id"),
        ("far:A1+A2", "lost:A1+A2", "no device"),
        ('device = "far"', 'device = "near"', "no port A2"),
        ('id = "A2"', 'id = "body"', "the whole device"),
        ("give 2.5 W each", "give 2.5 W each while A9 gives 1 W", "no port A9"),
    ],
)
def test_a_kit_that_does_not_fit_is_refused_with_the_line(old: str, new: str, why: str) -> None:
    with pytest.raises(SheetError, match=why) as refused:
        read_claim_sheet(KIT.replace(old, new, 1), "kit.toml")
    assert refused.value.line


def test_the_schema_of_a_sheet_names_every_key_of_the_demo_and_its_sentences_are_read() -> None:
    schema = claims_schema()
    device = schema["$defs"]["DeviceSheet"]["properties"]
    assert set(tomllib.loads(SHEET)["device"]) <= set(device)
    examples = schema["$defs"]["_ClaimSheet"]["properties"]["says"]["examples"]
    assert len(examples) >= 46
    for example in examples:
        assert parse_claim(example, claim_id="c")


def test_the_line_of_a_mistake_is_never_that_of_a_comment_or_of_text() -> None:
    text = SHEET.replace(
        'kind = "pocket hub"',
        '# kind = 7\nnote = """\nkind = 7\n"""\nkind = 7  # kind = "pocket hub"',
    ).replace('note = """\nkind = 7\n"""\n', "")
    with pytest.raises(SheetError) as refused:
        read_claim_sheet(text, "sheet.toml")
    assert refused.value.line == text[: text.index("\nkind = 7  #")].count("\n") + 2


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("a" + ".a" * 40_000 + " = 1", "parts"),
        ("[device]\nprinted_count = " + "9" * 5_000, "digits"),
        ("x = " + "[" * 900 + "]" * 900, "nested"),
        (SHEET + '\n[[claim]]\nsays = "A1 data 5 Gb/s"\n' * 20_000, "more than"),
        (
            SHEET + '\n[[face]]\nname = "x"\nports = [' + '{ id = "Z1", connector = "usb-a" },' * 20_000 + "]",
            "more than",
        ),
    ],
)
def test_hostile_sheets_are_refused_at_once(text: str, why: str) -> None:
    begun = time.process_time()
    with pytest.raises(SheetError) as refused:
        read_claim_sheet(text, "sheet.toml")
    assert why in str(refused.value)
    assert time.process_time() - begun < 5


def test_a_connector_has_one_name_and_an_unknown_one_is_told() -> None:
    sheet = read_claim_sheet(SHEET.replace('connector = "usb-a"', 'connector = "Type-A"'), "sheet.toml")
    assert {port.connector for port in sheet.device.ports() if port.id.startswith("A")} == {"usb-a"}
    with pytest.raises(SheetError, match="no such connector is known"):
        read_claim_sheet(SHEET.replace('connector = "usb-a"', 'connector = "usb-q"', 1), "sheet.toml")


def test_control_characters_are_refused_where_text_enters() -> None:
    with pytest.raises(SheetError, match=r"control character U\+009B"):
        read_claim_sheet(SHEET.replace("pocket hub", "pocket \\u009b31m hub"), "sheet.toml")
