"""Files that belong to a trial: kept as they are, and read where they are a description or a power log."""

from __future__ import annotations

from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.bench.clock import SystemClock
from auditra.cli.commands import app
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.model.depth import Depth
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.verdict import Verdict
from auditra.core.simulate import display_description as made
from auditra.workflows.audits.attaching import DESCRIPTION, MAX_FILE_BYTES, POWER_LOG
from auditra.workflows.audits.audit_session import AuditSession
from tests.core.decode.test_edid import UHD, WHOLE
from tests.support import power
from tests.support.benches import run_all, session_with

POOR = made.base(UHD, made.text(0xFC, "projector"), extensions=1) + made.cta(made.video(97, 16), made.hdmi(deep=()))
LOG = "\n".join(power.log(*power.conversation())).encode()


@pytest.fixture
def session() -> AuditSession:
    done = session_with("H1 shows 3840x2160@30 hdr", "P1 takes 90 W")
    run_all(done, depth=Depth.QUICK)
    return done


def trial_at(audit: Audit, port: str | None, quantity: Quantity) -> str:
    """The first trial at a port, or direct, that read such a thing."""
    found = (each for each in audit.trials if each.trial.port == port)
    return next(each.trial.id for each in found if any(reading.quantity is quantity for reading in each.readings))


def attached(session: AuditSession, trial: str, name: str, data: bytes) -> dict[str, Reading]:
    audit = session.attach(trial, name, data, SystemClock()).audit
    record = next(each for each in audit.trials if each.trial.id == trial)
    sha256 = audit.evidence[-1].sha256
    return {str(each.quantity): each for each in record.readings if sha256 in each.evidence}


def test_what_an_adapter_leaves_out_of_a_description_is_read_of_it(session: AuditSession) -> None:
    trial = trial_at(session.judged.audit, "H1", Quantity.MODE)
    found = attached(session, trial, "through.edid", POOR)
    assert found["hdr"].yes is False
    assert found["vrr"].yes is False
    assert found["colour depth"].values == (8.0,)
    assert found["display description"].text == "projector, preferred 3840x2160@60, 2 modes"
    assert all(each.grade is Grade.READ and each.instrument == DESCRIPTION for each in found.values())


def test_what_a_description_has_proves_nothing_of_what_is_shown(session: AuditSession) -> None:
    trial = trial_at(session.judged.audit, "H1", Quantity.MODE)
    found = attached(session, trial, "through.edid", WHOLE)
    assert set(found) == {"display description"}


def test_hdr_that_is_missing_through_and_there_direct_is_the_devices_own(session: AuditSession) -> None:
    def verdict() -> Verdict:
        return next(each.verdict for each in session.judged.judgement.claims if "hdr" in str(each.claim))

    audit = session.judged.audit
    assert verdict() is Verdict.HOLDS
    attached(session, trial_at(audit, None, Quantity.MODE), "direct.edid", WHOLE)
    assert verdict() is Verdict.HOLDS
    attached(session, trial_at(audit, "H1", Quantity.MODE), "through.edid", POOR)
    assert verdict() in (Verdict.SHORT, Verdict.BROKEN)


def test_hdr_that_the_display_itself_does_not_have_accuses_nobody(session: AuditSession) -> None:
    audit = session.judged.audit
    attached(session, trial_at(audit, None, Quantity.MODE), "direct.edid", POOR)
    attached(session, trial_at(audit, "H1", Quantity.MODE), "through.edid", POOR)
    verdict = next(each.verdict for each in session.judged.judgement.claims if "hdr" in str(each.claim))
    assert verdict not in (Verdict.SHORT, Verdict.BROKEN)


def test_a_power_log_gives_offered_agreed_and_why(session: AuditSession) -> None:
    trial = trial_at(session.judged.audit, "P1", Quantity.POWER)
    found = attached(session, trial, "pd.log", LOG)
    assert found["power offered"].values == (100.0,)
    assert found["power agreed"].values == (90.0,)
    assert found["marker"].text is not None
    assert found["marker"].text.startswith("passive cable of 1f6e")
    assert all(each.instrument == POWER_LOG for each in found.values())


def test_a_photo_is_kept_and_read_for_nothing(session: AuditSession) -> None:
    assert attached(session, session.judged.audit.trials[0].trial.id, "lamp.jpg", b"\xff\xd8\xff" + bytes(100)) == {}
    assert session.judged.audit.evidence[-1].name == "lamp.jpg"


def test_it_can_be_taken_back(session: AuditSession) -> None:
    trial, kept = trial_at(session.judged.audit, "P1", Quantity.POWER), len(session.judged.audit.evidence)
    attached(session, trial, "pd.log", LOG)
    session.undo(SystemClock())
    assert len(session.judged.audit.evidence) == kept
    record = next(each for each in session.judged.audit.trials if each.trial.id == trial)
    assert all(each.instrument != POWER_LOG for each in record.readings)


def test_a_trial_that_is_not_there_and_a_file_that_is_too_long_are_refused(session: AuditSession) -> None:
    with pytest.raises(InputError, match="not in this audit"):
        session.attach("T99", "x", b"", SystemClock())
    with pytest.raises(InputError, match="longer than"):
        session.attach("T1", "x", bytes(MAX_FILE_BYTES + 1), SystemClock())


def test_the_host_tells_which_mode_it_sends(session: AuditSession) -> None:
    readings = [each for record in session.judged.audit.trials for each in record.readings]
    sent = {each.at: each.text for each in readings if each.quantity is Quantity.MODE_SENT}
    assert sent["H1"] == "3840x2160@30"
    assert sent["direct"] == "3840x2160@60"


def test_from_the_shell(tmp_path: Path) -> None:
    log = tmp_path / "pd.log"
    log.write_bytes(LOG)
    run, library = CliRunner(), ["--library", str(tmp_path / "library")]
    assert run.invoke(app, [*library, "attach", "OP-6", "T1", str(log)]).exit_code != 0
    assert "T1" in str(run.invoke(app, [*library, "attach", "OP-6", "T1", str(log)]).exception)
    assert run.invoke(app, [*library, "attach", "OP-6", "T1", str(tmp_path / "none")]).exit_code != 0
