"""The report: every sentence traces to a claim, trial, finding, part or what was typed, and printing adds none."""

from __future__ import annotations

import html
import re
from dataclasses import fields, replace
from pathlib import Path

import pytest

from auditra.core.advice.worth import Peer
from auditra.core.journal.audit import Doubt
from auditra.core.journal.facts import DoubtRaised, NoteWritten, ReportPublished
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.model.device import Device, Extra, Price
from auditra.core.model.noted import NOT_NOTED
from auditra.core.paper_check.check import check_kit
from auditra.core.report.document import Document, From, Heading, Said, Table
from auditra.core.report.material import Ladder, Material, Rung
from auditra.core.report.missing import missing_from
from auditra.core.report.report import all_chapters, make_report
from auditra.documents.for_whom_file import read_users
from auditra.publish import ReportFormat, report_files
from auditra.store.files import read_shipped
from tests.support.audits import BEGIN, PROFILE
from tests.support.finished import finished

REPOSITORY = Path(__file__).resolve().parents[3]
TYPED = {field.name for field in fields(Device)} | {
    "note", "source", "log", "answer", "follow-up", "skipped", "device", "rig", "price", "extras",
}  # fmt: skip
USERS = read_users(read_shipped("for_whom.toml"), "for_whom.toml")


def dressed(name: str) -> JudgedAudit:
    """A finished audit with all that a reviewer can add to it."""
    audit = finished(name).audit
    device = replace(audit.device, price=Price(120.0, "EUR", "2026-03-01"), extras=(Extra("stand", Price(9.5, "EUR")),))
    notes = (NoteWritten("feels solid", is_opinion=True, moment=BEGIN), NoteWritten("rattles", "A1", moment=BEGIN))
    doubt = Doubt(DoubtRaised("D1", "Is it the lead?", suspect="rig part", about="lead AC-1", moment=BEGIN))
    remarks = check_kit((device,), audit.claims)
    answers = {each.key: "the maker wrote back" for each in remarks[:1]}
    published = (ReportPublished(1, audit.entries), ReportPublished(2, audit.entries, "a typing slip"))
    changed = replace(audit, device=device, devices=(device,), notes=notes, doubts=(doubt,), answers=answers,
                      published=published)  # fmt: skip
    return JudgedAudit(changed, judge(changed, PROFILE), "simulated bench")


def document_of(judged: JudgedAudit) -> Document:
    from decimal import Decimal

    peer = Peer("other", "Mallorby M9", "hub", PROFILE.name, Decimal(90), Decimal(88), Decimal(92), Decimal(99), "EUR")
    trial = judged.audit.trials[0].trial.id
    rungs = (Rung(0.0, "source", "offers 5 V 3 A"), Rung(0.01, "sink", "asks for object 1"), Rung(0.02, "cable", "5 A"))
    ladder = Ladder(trial, "P1", "power.log", rungs, "5 V 3 A", ("the lead carries 3 A",), ("a wrong CRC",))
    return make_report(Material(judged, "a" * 64, "Auditra", USERS, (peer,), ladders=(ladder,)))


def resolves(judged: JudgedAudit, kind: From, name: str) -> bool:
    """Whether a sentence's source is there in the audit."""
    audit, judgement = judged.audit, judged.judgement
    match kind:
        case From.CLAIM:
            return judgement.of_claim(name) is not None
        case From.TRIAL:
            return any(record.trial.id == name for record in audit.trials)
        case From.FINDING:
            return any(each.kind == name for each in judgement.findings)
        case From.RIG:
            return audit.rig.part(name) is not None
        case From.PAPER:
            return name in {each.key for each in check_kit(audit.devices or (audit.device,), audit.claims)}
        case From.METHOD:
            return (REPOSITORY / name).is_file()
        case From.TYPED:
            kept = {each.raised.id for each in audit.doubts} | {each.name for each in audit.evidence}
            return name in TYPED or name in kept
        case From.JUDGEMENT | From.JOURNAL:
            return bool(name)


@pytest.mark.parametrize("name", ["OP-6", "BW-11"])
def test_every_sentence_traces_to_something_that_is_in_the_audit(name: str) -> None:
    judged = dressed(name)
    sentences = [each for each in document_of(judged).sentences() if each.text]
    assert len(sentences) > 150
    assert [each.text for each in sentences if not each.refs] == []
    broken = {
        (ref.kind, ref.name) for each in sentences for ref in each.refs if not resolves(judged, ref.kind, ref.name)
    }
    assert broken == set()


