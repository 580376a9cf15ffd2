"""``auditra read``: claims proposed for a seller's text. Nothing enters an audit here."""

from __future__ import annotations

from pathlib import Path

import typer
from pydantic import BaseModel

from auditra.cli.input_file import read_bounded
from auditra.core.advert.proposal import MAX_TEXT_LENGTH, ReadText
from auditra.core.counted import counted
from auditra.core.errors import InputError
from auditra.core.sanitize import sanitize


class ProposalRecord(BaseModel):
    """A claim that the text seems to make."""

    says: str
    quoted: str
    sure: float
    unclear: tuple[str, ...]


class ReadFile(BaseModel):
    """What was read, and the phrases from which nothing was taken."""

    format: str = "auditra read"
    version: int = 1
    proposals: tuple[ProposalRecord, ...]
    left_over: tuple[str, ...]


def load_text(path: Path) -> str:
    """The text of a file or of standard input. Raises: InputError for one that is no text, or too long."""
    data = read_bounded(path, 4 * MAX_TEXT_LENGTH)
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        why = f"byte {error.start} is no UTF-8 text"
        raise InputError(f"{path}", why=why, do="Save it as UTF-8, or paste it") from error


def as_json(found: ReadText) -> str:
    told = tuple(
        ProposalRecord(says=p.sentence, quoted=p.quoted, sure=p.sure, unclear=p.unclear) for p in found.proposals
    )
    return ReadFile(proposals=told, left_over=found.left_over).model_dump_json(indent=2)


def tell(found: ReadText) -> None:
    """For a person: each claim with how sure it is and the words, then what was left."""
    for proposal in found.proposals:
        typer.echo(sanitize(f"{proposal.sure:4.0%}  {proposal.sentence:44} {' '.join(proposal.quoted.split())}", 200))
        if proposal.unclear:
            typer.echo(sanitize(f"      {'; '.join(proposal.unclear)}", 200))
    for phrase in found.left_over:
        typer.echo(sanitize(f"   -  no claim read from: {' '.join(phrase.split())}", 200))
    typer.echo(
        f"{counted(len(found.proposals), 'claim')} proposed, {counted(len(found.left_over), 'phrase')} left over; "
        "review each before accepting"
    )
