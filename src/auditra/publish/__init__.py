"""What the reader will see: drawings and reports. Nothing is judged here."""

from __future__ import annotations

from pathlib import Path

from auditra.core.errors import StoreError
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.sanitize import sanitize
from auditra.workflows.output_files import make_folder


def publish(judged: JudgedAudit, folder: Path) -> tuple[Path, ...]:
    """Write the faces (SVG and PDF) and the report (PDF); the files written. Raises: StoreError."""
    from auditra.publish.faces_drawing import draw_faces, write_pdf, write_svg  # ReportLab, only when needed
    from auditra.publish.report import write_report

    stem = "".join(c if c.isalnum() or c in "-_" else "-" for c in judged.audit.name)
    files = tuple(folder / f"{stem}-{name}" for name in ("faces.svg", "faces.pdf", "report.pdf"))
    try:
        make_folder(folder)
        write_svg(draw_faces(judged), files[0])
        write_pdf(draw_faces(judged), files[1], f"{sanitize(judged.audit.device.name)}: faces")
        write_report(judged, files[2])
    except OSError as error:
        raise StoreError(
            f"{folder}", why=error.strerror or str(error), do="Choose another folder with --out"
        ) from error
    return files