def texts_of(document: Document) -> list[str]:
    """All that a printer may put on a page: titles, heads and sentences; longest first."""
    found = {document.title, document.subtitle, document.version}
    for chapter in document.chapters:
        found.add(chapter.title)
        for block in chapter.blocks:
            if isinstance(block, Heading):
                found.add(block.text)
            elif isinstance(block, Table):
                found |= set(block.head)
    for each in document.sentences():
        found |= {each.text, f"{each.verdict.mark} {each.verdict.word}" if each.verdict else ""}
    if document.summary is not None:
        found |= {str(document.summary.score), document.summary.advice, document.summary.reviewer}
    return sorted((" ".join(each.split()) for each in found if each), key=len, reverse=True)


@pytest.mark.parametrize("name", ["OP-6", "BW-11"])
def test_the_page_says_all_that_the_document_says_and_not_a_word_more(name: str) -> None:
    judged = dressed(name)
    document = document_of(judged)
    made = report_files(document, judged, "x", finished_evidence, None, (ReportFormat.HTML,))
    body = made["x-report.html"].decode().partition("<body>")[2]
    seen = html.unescape(re.sub(r"<[^>]+>", " ", re.sub(r"<svg.*?</svg>", "", body, flags=re.DOTALL)))
    left = " ".join(seen.split())
    for text in texts_of(document):
        if not all(part in left for part in [text]) and text not in body:
            continue  # a piece of a longer one
        left = left.replace(text, " ")
    assert re.sub(r"[\s,.;:()0-9]|by|of 100|to", "", left) == ""
    shown = " ".join(seen.split())
    assert [each.text for each in document.sentences() if " ".join(each.text.split()) not in shown] == []


def finished_evidence(sha256: str) -> bytes:
    raise AssertionError(f"no picture is in these audits: {sha256}")


def test_every_chapter_has_something_to_say_of_a_dressed_audit_but_pictures_and_open_items_it_lacks() -> None:
    made = [chapter.id for chapter in document_of(dressed("BW-11")).chapters]
    assert set(made) >= {rule.id for rule in all_chapters()} - {"photos", "replication"}
    assert made == [rule.id for rule in all_chapters() if rule.id in made]


def told(judged: JudgedAudit, chapter: str) -> str:
    blocks = next(each for each in document_of(judged).chapters if each.id == chapter)
    return " ".join(each.text for each in Document("", "", (blocks,), "").sentences())


def test_opinions_stand_apart_and_cost_nothing() -> None:
    judged = dressed("OP-6")
    assert "feels solid" in told(judged, "warnings")
    assert "rattles" in told(judged, "log")
    without = judge(replace(judged.audit, notes=()), PROFILE)
    assert without.score == judged.judgement.score


def test_a_reader_sees_doubts_corrections_worth_and_what_a_buyer_must_ask() -> None:
    judged = dressed("BW-11")
    assert "Is it the lead?" in told(judged, "open")
    assert "Version 2: a typing slip" in told(judged, "versions")
    assert "the maker wrote back" in told(judged, "paper-check")
    assert "It would be worth as much at" in told(judged, "worth")
    assert "9.50 EUR" in told(judged, "disclosure")


def test_what_is_missing_blocks_only_where_a_reader_would_be_misled() -> None:
    judged = finished("BW-11")
    told_all = replace(judged.audit.device, paid_by=None, seen_before_by=None, helper_gear=None)
    audit = replace(judged.audit, device=told_all, devices=(told_all,))
    assert not any(each.blocks for each in missing_from(replace(judged, audit=audit)))
    silent = replace(told_all, disclosure=NOT_NOTED)
    audit = replace(judged.audit, device=silent, devices=(silent,))
    missing = missing_from(replace(judged, audit=audit, flaws=("evidence x: changed",)))
    assert [each.blocks for each in missing] == [True, True, *[False] * (len(missing) - 2)]
    assert "How the reviewer got it" in missing[0].text


def test_words_from_outside_are_inert_in_every_part_of_a_document() -> None:
    assert "\x1b" not in Said("a\x1b[31mb", ()).text
    assert "\x1b" not in Heading("\x1b").text
    assert "\u202e" not in Table(("\u202e",), (), (1.0,)).head[0]
    assert "\x9b" not in Document("\x9b", "\x9b", (), "").title
