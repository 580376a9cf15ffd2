"""USB Power Delivery: objects, messages, logs, and the conversation that they make."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from auditra.core.decode.identity import Sort, decode_identity
from auditra.core.decode.power_delivery.conversation import Conversation
from auditra.core.decode.power_delivery.hearing import hold_conversation
from auditra.core.decode.power_delivery.log import Line, TornLine, read_log
from auditra.core.decode.power_delivery.messages import Start, decode_message
from auditra.core.decode.power_delivery.objects import (
    decode_object,
    decode_objects,
    decode_request,
    wrong_with_offer,
    wrong_with_request,
)
from auditra.core.decode.power_delivery.vendor import capabilities_in_words, configuration_in_words
from auditra.core.decode.problem import Code
from tests.support import power
from tests.support.vectors import vectors

OFFER = decode_objects((power.fixed(5, 3), power.fixed(9, 3), power.fixed(20, 5), power.pps(5, 21, 3)))


@pytest.mark.parametrize("vector", vectors("power_objects")["objects"], ids=lambda vector: str(vector["told"]))
def test_power_objects(vector: dict[str, object]) -> None:
    found = decode_object(int(str(vector["word"]), 16), 1, of_source=bool(vector.get("of source", True)))
    assert (found.kind, found.words, found.most_power_mw) == (vector["kind"], vector["told"], vector["most mW"])


def test_what_a_first_object_says_besides() -> None:
    found = decode_object(power.fixed(5, 3, traits=0b1000001), 1)
    assert found.traits == ("dual role power", "EPR capable")
    assert decode_object(power.fixed(5, 3, traits=0b1000001), 2).traits == ()


@pytest.mark.parametrize(
    ("word", "of_source", "position", "told"),
    [
        (power.fixed(20, 5) | 1 << 20, True, 4, ("peak 150 % for 1 ms, 125 % for 2 ms, 110 % for 10 ms",)),
        (power.fixed(20, 5) | 2 << 20, True, 4, ("peak 200 % for 1 ms, 150 % for 2 ms, 125 % for 10 ms",)),
        (power.epr_avs(15, 48, 240) | 3 << 26, True, 8, ("peak 200 % for 1 ms, 175 % for 2 ms, 150 % for 10 ms",)),
        (power.spr_avs(3, 2.5) | 1 << 26, True, 5, ("peak 150 % for 1 ms, 125 % for 2 ms, 110 % for 10 ms",)),
        (power.fixed(5, 3) | 3 << 20, False, 1, ()),
        (power.fixed(5, 3) | 1 << 23, False, 1, ("fast role swap at default USB power",)),
        (power.fixed(5, 3) | 3 << 23, False, 1, ("fast role swap at 3 A",)),
        (power.fixed(9, 3) | 2 << 23, False, 2, ()),
    ],
)
def test_peak_current_of_a_source_and_fast_role_swap_of_a_sink(
    word: int, of_source: bool, position: int, told: tuple[str, ...]
) -> None:
    assert decode_object(word, position, of_source=of_source).traits == told


def test_each_kind_of_object_says_its_range() -> None:
    kinds = [power.battery(5, 20, 45), power.variable(5, 12, 2), power.pps(3.3, 21, 5), power.epr_avs(15, 48, 240)]
    kinds.append(power.spr_avs(3, 2.5))
    assert [each.words for each in decode_objects(kinds)] == [
        "battery 5 to 20 V, 45 W", "variable 5 to 12 V 2 A", "PPS 3.3 to 21 V 5 A", "EPR AVS 15 to 48 V, 240 W",
        "AVS 9 to 20 V 3 A",
    ]  # fmt: skip


def test_empty_places_are_left_out_and_positions_kept() -> None:
    words = [power.fixed(5, 3), 0, 0, 0, 0, 0, 0, power.fixed(28, 5)]
    assert [each.position for each in decode_objects(words)] == [1, 8]


@pytest.mark.parametrize(
    ("words", "why"),
    [
        ((), "offers nothing"), ((power.fixed(9, 3),), "5 V fixed belongs there"),
        ((power.fixed(5, 3), power.fixed(15, 3), power.fixed(9, 3)), "do not rise"),
        ((power.fixed(5, 3), power.pps(5, 11, 3), power.fixed(9, 3)), "out of order"),
        ((power.fixed(5, 3), power.fixed(28, 5)), "20 V are the most there"),
        ((power.fixed(5, 3), power.fixed(20, 6)), "5 A are the most"),
        ((power.fixed(5, 3), power.pps(21, 5, 3)), "least voltage above"),
        ((power.fixed(5, 3), 0xF0000001), "kept for later"),
    ],
)  # fmt: skip
def test_rules_of_an_offer(words: tuple[int, ...], why: str) -> None:
    assert any(why in each for each in wrong_with_offer(decode_objects(words)))


def test_a_sound_offer_breaks_no_rule() -> None:
    assert list(wrong_with_offer(OFFER)) == []
    extended = [power.fixed(5, 3), power.fixed(20, 5), 0, 0, 0, 0, 0, power.fixed(28, 5), power.epr_avs(15, 28, 140)]
    assert list(wrong_with_offer(decode_objects(extended))) == []


@pytest.mark.parametrize(
    ("word", "why"),
    [
        (power.ask(3, 5), ""), (power.ask(9, 1), "asks for object 9"), (power.ask(2, 4), "4 A of 3 A"),
        (power.ask_pps(4, 9, 3), ""), (power.ask_pps(4, 22, 1), "of 5 to 21 V"),
        (power.ask_pps(4, 9, 3.5), "3.5 A of 3 A"),
    ],
)  # fmt: skip
def test_rules_of_a_request(word: int, why: str) -> None:
    told = list(wrong_with_request(decode_request(word, OFFER), OFFER))
    assert len(told) == bool(why)
    assert all(why in each for each in told)


def test_adjustable_voltage_is_asked_for_in_its_own_steps() -> None:
    request = decode_request(power.ask_pps(4, 9.02, 2.5), OFFER)
    assert (request.voltage_mv, request.current_ma) == (9020, 2500)
    offer = decode_objects((power.fixed(5, 3), power.epr_avs(15, 28, 140)))
    high = decode_request(2 << 28 | (28 * 40) << 9 | round(5.0 * 20), offer)
    assert (high.voltage_mv, high.current_ma) == (28_000, 5000)
    assert list(wrong_with_request(high, offer)) == []
    over = decode_objects((power.fixed(5, 3), power.epr_avs(15, 28, 100)))
    assert any("140 W of 100 W" in each for each in wrong_with_request(high, over))


def test_control_messages_and_who_says_them() -> None:
    accept = decode_message(power.control("Accept"))
    assert (accept.name, accept.sender, accept.revision, accept.problems) == ("Accept", "source", "3.x", ())
    assert decode_message(power.control("Accept", source=False)).sender == "sink"
    assert decode_message(power.header(1, source=True), Start.NEAR_PLUG).sender == "cable"


def test_a_crc_is_checked_where_there_is_one() -> None:
    sound = power.with_crc(power.data("offer", power.fixed(5, 3)))
    assert decode_message(sound).problems == ()
    (problem,) = decode_message(sound[:-1] + bytes((sound[-1] ^ 1,))).problems
    assert problem.code is Code.CHECKSUM


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", Code.SHORT), (b"\x61", Code.SHORT), (power.data("offer", power.fixed(5, 3))[:4], Code.SHORT),
        (power.header(30), Code.RESERVED), (power.header(14, 1) + bytes(4), Code.RESERVED),
        (power.header(29, 1, extended=True) + b"\x02\x80\0\0", Code.RESERVED),
        (power.header(17, 7, extended=True) + (1 << 15 | 44).to_bytes(2, "little"), Code.SHORT),
        (power.control("Accept") + b"\0\0", Code.LENGTH), (bytes(5000), Code.LONG),
    ],
)  # fmt: skip
def test_what_is_wrong_with_a_message_is_told(data: bytes, code: Code) -> None:
    assert code in [each.code for each in decode_message(data).problems]


def test_details_of_the_extended_range_of_a_source_and_of_the_revision() -> None:
    assert decode_message(power.data("epr mode", 4 << 24 | 1 << 16)).details == (
        "enter failed: the cable is not good for the extended range",
    )  # fmt: skip
    assert decode_message(power.data("info", 1 << 31 | 140 << 16 | 100 << 8 | 100)).details == (
        "guaranteed port: 140 W at most, 100 W now, 100 W reported",
    )  # fmt: skip
    assert decode_message(power.data("revision", 0x32110000)).details == ("revision 3.2, version 1.1",)


def test_displayport_by_vendor_messages() -> None:
    status = decode_message(power.vendor(0xFF01, 16, 0b1000_1010)).vendor
    assert status is not None
    assert status.details == ("connected: the display side, enabled, hot plug detect high",)
    assert configuration_in_words(0b10 | 1 << 2 | 0b0100 << 8).startswith("pin assignment C (four lanes)")
    assert configuration_in_words(0b10 | 0b1000 << 8) == "pin assignment D (two lanes and fast data)"
    assert configuration_in_words(0) == "USB, no DisplayPort"
    assert "display pins CD" in capabilities_in_words(0b01 | 1 << 6 | 0b1100 << 16)
    modes = decode_message(power.vendor(0xFF00, 2, 0xFF018087, 0x00000000)).vendor
    assert modes is not None
    assert modes.svids == (0xFF01, 0x8087)


def held(said: list[tuple[str, bytes]], *, crc: bool = False) -> Conversation:
    return hold_conversation(read_log(power.log(*said, crc=crc)))


@pytest.mark.parametrize("crc", [False, True])
def test_a_conversation_from_offer_to_contract(crc: bool) -> None:
    found = held(power.conversation(), crc=crc)
    assert found.contract is not None
    assert found.contract.words == "20 V 4.5 A (90 W), object 4"
    assert found.most_offered_mw == 100_000
    assert found.cable is not None
    assert found.cable.cable is not None
    assert found.cable.cable.current_ma == 5000
    assert [turn.sender for turn in found.turns] == [
        "port (SOP')",
        "cable (SOP')",
        "source",
        "sink",
        "source",
        "source",
    ]
    assert found.turns[-1].words == "is ready: 20 V 4.5 A (90 W), object 4"
    assert found.faults == ()
    assert "the sink asked for 90 W of 100 W that are offered" in found.not_more


def test_why_it_was_not_more() -> None:
    unmarked = held(power.conversation((power.fixed(5, 3), power.fixed(20, 3)), power.ask(2, 3), cable=None))
    assert unmarked.not_more == ("no cable answered: without a marker a source offers no more than 3 A (60 W)",)
    wants = held(power.conversation(request=power.ask(4, 5, mismatch=True)))
    assert wants.not_more[0] == "the sink would rather have more than is offered: 100 W at most"
    weak = held(
        power.conversation((power.fixed(5, 3), power.fixed(20, 3)), power.ask(2, 3), cable=(0x18001F6E, 0, 0, 0x82020))
    )
    assert weak.not_more == ("the cable's marker allows 3 A at up to 20 V (60 W), USB 2.0",)
    failed = [*power.conversation(), ("SOP", power.data("epr mode", 4 << 24 | 1 << 16))]
    assert any("extended range was not entered: the cable" in each for each in held(failed).not_more)
    assert held([]).not_more == ("no offer was heard",)


def test_a_refusal_leaves_the_contract_that_was() -> None:
    said = [
        *power.conversation(),
        ("SOP", power.data("request", power.ask(4, 5), source=False)),
        ("SOP", power.control("Reject")),
    ]
    found = held(said)
    assert found.refused == 1
    assert found.contract is not None
    assert found.contract.current_ma == 4500


def test_without_a_contract_refusals_are_counted() -> None:
    said = [*power.conversation()[:5], ("SOP", power.control("Reject"))]
    found = held(said)
    assert found.contract is None
    assert found.not_more[0] == "no contract was made: 1 requests were refused"


def test_the_extended_range_in_chunks() -> None:
    words = [power.fixed(5, 3), power.fixed(9, 3), power.fixed(15, 3), power.fixed(20, 5), 0, 0, 0]
    words += [power.fixed(28, 5), power.epr_avs(15, 28, 140)]
    whole = b"".join(word.to_bytes(4, "little") for word in words)
    said = [("SOP", power.chunk(power.EPR_OFFER, whole, n)) for n in range(2)]
    said += [
        ("SOP", power.data("epr request", power.ask(8, 5, epr=True), power.fixed(28, 5), source=False)),
        ("SOP", power.control("Accept")), ("SOP", power.control("PS_RDY")),
    ]  # fmt: skip
    found = held(said)
    assert [each.position for each in found.offered] == [1, 2, 3, 4, 8, 9]
    assert found.contract is not None
    assert found.contract.words == "28 V 5 A (140 W), object 8"
    assert found.faults == ()


def test_torn_lines_are_told_and_the_rest_is_read() -> None:
    lines = [
        "0.0 SOP zz",
        "garbage \x1b[2J",
        *power.log(*power.conversation()),
        "0.9 SOP 61",
        "x" * 9000,
        "1 SOP " + "00" * 400,
    ]
    found = hold_conversation(read_log(lines))
    assert found.contract is not None
    assert len(found.faults) == 5
    assert all("\x1b" not in each for each in found.faults)


def test_faults_and_turns_are_bounded() -> None:
    found = hold_conversation(read_log(["?"] * 5000 + power.log(*power.conversation()) * 10))
    assert len(found.faults) == 200


@given(st.binary(max_size=300), st.sampled_from(list(Start)))
def test_any_bytes_are_a_message_or_say_why_not(data: bytes, start: Start) -> None:
    found = decode_message(data, start)
    assert found.name
    assert len(found.objects) <= 7


@given(
    st.lists(
        st.one_of(st.text(max_size=60), st.binary(max_size=40).map(lambda data: f"1.5 SOP' {data.hex()}")), max_size=20
    )
)
def test_any_lines_give_a_conversation(lines: list[str]) -> None:
    found = hold_conversation(read_log(lines))
    assert found.messages + len(found.faults) >= 0
    assert all(isinstance(each, Line | TornLine) for each in read_log(lines))


@given(st.data())
def test_a_damaged_conversation_never_agrees_on_more_than_was_offered_without_a_fault(data: st.DataObject) -> None:
    said = power.conversation()
    at = data.draw(st.integers(0, len(said) - 1))
    message = bytearray(said[at][1])
    message[data.draw(st.integers(0, len(message) - 1))] = data.draw(st.integers(0, 255))
    said[at] = (said[at][0], bytes(message))
    found = held(said)
    if found.contract is not None and found.contract.power_mw is not None and not found.faults:
        assert found.contract.power_mw <= (found.most_offered_mw or 0)
        assert replace(found, turns=()).contract == found.contract


def test_a_source_that_says_what_limits_it() -> None:
    status = bytes((45, 0, 0, 0b1_0000, 0, 0b10_0010, 0))
    said = [*power.conversation(), ("SOP", power.chunk(2, status, 0))]
    found = held(said)
    assert found.turns[-1].words.startswith("Status: inside 45 C; current is limited")
    assert found.not_more[-2:] == ("the source is limited by the cable", "the source is limited by temperature")


def sealed(said: list[tuple[str, bytes]]) -> list[tuple[str, bytes]]:
    return [(start, power.with_crc(message)) for start, message in said]


@pytest.mark.parametrize("at", range(7))
@pytest.mark.parametrize("how", ["flipped", "torn", "longer"])
def test_a_damaged_message_changes_nothing_that_is_known(at: int, how: str) -> None:
    sound = sealed(power.conversation())
    start, message = sound[at]
    flipped = message[:3] + bytes((message[3] ^ 0x40,)) + message[4:]
    damaged = {"flipped": flipped, "torn": message[:-3], "longer": message + bytes(3)}[how]
    found, without = held([*sound[:at], (start, damaged), *sound[at + 1 :]]), held([*sound[:at], *sound[at + 1 :]])
    assert (found.offered, found.contract, found.cable, found.partner) == (
        without.offered, without.contract, without.cable, without.partner,
    )  # fmt: skip
    assert len(found.faults) > len(without.faults)
    if at != 3:  # a GoodCRC is no turn
        assert "damaged, and not heeded" in [turn.words for turn in found.turns]


@given(st.data())
def test_damage_never_improves_an_offer_a_contract_or_a_cable(data: st.DataObject) -> None:
    sound = sealed([("SOP", power.control("GoodCRC"))] * 3 + power.conversation())
    at = data.draw(st.integers(3, len(sound) - 1))
    message = bytearray(sound[at][1])
    for place in data.draw(st.lists(st.integers(0, len(message) - 1), min_size=1, max_size=3)):
        message[place] ^= data.draw(st.integers(1, 255))
    cut = data.draw(st.integers(0, len(message)))
    damaged = bytes(message[:cut]) if data.draw(st.booleans()) else bytes(message)
    assume(damaged != sound[at][1])
    found, best = held([*sound[:at], (sound[at][0], damaged), *sound[at + 1 :]]), held(sound)
    assert (found.most_offered_mw or 0) <= (best.most_offered_mw or 0)
    powers = [each.contract.power_mw or 0 if each.contract is not None else 0 for each in (found, best)]
    assert powers[0] <= powers[1]
    assert found.cable in (None, best.cable)


def test_a_log_without_crcs_is_taken_as_it_is_and_one_with_them_has_them_all() -> None:
    bare, closed = power.conversation(), sealed(power.conversation())
    assert held(bare).contract == held(closed).contract
    torn = held([*closed[:4], bare[4], *closed[5:]])
    assert torn.contract is None
    assert any("no valid CRC" in each for each in torn.faults)
    assert held([*bare[:4], closed[4], *bare[5:]]).contract == held(bare).contract, "a mixed log is taken as it is"


def test_a_header_that_promises_more_objects_than_are_there_does_not_eat_the_crc() -> None:
    short = power.header(power.DATA["offer"], 3, source=True) + power.fixed(5, 3).to_bytes(4, "little")
    found = decode_message(power.with_crc(short))
    assert found.objects == (power.fixed(5, 3),)
    assert [each.code for each in found.problems] == [Code.SHORT]


def test_a_limited_pps_object_counts_up_to_the_rated_power_alone() -> None:
    limited = power.pps(5, 21, 5) | 1 << 27
    offers = (power.fixed(5, 3), power.fixed(20, 3))
    found = held(power.conversation((*offers, limited), power.ask(2, 3)))
    assert found.most_offered_mw == 60_000, "not 105 W"
    assert held(power.conversation((*offers, power.pps(5, 21, 5)), power.ask(2, 3))).most_offered_mw == 105_000


@pytest.mark.parametrize(("volts", "amperes", "refused"), [(20.0, 3.5, True), (16.0, 3.05, True), (20.0, 3.0, False)])
def test_too_much_current_of_a_pps_object_is_seen_at_any_voltage(volts: float, amperes: float, refused: bool) -> None:
    told = list(wrong_with_request(decode_request(power.ask_pps(4, volts, amperes), OFFER), OFFER))
    assert bool(told) is refused


@pytest.mark.parametrize(
    ("offers", "blamed"),
    [((power.fixed(5, 3), power.fixed(15, 3)), False), ((power.fixed(5, 3), power.fixed(9, 3)), False),
     ((power.fixed(5, 3), power.fixed(20, 2.25)), False), ((power.fixed(5, 3), power.fixed(20, 3)), True)],
)  # fmt: skip
def test_a_cable_is_to_blame_only_where_the_offer_goes_as_far_as_its_marker(
    offers: tuple[int, ...], blamed: bool
) -> None:
    three_amperes = (0x18001F6E, 0, 0, 0x82020)
    found = held(power.conversation(offers, power.ask(2, 2.0), cable=three_amperes))
    assert any("marker allows" in each for each in found.not_more) is blamed


@pytest.mark.parametrize(
    ("words", "why"),
    [((power.fixed(5, 3), power.fixed(9, 0)), "object 2 gives nothing: 0 A"),
     ((power.fixed(5, 3), 100), "object 2 has 0 V"),
     ((power.fixed(5, 3), power.battery(5, 20, 0)), "object 2 gives nothing: 0 W"),
     ((power.fixed(5, 3), power.pps(5, 21, 3), power.pps(5, 11, 3)), "its PPS ranges do not rise")],
)  # fmt: skip
def test_offers_of_nothing_and_ranges_out_of_order_are_flagged(words: tuple[int, ...], why: str) -> None:
    assert why in list(wrong_with_offer(decode_objects(words)))


def test_what_is_kept_for_later_is_flagged_and_a_vendors_own_command_is_not_displayport() -> None:
    reserved = (int.from_bytes(power.control("Accept"), "little") | 3 << 6).to_bytes(2, "little")
    assert [each.code for each in decode_message(reserved).problems] == [Code.RESERVED]
    for command in (16, 17):
        own = decode_message(power.vendor(0x1F6E, command, 1)).vendor
        assert own is not None
        assert own.command == f"command {command}"
        theirs = decode_message(power.vendor(0xFF01, command, 1)).vendor
        assert theirs is not None
        assert theirs.command.startswith("DisplayPort")


@pytest.mark.parametrize("command", [0, *range(1, 7), 7, 15, 16, 31])
def test_commands_that_are_kept_for_later_are_flagged(command: int) -> None:
    problems = [each.code for each in decode_message(power.vendor(0xFF00, command, 1)).problems]
    assert (Code.RESERVED in problems) is (command in (0, 7, 15))


@pytest.mark.parametrize("action", [0, 1, 5, 6, 255])
def test_actions_of_the_extended_range_that_are_kept_for_later_are_flagged(action: int) -> None:
    problems = [each.code for each in decode_message(power.data("epr mode", action << 24)).problems]
    assert (Code.RESERVED in problems) is (action not in (1, 5))


def test_a_plug_of_a_kind_that_is_kept_for_later_is_no_passive_cable_and_has_answered() -> None:
    unknown = (0x38001F6E, 0, 0, 0x82042)
    found = held(power.conversation((power.fixed(5, 3), power.fixed(20, 3)), power.ask(2, 3), cable=unknown))
    assert found.cable is not None
    assert (found.cable.sort, found.cable.cable) == (Sort.UNKNOWN_PLUG, None)
    assert not any("no cable answered" in each or "marker allows" in each for each in found.not_more)


@pytest.mark.parametrize(("code", "volts"), [(0, 20), (1, 20), (2, 20), (3, 50)])
def test_deprecated_voltages_of_a_marker_are_read_as_20_volts(code: int, volts: int) -> None:
    found = decode_identity(0x18001F6E, 0, 0, (0x82042 & ~(3 << 9) | code << 9,), of_cable=True)
    assert found is not None
    assert found.cable is not None
    assert found.cable.max_vbus_mv == volts * 1000


def lines(*said: str) -> Conversation:
    return hold_conversation(read_log(said))


def with_crc(said: list[tuple[str, bytes]]) -> list[str]:
    return list(power.log(*said, crc=True))


def test_a_hard_reset_ends_the_contract_and_a_cable_reset_does_not() -> None:
    agreed = with_crc(power.conversation())
    cable = lines(*agreed, "9.0 Cable_Reset")
    assert cable.contract is not None
    assert (cable.cable_resets, cable.faults, cable.turns[-1].words) == (1, (), "cable reset")
    hard = lines(*agreed, "9.0 Hard_Reset")
    assert (hard.contract, hard.hard_resets, hard.faults) == (None, 1, ())
    assert [each.words for each in hard.contracts] == ["20 V 4.5 A (90 W), object 4"]
    assert hard.not_more[0] == "a hard reset ended the last contract"
    assert lines(*agreed, "9.0 Hard_Reset 41 00").contract is not None


def test_an_acceptance_from_before_a_hard_reset_makes_no_contract_after_it() -> None:
    said = list(power.log(*power.conversation()))
    assert lines(*said[:-1], "9.0 Hard_Reset", said[-1]).contracts == ()


def test_every_contract_is_kept_with_its_place() -> None:
    said = [*power.conversation(), ("SOP", power.data("request", power.ask(2, 3), source=False))]
    said += [("SOP", power.control("Accept")), ("SOP", power.control("PS_RDY"))]
    found = held(said)
    assert [each.position for each in found.contracts] == [4, 2]
    assert found.contract == found.contracts[-1]
    last = found.turns[-1]
    assert (found.contract.line, found.contract.from_start_s) == (last.line, last.from_start_s)


def test_the_same_once_more_is_a_retry_and_counts_once() -> None:
    said = list(power.log(*power.conversation(), ("SOP", power.data("request", power.ask(4, 5), source=False))))
    refused = f"9.0 SOP {power.control('Reject').hex()}"
    found = lines(*said, refused, refused)
    assert (found.refused, found.retries) == (1, 1)
    assert found.turns[-1].words == "Reject once more"
    assert [each.is_retry for each in found.heard][-2:] == [False, True]
    again = lines(*said, refused, said[-1], refused)
    assert (again.refused, again.retries) == (2, 0)


def test_a_chunk_that_came_twice_does_not_shift_the_objects_behind_it() -> None:
    words = [power.fixed(5, 3), power.fixed(20, 5), 0, 0, 0, 0, 0, power.fixed(28, 5)]
    whole = b"".join(word.to_bytes(4, "little") for word in words)
    first, second = (power.chunk(power.EPR_OFFER, whole, number) for number in (0, 1))
    found = held([("SOP", first), ("SOP", first), ("SOP", second), ("SOP", second)])
    assert [each.words for each in found.offered] == ["5 V 3 A", "20 V 5 A", "28 V 5 A"]
    assert found.retries == 2


@pytest.mark.parametrize("start", ["SOP'_Debug", "SOP''_Debug"])
def test_a_debug_message_is_told_and_changes_nothing(start: str) -> None:
    said = power.conversation()
    found = held([*said, (start, power.data("offer", power.fixed(5, 1)))])
    assert found.offered == held(said).offered
    assert found.turns[-1].words == "Source_Capabilities, to a debug accessory: not heeded"
    identity = held([(start, data) for begins, data in said if begins == "SOP'"])
    assert (identity.cable, identity.partner) == (None, None)


def test_every_message_is_kept_with_what_its_header_says() -> None:
    word = 3 << 9 | 1 << 8 | 2 << 6 | 1 << 5 | 3
    found = lines(f"0 SOP {word.to_bytes(2, 'little').hex()}", "1 SOP' 4110", "2 Hard_Reset")
    first, second, third = found.heard
    assert (first.name, first.sender, first.data_role, first.identifier) == ("Accept", "source", "DFP", 3)
    assert first.revision == "3.x"
    assert (second.data_role, second.start, second.is_damaged) == (None, "SOP'", True)
    assert (third.name, third.objects, third.from_start_s) == ("Hard_Reset", (), 2.0)
    sink = decode_message(power.data("request", power.ask(1, 1), source=False))
    assert sink.data_role == "UFP"
