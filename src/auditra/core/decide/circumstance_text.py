"""Circumstances in words: "with S1 in use (cards 250 MB/s)", "unless C1 and C2 are in use"."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from auditra.core.model.circumstance import (
    Arranged,
    AtPort,
    Circumstance,
    Flipped,
    OnHost,
    Replugged,
    Running,
    Soaked,
)
from auditra.core.model.setup import MINUTE_S


def circumstance_text(circumstance: Circumstance) -> str:
    """One of them, behind the claim that it is about."""
    match circumstance:
        case Running():
            return f"with {_users([circumstance], 'in use')}"
        case Soaked(seconds):
            return f"after {seconds / MINUTE_S:.0f} min of full load"
        case AtPort(port):
            return f"at {port}"
        case OnHost(host):
            return f"on {host}"
        case Arranged(words):
            return words
        case Flipped():
            return "with the plug flipped"
        case Replugged():
            return "after plugging it in again"


def setup_text(circumstances: Iterable[Circumstance]) -> str:
    """All of a set-up: ``after 45 min of full load with S1 in use (cards 250 MB/s)``; empty for none."""
    circumstances = tuple(circumstances)
    running = [circumstance for circumstance in circumstances if isinstance(circumstance, Running)]
    others = [circumstance_text(each) for each in circumstances if not isinstance(each, Running)]
    return " ".join([*others, *([f"with {_users(running, 'in use')}"] if running else [])])


def exception_text(circumstances: Iterable[Circumstance]) -> str:
    """Where a claim does not hold: ``unless S1 is in use (cards 250 MB/s)``; empty for none."""
    circumstances = tuple(circumstances)
    running = [circumstance for circumstance in circumstances if isinstance(circumstance, Running)]
    if running and len(running) == len(circumstances):
        return f"unless {_users(running, 'is in use', 'are in use')}"
    return f"except {setup_text(circumstances)}" if circumstances else ""


def _users(running: Sequence[Running], one: str, several: str = "") -> str:
    """``S1 in use (cards 250 MB/s)``, ``C1 (gives 27 W) and C2 (gives 27 W) in use``."""
    pairs = [
        (subject.replace("+", " and "), rest) for subject, _, rest in (each.claim.partition(" ") for each in running)
    ]
    if len(pairs) == 1:
        subject, rest = pairs[0]
        verb = several if several and " and " in subject else one
        return f"{subject} {verb} ({rest})"
    return f"{' and '.join(f'{subject} ({rest})' for subject, rest in pairs)} {several or one}"
