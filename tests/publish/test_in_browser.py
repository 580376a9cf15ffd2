"""The report in a real browser: nothing is asked for from outside, no script runs, it fits a phone, text stays text."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import pytest

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.line_up.make import document_of_line_up, line_up_of
from auditra.core.report.document import Document
from auditra.publish import ReportFormat, report_files
from tests.core.report.test_report import document_of, dressed
from tests.publish.test_publish import hostile, no_evidence
from tests.support.browser import Page, chromium, opened_browser
from tests.support.finished import finished

pytestmark = pytest.mark.skipif(
    chromium() is None and not os.environ.get("CI"), reason="chromium is not installed (Debian's package chromium)"
)
_WIDEST = "Math.max(...[...document.querySelectorAll('body *')].map(e => e.getBoundingClientRect().right))"
_SCRIPTS = "[...document.scripts].filter(s => s.type !== 'application/ld+json').length"


@pytest.fixture(scope="module")
def page(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Page]:
    with opened_browser(tmp_path_factory.mktemp("browser")) as opened:
        yield opened


def written(document: Document, judged: JudgedAudit | None, folder: Path) -> Path:
    path = folder / "report.html"
    path.write_bytes(report_files(document, judged, "x", no_evidence, None, (ReportFormat.HTML,))["x-report.html"])
    return path


@pytest.mark.parametrize("width", [390, 1280])
@pytest.mark.parametrize("which", ["OP-6", "BW-11", "hostile", "line-up"])
def test_a_page_asks_for_nothing_runs_nothing_and_fits(page: Page, which: str, width: int, tmp_path: Path) -> None:
    if which == "line-up":
        path = written(document_of_line_up(line_up_of([finished("OP-6"), finished("BW-11")])), None, tmp_path)
    else:
        judged = hostile() if which == "hostile" else dressed(which)
        path = written(document_of(judged), judged, tmp_path)
    page.open(path, width)
    assert page.asked_for == [path.as_uri()]
    assert page.value(_SCRIPTS) == 0
    assert page.value("document.documentElement.scrollWidth") <= width
    assert page.value(_WIDEST) <= width + 0.5
    assert page.value("document.querySelectorAll('h2').length") >= 3
    assert page.value("[...document.images].every(i => i.complete && i.naturalWidth > 0)")


def test_hostile_words_stand_there_as_words(page: Page, tmp_path: Path) -> None:
    judged = hostile()
    page.open(written(document_of(judged), judged, tmp_path), 1280)
    assert "<script>alert(1)</script>&amp;" in page.value("document.querySelector('h1').textContent")
    assert page.value("document.querySelectorAll('img').length") == 0
    assert page.value("typeof window.alerted") == "undefined"


def test_the_drawing_and_the_structured_data_are_there(page: Page, tmp_path: Path) -> None:
    judged = dressed("BW-11")
    page.open(written(document_of(judged), judged, tmp_path), 1280)
    assert page.value("document.querySelectorAll('figure svg').length") >= 6
    said = page.value("JSON.parse(document.querySelector('script[type=\"application/ld+json\"]').textContent)")
    assert said["@type"] == "Review"
    assert said["itemReviewed"]["name"] == "Brackwater BW-11"
    assert said["reviewRating"]["ratingValue"] == str(judged.judgement.score.value)


def test_letters_can_be_read_on_the_ground_of_either_scheme(page: Page, tmp_path: Path) -> None:
    judged = dressed("OP-6")
    path = written(document_of(judged), judged, tmp_path)
    grounds = []
    for dark in (False, True):
        page.open(path, 390, dark=dark)
        ground, ink = (page.value(f"getComputedStyle(document.body).{each}") for each in ("backgroundColor", "color"))
        grounds.append(ground)
        assert contrast(ground, ink) >= 7.0
        drawn = page.value("getComputedStyle(document.querySelector('figure svg text')).fill")
        assert contrast(ground, drawn) >= 4.0
    assert grounds[0] != grounds[1]


def contrast(one: str, other: str) -> float:
    """The ratio of two colours as WCAG 2.2 (1.4.3) has it."""
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


def luminance(colour: str) -> float:
    parts = [float(each) / 255 for each in colour.removeprefix("rgb(").removesuffix(")").split(",")]
    linear = [each / 12.92 if each <= 0.04045 else ((each + 0.055) / 1.055) ** 2.4 for each in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
