"""The palette of the product, and its light and colour-safe sisters. A colour never stands without mark and word."""

from __future__ import annotations

from dataclasses import dataclass

from textual.theme import Theme

from auditra.core.model.verdict import Verdict


@dataclass(frozen=True)
class Palette:
    """Colours by what they say."""

    name: str
    ground: str
    panel: str
    rule: str
    ink: str
    quiet: str
    accent: str
    holds: str
    partly: str
    broken: str
    unsure: str
    dark: bool = True

    def of(self, verdict: Verdict | None) -> str:
        """The colour that goes with a verdict's mark and word."""
        match verdict:
            case Verdict.HOLDS:
                return self.holds
            case Verdict.HOLDS_IF | Verdict.SHORT:
                return self.partly
            case Verdict.BROKEN:
                return self.broken
            case Verdict.TOO_CLOSE | Verdict.UNPROVEN:
                return self.unsure
            case _:
                return self.quiet

    def theme(self) -> Theme:
        return Theme(
            name=self.name,
            primary=self.accent,
            accent=self.accent,
            background=self.ground,
            surface=self.ground,
            panel=self.panel,
            foreground=self.ink,
            success=self.holds,
            warning=self.partly,
            error=self.broken,
            dark=self.dark,
            variables={"rule": self.rule, "quiet": self.quiet},
        )


PALETTES = {
    palette.name: palette
    for palette in (
        Palette(
            "lamplight", ground="#14181a", panel="#1b2124", rule="#3a4248", ink="#e8dfcf", quiet="#8a8f88",
            accent="#d9925b", holds="#6fbfa6", partly="#d8b25a", broken="#d2604a", unsure="#7fa8c9",
        ),
        Palette(
            "chart-paper", ground="#f4efe3", panel="#e9e2d2", rule="#bdb5a3", ink="#2a2c2b", quiet="#6d6e66",
            accent="#9a5526", holds="#1f6f58", partly="#7d5d0c", broken="#a2301c", unsure="#2f5f8a", dark=False,
        ),
        Palette(
            "colour-safe", ground="#14181a", panel="#1b2124", rule="#3a4248", ink="#eeeae0", quiet="#94998f",
            accent="#d9925b", holds="#56b4e9", partly="#f0e442", broken="#e8743b", unsure="#c3a6d8",
        ),
    )
}  # fmt: skip
DEFAULT_PALETTE = "lamplight"
