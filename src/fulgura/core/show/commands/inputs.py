"""Inputs and bands are opened and closed."""

from fulgura.core.show.commands.band_sets import lanes
from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.inputs import MAIN, MOST_BANDS, MOST_INPUTS, Band


def new_input(show: Show, name: str = "") -> tuple[AddItem, str]:
    """(the edit that opens one more input, its id); it begins with a live device, whose level is followed.
    Raises EditError when no more can be open.
    """
    if len(show.inputs) == MOST_INPUTS:
        raise EditError(f"{MOST_INPUTS} inputs can be open at once. Close one first.", "/inputs")
    input_id = free_id([audio_input.id for audio_input in show.inputs], "input-")
    return (
        AddItem(
            path="/inputs",
            item={
                "id": input_id,
                "name": name or f"Input {input_id.removeprefix('input-')}",
                "use": "live",
                "level": {"follow": True},
            },
        ),
        input_id,
    )


def without_input(show: Show, input_id: str) -> Together:
    """The edit that closes an input, with its bands and detectors. Raises EditError for the main one or an
    unknown one.
    """
    if input_id == MAIN or input_id not in {audio_input.id for audio_input in show.inputs}:
        raise EditError(
            "The main input has to stay."
            if input_id == MAIN
            else f"There is no input “{input_id}” here any more.",
            f"/inputs/{input_id}",
        )
    gone = [RemoveItem(path=f"/hits/{hit.id}") for hit in show.hits if show.input_of(hit) == input_id]
    gone += [RemoveItem(path=f"/bands/{band.id}") for band in show.bands if band.input == input_id]
    return Together(edits=[*gone, RemoveItem(path=f"/inputs/{input_id}")])


def new_band(
    show: Show, low_hz: float, high_hz: float, name: str = "", input_id: str = MAIN
) -> tuple[AddItem, str]:
    """(the edit that adds a band to an input, its id); without a name it is numbered. Raises EditError when
    there are as many as there can be.
    """
    if len(show.bands) == MOST_BANDS:
        raise EditError(f"There can be {MOST_BANDS} bands. Remove one first.", "/bands")
    band = free_id([band.id for band in show.bands], "band-")
    item = {
        "id": band,
        "name": name or f"Band {band.removeprefix('band-')}",
        "input": input_id,
        "low_hz": low_hz,
        "high_hz": high_hz,
    }
    return AddItem(path="/bands", item=item), band


def own_hits(band: str) -> str:
    """Id of a band's own detector."""
    return f"{band}-hits"[-48:]


def catch_hits(show: Show, band: str, on: bool) -> Edit:
    """The edit that gives a band a detector of its own, or takes it away. Raises EditError for an unknown
    band.
    """
    _band_of(show, band)
    if on:
        return AddItem(path="/hits", item={"id": own_hits(band), "band": band})
    return RemoveItem(path=f"/hits/{own_hits(band)}")


def without_band(show: Show, band: str) -> Together:
    """The edit that takes a band away. Its own detector goes with it; a drum shown in its lane gets another
    lane.

    Raises EditError for an unknown band and for the last one.
    """
    gone = _band_of(show, band)
    rest = [band for band in show.bands if band is not gone and band.input == gone.input]
    if not rest and gone.input == MAIN:
        raise EditError("One band has to stay.", f"/bands/{band}")
    edits: list[Edit] = []
    for hit in (hit for hit in show.hits if hit.band == band):
        if hit.drum:
            edits.append(SetValue(path=f"/hits/{hit.id}/band", value=lanes(rest)[hit.drum] if rest else ""))
        else:
            edits.append(RemoveItem(path=f"/hits/{hit.id}"))
    return Together(edits=[*edits, RemoveItem(path=f"/bands/{band}")])


def _band_of(show: Show, band: str) -> Band:
    found = next((other for other in show.bands if other.id == band), None)
    if found is None:
        raise EditError(
            f"There is no band “{band}” here any more; someone may have removed it.", f"/bands/{band}"
        )
    return found
