"""A damaged description is told as such, gives nothing that the sound one does not have, and accuses nobody."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.display.comparison import DAMAGED, compare_displays
from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.edid import decode_edid
from auditra.core.simulate import display_description as made

SOUND = (
    made.base(made.detailed(3840, 2160, 594_000, 560, 90), made.text(0xFC, "projector"),
              made.ranges(24, 75, 15, 160, 600), extensions=2, depth=10, established=b"\x21\x08\x00")
    + made.cta(
        made.video(97, 96, 16, 31), made.hdmi(most_mhz=300, codes=(1, 3)), made.hdr(), made.extended(15, b"\x03"),
        made.hdmi_forum(most_mhz=600, fixed=6, vrr=(48, 120), compresses=6, deep_420=3),
    )
    + made.displayid(made.displayid_block(0x22, made.type_7(2560, 1440, 586_590, 160, 87)))
)  # fmt: skip


def gives(edid: Edid) -> set[object]:
    """Everything that a claim could rest on."""
    modes = {(each.width, each.height, each.interlaced, round(each.refresh_millihz / 1000)) for each in edid.timings}
    forum = {
        (each.hdmi_forum.most_character_khz, each.hdmi_forum.fixed_rate_lanes) for each in edid.cta if each.hdmi_forum
    }
    return {
        *modes, *forum, *edid.depths_bits, *edid.colour_formats, ("hdr", edid.hdr and "yes"), edid.adaptive,
        *(each.name for each in edid.native), ("preferred", edid.preferred and edid.preferred.name),
    }  # fmt: skip


NOTHING = {("hdr", False), None, ("preferred", None)}
"""What a description without any of it gives."""
BASE_ALONE = gives(decode_edid(SOUND[:128]))
"""Where the extensions are lost, what the base block prefers by itself."""
_FLIPPED = st.builds(
    lambda at, bits: SOUND[:at] + bytes((SOUND[at] ^ bits,)) + SOUND[at + 1 :], st.integers(0, len(SOUND) - 1),
    st.integers(1, 255),
)  # fmt: skip
_CUT = st.integers(0, len(SOUND) - 1).map(lambda at: SOUND[:at])
_GROWN = st.binary(min_size=1, max_size=300).map(lambda more: SOUND + more)


@given(_FLIPPED | _CUT | _GROWN)
def test_damage_is_told_and_never_improves(data: bytes) -> None:
    found = decode_edid(data)
    assert found.problems
    assert gives(found) <= gives(decode_edid(SOUND)) | NOTHING | BASE_ALONE
    assert {change.kind for change in compare_displays(decode_edid(SOUND), found)} <= {DAMAGED}
    assert {change.kind for change in compare_displays(found, decode_edid(SOUND))} <= {DAMAGED}


@pytest.mark.parametrize(
    "data", [b"", SOUND[:127], bytes(128), b"\xff" * 256, b"not a description", SOUND[:60] + b"\x01" + SOUND[61:],
             b"\x20\x79", b"\x20\x10\x04\x00" + bytes(17)],
)  # fmt: skip
def test_what_cannot_be_read_invents_nothing(data: bytes) -> None:
    found = decode_edid(data)
    assert not found.is_readable
    assert found == Edid(is_readable=False, problems=found.problems)
    assert gives(found) <= NOTHING
