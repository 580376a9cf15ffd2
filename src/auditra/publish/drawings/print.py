"""A drawing as a file, or as a picture inside a page."""

from __future__ import annotations

import re
from html import escape

from reportlab.graphics import renderPDF, renderSVG
from reportlab.graphics.shapes import Drawing
from reportlab.lib.colors import Color

from auditra.core.errors import InputError
from auditra.core.sanitize import sanitize
from auditra.publish.drawings.paper import BOLD, FONT, INKS

_LETTERS = "Helvetica, Arial, sans-serif"
FORMATS = ("svg", "pdf")
_HEAD = re.compile(r"^.*?(?=<svg)", re.DOTALL)
_CLIP = re.compile(
    r"<clipPath id=\"clip\">.*?</clipPath>|\s*style=\"clip-path: url\(#clip\)\"|<title>.*?</title>|<desc>.*?</desc>",
    re.DOTALL,
)
_SIZE = re.compile(r"<svg width=\"[\d.]+\" height=\"[\d.]+\"")


def drawing_bytes(drawing: Drawing, kind: str, title: str) -> bytes:
    """The drawing as SVG or PDF. The same drawing is the same bytes. Raises: InputError for another kind."""
    if kind == "svg":
        return _svg(drawing).encode()
    if kind == "pdf":
        return bytes(renderPDF.drawToString(drawing, sanitize(title, 120), invariant=1))
    raise InputError(f'"{sanitize(kind, 20)}"', why="this is not a format of drawings", do="Choose svg or pdf")


def inline_svg(drawing: Drawing, label: str) -> str:
    """The drawing as an element of a page: as wide as there is room, in the colours of the page's style sheet."""
    svg = _CLIP.sub("", _HEAD.sub("", _svg(drawing)))
    for name, colour in INKS.items():
        svg = svg.replace(_percent(colour), f"var(--{name})")
    room = f'<svg role="img" aria-label="{escape(sanitize(label, 200), quote=True)}"'
    return _SIZE.sub(lambda _: room, svg, count=1).strip()


def _svg(drawing: Drawing) -> str:
    """With families of letters that every reader has; the bold one is no family of its own there."""
    svg: str = renderSVG.drawToString(drawing)
    svg = svg.replace(f"font-family: {BOLD};", f"font-family: {_LETTERS}; font-weight: bold;")
    return svg.replace(f"font-family: {FONT};", f"font-family: {_LETTERS};")


def _percent(colour: Color) -> str:
    """As `renderSVG` writes it."""
    return "rgb({:d}%,{:d}%,{:d}%)".format(*(int(100 * part) for part in colour.rgb()))
