"""What outputs are told: worked out when they are edited, not in every tick."""

import numpy as np

from fulgura.core.clock import BLOCK, blocks_due
from fulgura.core.frame import Frame
from fulgura.core.performer import Performer
from fulgura.core.picture.data import FIRST_FIT
from fulgura.core.show.edits import SetValue, apply
from fulgura.demo.show import gallery_show


def performing() -> Performer:
    performer = Performer(gallery_show())
    ticked(performer)
    return performer


def ticked(performer: Performer) -> Frame:
    """A tick in silence."""
    for _ in range(blocks_due(performer.number + 1) - blocks_due(performer.number)):
        performer.hear(np.zeros((BLOCK, 2)))
    return performer.tick()


def edited(performer: Performer, path: str, value, glide_s: float = 0.0) -> None:
    performer.configure(apply(performer.show, SetValue(path=path, value=value))[0], glide_s)


def test_what_is_dragged_changes_its_own_numbers_and_no_plan():
    performer = performing()
    tower = next(at for at, output in enumerate(performer.show.outputs) if output.walls)
    output = performer.show.outputs[tower]
    before, version = performer.sending.fits, performer.sending.version
    wall = output.walls[0]
    (x, y), *others = wall.corners
    edited(performer, f"/outputs/{output.id}/walls/{wall.id}/corners", [(x + 0.01, y), *others])
    after = performer.sending.fits
    assert performer.sending.version == version
    assert not np.array_equal(before[tower][1], after[tower][1])
    assert all(before[at][1] is after[at][1] for at in range(len(after)) if at != tower)


def test_a_frame_says_whether_an_output_stands_still_and_is_black():
    performer = performing()
    id = performer.show.outputs[0].id
    for hands in (True, False):
        edited(performer, f"/outputs/{id}/frozen", hands)
        edited(performer, f"/outputs/{id}/black", hands)
        first = ticked(performer).sent[FIRST_FIT][:4]
        assert (first[0], first[3]) == (float(hands), float(not hands))


def test_another_list_of_ends_has_another_number_whatever_becomes_of_the_last():
    """A card on, then off, before anybody was told: those are others, never the one that was told last."""
    performer = performing()
    id, seen = performer.show.outputs[0].id, [performer.sending.version]
    for card in ("grid", "off", "grid", "off"):
        edited(performer, f"/outputs/{id}/card", card)
        seen.append(performer.sending.version)
    assert len(set(seen)) == len(seen)


def test_the_end_of_a_glide_makes_no_plan_of_a_look_that_stays():
    performer = performing()
    other = next(look.id for look in performer.show.looks if look.id != performer.show.look)
    edited(performer, "/look", other, glide_s=0.1)
    gliding, fixed = performer.plan, performer.sending.plans
    for _ in range(12):
        ticked(performer)
    assert performer.plan is not gliding, "the glide is over"
    assert fixed and all(a is b for a, b in zip(fixed, performer.sending.plans))
