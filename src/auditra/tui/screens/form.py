"""A form on the screen: a line a field, what may stand in it below, complete by keys alone. It keeps a draft."""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.content import Content
from textual.message import Message
from textual.screen import ModalScreen
from textual.widget import Widget
from textual.widgets import Input

from auditra.core.errors import AuditraError
from auditra.core.sanitize import sanitize
from auditra.documents.typed_noun import FieldRefused
from auditra.tui.forms.form import Form, FormField
from auditra.tui.screens.base import LeavingScreen
from auditra.tui.widgets.draft import Draft
from auditra.tui.widgets.frame_lines import KeyLine, TitleLine, palette_of
from auditra.tui.widgets.offers_line import OffersLine
from auditra.tui.widgets.shown_text import ShownText

if TYPE_CHECKING:
    from auditra.workflows.services import Drafts

MAX_TYPED = 1000


class FieldLine(Input):
    """One field. Tab takes what is offered, else goes on to the next field."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("enter", "submit", "next field", show=False),
        Binding("down", "next_field(1)", "field", key_display="↑↓"),
        Binding("up", "next_field(-1)", "field", key_display="↑↓"),
        Binding("tab", "take_or_go_on", "accept, next"),
        Binding("shift+tab", "next_field(-1)", "previous", show=False),
        Binding("ctrl+n", "turn_offer(1)", "other suggestion", show=False),
    ]

    class Moved(Message):
        """Another field is wanted, so many further."""

        def __init__(self, by: int) -> None:
            super().__init__()
            self.by = by

    class Turned(Message):
        """Another offer is highlighted."""

    def __init__(self, field: FormField, text: str) -> None:
        super().__init__(
            sanitize(text, MAX_TYPED),
            field.example,
            id=f"field-{field.key}",
            max_length=MAX_TYPED,
            select_on_focus=False,
        )
        self.field, self.turn = field, 0

    @property
    def form(self) -> FormScreen:
        assert isinstance(self.screen, FormScreen)
        return self.screen

    def offers(self) -> tuple[str, tuple[str, ...]]:
        return self.field.offers(self.value, self.form.texts)

    def take(self, turn: int) -> None:
        keep, offers = self.offers()
        self.value = f"{keep}{offers[turn % len(offers)]}"
        self.cursor_position, self.turn = len(self.value), 0

    def action_take_or_go_on(self) -> None:
        _, offers = self.offers()
        if offers:
            self.take(self.turn)
        else:
            self.post_message(self.Moved(1))

    def action_next_field(self, by: int) -> None:
        self.post_message(self.Moved(by))

    def action_turn_offer(self, by: int) -> None:
        _, offers = self.offers()
        if offers:
            self.turn = (self.turn + by) % len(offers)
            self.post_message(self.Turned())


class FormScreen(LeavingScreen, ModalScreen[None]):
    """Asks for the fields of a form and saves them all at once. What was typed and not saved is there the next time."""

    DEFAULT_CSS = """
    FormScreen { background: $background; }
    FormScreen #form-intro { height: auto; max-height: 6; padding: 1 2 0 2; color: $quiet; }
    FormScreen #fields { height: 1fr; padding: 1 2; scrollbar-size-vertical: 1; }
    FormScreen .field-row { height: 1; }
    FormScreen .field-label { width: 22; color: $quiet; }
    FormScreen .field-row.chosen .field-label { color: $accent; text-style: bold; }
    FormScreen FieldLine { height: 1; border: none; padding: 0 1; background: $background; width: 1fr; max-width: 110; }
    FormScreen FieldLine:focus { background: $panel; border: none; }
    FormScreen #field-hint { height: auto; min-height: 1; max-height: 3; padding: 0 2; color: $quiet;
        border-top: hkey $rule; }
    FormScreen OffersLine { height: 1; padding: 0 2; }
    FormScreen #form-message { height: auto; max-height: 3; padding: 0 2; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("ctrl+s", "save", "save"),
        Binding("ctrl+g", "start_over", "start over"),
        Binding("escape", "leave", "leave"),
    ]
    NEEDS: ClassVar[tuple[type[Widget], ...]] = (Vertical,)

    def __init__(self, form: Form, drafts: Drafts) -> None:
        super().__init__()
        self._form, self._draft = form, Draft(drafts, form.draft, self)
        self._kept = self._draft.kept()
        self.saved = ""
        """What saving did, in words; empty where it was left."""

    def compose(self) -> ComposeResult:
        with Vertical():
            yield TitleLine()
            yield ShownText(id="form-intro")
            with VerticalScroll(id="fields", can_focus=False):
                for field in self._form.fields:
                    with Horizontal(classes="field-row"):
                        yield ShownText(f"{field.label}{' *' if field.required else ''}", classes="field-label")
                        yield FieldLine(field, self._kept.get(field.key, field.value))
            yield ShownText(id="field-hint")
            yield OffersLine()
            yield ShownText(id="form-message")
            yield KeyLine()

    def on_mount(self) -> None:
        title = self.query_one(TitleLine)
        title.left, title.right = (sanitize(self._form.title, 80),), ("* must have a value",)
        self.query_one("#form-intro", ShownText).update(Content(self._form.intro))
        empty = next((line for line in self._lines if not line.value), self._lines[0])
        self.set_focus(empty)
        if self._kept:
            self._say("This is what was typed last time and not saved. Ctrl+G starts over.")

    def on_unmount(self) -> None:
        self._draft.write()

    @property
    def texts(self) -> dict[str, str]:
        """What is typed in each field."""
        return {line.field.key: line.value for line in self._lines}

    @property
    def _lines(self) -> list[FieldLine]:
        return list(self.query(FieldLine))

    def _say(self, message: str, *, failed: bool = False) -> None:
        palette = palette_of(self)
        style = palette.broken if failed else palette.quiet
        self.query_one("#form-message", ShownText).update(Content.styled(sanitize(message, 400), style))

    # Typing

    def on_descendant_focus(self) -> None:
        for row in self.query(".field-row"):
            row.set_class(self.focused is not None and self.focused.parent is row, "chosen")
        self._show_offers()

    @on(Input.Changed)
    def _typed(self, event: Input.Changed) -> None:
        if isinstance(event.input, FieldLine):
            event.input.turn = 0
        self._show_offers()
        changed = any(line.value != line.field.value for line in self._lines)
        self._draft.typed(self.texts if changed else {})

    @on(FieldLine.Turned)
    def _show_offers(self) -> None:
        line = self.focused
        if isinstance(line, FieldLine) and self.is_ready:
            self.query_one("#field-hint", ShownText).update(Content(line.field.hint))
            _, offers = line.offers()
            self.query_one(OffersLine).offer(offers, line.turn, self.size.width - 4)

    @on(OffersLine.Taken)
    def _offer_clicked(self, message: OffersLine.Taken) -> None:
        if isinstance(self.focused, FieldLine):
            self.focused.take(message.turn)

    @on(FieldLine.Moved)
    def _moved(self, message: FieldLine.Moved) -> None:
        lines = self._lines
        if self.focused in lines:
            at = lines.index(self.focused) + message.by
            self.set_focus(lines[min(len(lines) - 1, max(0, at))])

    @on(Input.Submitted)
    def _submitted(self, event: Input.Submitted) -> None:
        """Enter goes on to the next field, and saves from the last."""
        lines = self._lines
        if event.input is lines[-1]:
            self.action_save()
        else:
            self._moved(FieldLine.Moved(1))

    # Saving and leaving

    def action_save(self) -> None:
        try:
            self.saved = self._form.save(self.texts)
        except FieldRefused as error:
            self._say(str(error), failed=True)
            self.set_focus(next((line for line in self._lines if line.field.key == error.key), self.focused))
        except AuditraError as error:
            self._say(str(error), failed=True)
        else:
            self._draft.drop()
            self.leave()

    def action_leave(self) -> None:
        self._draft.write()
        self.leave()

    def action_start_over(self) -> None:
        """Forget the draft: every field as it was when the form was opened first."""
        for line in self._lines:
            line.value = line.field.value
        self._draft.drop()
        self._say("")
