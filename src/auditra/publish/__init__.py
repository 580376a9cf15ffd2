"""What the reader will see: drawings and reports. Nothing is judged here, and no sentence is made here."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path

from auditra.core.errors import StoreError
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.line_up.line_up import LineUp
from auditra.core.line_up.make import table_of_line_up
from auditra.core.report.document import Document
from auditra.core.sanitize import sanitize
from auditra.publish.pictures import Keeper
from auditra.workflows.output_files import make_folder, write_atomically


class ReportFormat(StrEnum):
    """What a report is written as."""

    HTML = "html"
    PDF = "pdf"
    MARKDOWN = "md"
    FACES = "faces"


def report_files(
    document: Document,
    judged: JudgedAudit | None,
    stem: str,
    evidence: Keeper,
    own_templates: Path | None,
    formats: tuple[ReportFormat, ...] = tuple(ReportFormat),
) -> dict[str, bytes]:
    """The files of a report by their names. Raises: InputError for a template of the reviewer's that does not work."""
    files: dict[str, bytes] = {}
    if ReportFormat.HTML in formats:
        from auditra.publish.html import html_of  # each loads what it needs

        files[f"{stem}-report.html"] = html_of(document, judged, evidence, own_templates)
    if ReportFormat.PDF in formats:
        from auditra.publish.pdf import pdf_of

        files[f"{stem}-report.pdf"] = pdf_of(document, judged, evidence)
    if ReportFormat.MARKDOWN in formats:
        from auditra.publish.markdown import markdown_of

        text, figures = markdown_of(document, judged, evidence, own_templates, f"{stem}-figures")
        files |= {f"{stem}-report.md": text, **figures}
    if ReportFormat.FACES in formats and judged is not None:
        from auditra.publish.drawings.faces import draw_faces
        from auditra.publish.drawings.print import FORMATS, drawing_bytes

        title = f"{sanitize(judged.audit.device.name)}: faces"
        files |= {f"{stem}-faces.{kind}": drawing_bytes(draw_faces(judged), kind, title) for kind in FORMATS}
    return files


def line_up_files(made: LineUp, document: Document, stem: str, own_templates: Path | None) -> dict[str, bytes]:
    """The files of a line-up by their names. Raises: InputError for a template that does not work."""
    from auditra.publish.csv_table import csv_of

    formats = (ReportFormat.HTML, ReportFormat.PDF, ReportFormat.MARKDOWN)
    files = report_files(document, None, stem, _no_evidence, own_templates, formats)
    named = {name.replace(f"{stem}-report", f"{stem}-line-up"): data for name, data in files.items()}
    return {**named, f"{stem}-line-up.csv": csv_of(table_of_line_up(made))}


def _no_evidence(sha256: str) -> bytes:
    raise StoreError(f"evidence {sha256[:12]}", why="a line-up has no pictures")


def stem_of(name: str) -> str:
    """An audit's name as the beginning of a file's name."""
    return "".join(c if c.isalnum() or c in "-_" else "-" for c in name)


def write_files(files: dict[str, bytes], folder: Path) -> tuple[Path, ...]:
    """Write files into a folder, each whole or not at all. Raises: StoreError."""
    written = []
    try:
        for name, data in files.items():
            path = folder / name
            make_folder(path.parent)
            written.append(write_atomically(path, data))
    except OSError as error:
        do = "Choose another folder with --out"
        raise StoreError(f"{folder}", why=error.strerror or str(error), do=do) from error
    return tuple(written)
