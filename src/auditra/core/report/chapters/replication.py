"""What other reviewers found of the same device: verdicts side by side, contradictions first, where each comes from."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.advice.replication import Agreement, Beside, Other, beside_each_other, differences
from auditra.core.counted import counted
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Para, Ref, Said, Table, Tone, refs, said
from auditra.core.report.material import Material

_ORDER = (Agreement.CONFLICT, Agreement.DIFFER, Agreement.AGREE, Agreement.ALONE, Agreement.OPEN)


def _blocks(material: Material) -> Iterator[Block]:
    others = material.replications
    if not others:
        return
    about = refs(From.JOURNAL, "replication")
    yield Para((
        said("Each verdict is that of its own bench; they are never averaged.", refs(From.METHOD, "docs/bundle.md")),
    ))  # fmt: skip
    yield Items(tuple((said(_provenance(other), about),) for other in others))
    found = sorted(beside_each_other(material.judged, others), key=lambda each: _ORDER.index(each.agreement))
    names = ("own", *(other.reviewer or other.name for other in others))
    share = 0.46 / len(names)
    rows = tuple(_row(each) for each in found)
    yield Table(("claim", *names, "together"), rows, (0.32, *[share] * len(names), 0.22))
    conflicts = [each for each in found if each.agreement in (Agreement.CONFLICT, Agreement.DIFFER)]
    if conflicts:
        yield Heading("Where they do not agree")
        yield Items(tuple(tuple(_conflict(each, material)) for each in conflicts))


def _provenance(other: Other) -> str:
    who, audit = other.reviewer or "a reviewer without a name", other.judged.audit
    bench = f"{counted(len(audit.trials), 'trial')} on the rig {audit.rig.name}, {other.judged.bench}"
    return f"{who}, audit {other.name}: {bench}; its journal ends in {other.head[:16]}."


def _row(beside: Beside) -> tuple[tuple[Said, ...], ...]:
    about = _about(beside)
    tone = Tone.ALARM if beside.agreement is Agreement.CONFLICT else Tone.PLAIN
    cells = tuple(_cell(each, about) for each in beside.verdicts)
    return (said(beside.sentence, about),), *cells, (said(beside.agreement, about, tone=tone),)


def _about(beside: Beside) -> tuple[Ref, ...]:
    own = beside.verdicts[0]
    return (*(refs(From.CLAIM, own.claim.id) if own is not None else ()), *refs(From.JOURNAL, "replication"))


def _cell(verdict: ClaimVerdict | None, about: tuple[Ref, ...]) -> tuple[Said, ...]:
    if verdict is None:
        return (said("no such claim", about, tone=Tone.QUIET),)
    lines = [Said(verdict.verdict.word, about, verdict=verdict.verdict)]
    if verdict.verdict.decided:
        condition = f", {verdict.condition}" if verdict.condition else ""
        lines.append(said(f"{verdict.shown}{condition}", about, tone=Tone.QUIET))
    return tuple(lines)


def _conflict(beside: Beside, material: Material) -> Iterator[Said]:
    about = _about(beside)
    yield said(f"{beside.sentence}.", about, tone=Tone.STRONG)
    differing = differences(beside, material.judged, material.replications)
    alike = "The benches do not differ in any part that was noted."
    words = f"The benches differ: {'; '.join(differing)}." if differing else alike
    yield said(words, about)


REPLICATION = ChapterRule("replication", 125, "What others found", _blocks)
