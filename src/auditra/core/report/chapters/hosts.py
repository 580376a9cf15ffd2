"""Hosts against functions: what each host has shown of each claim, the empty cells visible."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.judge.host_grid import host_grid
from auditra.core.model.verdict import Verdict
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Para, Said, Table, Tone, refs, said
from auditra.core.report.material import Material

MAX_HOSTS = 6


def _blocks(material: Material) -> Iterator[Block]:
    hosts = material.judged.audit.rig.in_use.hosts
    rows = host_grid(hosts, material.judged.judgement.claims)
    if not rows or len(hosts) < 2:
        return
    for first in range(0, len(hosts), MAX_HOSTS):
        shown = hosts[first : first + MAX_HOSTS]
        cells = tuple(
            ((said(str(row.claim), refs(From.CLAIM, row.claim.id)),),
             *(_cell(verdict, row.claim.id) for verdict in row.verdicts[first : first + MAX_HOSTS]))
            for row in rows
        )  # fmt: skip
        yield Table(("claim", *(host.name for host in shown)), cells, (0.4, *([0.6 / len(shown)] * len(shown))))
    empty = sum(verdict is None for row in rows for verdict in row.verdicts)
    words = f"{empty} of {len(rows) * len(hosts)} cells are empty; a host that was not tried proves nothing."
    yield Para((said(words, refs(From.JUDGEMENT, "coverage")),))


def _cell(verdict: Verdict | None, claim: str) -> tuple[Said, ...]:
    if verdict is None:
        return (said("not tried", refs(From.CLAIM, claim), tone=Tone.QUIET),)
    return (Said(verdict.word, refs(From.CLAIM, claim), verdict=verdict),)


HOSTS = ChapterRule("hosts", 90, "Hosts", _blocks)
