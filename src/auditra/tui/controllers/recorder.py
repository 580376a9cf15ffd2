"""Records what the reviewer changes, each change one action that can be undone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING

from auditra.core.errors import AuditraError
from auditra.core.journal.audit import Audit
from auditra.core.model.source import Source
from auditra.tui.forms.form import Texts
from auditra.tui.prompt import Facts
from auditra.tui.renderables.actions import action_in_words
from auditra.workflows.audits.claim_edits import claims_proposed

if TYPE_CHECKING:
    from auditra.tui.audit_state import AuditState


class Recorder:
    """Changes an audit from the interface; the next trial is worked out again after every change."""

    def __init__(self, state: AuditState) -> None:
        self._state = state

    def record(self, facts: Callable[[Audit], Facts], action: str) -> None:
        """Record facts as one action, all or none. Raises: AuditraError; then nothing is changed."""
        runner, rig = self._state.runner, self._state.judged.audit.rig
        with self._state.keeping_port():
            self._state.session.write(facts, action, runner.clock)
        runner.renew()
        self._state.gear.follow(rig)

    def saving(self, facts: Callable[[Audit, Texts], Facts], action: str, done: str) -> Callable[[Texts], str]:
        """What a form does when it is saved: records facts as one action that can be undone."""

        def save(texts: Texts) -> str:
            self.record(lambda audit: facts(audit, texts), action)
            return f"{done} Press u to undo."

        return save

    def record_proposed(self, source: Source, sentence: str, quoted: str) -> None:
        """A claim read from a seller's text, with the words it was read from. Raises: AuditraError."""
        self.record(lambda audit: claims_proposed(audit, sentence, replace(source, quoted=quoted)), "claim")

    def undo(self, *, keeps_port: bool) -> str:
        """Undo the newest action; what was undone, in words. Raises: AuditraError; then nothing is changed."""
        runner, judged = self._state.runner, self._state.judged
        audit = judged.audit
        if not audit.undoable:
            return "There is nothing to undo."
        words = action_in_words(audit.undoable[-1], audit.undoable_facts[-1], audit, judged.judgement)
        with self._state.keeping_port():
            self._state.session.undo(runner.clock)
        self._state.gear.follow(audit.rig)
        runner.log.add(runner.clock.moment(), f"undone: {words}")
        runner.prepare_next(keeps_port=keeps_port)
        return f"Undone: {words}."

    def follow(self) -> bool:
        """Read what another window or command has recorded; whether there was anything."""
        before = self._state.judged
        try:
            with self._state.keeping_port():
                after = self._state.session.refresh()
        except AuditraError:
            return False  # the error is shown when something is done
        if after is not before:
            self._state.runner.renew()
        return after is not before
