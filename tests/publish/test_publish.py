"""What the reader will see: drawing and report, made of the judgement and nothing else."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from dataclasses import replace
from pathlib import Path

import pytest

from auditra.core.errors import StoreError
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.source import Source
from auditra.core.model.verdict import Verdict
from auditra.publish import publish
from auditra.publish.faces_drawing import draw_faces, fit
from auditra.publish.report import _story
from tests.support.audits import PROFILE, audit_of, judged, rates, with_trial

CLAIMS = ("A1 data 5 Gb/s", "A2 data 5 Gb/s", "P1 takes 90 W", "P1 no data", "H1 shows 7680x4320@60")


def audit_judged(*sentences: str) -> JudgedAudit:
    audit = with_trial(audit_of(*(sentences or CLAIMS)), "direct/storage", *rates("direct", 1000, link_bps=10e9))
    audit = with_trial(audit, "A1/", *rates("A1", 200)) if "A1 data 5 Gb/s" in (sentences or CLAIMS) else audit
    return JudgedAudit(audit, judged(audit), "simulated bench")


def words(path: Path) -> str:
    return " ".join("".join(text.itertext()) for text in ET.parse(path).getroot().iter() if text.tag.endswith("text"))


def test_drawing_and_report_are_written_and_the_drawing_shows_every_port_with_mark_and_word(tmp_path: Path) -> None:
    files = publish(audit_judged(), tmp_path / "new" / "folder")
    assert [path.name for path in files] == ["test-faces.svg", "test-faces.pdf", "test-report.pdf"]
    assert all(path.read_bytes().startswith(b"%PDF") for path in files if path.suffix == ".pdf")
    drawn = words(files[0])
    for port in ("A1", "A2", "S1", "N1", "H1", "P1", "UP"):
        assert port in drawn
    assert "<  short" in drawn
    assert "?  unproven" in drawn
    assert "no claims" in drawn


def test_the_same_audit_gives_the_same_bytes(tmp_path: Path) -> None:
    one, other = publish(audit_judged(), tmp_path / "one"), publish(audit_judged(), tmp_path / "other")
    assert one[0].read_bytes() == other[0].read_bytes()
    assert one[2].read_bytes() == other[2].read_bytes()


def told(shown: JudgedAudit) -> str:
    texts = []
    for flowable in _story(shown, 480.0):
        cells = getattr(flowable, "_cellvalues", None) or [[flowable]]
        for cell in (cell for row in cells for cell in row):
            parts = cell if isinstance(cell, list) else getattr(cell, "_content", [cell])
            texts += [getattr(part, "text", "") for part in parts]
    return " ".join(texts)


def test_the_report_tells_claims_verdicts_readings_sums_and_bench() -> None:
    text = told(audit_judged())
    assert "A1 data 5 Gb/s" in text
    assert "write 200.0 ± 0.2 MB/s" in text
    assert "200.0 + 0.19 &lt; 425.0 MB/s" in text
    assert "simulated bench" in text
    assert "trials T2" in text


def test_markup_and_escape_codes_from_a_sheet_are_shown_as_text(tmp_path: Path) -> None:
    shown = audit_judged()
    hostile = 'up to <b>5</b> Gb/s & more \x1b[31m</para><img src="x"/>'
    claims = tuple(replace(claim, source=Source(quoted=hostile)) for claim in shown.audit.claims)
    audit = replace(
        shown.audit, claims=claims, device=replace(shown.audit.device, maker="<script>&amp;", kind="\x1b[2J")
    )
    files = publish(JudgedAudit(audit, judge(audit, PROFILE), "simulated bench"), tmp_path)
    assert files[2].stat().st_size > 2000
    assert "\x1b" not in files[0].read_text(encoding="utf-8")


@pytest.mark.parametrize("ports", [1, 5, 13, 20])
def test_a_face_of_any_length_is_drawn_in_rows(ports: int) -> None:
    sockets = tuple(Port(f"A{n}", "usb-a") for n in range(1, ports + 1))
    device = Device(
        "Maker", "X", "dock", (Face("front", sockets), Face("tail", (Port("UP", "usb-c plug", Role.UPSTREAM),)))
    )
    audit = audit_of("A1 data 5 Gb/s", device=device)
    drawing = draw_faces(JudgedAudit(audit, judged(audit), "simulated bench"))
    assert drawing.width < 600
    assert drawing.height > 40 * ((ports - 1) // 6)


def test_long_words_are_cut_to_their_room() -> None:
    assert fit("x" * 400, "Helvetica", 8, 60).endswith("...")
    assert fit("short", "Helvetica", 8, 60) == "short"


def test_a_folder_that_refuses_is_told(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    with pytest.raises(StoreError, match="--out"):
        publish(audit_judged(), tmp_path / "file" / "below")


def test_no_verdict_is_shown_by_colour_alone() -> None:
    assert all(verdict.mark.isascii() and verdict.word for verdict in Verdict)
    assert len({verdict.mark for verdict in Verdict}) == len(Verdict)
