"""A report and a line-up can be made of any audit: of random ones, too, no sentence comes from nothing."""

from __future__ import annotations

from itertools import pairwise

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.line_up.make import document_of_line_up, line_up_of, table_of_line_up
from auditra.core.report.material import Material
from auditra.core.report.missing import missing_from
from auditra.core.report.report import make_report
from auditra.publish import ReportFormat, report_files
from auditra.publish.csv_table import csv_of
from tests.core.report.test_report import USERS, finished_evidence, resolves
from tests.support.audits import PROFILE
from tests.truth.worlds import cases

AUDITS, PRINTED = 120, 12


def test_random_audits_are_told_and_lined_up() -> None:
    judged = [JudgedAudit(case.audit, judge(case.audit, PROFILE), "simulated bench") for case in cases(AUDITS, seed=19)]
    for number, each in enumerate(judged):
        document = make_report(Material(each, "0" * 64, "Auditra", USERS))
        for sentence in document.sentences():
            assert sentence.refs or not sentence.text, sentence
            assert all(resolves(each, ref.kind, ref.name) for ref in sentence.refs), sentence
        missing_from(each)
        if number < PRINTED:
            files = report_files(document, each, "x", finished_evidence, None, tuple(ReportFormat))
            assert len(files) >= 5
    for pair in pairwise(judged):
        made = line_up_of(pair)
        assert document_of_line_up(made).chapters
        lines = table_of_line_up(made)
        assert len({len(line) for line in lines}) == 1
        assert csv_of(lines)
