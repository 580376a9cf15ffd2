"""What a follow-up shows beside the earlier audit: what was changed, and which claims were decided otherwise."""

from __future__ import annotations

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.judge.follow_up import ClaimChange, FollowUp
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import hanging, heading, verdict_words
from auditra.tui.theme import Palette


def render_follow_up(found: FollowUp, width: int, palette: Palette) -> Content:
    """The changed thing first; then each claim with another verdict, before and now."""
    different = [change for change in found.claims if change.is_new_verdict]
    tail = f"changed: {sanitize(found.changed, 60)}"
    lines = [heading(f"since {sanitize(found.earlier, 30)}", palette, tail), Content("")]
    for name, values in (("also differs", found.marks), ("rig differs", found.parts)):
        if values:
            lines += hanging(f"{name}: ", palette.quiet, sanitize(", ".join(values), 200), palette.partly, width)
    for change in different:
        lines.append(_line(change, palette))
        lines += [Content.styled(f"  {sanitize(why, 200)}", palette.quiet) for why in change.why]
    for answered in found.closed:
        lines += hanging("doubt answered: ", palette.holds, sanitize(answered, 300), palette.ink, width)
    same = len(found.claims) - len(different)
    lines.append(Content.styled(f"{counted(same, 'claim')} as before, or not tried again", palette.quiet))
    return Content("\n").join(lines)


def _line(change: ClaimChange, palette: Palette) -> Content:
    if change.before is None or change.now is None:
        return Content.styled(sanitize(change.sentence, 80), palette.ink)
    before, now = change.before, change.now
    shown = f"  {sanitize(before.shown, 40)}; {sanitize(now.shown, 40)}"
    return Content.assemble(
        (f"{sanitize(change.sentence, 60)}  ", palette.ink), verdict_words(before.verdict, palette),
        ("  to  ", palette.quiet), verdict_words(now.verdict, palette), (shown, palette.quiet),
    )  # fmt: skip
