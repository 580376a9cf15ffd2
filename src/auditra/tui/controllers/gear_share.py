"""The rig of an audit and the gear drawer: what is edited here is there for the next audit."""

from __future__ import annotations

from typing import TYPE_CHECKING

from auditra.core.errors import AuditraError, InputError
from auditra.core.model.rig import Rig
from auditra.tui.prompt import Facts
from auditra.workflows.audits.rig_edits import rig_taken

if TYPE_CHECKING:
    from auditra.core.journal.audit import Audit
    from auditra.tui.audit_state import AuditState
    from auditra.workflows.services import Drawer


class GearShare:
    """The drawer follows the audit's rig as long as the two were alike; one that differs is never written over."""

    def __init__(self, state: AuditState) -> None:
        self._state = state
        self._opened: Drawer | None = None
        self._compared: tuple[Rig, Rig | None] | None = None

    @property
    def drawer(self) -> Drawer:
        if self._opened is None:
            self._opened = self._state.services.open_drawer()
        return self._opened

    @property
    def names(self) -> tuple[str, ...]:
        """The rigs in the drawer."""
        return self.drawer.names()

    def in_drawer(self) -> Rig | None:
        """The drawer's rig of this name; read once for each state of the audit's."""
        rig = self._state.judged.audit.rig
        if self._compared is None or self._compared[0] is not rig:
            self._compared = rig, self.drawer.rig(rig.name)
        return self._compared[1]

    def look_again(self) -> None:
        """Another window or program may have changed the drawer."""
        self._compared = None

    def follow(self, before: Rig) -> str:
        """After a change: save the new rig, where the drawer had the old one or none; what was done, in words."""
        after = self._state.judged.audit.rig
        if after == before:
            return ""
        known = self.drawer.rig(before.name)
        return self.save() if known in (None, before) else ""

    def save(self) -> str:
        """Put the audit's rig in the drawer, whatever is there. The result in words."""
        try:
            self.drawer.save(self._state.judged.audit.rig)
        except AuditraError as error:
            return f"Not saved in the drawer: {error.why or error.what}."
        finally:
            self.look_again()
        return "Saved in the gear drawer."

    def facts_of(self, audit: Audit, name: str) -> Facts:
        """The drawer's rig of a name as the audit's. Raises: InputError."""
        rig = self.drawer.rig(name.strip())
        if rig is None:
            known = ", ".join(self.names) or "nothing yet"
            raise InputError(f'rig "{name.strip()[:40]}"', why="it is not in the drawer", do=f"The drawer has: {known}")
        return rig_taken(audit, rig)
