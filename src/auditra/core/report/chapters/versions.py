"""Which version this is, what was corrected, and how anybody can verify and judge it again."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.counted import counted
from auditra.core.judge.follow_up import FollowUp
from auditra.core.model.verdict import Verdict
from auditra.core.report.chapter import ChapterRule, version_text
from auditra.core.report.document import Block, From, Heading, Items, Para, Paste, Said, refs, said
from auditra.core.report.material import Material

_JOURNAL = refs(From.JOURNAL, "published")


def _blocks(material: Material) -> Iterator[Block]:
    audit = material.judged.audit
    yield Para((
        said(f"{version_text(audit)}.", _JOURNAL),
        said(f"Judged by {material.judged_by} from {audit.entries} recorded facts.", refs(From.JOURNAL, "entries")),
    ))  # fmt: skip
    corrections = [each for each in audit.published if each.version > 1]
    if corrections:
        yield Heading("Corrections")
        yield Items(tuple((said(f"Version {each.version}: {each.why}", _JOURNAL),) for each in corrections))
    if material.since_last_version is not None and (moved := tuple(_moved(material.since_last_version))):
        yield Heading("What moved since the version before")
        yield Items(moved)
    if material.follow_up is not None:
        yield Heading(f"Beside the earlier audit {material.follow_up.earlier}")
        yield Items(tuple(_follow_up(material.follow_up)))
    yield Heading("To verify it")
    yield Para(
        (said("The journal only ever grows; each entry is tied to the one before by SHA-256. It ends in", _JOURNAL),)
    )
    yield Paste((said(material.head, refs(From.JOURNAL, "head")),))
    yield Para((said("Who has the bundle of this report can prove that nothing in it was changed, and judge it again:",
                     refs(From.METHOD, "docs/bundle.md")),))  # fmt: skip
    yield Paste((said("auditra verify BUNDLE.zip", refs(From.METHOD, "docs/bundle.md")),))


def _moved(found: FollowUp) -> Iterator[tuple[Said, ...]]:
    for each in found.claims:
        before = each.before.verdict.word if each.before is not None else "no claim"
        now = each.now.verdict.word if each.now is not None else "dropped"
        if before == now:
            continue
        claim = each.now or each.before
        about = refs(From.CLAIM, claim.claim.id) if claim is not None and each.now is not None else _JOURNAL
        why = f" {'; '.join(each.why)}." if each.why else ""
        yield (said(f"{each.sentence}: {before} before, {now} now.{why}", about, _JOURNAL),)


def _follow_up(found: FollowUp) -> Iterator[tuple[Said, ...]]:
    yield (said(f"Changed on purpose: {found.changed}", refs(From.TYPED, "follow-up")),)
    if found.marks:
        yield (said(f"Not alike in the device: {', '.join(found.marks)}.", refs(From.TYPED, "device")),)
    if found.parts:
        yield (said(f"Not alike in the rig: {', '.join(found.parts)}.", refs(From.TYPED, "rig")),)
    yield (said(f"{counted(found.kept, 'claim')} kept.", refs(From.TYPED, "follow-up")),)
    yield from _moved(found)
    yield from ((said(f"Doubt answered: {each}.", refs(From.TYPED, "follow-up")),) for each in found.closed)
    waiting = [each.sentence for each in found.claims if each.now is not None and each.now.verdict is Verdict.OPEN]
    if waiting:
        yield (said(f"Not tried again yet: {'; '.join(waiting)}.", refs(From.TYPED, "follow-up")),)


VERSIONS = ChapterRule("versions", 160, "Version, and how to verify it", _blocks)
