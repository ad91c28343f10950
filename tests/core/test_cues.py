"""Cues: named changes of the show, in the order of the night; and looks that are taken away with what belongs
to them.
"""

import numpy as np
import pytest

from fulgura.core.kinds.sources.text import set_lines
from fulgura.core.performer import Performer
from fulgura.core.show.commands.cues import new_cue, recall_cue
from fulgura.core.show.commands.looks import without_look
from fulgura.core.show.document import Show
from fulgura.core.show.edits import EditError, RemoveItem, SetValue, apply
from fulgura.core.show.events import EditMade
from fulgura.core.show.night import Duration
from fulgura.demo.show import gallery_show


def recalled(show: Show, cue: str = "") -> Show:
    return apply(show, recall_cue(show, cue).edit)[0]


def test_going_on_recalls_one_cue_after_the_other_until_the_last():
    show = gallery_show()
    names = []
    for cue in show.cues:
        show = recalled(show)
        names.append(show.recalled().name)
        assert show.cue == cue.id and show.look == cue.look
    assert names == [cue.name for cue in gallery_show().cues]
    with pytest.raises(EditError, match="last cue"):
        recall_cue(show, "")
    assert recalled(show, "cue-2").look == "lantern-tunnel", (
        "any can be recalled by itself, and going on goes on from there"
    )
    assert recalled(recalled(show, "cue-2")).cue == "cue-3"


def test_a_new_cue_keeps_the_shown_look_and_comes_after_the_one_recalled_last():
    show = recalled(gallery_show(), "cue-3")
    edit, cue = new_cue(show, Duration(amount=2.0))
    show, undo = apply(show, edit)
    assert (
        [cue.id for cue in show.cues][2:5] == ["cue-3", cue, "cue-4"]
        and show.cues[3].look == "name-board"
        and show.cues[3].over == Duration(amount=2.0)
        and show.cues[3].name == "Cue 8"
    )
    assert apply(show, undo)[0].cues == gallery_show().cues


def test_what_cannot_be_recalled_is_said_in_words():
    show = gallery_show()
    with pytest.raises(EditError, match="not there any more"):
        recall_cue(show, "gone")
    bare = Show(name="Bare")
    with pytest.raises(EditError, match="no cues yet"):
        recall_cue(bare, "")
    with pytest.raises(EditError, match="Make a look first"):
        new_cue(bare, Duration())
    # A cue that is taken away after it was recalled leaves the picture as it is; the course begins anew.
    show = apply(recalled(show, "cue-2"), RemoveItem(path="/cues/cue-2"))[0]
    assert (
        show.recalled() is None and show.look == "lantern-tunnel" and recall_cue(show, "").cue.id == "cue-1"
    )


def test_a_look_goes_with_its_routes_and_cues_that_went_to_it_say_so_and_do_the_rest():
    show = recalled(gallery_show(), "cue-2")
    show = apply(show, SetValue(path="/beside", value="open-sea"))[0]
    without, undo = apply(show, without_look(show, "lantern-tunnel"))
    assert (
        without.look == "harbour-lights"
        and recall_cue(without, "cue-2").gone == ["its look is gone"]
        and recall_cue(without, "cue-2").edit.edits
        and not {"r1", "r3", "r4"} & {route.id for route in without.routes}
        and without.beside
    )
    assert apply(without, undo)[0] == show
    assert not apply(show, without_look(show, "open-sea"))[0].beside
    with pytest.raises(EditError, match="no such look"):
        without_look(show, "none")
    for look in show.looks[1:]:
        show = apply(show, without_look(show, look.id))[0]
    with pytest.raises(EditError, match="has to stay"):
        without_look(show, show.looks[0].id)


def test_a_text_shows_the_cue_and_its_look_comes_over_its_beats():
    show = gallery_show()
    board = next(look for look in show.looks if look.id == "name-board")
    values = next(layer.source for layer in board.layers if layer.id == "name").values
    values["shows"] = "cue"

    def written(performer: Performer, words: str) -> bool:
        wanted = set_lines(
            words, values["face"], values["size_of_letters"], values["spacing"], values["fit"]
        ).reshape(-1)
        return any(np.array_equal(block, wanted) for block in performer.tick().own)

    performer = Performer(show)
    performer.act(EditMade(edit=recall_cue(show, "cue-3").edit, glide_beats=4.0))
    assert performer.picture.leaving is not None, "the look before is still there, and goes"
    assert written(performer, "The clerks") and not written(performer, "Lamp Room")
    performer.act(EditMade(edit=SetValue(path="/cues/cue-3/name", value="All three")))
    assert written(performer, "All three")
