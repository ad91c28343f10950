"""The patch: packing, running over, clashes and their cure, exchange of kinds."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.lights.channel_sheet import channel_sheet
from fulgura.core.show.commands.lamps import (
    exchange,
    hang,
    home,
    numbered,
    readdress,
    set_function,
    take_down,
)
from fulgura.core.show.commands.rig_places import arrange
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, SetValue
from fulgura.core.show.patch import clashes, pack, read_address, switches, taken
from tests.core.rigs import changed, lamp, show_of


def hung(show, kind, **more):
    edit, ids = hang(show, kind, **more)
    return changed(show, edit), ids


def addresses(show):
    return [(lamp.universe, lamp.address) for lamp in show.lamps]


def test_lamps_are_packed_one_behind_the_other_and_run_over_into_the_next_universe():
    show, _ = hung(Show(name="Night"), "rgbw-lamp", count=3, at=(1, 503))
    assert addresses(show) == [(1, 503), (1, 507), (2, 1)], "the third would need 511 to 514"
    show, _ = hung(show, "moving-wash", count=2, gap=5)
    assert addresses(show)[3:] == [(2, 5), (2, 21)], "behind the last, eleven channels each and five between"


def test_packing_passes_over_what_is_taken():
    show, _ = hung(Show(name="Night"), "dimmer", count=1, at=(1, 5))
    show, _ = hung(show, "rgb-lamp", count=2, at=(1, 1))
    assert addresses(show)[1:] == [(1, 1), (1, 6)]


@given(
    st.lists(
        st.sampled_from(["dimmer", "rgb-lamp", "moving-wash", "pixel-bar", "pixel-strip"]),
        min_size=1,
        max_size=12,
    ),
    st.integers(1, 512),
    st.integers(0, 40),
)
def test_packed_lamps_never_share_a_channel_and_never_end_past_512(kinds, address, gap):
    lamps = [lamp(f"l{i}", kind) for i, kind in enumerate(kinds)]
    packed = [
        own.model_copy(update={"universe": universe, "address": at})
        for own, (universe, at) in zip(lamps, pack(lamps, 1, address, gap))
    ]
    channels = [channel for own in packed for channel in taken(own)]
    assert len(set(channels)) == len(channels) and all(slot < 512 for _, slot in channels)
    assert clashes(packed) == []


def test_names_numbers_and_places_of_new_lamps():
    show, ids = hung(Show(name="Night"), "rgb-lamp", count=12, name="Rail ##")
    assert [own.name for own in show.lamps[:2]] == ["Rail 01", "Rail 02"]
    assert [own.number for own in show.lamps] == list(range(1, 13)) and len(set(ids)) == 12
    assert [own.place.x for own in show.lamps] == sorted(own.place.x for own in show.lamps)
    show, _ = hung(show, "dimmer")
    assert show.lamps[-1].number == 13 and show.lamps[-1].name == "Dimmer"
    assert numbered("Foot", 3, False) == "Foot 3"


def test_lamps_on_the_same_channels_are_told_at_both_and_one_action_cures_it():
    show = show_of(lamp("a", "rgb-lamp", 1), lamp("b", "rgb-lamp", 3), lamp("c", "rgb-lamp", 6))
    assert {(clash.lamp, clash.others) for clash in clashes(show.lamps)} == {("a", ("b",)), ("b", ("a",))}
    cured = changed(show, readdress(show, ["b"]))
    assert clashes(cured.lamps) == [] and addresses(cured) == [(1, 1), (1, 9), (1, 6)]


def test_a_lamp_past_512_is_told_and_cured():
    show = show_of(lamp("a", "moving-wash", 505))
    assert [(clash.lamp, clash.what) for clash in clashes(show.lamps)] == [("a", "past the end")]
    assert addresses(changed(show, readdress(show, ["a"]))) == [(2, 1)]


def test_another_kind_keeps_name_place_groups_and_what_still_fits():
    show, ids = hung(Show(name="Night"), "flash-lamp", count=1, name="Door")
    show = changed(show, set_function(show, ids, "level", 0.7), set_function(show, ids, "colour", "#ff0000"))
    show = changed(show, set_function(show, ids, "strobe", 2.0))
    before = show.lamps[0]
    after = changed(show, exchange(show, ids, "rgb-lamp")).lamps[0]
    assert (after.name, after.place, after.address, after.fixture.id) == (
        *(before.name, before.place, before.address),
        before.fixture.id,
    )
    assert after.fixture.values == {"level": 0.7, "colour": "#ff0000"}
    other = changed(show, exchange(show, ids, "moving-wash", "8 bit"))
    assert other.lamps[0].mode == "8 bit" and other.lamps[0].fixture.values["strobe"] == 2.0


def test_switches_and_addresses_as_they_are_read():
    # 1 + 16 = 17; 511 is all nine (common practice).
    assert [i + 1 for i, on in enumerate(switches(17)) if on] == [1, 5]
    assert all(switches(511)) and sum(2**i for i, on in enumerate(switches(300)) if on) == 300
    assert read_address("2.17") == (2, 17) and read_address(" 9 ") == (1, 9)
    for wrong in ("2.513", "0.1", "64000.1", "x", "1.", ""):
        with pytest.raises(ValueError):
            read_address(wrong)


def test_several_lamps_are_set_at_a_value_or_each_by_as_much():
    show = show_of(
        lamp("a", "dimmer", 1, level=0.2), lamp("b", "dimmer", 2, level=0.9), lamp("c", "fog-machine", 3)
    )
    ids = ["a", "b", "c"]

    def levels(edited):
        return [round(own.fixture.values["level"], 6) for own in edited.lamps[:2]]

    assert levels(changed(show, set_function(show, ids, "level", 0.5))) == [0.5, 0.5]
    assert levels(changed(show, set_function(show, ids, "level", by=0.3))) == [0.5, 1.0], "within its range"
    with pytest.raises(EditError, match="None of these lamps can do that"):
        set_function(show, ids, "pan", 1.0)


def test_home_leads_heads_back_and_leaves_the_light():
    show = show_of(lamp("a", "moving-wash", level=0.5, pan=90.0, tilt=20.0, colour="#ff0000"))
    values = changed(show, home(show, ["a"])).lamps[0].fixture.values
    assert (values["pan"], values["tilt"], values["level"], values["colour"]) == (0.0, 0.0, 0.5, "#ff0000")


def test_lamps_that_are_taken_down_leave_their_groups():
    show = show_of(
        lamp("a", "dimmer", 1),
        lamp("b", "dimmer", 2),
        groups=[{"id": "g", "name": "G", "members": ["a", "b"]}],
    )
    after = changed(show, take_down(show, ["a"]))
    assert after.groups[0].members == ["b"] and [own.id for own in after.lamps] == ["b"]
    with pytest.raises(EditError, match="not there any more"):
        take_down(after, ["a"])


@pytest.mark.parametrize(
    ("how", "wanted"),
    [
        ("line", [(0, 0), (2, 1), (4, 2)]),
        ("in a row", [(0, 4 / 3), (1, 4 / 3), (4, 4 / 3)]),
        ("in a column", [(5 / 3, 0), (5 / 3, 2), (5 / 3, 2)]),
        ("grid", [(0, 2), (4, 2), (0, 0)]),
    ],
)
def test_lamps_are_put_in_order(how, wanted):
    places = [(0, 0), (1, 2), (4, 2)]
    lamps = [
        lamp(f"l{i}", "dimmer", i + 1, more={"place": {"x": x, "y": 0.0, "z": z}})
        for i, (x, z) in enumerate(places)
    ]
    show = changed(show_of(*lamps), arrange(show_of(*lamps), ["l0", "l1", "l2"], how))
    assert [(own.place.x, own.place.z) for own in show.lamps] == pytest.approx(
        [pytest.approx(p, abs=1e-3) for p in wanted]
    )


def test_an_arc_rises_by_a_quarter_of_its_width_in_the_middle():
    lamps = [
        lamp(f"l{i}", "dimmer", i + 1, more={"place": {"x": 2.0 * i, "y": 1.0, "z": 3.0}}) for i in range(5)
    ]
    show = changed(show_of(*lamps), arrange(show_of(*lamps), [f"l{i}" for i in range(5)], "arc", "top"))
    assert [own.place.y for own in show.lamps] == pytest.approx([1.0, 2.414, 3.0, 2.414, 1.0], abs=1e-3)
    assert [own.place.z for own in show.lamps] == [3.0] * 5


def test_the_sheet_says_whose_a_channel_is_and_who_sets_it():
    show = show_of(
        lamp("a", "rgb-lamp", 2),
        lamp("b", "moving-wash", 10),
        groups=[{"id": "g", "name": "G", "members": ["b"]}],
        routes=[{"id": "r", "signal": "level", "targets": ["g.pan"], "low": 0, "high": 90}],
    )
    rows = {row.channel: row for row in channel_sheet(show, 1)}
    assert set(rows) == {2, 3, 4, *range(10, 21)}
    assert (rows[2].name, rows[2].function, rows[2].by) == ("A", "red", "hand")
    assert (rows[11].function, rows[11].by) == ("pan fine", "route of level")
    assert {row.by for row in channel_sheet(changed(show, SetValue(path="/blackout", value="all")), 1)} == {
        *("blackout", "hand", "route of level")
    }
    parked = changed(show, SetValue(path="/lights/parked", value={"1.2": 9}))
    assert channel_sheet(parked, 1)[0].by == "parked"


def test_a_kind_or_mode_that_is_not_there_is_refused_with_its_name():
    show = Show(name="Night")
    with pytest.raises(EditError, match="no kind of lamp called “laser”"):
        hang(show, "laser")
    with pytest.raises(ValueError, match="no mode “9 bit”"):
        lamp("a", "dimmer", more={"mode": "9 bit"})
