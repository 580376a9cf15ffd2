"""The commands for what the reader of a review gets: score, profiles, report."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from auditra.cli.composition import LibraryHandle
from auditra.core.sanitize import sanitize

reader = typer.Typer()
AuditName = Annotated[str, typer.Argument(help="Name of the audit, such as OP-6.", show_default=False)]


@reader.command()
def score(
    context: typer.Context,
    audit: AuditName,
    profile: Annotated[str | None, typer.Option(help="Score with this profile.", show_default=False)] = None,
    keep: Annotated[bool, typer.Option("--keep", help="The audit keeps this profile from now on.")] = False,
) -> None:
    """Show where every point of the score was earned or lost, and what a profile moves."""
    from auditra.cli.scoring import score_under

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    score_under(handle, audit, profile, keep=keep)


@reader.command()
def profiles(
    context: typer.Context,
    copy: Annotated[str | None, typer.Option(help="Copy this profile, to edit it.", show_default=False)] = None,
    name: Annotated[str, typer.Option("--as", help="Name of the copy.")] = "mine",
) -> None:
    """List the score profiles, or copy one."""
    from auditra.cli.scoring import copy_profile, list_profiles

    handle: LibraryHandle = context.obj
    copy_profile(handle, copy, name) if copy else list_profiles(handle)


@reader.command()
def publish(
    context: typer.Context,
    audit: AuditName,
    out: Annotated[Path, typer.Option(help="Output folder; created if missing.")] = Path(),
    why: Annotated[str, typer.Option(help="What a new version corrects, or what is new in it.")] = "",
    draft: Annotated[bool, typer.Option("--draft", help="Write it without calling it a version.")] = False,
) -> None:
    """Write the report of an audit (HTML, PDF, Markdown) and the drawing of its faces (SVG, PDF)."""
    from auditra.bench.clock import SystemClock
    from auditra.workflows.audits.publishing import record_version

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    session = handle.session(audit)
    if not draft:
        version = record_version(session, why, SystemClock())
        typer.echo(f"version {version}")
    for path in handle.write_report(session, out):
        typer.echo(sanitize(str(path), 400))


@reader.command()
def bundle(
    context: typer.Context,
    audit: AuditName,
    out: Annotated[Path | None, typer.Option(help="File to write; AUDIT-bundle.zip otherwise.")] = None,
    key: Annotated[Path | None, typer.Option("--sign", help="Sign it with this private key.")] = None,
) -> None:
    """Pack an audit into one file: journal, evidence, sheets, rig, judgement and report."""
    from auditra.cli.bundling import write_bundle

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    write_bundle(handle, audit, out, key)


@reader.command()
def key(file: Annotated[Path, typer.Argument(help="File for the private key.", show_default=False)]) -> None:
    """Make a key that signs bundles (Ed25519)."""
    from auditra.cli.bundling import make_signing_key

    make_signing_key(file)


@reader.command(name="line-up")
def line_up(
    context: typer.Context,
    audits: Annotated[list[str], typer.Argument(help="Two to six audits, or up to 40 of leads.", show_default=False)],
    out: Annotated[Path | None, typer.Option(help="Write HTML, PDF, Markdown and CSV into this folder.")] = None,
) -> None:
    """Compare audited devices: like ports with like, a winner and a reason for every row."""
    from auditra.cli.line_up import print_line_up

    handle: LibraryHandle = context.obj
    for audit in audits:
        handle.shelve_if_demo(audit)
    if out is None:
        print_line_up(handle, audits)
        return
    for path in handle.write_line_up(audits, out):
        typer.echo(sanitize(str(path), 400))


@reader.command()
def merge(
    context: typer.Context,
    audit: AuditName,
    bundle: Annotated[Path, typer.Argument(help="Another reviewer's bundle (.zip).", show_default=False)],
) -> None:
    """Set another reviewer's audit of the same device beside yours; verdicts are shown, never averaged."""
    from auditra.cli.bundling import merge_bundle

    handle: LibraryHandle = context.obj
    merge_bundle(handle, audit, bundle)
