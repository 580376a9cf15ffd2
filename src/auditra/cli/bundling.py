"""``auditra bundle``, ``auditra verify FILE``, ``auditra key``: an audit whole, proved, and signed."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from auditra import __version__
from auditra.cli.composition import LibraryHandle
from auditra.cli.judging import say
from auditra.core.advice.replication import beside_each_other
from auditra.core.counted import counted
from auditra.core.errors import AuditraError, InputError, StoreError
from auditra.core.journal.facts import EvidenceKept
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.sanitize import sanitize
from auditra.documents.judgement import judgement_file
from auditra.documents.profile_file import read_profile, write_profile
from auditra.publish import stem_of
from auditra.store.bundle import JUDGEMENT, PROFILE, REPORT, Bundle, load_bundle, pack
from auditra.store.signing import make_key
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.replicating import others_of
from auditra.workflows.input_files import read_plain
from auditra.workflows.output_files import make_folder, write_atomically

MAX_KEY_BYTES = 1 << 16
ENDING = ".zip"


def write_bundle(handle: LibraryHandle, name: str, out: Path | None, key: Path | None) -> None:
    """Pack an audit with its report. Raises: InputError, StoreError."""
    session = handle.session(name)
    path = out or Path(f"{stem_of(name)}-bundle{ENDING}")
    data = bundle_of(handle, session, read_plain(key, MAX_KEY_BYTES) if key is not None else None)
    try:
        make_folder(path.parent)
        write_atomically(path, data)
    except OSError as error:
        raise StoreError(str(path), why=error.strerror or str(error), do="Choose another file with --out") from error
    say(f"{path}: {counted(len(session.entries()), 'entry')}, {len(data)} bytes")


def bundle_of(handle: LibraryHandle, session: AuditSession, key: bytes | None = None) -> bytes:
    """An audit as a bundle: journal, evidence, sheets, rig, profile, judgement and report."""
    files = {f"{REPORT}/{name}": data for name, data in handle.report_of(session).items()}
    judged = session.judged
    files[JUDGEMENT] = judgement_file(judged).model_dump_json(indent=2).encode() + b"\n"
    files[PROFILE] = write_profile(judged.judgement.profile).encode()
    reviewer = judged.audit.device.reviewed_by
    signer = reviewer if isinstance(reviewer, str) else ""
    return pack(session.name, session.entries(), files, session.evidence_of, key, signer)


def verify_bundle(path: Path) -> None:
    """Prove that nothing in a bundle was changed, and judge it again. Raises: InputError, AuditraError."""
    bundle = load_bundle(path, datetime.now(UTC))
    files = sum(isinstance(entry.fact, EvidenceKept) for entry in bundle.audit.entries)
    say(f"bundle: {counted(len(bundle.files), 'file')}, each with the SHA-256 of its manifest; not a byte more")
    say(f"chain: {counted(len(bundle.audit.entries), 'entry')}, each tied to the one before; it ends in {bundle.head}")
    say(f"evidence: {counted(files, 'file')}, each the one that the journal names")
    if bundle.signature is None:
        say("signature: none; that nothing was changed is proved, not who wrote it")
    else:
        say(f"signature: {bundle.signature.name or 'no name'}, key {bundle.signature.fingerprint}")
    differing = judged_again(bundle)
    for line in differing:
        say(f"! {line}")
    if differing:
        why = f"{counted(len(differing), 'difference')} between its judgement and the one made now"
        raise AuditraError(
            sanitize(str(path), 200), why=why, do=f"It was judged by {bundle.written_by}; see what differs"
        )
    say(f"judged again by auditra {__version__}: every verdict and the score are the same")


def judged_bundle(bundle: Bundle) -> JudgedAudit:
    """The audit of a bundle, judged now with the profile that came with it. Raises: SheetError."""
    audit = fold_audit(bundle.audit.name, bundle.audit.entries)
    if PROFILE not in bundle.files:
        raise InputError(PROFILE, why="the bundle has none", do="Ask for the bundle again")
    profile = read_profile(bundle.files[PROFILE].decode("utf-8", "replace"), PROFILE)
    return JudgedAudit(audit, judge(audit, profile), audit.bench or SIMULATED_BENCH)


def judged_again(bundle: Bundle) -> list[str]:
    """What a judgement made now says otherwise than the one in the bundle, in words."""
    made = json.loads(judgement_file(judged_bundle(bundle)).model_dump_json())
    try:
        then: dict[str, Any] = json.loads(bundle.files.get(JUDGEMENT, b"{}"))
        claims = {each["sentence"]: f"{each['verdict']} {each['condition']}".strip() for each in then["claims"]}
        score = then["score"]["value"]
    except (ValueError, KeyError, TypeError, RecursionError):
        return [f"{JUDGEMENT} cannot be read"]
    now = {each["sentence"]: f"{each['verdict']} {each['condition']}".strip() for each in made["claims"]}
    differing = [
        f"{sentence}: {claims.get(sentence, 'no claim')} then, {now.get(sentence, 'no claim')} now"
        for sentence in dict.fromkeys([*claims, *now])
        if claims.get(sentence) != now.get(sentence)
    ]
    if score != made["score"]["value"]:
        differing.append(f"score: {score} then, {made['score']['value']} now")
    return differing


def make_signing_key(path: Path) -> None:
    """A new key. Raises: StoreError."""
    say(f"key {make_key(path)}")
    say(f"{path} is the private part: keep it, and show the key's digits where readers can compare them.")


def merge_bundle(handle: LibraryHandle, name: str, path: Path) -> None:
    """Set a bundle beside an audit, and print where they agree. Raises: InputError, FactsRefused, StoreError."""
    session = handle.session(name)
    judged = handle.merge(session, path)
    others = others_of(judged.audit, session.evidence_of, handle.read_facts, judged.judgement.profile)
    for each in beside_each_other(judged, others):
        words = " | ".join(verdict.verdict.word if verdict is not None else "-" for verdict in each.verdicts)
        say(f"{each.sentence}: {words} ({each.agreement})")
