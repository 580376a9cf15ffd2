"""What every stage of the work is: a widget with its own keys, which shows an audit and asks its screen for changes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar, TypeVar

from textual import events
from textual.binding import Binding, BindingType
from textual.containers import VerticalScroll
from textual.content import Content
from textual.widget import Widget

from auditra.tui.audit_state import AuditState
from auditra.tui.theme import Palette
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.shown_text import ShownText

Item = TypeVar("Item")


class Panel(VerticalScroll, can_focus=True, inherit_bindings=False):
    """One part of a stage. The panel in focus is the one that the page keys scroll; arrow keys choose a port."""

    DEFAULT_CSS = "Panel { padding: 1 2 0 2; scrollbar-size-vertical: 1; }"
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("pageup", "turn_page(-1)", "scroll", show=False, key_display="pgup pgdn"),
        Binding("pagedown", "turn_page(1)", "scroll", show=False, key_display="pgup pgdn"),
        Binding("home", "go_to_end(-1)", "top, bottom", show=False),
        Binding("end", "go_to_end(1)", "top, bottom", show=False),
    ]

    def action_turn_page(self, direction: int) -> None:
        """At once, like every other key."""
        page = self.scrollable_content_region.height
        self.scroll_to(y=self.scroll_y + direction * page, animate=False)

    def action_go_to_end(self, direction: int) -> None:
        self.scroll_to(y=self.max_scroll_y if direction > 0 else 0, animate=False)

    @property
    def text_width(self) -> int:
        """Columns for text beside the scroll bar; 0 before there is a layout."""
        return max(0, self.content_size.width - self.styles.scrollbar_size_vertical)

    def keep_in_sight(self, line: int, covered: int = 0) -> None:
        """Scroll so that a line of the text is visible, with some of what comes before it.

        `covered` is how many rows something that stays at the top takes.
        """
        rows = self.size.height - covered
        if not self.scroll_y <= line < self.scroll_y + rows - 3:
            self.scroll_to(y=max(0, line - rows // 3), animate=False)


class Stage(Widget):
    """One stage of the work. Its screen calls `show` whenever something has changed while the stage is current.

    Keys are the stage's `BINDINGS`; the key line and the help list them from there. A stage changes nothing of the
    audit itself: it posts messages (`auditra.tui.messages`) or asks a controller of the state.
    """

    DEFAULT_CSS = "Stage { height: 1fr; layout: horizontal; }"
    NAME: ClassVar[str]
    """As it stands on the track."""
    PANELS: ClassVar[tuple[str, ...]]
    """Ids of its panels; a narrow screen shows one at a time, the first one first."""

    SHOWS_TRIAL: ClassVar[bool] = False
    """Whether it shows the next trial with its moves, and what became of it."""

    def __init__(self) -> None:
        super().__init__(id=type(self).__name__.lower(), classes=f"front-{self.PANELS[0]}")
        self._front = self.PANELS[0]
        self._state: AuditState | None = None

    @property
    def state(self) -> AuditState:
        """What the screen last had it show. Raises: LookupError before that; no key works then."""
        if self._state is None:
            raise LookupError(f"stage {self.NAME} has been given no audit yet")
        return self._state

    @property
    def has_audit(self) -> bool:
        """Whether it has been shown one: a key that comes before that finds nothing to change."""
        return self._state is not None

    @property
    def palette(self) -> Palette:
        return palette_of(self)

    @property
    def front(self) -> Panel:
        """The panel that a narrow screen shows, and that the page keys scroll."""
        return self.panel(self._front)

    @property
    def focus_target(self) -> Widget:
        """What takes the keys when the stage becomes current."""
        return self.front

    def panel(self, name: str) -> Panel:
        return self.query_one(f"#{name}", Panel)

    def set_text(self, name: str, text: Content | str) -> None:
        self.query_one(f"#{name}", ShownText).update(text)

    def show(self, state: AuditState) -> None:
        """Show an audit. Widths are known only once there is a layout: before that, nothing is painted."""
        self._state = state
        if self.size.width:
            self.paint(state)

    def show_port(self, state: AuditState) -> None:
        """Show that another port was chosen; nothing else has changed."""
        self.show(state)

    def show_progress(self, state: AuditState) -> None:
        """Show what changes many times a second while a trial runs; most stages show nothing of it."""

    def paint(self, state: AuditState) -> None:
        """Put every text of the stage in its place."""
        raise NotImplementedError

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        """What happens at this stage and why, for somebody who has never done an audit."""
        return ()

    def on_resize(self) -> None:
        if self._state is not None:
            self.paint(self._state)

    def on_descendant_focus(self, event: events.DescendantFocus) -> None:
        if isinstance(event.widget, Panel) and event.widget.id in self.PANELS:
            self._bring_to_front(str(event.widget.id))

    def turn_to(self, name: str) -> None:
        """Bring a panel to the front, and give it the keys where this stage has them."""
        self._bring_to_front(name)
        if self.has_focus_within:
            self.screen.set_focus(self.focus_target, scroll_visible=False)

    def action_next_panel(self) -> None:
        at = self.PANELS.index(self._front)
        self.turn_to(self.PANELS[(at + 1) % len(self.PANELS)])

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        is_ready = self._state is not None and getattr(self.screen, "is_ready", True)
        return is_ready and super().check_action(action, parameters)

    def _bring_to_front(self, name: str) -> None:
        if name != self._front:
            self.set_class(False, f"front-{self._front}")
            self.set_class(True, f"front-{name}")
            self._front = name
            self.call_after_refresh(self.on_resize)


def stepped(items: Sequence[Item], chosen: Item, step: int) -> Item:
    """The item before or after the chosen one; at either end, that end."""
    return items[min(len(items) - 1, max(0, items.index(chosen) + step))]


NEXT_PANEL = Binding("tab", "next_panel", "panel")
"""For stages with more than one panel."""
