"""The chosen part in words: all that is noted of it, and what a host reported when it was asked."""

from __future__ import annotations

from textual.content import Content

from auditra.core.host.report import Weight, report_lines
from auditra.core.host.snapshot import Snapshot
from auditra.core.model.rig import Host, Part, Rig
from auditra.core.sanitize import sanitize
from auditra.documents.typed_noun import as_typed, typed_fields
from auditra.tui.renderables.labels import hanging, heading
from auditra.tui.theme import Palette
from auditra.workflows.audits.rig_edits import KIND_OF_PART
from auditra.workflows.hosts.probing import unlike_the_rig

_LABEL_WIDTH = 20


def part_in_words(
    part: Part | None, rig: Rig, probe: Snapshot | None, message: str, width: int, palette: Palette
) -> Content:
    """Every field that is noted, what is not, and of a host what it reported itself."""
    if part is None:
        return Content.styled("This rig has no parts. Press n to add one.", palette.quiet)
    kind = KIND_OF_PART[type(part)] + (", retired" if part.id in rig.retired else "")
    lines = [heading(sanitize(getattr(part, "name", part.id), 40), palette, kind), Content("")]
    lines += _fields(part, width, palette)
    if message:
        lines += [Content(""), *hanging("", "", message, palette.broken, width)]
    if isinstance(part, Host):
        lines += [Content(""), *_reported(part, probe, width, palette)]
    return Content("\n").join(lines)


def _fields(part: Part, width: int, palette: Palette) -> list[Content]:
    texts = as_typed(part)
    lines = []
    for field in typed_fields(type(part)):
        values = texts.get(field.key, "").split("; ") if field.key in texts else []
        for turn, value in enumerate(values):
            label = field.label if not turn else ""
            lines += hanging(f"{label:{_LABEL_WIDTH}}", palette.quiet, sanitize(value, 200), palette.ink, width)
    missing = [field.label for field in typed_fields(type(part)) if field.key not in texts and field.noted]
    if missing:
        lines += hanging(f"{'not noted':{_LABEL_WIDTH}}", palette.quiet, ", ".join(missing), palette.quiet, width)
    return lines


def _reported(host: Host, probe: Snapshot | None, width: int, palette: Palette) -> list[Content]:
    if probe is None:
        ask = "Press h to probe this host; the result is kept as evidence and fills in what is not noted."
        return hanging("", "", ask, palette.quiet, width)
    lines = [heading(sanitize(host.name, 40), palette, "as probed"), Content("")]
    lines += [
        Content.styled(f"! {sanitize(words, max(20, width - 2))}", palette.partly)
        for words in unlike_the_rig(host, probe)
    ]
    styles = {
        Weight.PLAIN: palette.ink, Weight.HEADING: palette.accent,
        Weight.DETAIL: palette.quiet, Weight.SHORT: palette.partly,
    }  # fmt: skip
    lines += [
        Content.styled(sanitize(line.text, max(20, width)) if line.text else "", styles[line.weight])
        for line in report_lines(probe)
    ]
    return lines
