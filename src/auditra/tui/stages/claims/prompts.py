"""What is typed on the Claims stage, and which facts it makes."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from auditra.core.claims.claim import Claim
from auditra.core.claims.completion import Typed, complete
from auditra.core.journal.audit import Audit, UnreadableClaim
from auditra.core.links.connectors import CONNECTORS
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.source import Source
from auditra.core.sanitize import sanitize
from auditra.tui.prompt import Facts, Offers, Preview, Prompt, offers_for_second_word, offers_from
from auditra.workflows.audits.claim_edits import (
    claim_edited,
    claims_made,
    face_added,
    face_renamed,
    port_added,
    port_renamed,
    source_noted,
)

_SOURCES = ("box ", "product page ", "manual ", "label ", "listing ")


def new_claim(audit: Audit, source: Source) -> Prompt:
    """A new claim takes over when and where the chosen claim was seen; its quote is its own."""

    def facts(audit: Audit, text: str) -> Facts:
        return claims_made(audit, text, replace(source, quoted=NOT_NOTED))

    return Prompt("claim", facts, partial(_claim_offers, audit), ClaimPreview(audit))


def edited_claim(audit: Audit, claim_id: str) -> Prompt:
    def facts(audit: Audit, text: str) -> Facts:
        return claim_edited(audit, claim_id, text)

    return Prompt("claim", facts, partial(_claim_offers, audit), ClaimPreview(audit))


def quote(claim: Claim | UnreadableClaim) -> tuple[Prompt, str]:
    """Source and quote of a claim, as ``box: words``; with what is recorded already."""

    def facts(audit: Audit, text: str) -> Facts:
        return source_noted(audit, claim.id, text)

    source = claim.source
    start = " ".join(part for part in (source.kind, source.seen) if isinstance(part, str))
    text = f"{start or 'box'}: {source.quoted if isinstance(source.quoted, str) else ''}"
    return Prompt("quote", facts, offers_from(_SOURCES)), text


def new_port(beside: str | None) -> Prompt:
    def facts(audit: Audit, text: str) -> Facts:
        return port_added(audit, text, beside)

    return Prompt("socket", facts, offers_for_second_word(CONNECTORS), action="new socket")


def renamed_port(port: str) -> Prompt:
    def facts(audit: Audit, text: str) -> Facts:
        return port_renamed(audit, port, text)

    return Prompt(f"{port} is", facts, action=f"rename {port}")


def new_face() -> Prompt:
    return Prompt("face", face_added, action="new face")


def renamed_face(port: str) -> Prompt:
    def facts(audit: Audit, text: str) -> Facts:
        return face_renamed(audit, port, text)

    return Prompt(f"name of the face with {port}", facts, action=f"rename face of {port}")


class ClaimPreview:
    """What a claim reads as while it is typed. Of an unfinished condition, what was readable before it still counts."""

    def __init__(self, audit: Audit) -> None:
        self._audit = audit
        self._claims: tuple[Claim, ...] = ()
        self._readable = ""
        """The text that those claims were read from."""

    def __call__(self, text: str) -> Preview:
        typed = complete(text, self._audit.device, self._audit.rig)
        if typed.claims:
            self._claims, self._readable = typed.claims, text
        elif not (self._readable and text.startswith(self._readable)):
            self._claims, self._readable = (), ""
        return Preview(typed.offers, _reads_as(typed), self._claims)


def _claim_offers(audit: Audit, text: str) -> Offers:
    typed = complete(text, audit.device, audit.rig)
    return typed.keep, typed.offers


def _reads_as(typed: Typed) -> str:
    """What a text reads as, with its figures both ways; or what is expected, where nothing can be offered."""
    if typed.claims:
        return sanitize("   ".join([*(f'"{claim}"' for claim in typed.claims), *typed.forms]), 300)
    return sanitize(f"expected {typed.error.expected}", 200) if typed.error is not None and not typed.offers else ""
