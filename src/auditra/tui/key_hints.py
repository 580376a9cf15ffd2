"""The keys that work now, from the bindings of whatever has the focus: for the key line, the help and the palette."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from textual.binding import Binding
from textual.dom import DOMNode
from textual.screen import Screen

_KEY_NAMES = {"escape": "esc", "question_mark": "?", "less_than_sign": "<", "greater_than_sign": ">"}
_LAST_ACTION = "app.help"
"""The key that leads on to all others stands last, and is always visible."""


@dataclass
class KeyHint:
    """One line of help: the keys as written, what they do, and the action of the first of them."""

    words: str
    action: str
    node: DOMNode
    keys: list[str] = field(default_factory=list)
    on_key_line: bool = False

    @property
    def is_one_action(self) -> bool:
        """Whether one action stands for all its keys, rather than one for each direction."""
        return "(" not in self.action

    @property
    def written(self) -> str:
        return " ".join(self.keys)


def key_hints(screen: Screen[Any]) -> list[KeyHint]:
    """Every key that works now, those of the part in focus first; keys that do one thing together stand together."""
    active = {(found.node, found.binding.action): found for found in screen.active_bindings.values() if found.enabled}
    hints: dict[tuple[DOMNode, str], KeyHint] = {}
    for node in dict.fromkeys(node for node, _ in active):
        for declared in _declared(node):
            if (node, declared.action) in active and declared.description:
                hint = KeyHint(declared.description, declared.action, node)
                hint = hints.setdefault((node, hint.words), hint)
                hint.on_key_line |= declared.show
                if (key := declared.key_display or _KEY_NAMES.get(declared.key, declared.key)) not in hint.keys:
                    hint.keys.append(key)
    return sorted(hints.values(), key=lambda hint: (hint.action == _LAST_ACTION, not hint.on_key_line))


def _declared(node: DOMNode) -> Iterator[Binding]:
    """The bindings that Auditra declares for a part of the screen, and not those of the library's widget below it."""
    for cls in type(node).__mro__:
        if cls.__module__.startswith("auditra"):
            yield from cls.__dict__.get("BINDINGS", ())
