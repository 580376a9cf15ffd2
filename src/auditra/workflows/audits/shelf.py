"""The shelf: one row an audit, with what has been decided of it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:  # the shelf is painted before any of the core is loaded
    from auditra.core.advice.worth import Peer
    from auditra.core.journal.audit import Audit
    from auditra.core.judge.judgement import Judgement
    from auditra.workflows.audits.claim_rows import ClaimRow


@dataclass(frozen=True)
class ShelfRow:
    """An audit at a glance. `head` is the link its journal ended in; figures of the score are text."""

    name: str
    head: str
    device: str
    kind: str
    rig: str
    claims: int
    decided: int
    score: str
    lowest: str
    highest: str
    to_do: int
    marks: tuple[tuple[str, str], ...]
    """Port and verdict word of every port that has claims, in the order of the faces."""
    archived: bool = False
    cost: str = ""
    """What one pays in all; empty where that is not known, or is in several currencies."""
    money: str = ""
    profile: str = ""
    """What the score was given by."""
    follows: str = ""
    """The audit that it follows; empty for none."""
    trouble: str = ""
    """Why it cannot be opened; empty where it can."""


@dataclass(frozen=True)
class Glance:
    """What the shelf and a search show of an audit; the row says where its journal ended."""

    row: ShelfRow
    claims: tuple[ClaimRow, ...]


def row_in_trouble(name: str, head: str, why: str) -> ShelfRow:
    """The row of an audit that cannot be read; it hides no other."""
    return ShelfRow(name, head, name, "", "", 0, 0, "", "0", "100", 0, (), trouble=why)


def peers_of(rows: Iterable[ShelfRow], audit: str) -> tuple[Peer, ...]:
    """The other audits that have a score and a price, for the worth of one."""
    from decimal import Decimal

    from auditra.core.advice.worth import Peer

    others = (row for row in rows if row.name != audit and row.score and row.cost and not row.archived)
    return tuple(
        Peer(
            row.name, row.device, row.kind, row.profile, Decimal(row.score), Decimal(row.lowest), Decimal(row.highest),
            Decimal(row.cost), row.money,
        )
        for row in others
        if Decimal(row.cost) > 0
    )  # fmt: skip


def shelf_row(audit: Audit, judgement: Judgement, head: str) -> ShelfRow:
    """The row of an audit as it stands."""
    score = judgement.score
    return ShelfRow(
        name=audit.name,
        head=head,
        device=audit.device.name,
        kind=audit.device.kind,
        rig=audit.rig.name,
        claims=len(judgement.claims),
        decided=judgement.decided,
        score="" if score.value is None else f"{score.value:.0f}",
        lowest=f"{score.lowest:.0f}",
        highest=f"{score.highest:.0f}",
        to_do=len(judgement.left),
        marks=tuple(
            (port.id, verdict.word)
            for port in audit.device.ports()
            if (verdict := judgement.worst_of_port(port.id)) is not None
        ),
        cost=f"{cost.amount:.2f}" if (cost := audit.device.cost) is not None else "",
        money=cost.money if cost is not None else "",
        profile=judgement.profile.name,
        archived=audit.archived,
        follows=audit.follows.earlier if audit.follows is not None else "",
    )
