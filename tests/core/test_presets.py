"""Sets of bands, and what becomes of detectors and routes when bands go."""

import pytest

from fulgura.core.kinds.faults import Fault, FaultCode
from fulgura.core.performer import Performer
from fulgura.core.routing.indices import indices
from fulgura.core.show.commands.band_sets import BAND_PRESETS, take_bands
from fulgura.core.show.commands.inputs import catch_hits, new_band, own_hits, without_band
from fulgura.core.show.commands.routes import new_route
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, EditError, RemoveItem, apply
from fulgura.core.show.inputs import Band, HitSetting
from fulgura.demo.show import demo_show


@pytest.mark.parametrize("name", BAND_PRESETS)
def test_every_set_of_bands_can_be_taken_and_taken_back(name):
    show = demo_show()
    taken, inverse = apply(show, take_bands(show, name))
    assert [band.id for band in taken.bands] == [band.id for band in BAND_PRESETS[name]]
    lanes = {hit.id: hit.band for hit in taken.hits}
    assert lanes["kick"] == taken.bands[0].id and lanes["hat"] == taken.bands[-1].id
    assert apply(taken, inverse)[0] == show
    Performer(taken).tick()


def test_bands_of_a_set_are_in_order_and_within_hearing():
    for bands in BAND_PRESETS.values():
        assert len({band.id for band in bands}) == len(bands) <= 24
        assert all(a.low_hz < b.low_hz for a, b in zip(bands, bands[1:]))


def test_octave_bands_have_the_edges_of_octaves():
    """ISO 266 nominal mid-frequencies; edges a factor of the square root of two either side (IEC 61260, base
    two).
    """
    for band in BAND_PRESETS["Eight octaves"]:
        assert band.high_hz / band.low_hz == pytest.approx(2.0, rel=0.01)


def test_a_detector_of_a_band_goes_with_it_or_the_band_stays():
    show, _ = apply(demo_show(), AddItem(path="/hits", item={"id": "mid-hits", "band": "mid"}))
    with pytest.raises(EditError, match="neither a drum nor a band"):
        apply(show, RemoveItem(path="/bands/mid"))
    assert {hit.id for hit in apply(show, without_band(show, "mid"))[0].hits} == {"kick", "snare", "hat"}


@pytest.mark.parametrize("band", ["low", "mid", "high"])
def test_a_band_goes_with_its_own_hits_and_its_drum_gets_another_lane(band):
    show, _ = apply(demo_show(), catch_hits(demo_show(), band, True))
    assert show.hits[-1].listens == band
    less, back = apply(show, without_band(show, band))
    assert {hit.id for hit in less.hits} == {"kick", "snare", "hat"}
    assert {hit.band for hit in less.hits} <= {band.id for band in less.bands} and len(less.bands) == 2
    assert apply(less, back)[0] == show


def test_the_last_band_stays_and_an_unknown_one_is_named():
    show = demo_show()
    for band in ("low", "mid"):
        show, _ = apply(show, without_band(show, band))
    with pytest.raises(EditError, match="has to stay"):
        without_band(show, "high")
    with pytest.raises(EditError, match="no band “low”"):
        catch_hits(show, "low", True)


def test_new_bands_and_routes_get_ids_of_their_own():
    show, seen = demo_show(), set()
    for _ in range(5):
        edit, band = new_band(show, 500.0, 900.0)
        show, _ = apply(show, edit)
        seen.add(band)
    assert len(seen) == 5 and len(own_hits("x" * 48)) <= 48
    entry = next(entry for entry in indices(show) if entry.target == "ring.width")
    for kind, shapers in (
        ("hits", ["pulse"]),
        ("phase", []),
        ("level", ["range", "smooth"]),
        ("descriptor", ["range", "smooth"]),
    ):
        show, _ = apply(show, new_route(show, "hit-kick", kind, [entry.target], entry.parameter, 0.02)[0])
        assert [part.kind for part in show.routes[-1].shapers] == shapers
    assert (
        len({route.id for route in show.routes}) == 8
        and show.routes[-1].low == 0.02
        and show.routes[-1].high == 0.1  # twice what a width usually is
    )


def test_a_route_whose_band_is_gone_says_so_and_the_show_goes_on():
    show, _ = apply(demo_show(), take_bands(demo_show(), "Eight octaves"))
    performer = Performer(show)
    performer.tick()
    gone = Fault.of(FaultCode.SIGNAL_GONE)
    assert performer.router.faults() == {"r1": gone, "r3": gone}


def test_twenty_four_bands_and_no_more():
    bands = [
        Band(id=f"b{i}", name=f"B{i}", low_hz=40 * 1.2**i, high_hz=40 * 1.2 ** (i + 1)) for i in range(24)
    ]
    hits = [HitSetting(id=f"b{i}-hits", band=f"b{i}") for i in range(24)]
    show = Show(name="Many", bands=bands, hits=hits)
    performer = Performer(show)
    performer.tick()
    assert sum(s.id.startswith("band-") for s in performer.layout.signals) == 24
    with pytest.raises(ValueError, match="24"):
        Show(name="Too many", bands=[*bands, Band(id="x", name="X")])
