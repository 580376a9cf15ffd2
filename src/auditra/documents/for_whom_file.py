"""The rules of for whom a device is, as TOML: users with their needs in the claim language."""

from __future__ import annotations

import re

from pydantic import Field

from auditra.core.advice.for_whom import Need, User
from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Promise
from auditra.core.errors import ClaimError
from auditra.core.judge.reasoning.reasons import all_causes
from auditra.core.model.device import BODY
from auditra.documents.nouns import Sheet, Words
from auditra.documents.toml_lines import Locator, bounded, load_toml, validate

MAX_USERS = 100
_AT_HOST = re.compile(r"power at the host (\d{1,4}(?:\.\d)?) W")


class _NeedTable(Sheet):
    is_: list[Words] = Field(alias="is", min_length=1, max_length=10)
    ports: int = Field(default=1, ge=1, le=64)
    together: bool = False
    reads: Words = ""


class _UserTable(Sheet):
    name: Words
    need: list[_NeedTable] = Field(min_length=1, max_length=20)
    not_with: list[Words] = Field(default_factory=list)
    kinds: list[Words] = Field(default_factory=list)
    without_kinds: list[Words] = Field(default_factory=list)
    on_the_road: bool = False


class _UsersFile(Sheet):
    user: bounded(_UserTable, MAX_USERS)  # type: ignore[valid-type]


def read_users(text: str, file: str) -> tuple[User, ...]:
    """The kinds of users with their needs. Raises: SheetError with the line of what cannot be read."""
    locate = Locator(text, file)
    sheet = validate(_UsersFile, load_toml(text, locate), locate)
    causes = {cause.id for cause in all_causes()}
    found = []
    for number, user in enumerate(sheet.user):
        for cause in user.not_with:
            if cause not in causes:
                raise locate.error(("user", number, "not_with"), "there is no finding of this kind", cause)
        needs = tuple(_need(each, locate, number) for each in user.need)
        kinds = tuple(user.kinds), tuple(user.without_kinds)
        found.append(User(user.name, needs, tuple(user.not_with), *kinds, user.on_the_road))
    return tuple(found)


def _need(table: _NeedTable, locate: Locator, number: int) -> Need:
    watts = _AT_HOST.fullmatch(table.reads)
    if table.reads and watts is None:
        why = 'expected "power at the host 60 W"'
        raise locate.error(("user", number, "need"), why, table.reads)
    promises = tuple(_promise(words, locate, number) for words in table.is_)
    return Need(promises, table.ports, table.together, float(watts[1]) if watts else None)


def _promise(words: str, locate: Locator, number: int) -> Promise:
    try:
        return parse_claim(f"{BODY} {words}", claim_id="need").promise
    except ClaimError as error:
        raise locate.error(("user", number, "need"), error.why, words) from error
