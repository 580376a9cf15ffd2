"""Where a promise was seen."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.model.noted import NOT_NOTED, Noted


@dataclass(frozen=True)
class Source:
    """Where a promise was seen: its kind (box, product page, manual, label), when, and the seller's own words."""

    kind: Noted[str] = NOT_NOTED
    seen: Noted[str] = NOT_NOTED
    quoted: Noted[str] = NOT_NOTED
