"""What the documents show works as they show it."""

from __future__ import annotations

import re
import shutil
from datetime import UTC, datetime
from importlib import resources
from pathlib import Path

import pytest

from auditra.cli.decode import cable_of
from auditra.core.claims.language import promise_kinds, split_claims
from auditra.core.decode.power_delivery.hearing import hold_conversation
from auditra.core.decode.power_delivery.log import read_log
from auditra.core.decode.problem import Code
from auditra.core.journal.facts import FACT_KINDS
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import judge
from auditra.core.model.reading import Quantity
from auditra.core.paper_check.check import RULES
from auditra.store.exchange import FACTS_FILE, read_audit
from tests.support.audits import PROFILE

HOME = Path(__file__).resolve().parent.parent
FACTS = (HOME / "docs" / "facts.md").read_text()
CLAIMS = (HOME / "docs" / "claim-language.md").read_text()


def test_the_audit_by_hand_in_the_facts_document_is_taken_and_judged(tmp_path: Path) -> None:
    demo = resources.files("auditra") / "data" / "demo"
    shutil.copy(str(demo / "brackwater-bw-11.toml"), tmp_path / "claims.toml")
    shutil.copy(str(demo / "galley.toml"), tmp_path / "rig.toml")
    example = FACTS.split("## A whole audit by hand")[1]
    lines = [line.strip() for line in example.splitlines() if line.startswith("    {")]
    (tmp_path / FACTS_FILE).write_text("\n".join(lines))
    audit = fold_audit("by hand", read_audit(tmp_path, datetime(2026, 4, 1, tzinfo=UTC)).entries)
    assert [each.verdict.word for each in judge(audit, PROFILE).claims if str(each.claim).startswith("H1 shows")] == [
        "holds"
    ]


@pytest.mark.parametrize("word", [*FACT_KINDS, *(str(quantity) for quantity in Quantity)])
def test_the_facts_document_names_every_kind_and_quantity(word: str) -> None:
    assert word in FACTS.replace("\n", " ")


def test_the_claim_language_document_has_every_kind_and_its_examples_are_read() -> None:
    table = [line for line in CLAIMS.splitlines() if line.startswith("| `")]
    kinds = "\n".join(table)
    for kind in promise_kinds():
        assert f"`{kind.words}`" in kinds or f"`{kind.words}` " in kinds, kind.words
    examples = re.findall(r"`((?:body|[A-Z]\d?[+|A-Z0-9\\]*|UP|far:A1) [a-z][^`]*)`", CLAIMS)
    assert len(examples) >= 45
    for example in examples:
        split_claims(example.replace("\\|", "|"))


@pytest.mark.parametrize(
    "document", ["README.md", "ARCHITECTURE.md", "CONTRIBUTING.md", "docs/facts.md", "docs/claim-language.md"]
)
def test_every_link_of_a_document_leads_somewhere(document: str) -> None:
    path = HOME / document
    for target in re.findall(r"\]\(([^)#:]+)\)", path.read_text()):
        assert (path.parent / target).exists(), target


def test_the_paper_check_document_has_every_rule_with_its_word_and_source() -> None:
    document = (HOME / "docs" / "paper-check.md").read_text()
    for rule in RULES:
        assert f"| `{rule.id}` | {rule.weight.value} |" in document, rule.id
        assert rule.source in document, rule.id


def block_of(document: str, begins: str) -> str:
    """The indented block that has a line which begins so."""
    blocks = (HOME / "docs" / document).read_text().split("\n\n")
    found = next(each for each in blocks if any(line.strip().startswith(begins) for line in each.splitlines()))
    return "\n".join(line.removeprefix("    ") for line in found.splitlines())


def test_the_log_and_the_cable_in_the_decoders_document_are_read(tmp_path: Path) -> None:
    held = hold_conversation(read_log(block_of("decoders.md", "# time").splitlines()))
    assert held.faults == ()
    assert held.contract is not None
    (tmp_path / "cable.toml").write_text(block_of("decoders.md", "marker ="))
    found = cable_of(tmp_path / "cable.toml", None)
    assert found.allows.power_w == 240
    assert {each.about for each in found.findings} == {"marker", "power", "copper", "data", "display"}


def test_the_decoders_document_names_every_code() -> None:
    told = (HOME / "docs" / "decoders.md").read_text()
    assert all(f"| `{code}` |" in told for code in Code)
