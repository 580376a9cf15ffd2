"""A dock with many sockets and many claims; and how a sheet is done by one who goes down the list."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.journal.audit import Audit
from auditra.core.model.device import Device, Face, OwnSupply, Port, Role
from auditra.core.plan.planner import run_sheet_of
from auditra.core.plan.run_sheet import PlannedTrial

LARGE = Device(
    "Made", "M-14", "dock",
    (
        Face("front", (Port("C1", "usb-c"), Port("C2", "usb-c"), Port("A1", "usb-a"), Port("S1", "sd"),
                       Port("T1", "microsd"), Port("J1", "3.5 mm"))),
        Face("back", (Port("UP", "usb-c plug", Role.UPSTREAM), Port("A2", "usb-a"), Port("A3", "usb-a"),
                      Port("A4", "usb-a"), Port("C3", "usb-c"), Port("N1", "rj45"), Port("H1", "hdmi"),
                      Port("D1", "displayport"), Port("P1", "barrel", Role.INLET))),
    ),
    supply=OwnSupply(20.0, 7.5),
)  # fmt: skip
"""14 sockets and the plug for the host."""
CLAIMS = (
    *(f"{port} data 10 Gb/s" for port in ("C1", "C2", "C3")),
    *(f"{port} data 5 Gb/s" for port in ("A1", "A2", "A3", "A4")),
    *(f"{port} gives 15 W" for port in ("C1", "C2", "C3")),
    *(f"{port} gives 4.5 W" for port in ("A1", "A2", "A3", "A4")),
    "C1 gives 27 W while C2 gives 15 W", "C1+C2 data 5 Gb/s each", "A1+A2 data 2 Gb/s each",
    "S1 cards 95 MB/s", "T1 cards 95 MB/s", "S1|T1 one at a time",
    "N1 links 1 Gb/s", "N1 frames 4 kB", "N1 links 1 Gb/s while H1 shows 3840x2160@30",
    "H1 shows 3840x2160@60", "D1 shows 3840x2160@60", "H1 shows 1920x1080@60 while D1 shows 1920x1080@60",
    "H1+D1 show 1920x1080@60 each", "H1|D1 one at a time", "H1 shows 3840x2160@30 while C1 data 5 Gb/s",
    "J1 plays 3.5 mm", "UP charges host 65 W", "UP charges host 60 W while C1 gives 27 W", "UP length 80 cm",
    "UP data 10 Gb/s", "P1 no data", "body weighs 400 g", "body below 45 C", "body has lock slot",
    *(f"{port} works with keyboard" for port in ("A1", "A2", "A3", "A4")),
    "C1 data 10 Gb/s on laptop", "C2 data 5 Gb/s on tablet", "A1 data 5 Gb/s while A2 data 5 Gb/s",
)  # fmt: skip
"""45 of them, conditions and groups among them."""


def down_the_list(audit: Audit) -> list[PlannedTrial]:
    """Claim by claim, each with its direct trials first, and all gear under trial connected again each time."""
    trials = run_sheet_of(audit).trials
    by_claim = [sorted((trial for trial in trials if claim.id in trial.claims), key=lambda each: each.port is not None)
                for claim in audit.claims]  # fmt: skip
    in_turn = {trial.key: trial for each in (*by_claim, trials) for trial in each}
    return [replace(trial, may_stay=frozenset()) for trial in in_turn.values()]
