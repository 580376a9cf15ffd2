"""The palette of commands, made safe for keys that come before its list is there, or after it has gone."""

from __future__ import annotations

from textual.command import CommandList, CommandPalette


class SafePalette(CommandPalette):
    """Textual's own, which fails on page keys in a list that has no height yet, and on any key while it closes."""

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        commands = self.query(CommandList)
        if not commands:
            return False
        if action == "command_list" and not (commands.first().size.height and commands.first().option_count):
            return False
        return super().check_action(action, parameters)
