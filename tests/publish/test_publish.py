"""What the reader will see: report and drawings, made of the judgement and nothing else."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from dataclasses import replace
from pathlib import Path

import pytest

from auditra.core.errors import InputError, StoreError
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.source import Source
from auditra.core.report.material import Material
from auditra.core.report.report import make_report
from auditra.publish import ReportFormat, report_files, write_files
from auditra.publish.drawings.faces import draw_faces, fit
from tests.support.audits import PROFILE, audit_of, judged, rates, with_trial
from tests.support.finished import finished

CLAIMS = ("A1 data 5 Gb/s", "A2 data 5 Gb/s", "P1 takes 90 W", "P1 no data", "H1 shows 7680x4320@60")
HOSTILE = 'up to <b>5</b> Gb/s & more \x1b[31m</para><img src="x"/>| `code` ](http://x) {{ 7*7 }} ]]>'


HARM = (
    "{{ document.__class__.__mro__ }}", "{{ ''.__class__ }}", "{% include '/etc/passwd' %}", "{{ nothing }}", "{% for",
    "{{ document.chapters.append(1) }}", "{% include '../library.db' %}",
)  # fmt: skip


def audit_judged(*sentences: str) -> JudgedAudit:
    audit = with_trial(audit_of(*(sentences or CLAIMS)), "direct/storage", *rates("direct", 1000, link_bps=10e9))
    audit = with_trial(audit, "A1/", *rates("A1", 200)) if "A1 data 5 Gb/s" in (sentences or CLAIMS) else audit
    return JudgedAudit(audit, judged(audit), "simulated bench")


def no_evidence(sha256: str) -> bytes:
    raise StoreError(sha256, why="there is none")


def files_of(shown: JudgedAudit, own: Path | None = None, *formats: ReportFormat) -> dict[str, bytes]:
    document = make_report(Material(shown, "0" * 64, "Auditra"))
    return report_files(document, shown, "quay", no_evidence, own, formats or tuple(ReportFormat))


def words(svg: bytes) -> str:
    return " ".join("".join(text.itertext()) for text in ET.fromstring(svg).iter() if text.tag.endswith("text"))


def text_of(page: bytes) -> str:
    """What a reader of the page sees, without its tags."""
    body = page.decode().partition("<body>")[2]
    return " ".join(re.sub(r"<[^>]+>", " ", re.sub(r"<svg.*?</svg>", "", body, flags=re.DOTALL)).split())


def test_every_format_is_written_and_the_drawing_shows_every_port_with_mark_and_word(tmp_path: Path) -> None:
    files = files_of(audit_judged())
    assert {"quay-report.html", "quay-report.pdf", "quay-report.md", "quay-faces.svg", "quay-faces.pdf"} <= set(files)
    assert all(data.startswith(b"%PDF") for name, data in files.items() if name.endswith(".pdf"))
    drawn = words(files["quay-faces.svg"])
    for port in ("A1", "A2", "S1", "N1", "H1", "P1", "UP"):
        assert port in drawn
    assert "<  short" in drawn
    assert "?  unproven" in drawn
    assert "no claims" in drawn
    written = write_files(files, tmp_path / "new" / "folder")
    assert [path.read_bytes() for path in written] == list(files.values())


def test_the_same_audit_gives_the_same_bytes() -> None:
    assert files_of(audit_judged()) == files_of(audit_judged())


def test_page_and_markdown_tell_claims_verdicts_readings_sums_and_bench() -> None:
    files = files_of(audit_judged())
    page, text = text_of(files["quay-report.html"]), files["quay-report.md"].decode()
    for told in ("A1 data 5 Gb/s", "write 200.0 ± 0.2 MB/s", "simulated bench", "T2"):
        assert told in page
        assert told in text
    assert "200.0 + 0.19 &lt; 425.0 MB/s" in page


def test_every_figure_of_markdown_is_a_file_beside_it_and_every_file_is_shown() -> None:
    files = files_of(finished("BW-11"), None, ReportFormat.MARKDOWN)
    shown = set(re.findall(r"\]\((quay-figures/[^)]+)\)", files["quay-report.md"].decode()))
    assert shown == {name for name in files if name.startswith("quay-figures/")}
    assert len(shown) >= 6


def hostile() -> JudgedAudit:
    shown = audit_judged()
    claims = tuple(replace(claim, source=Source(quoted=HOSTILE)) for claim in shown.audit.claims)
    device = replace(shown.audit.device, maker="<script>alert(1)</script>&amp;", kind="\x1b[2J", disclosure=HOSTILE)
    audit = replace(shown.audit, claims=claims, device=device)
    return JudgedAudit(audit, judge(audit, PROFILE), "simulated bench")


def test_markup_and_escape_codes_from_a_sheet_are_shown_as_text() -> None:
    files = files_of(hostile())
    page = files["quay-report.html"].decode()
    assert "<script>alert" not in page
    assert "\\u003cscript\\u003ealert(1)" in page, "the structured data cannot leave its element either"
    assert '<img src="x"' not in page
    assert "{{ 7*7 }}" in page
    text = files["quay-report.md"].decode()
    assert not re.search(r"(?<!\\)<(?!br>)", re.sub(r"`[^`\n]*`", "", text)), "but for what stands in code"
    assert not re.search(r"(?<!\\)\]\(http", text)
    assert all("\x1b" not in data.decode() for name, data in files.items() if name.endswith((".html", ".md", ".svg")))
    assert len(files["quay-report.pdf"]) > 5000


def test_a_reviewer_restyles_the_page_with_templates_that_can_do_no_harm(tmp_path: Path) -> None:
    (tmp_path / "report.css").write_text("body { color: teal; }")
    assert b"teal" in files_of(audit_judged(), tmp_path, ReportFormat.HTML)["quay-report.html"]
    (tmp_path / "report.md.j2").write_text("{{ document.title }} by me")
    assert files_of(audit_judged(), tmp_path, ReportFormat.MARKDOWN)["quay-report.md"] == b"Osierpell OP-6 by me"
    for harm in HARM:
        (tmp_path / "report.md.j2").write_text(harm)
        with pytest.raises(InputError, match=r"template .*report|passwd|library"):
            files_of(audit_judged(), tmp_path, ReportFormat.MARKDOWN)


def test_a_folder_that_cannot_be_written_to_is_told(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    with pytest.raises(StoreError, match="Choose another folder"):
        write_files(files_of(audit_judged(), None, ReportFormat.FACES), tmp_path / "file")


def test_long_words_are_cut_to_their_room() -> None:
    assert fit("abc", "Helvetica", 8, 100) == "abc"
    assert fit("a" * 200, "Helvetica", 8, 60).endswith("...")


def test_a_face_with_many_ports_goes_on_in_the_next_row() -> None:
    ports = tuple(Port(f"A{n}", "usb-a") for n in range(1, 15))
    many = Device(
        "Osierpell", "OP-99", "hub", (Face("top", ports), Face("tail", (Port("UP", "usb-c plug", Role.UPSTREAM),)))
    )
    audit = audit_of("A1 data 5 Gb/s", device=many)
    drawing = draw_faces(JudgedAudit(audit, judged(audit), "simulated bench"))
    few = draw_faces(audit_judged())
    assert drawing.width == few.width
    assert drawing.height > few.height
