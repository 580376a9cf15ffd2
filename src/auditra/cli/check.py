"""``auditra check``: what a claim sheet's own sums say, before any testing."""

from __future__ import annotations

from pathlib import Path

import typer
from pydantic import BaseModel

from auditra.core.claims.language import parse_claim
from auditra.core.counted import counted
from auditra.core.paper_check.check import RULES, check_kit
from auditra.core.paper_check.remark import Remark, Weight
from auditra.core.sanitize import sanitize
from auditra.store.files import load_claim_sheet


class RemarkRecord(BaseModel):
    """One remark."""

    rule: str
    weight: str
    sentence: str
    sum: str
    ask: str
    source: str
    claims: tuple[str, ...]
    ports: tuple[str, ...]


class CheckFile(BaseModel):
    """What the paper check says of a sheet, the gravest first."""

    format: str = "auditra check"
    version: int = 1
    rules: int
    remarks: tuple[RemarkRecord, ...]


def look_at(sheet: Path) -> tuple[Remark, ...]:
    """The remarks on a sheet. Raises: SheetError."""
    read = load_claim_sheet(sheet)
    claims = [parse_claim(c.sentence, claim_id=c.id, source=c.source, device=c.device) for c in read.claims]
    return check_kit(read.devices, claims)


def as_json(remarks: tuple[Remark, ...]) -> str:
    told = tuple(
        RemarkRecord(
            rule=r.rule, weight=r.weight.value, sentence=r.sentence, sum=r.sum, ask=r.ask, source=r.source,
            claims=r.claims, ports=r.ports,
        )
        for r in remarks
    )  # fmt: skip
    return CheckFile(rules=len(RULES), remarks=told).model_dump_json(indent=2)


def tell(remarks: tuple[Remark, ...]) -> None:
    """For a person: each remark with its sum, and what to ask."""
    for remark in remarks:
        about = "; ".join(remark.claims) or ", ".join(remark.ports)
        typer.echo(sanitize(f"{remark.weight.value:11} {remark.sentence}: {about}", 400))
        typer.echo(sanitize(f"{'':10} {remark.sum}", 600))
        typer.echo(sanitize(f"{'':10} ask: {remark.ask}  [{remark.rule}; {remark.source}]", 400))
    grave = sum(remark.weight is Weight.CANNOT_BE for remark in remarks)
    typer.echo(f"{counted(len(remarks), 'remark')} ({grave} impossible), {len(RULES)} rules checked")
