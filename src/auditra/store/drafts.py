"""What somebody was typing when the application ended: kept until it is recorded or dropped."""

from __future__ import annotations

import json
from collections.abc import Mapping
from contextlib import suppress
from pathlib import Path

from auditra.core.errors import InputError

FOLDER = "drafts"
MAX_BYTES = 1 << 20


class DraftFolder:
    """One file a draft. A disk that refuses costs the draft, and nothing that was recorded."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def kept(self, name: str) -> dict[str, str]:
        """What was typed under a name; nothing where there is no draft, or where it cannot be read."""
        from auditra.workflows.input_files import read_plain  # the shelf is painted before any draft is looked at

        try:
            texts = json.loads(read_plain(self._file(name), MAX_BYTES))
        except (InputError, ValueError, RecursionError):
            return {}
        if not isinstance(texts, dict):
            return {}
        return {str(key): text for key, text in texts.items() if isinstance(text, str)}

    def keep(self, name: str, texts: Mapping[str, str]) -> None:
        """Keep what is typed so far; an empty one is dropped."""
        if not any(texts.values()):
            self.drop(name)
            return
        from auditra.workflows.output_files import make_folder, write_atomically

        with suppress(OSError, UnicodeEncodeError):
            make_folder(self._folder)
            write_atomically(self._file(name), json.dumps(dict(texts)).encode())

    def drop(self, name: str) -> None:
        """It was recorded, or is not wanted."""
        with suppress(OSError):
            self._file(name).unlink(missing_ok=True)

    def _file(self, name: str) -> Path:
        """Named by its digest: a name of an audit may have any characters."""
        import hashlib

        return self._folder / f"{hashlib.sha256(name.encode('utf-8', 'surrogatepass')).hexdigest()[:32]}.json"
