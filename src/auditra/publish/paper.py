"""Ink on paper: the colours of verdicts in print, where mark and word always go with them."""

from __future__ import annotations

from reportlab.lib.colors import Color, HexColor

from auditra.core.model.verdict import Verdict

INK = HexColor("#22282b")
QUIET = HexColor("#6a706b")
RULE = HexColor("#c9cdc8")
COPPER = HexColor("#a8622f")
VERDICT_INK: dict[Verdict, Color] = {
    Verdict.HOLDS: HexColor("#2f7f66"),
    Verdict.HOLDS_IF: HexColor("#94701a"),
    Verdict.SHORT: HexColor("#94701a"),
    Verdict.BROKEN: HexColor("#a83a28"),
    Verdict.TOO_CLOSE: HexColor("#3f6c93"),
    Verdict.UNPROVEN: HexColor("#3f6c93"),
    Verdict.OPEN: QUIET,
}
FONT, BOLD = "Helvetica", "Helvetica-Bold"
