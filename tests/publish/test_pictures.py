"""Pictures in a report: turned upright, small enough, without what a camera adds; what is no picture is left out."""

from __future__ import annotations

import base64
from io import BytesIO

import pytest
from PIL import Image

from auditra.core.errors import StoreError
from auditra.core.report.document import Chapter, Document, Photo, said
from auditra.publish import ReportFormat, report_files
from auditra.publish.pictures import MAX_SIDE, data_uri, page_picture

PLACE = 0x8825
"""The tag of a camera's GPS record (Exif 2.32, 4.6.3)."""
TURNED = 0x0112


def photo(width: int = 300, height: int = 200, kind: str = "JPEG", turned: int = 1) -> bytes:
    """A picture that is red on the left, with a place, a maker and how the camera was held."""
    picture = Image.new("RGB", (width, height), "blue")
    picture.paste("red", (0, 0, width // 2, height))
    exif = Image.Exif()
    exif[TURNED], exif[0x010F] = turned, "Secret maker 0815"
    exif[PLACE] = {1: "N", 2: (52.0, 30.0, 0.0)}
    out = BytesIO()
    picture.save(out, kind, exif=exif)
    return out.getvalue()


def opened(jpeg: bytes) -> Image.Image:
    return Image.open(BytesIO(jpeg))


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_nothing_that_a_camera_adds_goes_out(kind: str) -> None:
    made = page_picture("0" * 64, lambda _: photo(kind=kind))
    assert b"Secret maker" not in made
    assert dict(opened(made).getexif()) == {}


def test_a_picture_stands_upright_and_is_no_larger_than_a_page() -> None:
    made = opened(page_picture("0" * 64, lambda _: photo(4000, 2000, turned=6)))
    assert made.size == (MAX_SIDE // 2, MAX_SIDE)
    top, bottom = (made.convert("RGB").getpixel((350, y)) for y in (50, MAX_SIDE - 50))
    assert isinstance(top, tuple)
    assert isinstance(bottom, tuple)
    assert top[0] > 200 > 60 > bottom[0], "what was left is on top after a quarter turn"


@pytest.mark.parametrize(
    "data", [b"", b"\xff\xd8\xff", b"\x89PNG\r\n", photo()[:400], b"<svg onload='x'/>", b"GIF89a" + b"0" * 50]
)
def test_what_is_no_picture_is_left_out(data: bytes) -> None:
    assert page_picture("0" * 64, lambda _: data) == b""
    assert data_uri(b"") == ""


def test_a_picture_that_unfolds_to_far_more_than_it_is_long_is_left_out() -> None:
    out = BytesIO()
    Image.new("1", (9000, 9000)).save(out, "PNG")
    assert len(out.getvalue()) < 200_000
    assert page_picture("0" * 64, lambda _: out.getvalue()) == b""


def test_missing_evidence_leaves_the_caption() -> None:
    def missing(sha256: str) -> bytes:
        raise StoreError(sha256, why="it is not there")

    files = report_files(_document(), None, "x", missing, None, _FORMATS)
    assert b"the underside" in files["x-report.html"]
    assert b"<img" not in files["x-report.html"]
    assert "*the underside*" in files["x-report.md"].decode()
    assert files["x-report.pdf"].startswith(b"%PDF")


def test_a_picture_is_inside_the_page_and_beside_the_markdown() -> None:
    files = report_files(_document(), None, "x", lambda _: photo(), None, _FORMATS)
    page = files["x-report.html"].decode()
    shown = page.partition('src="data:image/jpeg;base64,')[2].partition('"')[0]
    assert opened(base64.b64decode(shown)).size == (300, 200)
    assert opened(files["x-figures/figure-01.jpg"]).format == "JPEG"
    assert len(files["x-report.pdf"]) > 3000


_FORMATS = (ReportFormat.HTML, ReportFormat.PDF, ReportFormat.MARKDOWN)


def _document() -> Document:
    picture = Photo("0" * 64, "image/jpeg", said("the underside"))
    return Document("A dock", "in short", (Chapter("photos", "Pictures", (picture,)),), "Draft")
