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
    (("--amperes", "3 A", "--length", "1 m", "--gauge", "24", "--ground-gauge", "20"), ("117.5 mohm", "353 mV")),
    (("--amperes", "3 A", "--length", "1 m", "--most", "250 mV"), ("20 AWG or thicker", "200 mV")),
    (("--amperes", "5 A", "--length", "80 m", "--most", "1 mV"), ("no wire from 10 to 40 AWG",)),
    (("--show", "4K@60Hz"), ("HDMI: at least HDMI 600 Mcsc", "594 Mcsc", ", scrambled", "at least DisplayPort 5.4")),
    (("hdmi 340", "--show", "1080p60"), ("148.5 Mcsc per channel", "not scrambled")),
    (("--show", "8K60", "--depth", "10"), ("HDMI: no link carries it in full", "DisplayPort 20 Gb/s")),
    (("--data", "450 MB/s"), ("at least USB 3.2 Gen 1x1 (up to 3.879 Gb/s", "at least Ethernet 5 Gb/s")),
    (("--data", "900 MB/s"), ("at least USB 3.2 Gen 2x1", "at least Ethernet 10 Gb/s")),
    (("--data", "90 GB/s"), ("USB: no link is fast enough", "Ethernet: no link is fast enough")),
    (("gen 2x1", "--data", "1 GB/s"), ("at most 1175 MB/s to a drive",)),
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


POWER = [
    (("supply", "100 W", "--own", "8 W", "--gives", "15 W"),
     ("up to 60 W: 100 W - 8 W - 15 W = 77 W left", "77 W requires a cable marked 5 A", "20 V 3 A")),
    (("supply", "100 W", "--own", "8 W", "--marked", "5 A"), ("host gets up to 92 W", "20 V 4.6 A")),
    (("supply", "240 W", "--own", "12 W", "--marked", "50 V 5 A"),
     ("host gets up to 228 W", "requires a cable marked 50 V 5 A")),
    (("supply", "30 W", "--own", "8 W", "--gives", "30 W"), ("host gets up to 0 W",)),
    (("volts", "4.62 V"), ("4.62 V: below the limits 4.75 to 5.50 V",)),
    (("volts", "4.62 V", "--bus-powered"), ("4.62 V: within the limits 4.40 to 5.50 V",)),
    (("volts", "5.6 V"), ("above the limits 4.75",)),
    (("volts", "5.10 V at 0.5 A", "4.83V @ 3A", "--length", "1 m"),
     ("loop resistance 108.0 mohm", "drops 324 mV and loses 0.97 W at 3 A", "22 AWG copper over 1 m")),
    (("volts", "5 V at 1 A", "5.1 V at 2 A"), ("does not fall",)),
]  # fmt: skip


@pytest.mark.parametrize(("words", "told"), POWER)
def test_power_is_worked_out_with_its_sum(words: tuple[str, ...], told: tuple[str, ...]) -> None:
    ran = CliRunner().invoke(app, words, catch_exceptions=False)
    for each in told:
        assert each in ran.output


@pytest.mark.parametrize(
    "words",
    [
        ("supply", "300 W"), ("supply", "100 V"), ("supply", "100 W", "--marked", "thick"), ("volts", "5 A"),
        ("volts", "5 V at 2 W"), ("volts", "5 V at 2 A", "4.9 V at 2 A"), ("supply", "100 W", "--own", "-5 W"),
    ],
)  # fmt: skip
def test_power_that_cannot_be_asked_is_refused(words: tuple[str, ...]) -> None:
    with pytest.raises(AuditraError):
        CliRunner().invoke(app, words, catch_exceptions=False)
