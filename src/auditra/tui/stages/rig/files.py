"""Rig files in and out of the gear drawer."""

from __future__ import annotations

from auditra.core.errors import InputError
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.form import Form, FormField, Texts

_INTRO = "A rig file is TOML; auditra schema rig describes it. An imported rig is in the drawer: take it with g."


def files_form(state: AuditState) -> Form:
    """A file to read, or a place to write this rig to."""

    def save(texts: Texts) -> str:
        source, target = texts["import"].strip(), texts["export"].strip()
        if not source and not target:
            raise InputError("the form", why="no file is named", do="Name one to import, or a place to export to")
        done = []
        if source:
            done.append(f"Rig {state.gear.drawer.take_in(source).name} is in the drawer: press g to take it.")
        if target:
            done.append(f"Written: {state.gear.drawer.write_out(state.judged.audit.rig, target)}")
        return " ".join(done)

    fields = (
        FormField("import", "import a file", hint="the path of a rig file"),
        FormField("export", "export this rig to", hint="a folder, or a file that is not there yet"),
    )
    return Form("Rig files", _INTRO, fields, save, "rig files")
