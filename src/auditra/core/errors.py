"""What can go wrong, said so that the reader can act on it.

    AuditraError            what failed, where, why, and what to do
    ├── InputError          somebody wrote something that cannot be read
    │   ├── QuantityError       a number without a unit, or with an unknown one
    │   ├── AmbiguousName       a name that several links go by
    │   ├── ClaimError          a sentence that is not in the claim language
    │   ├── SheetError          a claim sheet or rig file, with file, line and key path
    │   ├── FactRefused         a fact that does not fit what was recorded before it
    │   └── FactsRefused        a file of facts, with every line that is wrong
    ├── BenchError          something outside did not answer as it should
    │   ├── InstrumentError     a meter or load is silent, or talks nonsense
    │   ├── TargetError         the drive or card under test is gone or full
    │   └── TrialStopped        the reviewer stopped the trial
    └── StoreError          the library on disk
        ├── LibraryTooNew       written by a newer Auditra
        ├── LibraryBusy         another Auditra is writing to it
        ├── LibraryFull         the disk has no room
        ├── LibraryReadOnly     it can be read, and not written to
        ├── StaleHead           another window or command was faster
        ├── JournalDamaged      an entry was changed or removed
        └── NoSuchAudit         nothing of that name on the shelf

A device that breaks its promise is a reading, a value. An exception means that we cannot go on.
"""

from __future__ import annotations

from typing import Any


class AuditraError(Exception):
    """Something that a person can read and act on; the fields come first, the text is made from them."""

    def __init__(self, what: str, *, where: str = "", why: str = "", do: str = "") -> None:
        super().__init__(what, where, why, do)
        self.what, self.where, self.why, self.do = what, where, why, do

    def __reduce__(self) -> tuple[Any, ...]:
        """Errors cross from one process to another as they are; their constructors take words, not fields."""
        return _restore_error, (type(self), self.args, self.__dict__)

    def __str__(self) -> str:
        head = f"{self.where}: {self.what}" if self.where else self.what
        parts = [f"{head}: {self.why}" if self.why else head, self.do]
        text = ". ".join(part.rstrip(".") for part in parts if part)
        return text if text.endswith("?") else f"{text}."


def _restore_error(kind: type[AuditraError], args: tuple[Any, ...], fields: dict[str, Any]) -> AuditraError:
    error = kind.__new__(kind, *args)
    error.args = args
    error.__dict__.update(fields)
    return error


class InputError(AuditraError):
    """Somebody wrote something that cannot be read."""


class QuantityError(InputError):
    """A value whose number or unit cannot be read.

    `expected` is what must stand in place of the number, where its unit is right and the number is not.
    """

    def __init__(self, what: str, *, why: str, do: str = "", expected: str = "") -> None:
        super().__init__(what, why=why, do=do or f"Write {expected}")
        self.expected = expected


class AmbiguousName(InputError):
    """A name that several things go by; the seller has to be asked which."""

    def __init__(self, name: str, candidates: tuple[str, ...]) -> None:
        super().__init__(
            f'"{name[:60]}"', why=f"this may be {' or '.join(candidates)}", do="Ask which one, and write that"
        )
        self.candidates = candidates


class ClaimError(InputError):
    """A sentence that is not in the claim language."""

    def __init__(self, sentence: str, *, column: int, found: str, expected: str, nearest: str = "") -> None:
        meant = f'did you mean "{nearest}"?' if nearest else ""
        found_words = f'"{found}"' if found else "the end of the sentence"
        super().__init__(
            f'"{sentence}"',
            where="",
            why=f"column {column}: found {found_words}, expected {expected}",
            do=meant,
        )
        self.sentence, self.column, self.found, self.expected, self.nearest = (
            sentence, column, found, expected, nearest,
        )  # fmt: skip


class SheetError(InputError):
    """A claim sheet or rig file that cannot be used, with the place to mend."""

    def __init__(self, why: str, *, file: str, line: int | None, key_path: str, words: str = "", do: str = "") -> None:
        place = f"{file}, line {line}" if line else file
        what = f"{key_path} = {words}" if key_path and words else key_path or "this file"
        super().__init__(what, where=place, why=why, do=do)
        self.file, self.line, self.key_path, self.words = file, line, key_path, words


class FactRefused(InputError):
    """A fact that does not fit what was recorded before it; nothing was recorded."""


class AuditClosed(FactRefused):
    """The audit is signed off, and closed to others than who signed it."""


class FactsRefused(InputError):
    """A file of facts that was not taken, with the reason of every line that is wrong, as far as they are listed."""

    MAX_LISTED = 40

    def __init__(self, file: str, problems: list[tuple[int, str]], more: int = 0) -> None:
        told = "; ".join(f"line {line}: {why}" for line, why in problems)
        rest = f"; and {more} more" if more else ""
        super().__init__("nothing was taken", where=file, why=f"{told}{rest}", do="Mend these lines, then import again")
        self.problems, self.more = tuple(problems), more


class BenchError(AuditraError):
    """Something outside the application did not answer as it should; the trial can be repeated."""


class InstrumentError(BenchError):
    """A meter or load that is silent, or whose answer cannot be trusted."""


class TargetError(BenchError):
    """The drive or card under test is gone, full, or refuses."""


class TrialStopped(BenchError):
    """The reviewer stopped the trial; what had been taken stays taken."""


class StoreError(AuditraError):
    """The library on disk cannot be used as it is."""


class LibraryTooNew(StoreError):
    """The library was written by a newer Auditra."""


class LibraryBusy(StoreError):
    """Another Auditra holds what this one needs."""


class LibraryFull(StoreError):
    """The disk has no room; nothing was taken."""


class LibraryReadOnly(StoreError):
    """The library can be read, and not written to."""


class LibraryUnreachable(StoreError):
    """A database does not answer, or the line to it broke: whether the last write took place is not known."""


class StaleHead(StoreError):
    """The journal has grown since it was read; the action must be repeated on what is there now."""


class JournalDamaged(StoreError):
    """An entry of the journal was changed or removed from outside."""


class NoSuchAudit(StoreError):
    """Nothing of that name is on the shelf."""
