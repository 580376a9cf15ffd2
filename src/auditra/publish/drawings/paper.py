"""Ink on paper: the colours of verdicts in print, where mark and word always go with them."""

from __future__ import annotations

from reportlab.lib.colors import Color, HexColor

from auditra.core.model.verdict import Verdict

INK = HexColor("#22282b")
QUIET = HexColor("#6a706b")
RULE = HexColor("#c9cdc8")
COPPER = HexColor("#a8622f")
VERDIGRIS = HexColor("#2f7f66")
OCHRE = HexColor("#94701a")
OXIDE = HexColor("#a83a28")
SLATE = HexColor("#3f6c93")
INKS = {
    "ink": INK, "quiet": QUIET, "rule": RULE, "copper": COPPER, "verdigris": VERDIGRIS, "ochre": OCHRE, "oxide": OXIDE,
    "slate": SLATE,
}  # fmt: skip
"""By the names that a page's style sheet has for them."""
INK_OF: dict[Verdict, str] = {
    Verdict.HOLDS: "verdigris", Verdict.HOLDS_IF: "ochre", Verdict.SHORT: "ochre", Verdict.BROKEN: "oxide",
    Verdict.TOO_CLOSE: "slate", Verdict.UNPROVEN: "slate", Verdict.OPEN: "quiet",
}  # fmt: skip
VERDICT_INK: dict[Verdict, Color] = {verdict: INKS[name] for verdict, name in INK_OF.items()}
FONT, BOLD = "Helvetica", "Helvetica-Bold"
