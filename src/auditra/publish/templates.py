"""The templates of a page: those that ship, and those of the reviewer beside the library, in a sandbox."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

from jinja2 import ChoiceLoader, FileSystemLoader, StrictUndefined, TemplateError
from jinja2.sandbox import ImmutableSandboxedEnvironment
from markupsafe import Markup

from auditra.core.errors import InputError
from auditra.core.model.verdict import Verdict
from auditra.core.report.document import Block, Document, Summary, band_text
from auditra.core.sanitize import sanitize
from auditra.publish.drawings.paper import INK_OF

FOLDER = "templates"
_SHIPPED = Path(__file__).parent.parent / "data" / FOLDER
_MARKS_OF_MARKDOWN = re.compile(r"([\\`*_{}\[\]<>#|~&])")


def render(name: str, document: Document, own: Path | None, filters: dict[str, Callable[[Any], object]]) -> str:
    """A document through a template. Raises: InputError for a template of the reviewer's that does not work."""
    folders = [FileSystemLoader(folder) for folder in (own, _SHIPPED) if folder is not None]
    is_page = name.endswith(".html.j2")
    page = ImmutableSandboxedEnvironment(
        loader=ChoiceLoader(folders), autoescape=is_page, undefined=StrictUndefined,
        trim_blocks=is_page, lstrip_blocks=is_page, keep_trailing_newline=True,
    )  # fmt: skip
    page.filters |= {"kind": _kind, "band": band_text, "ink": _ink, "md": _markdown, "plain": _plain, **filters}
    try:
        data = _structured(document.summary) if document.summary else ""
        text: str = page.get_template(name).render(document=document, structured_data=Markup(data))
    except (TemplateError, ValueError, TypeError, OverflowError, RecursionError) as error:
        place = f"{getattr(error, 'name', None) or name}, line {getattr(error, 'lineno', None) or '?'}"
        raise InputError(f"template {sanitize(place, 120)}", why=sanitize(str(error), 300),
                         do="Correct it, or move it away to use the default one") from error  # fmt: skip
    return text


def _kind(block: Block) -> str:
    return type(block).__name__.lower()


def _ink(verdict: Verdict) -> str:
    return INK_OF[verdict]


def _plain(text: str) -> str:
    """A line inside a fence that it cannot close."""
    return text.replace("```", "'''")


def _markdown(text: str) -> str:
    """Text that Markdown shows as it is, on one line."""
    shown = _MARKS_OF_MARKDOWN.sub(r"\\\1", text)
    return re.sub(r"^(\s*)([-+]|\d+[.)])(?=\s)", r"\1\\\2", shown)


def _structured(summary: Summary) -> str:
    """Review and product as schema.org has them, as JSON that cannot leave its element."""
    product: dict[str, Any] = {
        "@type": "Product", "name": summary.device, "model": summary.model, "category": summary.kind,
        "brand": {"@type": "Brand", "name": summary.maker},
    }  # fmt: skip
    if summary.price:
        product["offers"] = {"@type": "Offer", "price": summary.price, "priceCurrency": summary.money}
    review: dict[str, Any] = {
        "@context": "https://schema.org", "@type": "Review", "itemReviewed": product, "reviewBody": summary.advice,
        "author": {"@type": "Person", "name": summary.reviewer or "not named"},
    }  # fmt: skip
    if summary.day is not None:
        review["datePublished"] = f"{summary.day:%Y-%m-%d}"
    if summary.score is not None:
        review["reviewRating"] = {
            "@type": "Rating",
            "ratingValue": str(summary.score),
            "bestRating": "100",
            "worstRating": "0",
        }
    text = json.dumps(review, ensure_ascii=True)
    return text.replace("<", "\\u003c").replace(">", "\\u003e").replace("&", "\\u0026")
