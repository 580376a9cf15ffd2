"""Score profiles as files: the shipped ones read, own ones are written exactly, and what is wrong has its line."""

from __future__ import annotations

import json
from decimal import Decimal
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.language import promise_kinds
from auditra.core.errors import InputError, SheetError
from auditra.core.journal.facts import ProfileChosen
from auditra.core.model.circumstance import Aspect, Flipped, Running, Soaked
from auditra.core.model.profile import Limits, Profile
from auditra.documents.facts import encode_fact, read_body
from auditra.documents.profile_file import read_profile, write_profile
from auditra.store.profiles import SHIPPED, load_profile, profile_files

shares = st.decimals(0, 1, places=3)
profiles = st.builds(
    Profile,
    name=st.from_regex(r"[a-z]{1,12}", fullmatch=True),
    weights=st.dictionaries(st.sampled_from([kind.words for kind in promise_kinds()]), st.decimals(0, 50, places=2)),
    other=st.decimals(0, 9, places=1),
    drawbacks=st.dictionaries(st.sampled_from(["own use", "blanking"]), st.decimals(0, 9, places=1)),
    conditions=st.dictionaries(st.sampled_from([*map(str, Aspect), "also in use: shows"]), shares),
    other_condition=shares,
    limits=st.builds(Limits, danger_cap=st.decimals(0, 50, places=0)),
)


@pytest.mark.parametrize("name", SHIPPED)
def test_shipped_profiles_say_whom_they_are_for_and_differ(name: str) -> None:
    profile = load_profile(name)
    assert profile.name == name
    assert profile.about
    assert name == "balanced" or profile.weights != load_profile().weights


@given(profiles)
def test_a_profile_reads_back_as_it_was_written_from_its_file_and_from_the_journal(profile: Profile) -> None:
    assert read_profile(write_profile(profile), "mine.toml") == profile
    encoded = encode_fact(ProfileChosen(profile))
    assert read_body("profile", json.loads(encoded.whole())) == ProfileChosen(profile)


@pytest.mark.parametrize(
    ("line", "key", "why"),
    [
        ('"shines" = "3"', "weights.shines", "no kind of promise"),
        ('"data" = "-1"', "weights.data", "from 0 to 1000"),
        ('"data" = "many"', "weights.data", "expected a number"),
        ('"data" = true', "weights.data", "expected a number"),
        ('[conditions]\n"host" = "1.5"', "conditions.host", "from 0 to 1"),
        ('[conditions]\n"also in use: shines" = "1"', "conditions.also in use: shines", "no aspect"),
        ('[drawbacks]\n"rust" = "1"', "drawbacks.rust", "no drawback"),
        ('[limits]\nrecommended = "10"', "limits.not_recommended", "above"),
    ],
)
def test_a_mistake_is_told_with_its_key(line: str, key: str, why: str) -> None:
    with pytest.raises(SheetError) as refused:
        read_profile(f'name = "mine"\n[weights]\n{line}\n', "mine.toml")
    assert refused.value.key_path == key
    assert why in str(refused.value)


def test_two_things_that_must_come_together_take_away_less_than_either() -> None:
    costs = {"also in use": Decimal("0.4"), "also in use: shows": Decimal("0.5")}
    profile = Profile("x", {}, conditions=costs, other_condition=Decimal(1))
    assert profile.use_left([Running("C1 gives 27 W")]) == Decimal("0.6")
    assert profile.use_left([Running("H1 shows 3840x2160@60")]) == Decimal("0.5")
    assert profile.use_left([Running("C1 gives 27 W"), Running("C2 gives 27 W")]) == Decimal("0.84")
    assert profile.use_left([Soaked(60.0)]) == profile.use_left([Flipped()]) == 0


def test_own_profiles_stand_beside_the_shipped_ones_and_a_bad_file_hides_none(tmp_path: Path) -> None:
    shelf = profile_files(tmp_path)
    path = shelf.write_copy("desk", "mine")
    (tmp_path / "bad.toml").write_text("name = 3\n")
    assert [profile.name for profile in shelf.every()] == [*SHIPPED, "mine"]
    assert shelf.named("mine").weights == shelf.named("desk").weights
    assert len(shelf.troubles()) == 1
    assert "bad.toml, line 1" in shelf.troubles()[0]
    path.write_text(path.read_text().replace('data = "5"', 'data = "50"'))
    assert shelf.named("mine").weight("data") == 50
    with pytest.raises(InputError, match="there is a file"):
        shelf.write_copy("desk", "mine")
    with pytest.raises(InputError, match="none of this name"):
        shelf.named("../desk")
    with pytest.raises(InputError, match="make a name"):
        shelf.write_copy("desk", "../x")
