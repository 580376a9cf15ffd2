"""What one bench of a team has judged, for the others: believed only of the same journal and the same Auditra."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from sqlalchemy import bindparam, func, select
from sqlalchemy.dialects.postgresql import insert

from auditra import __version__
from auditra.store.claim_cache import decode_claims, encode_claims
from auditra.store.dialects.dialect import Dialect
from auditra.store.schema import AUDITS, JUDGED
from auditra.store.shelf_cache import decode_row, encode_row
from auditra.workflows.audits.shelf import Glance

MOST_CHARACTERS = 4 << 20
_OF = (
    select(JUDGED.c.shelf_row, JUDGED.c.claims)
    .join(AUDITS, (AUDITS.c.id == JUDGED.c.audit) & (AUDITS.c.head == JUDGED.c.head))
    .where(AUDITS.c.name.in_(bindparam("names", expanding=True)), JUDGED.c.version == __version__)
    .where(func.length(JUDGED.c.shelf_row) + func.length(JUDGED.c.claims) <= MOST_CHARACTERS)
)
_PUT = insert(JUDGED).from_select(
    ["audit", "version", "head", "shelf_row", "claims"],
    select(
        AUDITS.c.id, bindparam("version"), AUDITS.c.head, bindparam("shelf_row"), bindparam("claims")
    ).where(AUDITS.c.name == bindparam("audit_name"), AUDITS.c.head == bindparam("judged_head")),
)  # fmt: skip
_PUT = _PUT.on_conflict_do_update(
    index_elements=["audit", "version"], set_={name: _PUT.excluded[name] for name in ("head", "shelf_row", "claims")}
)


class JudgedRows:
    """Rows of one database."""

    def __init__(self, dialect: Dialect) -> None:
        self._dialect = dialect

    def of(self, heads: Mapping[str, str]) -> dict[str, Glance]:
        """Of these audits, by name, those whose journal ends in this link still. Raises: StoreError."""
        with self._dialect.translate_errors(), self._dialect.engine.connect() as db:
            rows = db.execute(_OF, {"names": list(heads)}).all()
        found = {}
        for row in rows:
            shelf_row, claims = decode_row(row.shelf_row), decode_claims(row.claims)
            if shelf_row is not None and claims is not None and heads.get(shelf_row.name) == shelf_row.head:
                found[shelf_row.name] = Glance(shelf_row, claims)
        return found

    def keep(self, glances: Iterable[Glance]) -> None:
        """For the others, where a journal still ends as it was judged. Raises: StoreError."""
        rows = [
            {
                "audit_name": each.row.name, "judged_head": each.row.head, "version": __version__,
                "shelf_row": encode_row(each.row), "claims": encode_claims(each.claims),
            }
            for each in glances
        ]  # fmt: skip
        if rows and self._dialect.writable:
            with self._dialect.translate_errors(), self._dialect.writing("judged rows") as db:
                db.execute(_PUT, rows)
