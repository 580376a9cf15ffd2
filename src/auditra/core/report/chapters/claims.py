"""Every claim: the verdict, the seller's words, what was shown, by which evidence, and what it was not tried under."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judgement import Judgement
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Grade
from auditra.core.model.verdict import Verdict
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Ref, Said, Table, Tone, of_claims, refs, said
from auditra.core.report.material import Material

GRADE_WORDS = {
    Grade.MEASURED: "measured", Grade.READ: "read from a machine or an instrument", Grade.TYPED: "read off a screen",
    Grade.SEEN: "seen", Grade.TOLD: "told", Grade.LOOKS: "looks",
}  # fmt: skip
VERDICT_WORDS = {
    Verdict.HOLDS: "shown, with uncertainty, and nothing tried contradicts it",
    Verdict.HOLDS_IF: "shown only under named set-ups",
    Verdict.SHORT: "works, but gives less than promised",
    Verdict.BROKEN: "does not do it at all, or not reliably enough to use",
    Verdict.TOO_CLOSE: "the uncertainty of the reading straddles the limit",
    Verdict.UNPROVEN: "tried as far as this rig or this evidence reaches",
    Verdict.OPEN: "not tried yet",
}


def _blocks(material: Material) -> Iterator[Block]:
    audit, judgement = material.judged.audit, material.judged.judgement
    for device in audit.devices or (audit.device,):
        own = [each for each in judgement.claims if each.claim.device == device.id]
        if len(audit.devices) > 1 and own:
            yield Heading(f"{device.name} ({device.id})")
        if own:
            yield Table(
                ("verdict", "claim", "shown", "evidence"),
                tuple(_row(each, judgement) for each in own), (0.13, 0.32, 0.36, 0.19),
            )  # fmt: skip
    used = dict.fromkeys(each.verdict for each in judgement.claims)
    if used:
        legend = "; ".join(f"{each.mark} {each.word}: {VERDICT_WORDS[each]}" for each in used)
        yield Items(((said(f"{legend}. Uncertainties are expanded to 95 %.", refs(From.METHOD, "docs/judging.md"),
                           tone=Tone.QUIET),),))  # fmt: skip
    if audit.unreadable:
        yield Heading("Sentences that could not be read as claims")
        yield Items(
            tuple((said(f"{each.sentence} ({each.why})", refs(From.TYPED, each.id)),) for each in audit.unreadable)
        )


def _row(verdict: ClaimVerdict, judgement: Judgement) -> tuple[tuple[Said, ...], ...]:
    claim = verdict.claim
    about = of_claims([claim.id], verdict.trials)
    mark = (Said(verdict.verdict.word, about, verdict=verdict.verdict),)
    words = [said(str(claim), refs(From.CLAIM, claim.id), tone=Tone.STRONG), *_source(verdict)]
    if honest := judgement.honest_sentence(claim.id):
        words.append(said(f"should say: {honest}", about))
    return mark, tuple(words), tuple(_shown(verdict, about)), tuple(_evidence(verdict, about))


def _source(verdict: ClaimVerdict) -> Iterator[Said]:
    source, typed = verdict.claim.source, refs(From.TYPED, "source")
    if isinstance(source.quoted, str):
        yield said(
            f"\N{LEFT DOUBLE QUOTATION MARK}{source.quoted}\N{RIGHT DOUBLE QUOTATION MARK}", typed, tone=Tone.QUIET
        )
    where = [each for each in (source.kind, source.seen) if isinstance(each, str)]
    if where:
        yield said(", ".join(where), typed, tone=Tone.QUIET)
    if verdict.claim.device != DEVICE:
        yield said(f"of {verdict.claim.device}", typed, tone=Tone.QUIET)


def _shown(verdict: ClaimVerdict, about: tuple[Ref, ...]) -> Iterator[Said]:
    condition = f", {verdict.condition}" if verdict.condition else ""
    yield said(f"{verdict.shown}{condition}", about)
    if verdict.why:
        yield said(verdict.why, about, tone=Tone.QUIET)
    if verdict.not_tried and verdict.verdict is not Verdict.OPEN:
        yield said(f"not tried: {'; '.join(verdict.not_tried)}", about, tone=Tone.QUIET)


def _evidence(verdict: ClaimVerdict, about: tuple[Ref, ...]) -> Iterator[Said]:
    readings = verdict.rests_on
    if readings:
        best = max(reading.grade for reading in readings)
        by = ", ".join(dict.fromkeys(each.instrument for each in readings if each.grade == best))
        yield said(f"grade {best.value}: {GRADE_WORDS[best]}", about)
        yield said(by, about, tone=Tone.QUIET)
    if trials := verdict.trials:
        yield said(", ".join(trials), about, tone=Tone.QUIET)
    for each in verdict.set_aside:
        yield said(f"set aside {each.trial}: {each.why}", about, tone=Tone.QUIET)


CLAIMS = ChapterRule("claims", 40, "The claims", _blocks)
