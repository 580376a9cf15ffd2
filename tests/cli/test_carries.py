"""``auditra carries``: the answer, its sum, and what it takes to ask."""

from __future__ import annotations

import pytest
from typer.testing import CliRunner

from auditra.cli.commands import app
from auditra.core.errors import AuditraError

ASKED = [
    (
        ("usb-c 8.1 + gen 2x1", "--show", "3840x2160@60", "--data", "400 MB/s"),
        ("only with less blanking (near", "blanking 2", "= 3.2 Gb/s"),
    ),
    (("hdmi 600", "--show", "3840x2160@60"), ("yes (near the limit)", "4400 x 2250", "14.26 Gb/s", "decide")),
    (("hdmi 340", "--show", "3840x2160@60", "--depth", "10"), ("less colour (4:2:0)",)),
    (("gen 2x1", "ethernet 2.5 Gb/s", "--data", "2.3 Gb/s"), ("yes: 2.354 Gb/s at most, set by Ethernet 2.5 Gb/s",)),
    (("gen 1x1", "card UHS-I", "--data", "110 MB/s"), ("no: 832 Mb/s at most, set by UHS-I card", "880 Mb/s")),
    (("--amperes", "5 A", "--length", "1.2 m", "--gauge", "28"), ("beyond the 750 mV",)),
    (("--category", "5e", "--length", "50 m", "--data", "10 Gb/s"), ("no:", "the lowest category that will do: 6")),
]


@pytest.mark.parametrize(("words", "told"), ASKED)
def test_carries_answers_with_the_sum(words: tuple[str, ...], told: tuple[str, ...]) -> None:
    ran = CliRunner().invoke(app, ["carries", *words], catch_exceptions=False)
    for each in told:
        assert each in ran.output


@pytest.mark.parametrize(
    "words",
    [
        (), ("hdmi 2.1", "--show", "3840x2160@60"), ("gen 9", "--data", "1 Gb/s"), ("hdmi 600", "--show", "4K"),
        ("hdmi 600", "--show", "3840x2160@60", "--depth", "9"), ("ethernet 3 Gb/s",), ("gen 1", "--data", "fast"),
        ("--category", "9", "--length", "1 m", "--data", "1 Gb/s"), ("--amperes", "5 A"), ("\x1b[31mhdmi",),
    ],
)  # fmt: skip
def test_what_cannot_be_asked_is_refused_with_what_to_write(words: tuple[str, ...]) -> None:
    with pytest.raises(AuditraError):
        CliRunner().invoke(app, ["carries", *words], catch_exceptions=False)
