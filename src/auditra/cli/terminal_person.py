"""The reviewer at a plain terminal: moves are printed, and a line is waited for."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import typer

from auditra.core.claims.promise import Look
from auditra.core.errors import TrialStopped
from auditra.core.journal.audit import Audit
from auditra.core.sanitize import sanitize
from auditra.core.wiring.moves import PlugMove, in_words
from auditra.workflows.trials.measure.rule import ask_length


@dataclass(frozen=True)
class TerminalPerson:
    """Asks on the terminal. With `plugged`, everything stands as the trial wants it and no move is waited for."""

    audit: Audit
    plugged: bool = False

    def make(self, moves: Sequence[PlugMove], seen: Callable[[], bool] | None = None) -> None:
        for move in moves:
            typer.echo(sanitize(f"  {in_words(move, self.audit.device_of(move.device), self.audit.rig)}", 300))
        if moves and not self.plugged:
            self._line("  press Enter when that is done: ")

    def look(self, spot: str, look: Look, question: str) -> str:
        return self.ask(question, look.hint)

    def read_rule(self, port: str, words: str) -> float:
        return ask_length(self, port)

    def wait(self, words: str, about_s: float) -> None:
        self._line(f"  {sanitize(words, 300)}: press Enter when that is done: ")

    def ask(self, question: str, hint: str) -> str:
        return self._line(f"  {sanitize(question, 300)}\n  such as {sanitize(hint, 80)}: ")

    def _line(self, prompt: str) -> str:
        typer.echo(prompt, nl=False)
        try:
            return input()
        except EOFError:
            do = "Use --plugged if everything is already connected, or answer at a terminal"
            raise TrialStopped("the trial", why="no answer on standard input", do=do) from None
