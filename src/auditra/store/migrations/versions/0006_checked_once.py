"""In a team's database: what is added to a journal is checked once for all of it, and no longer entry by entry."""

from __future__ import annotations

from alembic import op

revision, down_revision = "0006", "0005"

_CHECK = """
DROP TRIGGER no_gaps ON entry;
DROP TRIGGER open_only ON entry;
DROP TRIGGER signed_off ON entry;
DROP FUNCTION require_next();
DROP FUNCTION require_open();
DROP FUNCTION close_or_open();
CREATE FUNCTION check_added() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path FROM CURRENT AS $$
DECLARE
    part record;
    closed text;
BEGIN
    FOR part IN
        SELECT added.audit, min(number) AS first, max(number) AS last, count(*) AS entries,
            max(number) FILTER (WHERE kind = 'signed off') AS signed
        FROM added GROUP BY added.audit
    LOOP
        IF part.last - part.first + 1 <> part.entries OR (part.first > 1 AND NOT EXISTS (
            SELECT 1 FROM entry WHERE audit = part.audit AND number = part.first - 1
        )) THEN
            RAISE EXCEPTION 'entry % does not follow the one before', part.first USING ERRCODE = 'check_violation';
        END IF;
        SELECT closed_by INTO closed FROM audit WHERE id = part.audit;
        IF closed IS NOT NULL AND closed <> session_user THEN
            RAISE EXCEPTION 'the audit is signed off' USING ERRCODE = 'insufficient_privilege';
        END IF;
        IF part.signed IS NOT NULL THEN
            UPDATE audit SET closed_by = (
                SELECT CASE WHEN body::json ->> 'is_open' = 'true' THEN NULL ELSE session_user END
                FROM entry WHERE audit = part.audit AND number = part.signed
            ) WHERE id = part.audit;
        END IF;
    END LOOP;
    RETURN NULL;
END $$;
CREATE TRIGGER checked AFTER INSERT ON entry REFERENCING NEW TABLE AS added
FOR EACH STATEMENT EXECUTE FUNCTION check_added();
"""
"""It runs with the rights of the owner, who alone may say by whom an audit is closed."""


def upgrade() -> None:
    if op.get_context().dialect.name == "postgresql":
        op.execute(_CHECK)
