"""Text on the screen: whatever it was made from, no character in it steers the terminal."""

from __future__ import annotations

import re

from textual.content import Content
from textual.visual import VisualType
from textual.widgets import Static

_HARMFUL = re.compile(
    "[\x00-\x09\x0b-\x1f\x7f-\x9f\u00ad\u0600-\u0605\u061c\u06dd\u070f\u08e2\u180e\u200b-\u200f\u2028-\u202e\u2060-\u206f"
    "\ufeff\ufff9-\ufffb\ud800-\udfff\U00013430-\U0001343f\U0001bca0-\U0001bca3\U0001d173-\U0001d17a\U000e0001-\U000e007f]"
)
"""Unicode 15, general categories Cc (but for the line break), Cf, Cs, Zl and Zp."""
_STANDS_FOR_IT = "\N{REPLACEMENT CHARACTER}"


def shown(content: Content) -> Content:
    """The same with such characters replaced one for one, so that styles stay where they are."""
    if _HARMFUL.search(content.plain) is None:
        return content
    return Content(_HARMFUL.sub(_STANDS_FOR_IT, content.plain), spans=list(content.spans))


class ShownText(Static):
    """A Static whose text is shown, never obeyed."""

    def update(self, content: VisualType = "", *, layout: bool = True) -> None:
        super().update(shown(content) if isinstance(content, Content) else content, layout=layout)
