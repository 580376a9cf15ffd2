"""A socket's card: the link against what both ends could do, power in three columns, the mode at both ends."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import LinkSeen
from auditra.core.model.link_answer import LINK_ANSWER_TEXT, LinkAnswer
from auditra.core.model.reading import Grade, Quantity, Reading, Words
from auditra.tui.renderables.socket_card import links_at, socket_card
from auditra.tui.theme import PALETTES
from tests.support.audits import audit_of, judged, number, with_trial

PALETTE = next(iter(PALETTES.values()))


def card(audit: Audit, port: str) -> str:
    shown = audit.device.port(port)
    assert shown is not None
    return socket_card(shown, audit, judged(audit), PALETTE).plain


def text(quantity: Quantity, words: str, at: str) -> Reading:
    return Reading("T1", quantity, at, "kernel attributes", Grade.READ, Words(words))


def with_links(audit: Audit, *links: LinkSeen) -> Audit:
    first, *rest = audit.trials
    return replace(audit, trials=(replace(first, links=links), *rest))


FIVE = LinkSeen("T1", "A1", "2-1.1", 5e9, 10e9, 5e9, LinkAnswer.BEST, "the socket")


@pytest.fixture
def drive() -> Audit:
    return with_trial(audit_of("A1 data 5 Gb/s"), "A1/storage/fast-ssd", number(Quantity.LINK, 5e9, at="A1"))


def test_a_link_stands_beside_what_both_ends_could(drive: Audit) -> None:
    told = card(with_links(drive, FIVE), "A1")
    assert "link  T1: 5 Gb/s; gear supports 10 Gb/s, port 5 Gb/s  = at the best rate both ends support" in told


@pytest.mark.parametrize(
    ("answer", "mark"), [(LinkAnswer.SLOWER, "<"), (LinkAnswer.UNKNOWN, "?"), (LinkAnswer.BEST, "=")]
)
def test_each_answer_has_mark_and_word(drive: Audit, answer: LinkAnswer, mark: str) -> None:
    slow = replace(FIVE, answer=answer, rate_bps=480e6, device_could_bps=None)
    told = card(with_links(drive, slow), "A1")
    assert f"{mark} {LINK_ANSWER_TEXT[answer]}" in told
    assert "gear supports an unknown rate" in told


def test_the_same_link_again_is_told_once_and_few_are_told(drive: Audit) -> None:
    links = [replace(FIVE, trial=f"T{n}", rate_bps=rate) for n, rate in enumerate([5e9, 5e9, 480e6, 12e6, 1.5e6, 5e9])]
    seen = links_at("A1", with_links(drive, *links))
    assert len(seen) == 3
    assert len({each.rate_bps for each in seen}) == 3
    assert links_at("A2", with_links(drive, *links)) == ()


def test_offered_agreed_and_drawn_are_three_things() -> None:
    readings = (
        number(Quantity.OFFERED, 100.0, at="P1", grade=Grade.READ),
        number(Quantity.AGREED, 90.0, at="P1", grade=Grade.READ),
        number(Quantity.POWER, 87.2, at="P1"),
    )  # fmt: skip
    told = card(with_trial(audit_of("P1 takes 90 W"), "P1/power_in", *readings), "P1")
    lines = told.splitlines()
    at = next(n for n, line in enumerate(lines) if line.startswith("power"))
    assert lines[at].split() == ["power", "offered", "agreed", "drawn"]
    assert lines[at + 1].split() == ["100.0", "W", "90.0", "W", "87.2", "W"]
    places = [lines[at].index(name) for name in ("offered", "agreed", "drawn")]
    assert places == [lines[at + 1].index(value) for value in ("100.0", "90.0", "87.2")]
    assert max(map(len, lines[at : at + 2])) < 46


def test_without_a_contract_there_are_no_columns() -> None:
    taken = with_trial(audit_of("P1 takes 90 W"), "P1/power_in", number(Quantity.POWER, 87.2, at="P1"))
    assert not any(line.startswith("power  offered") for line in card(taken, "P1").splitlines())


def test_the_mode_at_both_ends() -> None:
    readings = text(Quantity.MODE_SENT, "3840x2160@60", "H1"), text(Quantity.MODE, "3840x2160@30", "H1")
    told = card(with_trial(audit_of("H1 shows 3840x2160@30"), "H1/display/projector", *readings), "H1")
    assert "picture  host sends    display runs\n         3840x2160@60  3840x2160@30" in told
    sent = with_trial(audit_of("H1 shows 3840x2160@30"), "H1/display/projector", readings[0])
    assert "3840x2160@60  not read" in card(sent, "H1")


def test_a_socket_of_which_nothing_was_read_has_none_of_it() -> None:
    told = card(audit_of("A1 data 5 Gb/s"), "A1")
    assert not any(line.startswith(("link", "power", "picture")) for line in told.splitlines())
