"""Promises without a figure: each kind of the claim language says in which words sellers make it."""

from __future__ import annotations

import pytest

from auditra.core.advert.reader import read_text
from auditra.core.advert.rules.worded import sold_as
from auditra.core.claims.kinds.control import Guards, WakesWithHost
from auditra.core.claims.kinds.no_data import NoData
from auditra.core.claims.kinds.shows import NoDisplay, OneAtATime
from auditra.core.claims.language import parse_claim, promise_kinds

WORDED = [kind for kind in promise_kinds() if kind.sold_as]


def claims(text: str) -> list[str]:
    return [each.sentence for each in read_text(text).proposals]


@pytest.mark.parametrize("kind", WORDED, ids=lambda kind: kind.__name__)
def test_what_sellers_say_is_a_claim_of_that_kind(kind: type) -> None:
    for behind in kind.sold_as:  # type: ignore[attr-defined]
        subject = "H1|D1" if kind is OneAtATime else "A1" if kind in (NoData, NoDisplay) else "body"
        claim = parse_claim(f"{subject} {kind.words} {behind}".rstrip(), claim_id="c")  # type: ignore[attr-defined]
        assert isinstance(claim.promise, kind)


@pytest.mark.parametrize(
    ("text", "claim"),
    [
        ("Protected against over-current.", "body guards against over-current"),
        ("SAFETY. OCP, too.", "body guards against over-current"),
        ("It shuts down when it gets too hot.", "body guards against over-heating"),
        ("Guards: lightning.", "body guards against surge"),
        ("ESD-protected housing.", "body guards against static"),
        ("It wakes up together with your laptop.", "body wakes with host"),
        ("A slot for a cable lock is on its side.", "body has lock slot"),
    ],
)
def test_the_whole_device_promises_it(text: str, claim: str) -> None:
    assert claim in claims(f"Hub. {text}")


@pytest.mark.parametrize(
    "text",
    [
        "No lock slot.", "Lock slot: none", "Without protection against lightning.", "It never wakes with the host.",
        "We like surges of joy.", "The fuse lacks over-voltage protection.",
    ],
)  # fmt: skip
def test_what_is_denied_or_said_of_nothing_is_no_promise(text: str) -> None:
    assert claims(f"Hub. {text}") == []


def test_the_words_of_kinds_that_are_said_of_sockets_are_found_in_any_case() -> None:
    assert sold_as(NoData).search("C2: CHARGING ONLY")
    assert sold_as(NoDisplay).search("no video")
    assert not sold_as(NoDisplay).search("if no display is connected")
    assert Guards.sold_near
    assert not WakesWithHost.sold_of_ports
