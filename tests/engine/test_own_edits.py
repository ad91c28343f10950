"""Edits that hands make at the engine and edits that come from the document's keeper meanwhile: whatever the
order, both end with the same show, and no edit is lost.
"""

from collections import deque

from hypothesis import given
from hypothesis import strategies as st

from fulgura.core.performer import Performer
from fulgura.core.show.edits import AddItem, EditError, RemoveItem, SetValue, apply
from fulgura.core.show.events import EditMade, PadPressed
from fulgura.engine.own_edits import MANY, OwnEdits
from tests.core.surfaces import action, pad, small_show

PATHS = ["/sound_amount", "/routes/r1/amount", "/routes/r2/amount", "/tempo/bpm"]


class Keeper:
    """The web process, as far as edits go: commits what comes, in order, and answers."""

    def __init__(self, show):
        self.show, self.known, self.answers = show, 0, deque()

    def edit(self, edit):
        self.show, _ = apply(self.show, edit)
        self.answers.append(("theirs", EditMade(edit=edit)))

    def hear(self, told):
        if told["number"] <= self.known:
            return
        self.known = told["number"]
        try:
            self.show, _ = apply(self.show, EditMade.model_validate(told["event"]).edit)
            self.answers.append(("confirmed", told["number"]))
        except EditError:
            self.answers.append(("refused", told["number"]))


class Both:
    """An engine and its keeper, with letters under way between them."""

    def __init__(self):
        show = small_show(pad(0, action("show-look", look="second")))
        self.performer = Performer(show)
        self.own, self.keeper = OwnEdits(self.performer), Keeper(show)
        self.letters = deque()

    def hand(self, edit, gesture=""):
        self.performer.played.edit(edit, "Hand", gesture)
        self.letters.extend(self.own.add(self.performer.played.take_made()))

    def deliver(self):
        if self.letters:
            self.keeper.hear(self.letters.popleft())

    def answer(self):
        if not self.keeper.answers:
            return
        kind, what = self.keeper.answers.popleft()
        if kind == "theirs":
            self.own.theirs(what)
        else:
            self.own.confirmed(what, refused=kind == "refused")

    def settle(self):
        while self.letters or self.keeper.answers:
            self.deliver()
            self.answer()


STEPS = st.lists(
    st.one_of(
        st.tuples(st.just("hand"), st.sampled_from(PATHS[:3]), st.floats(0, 1)),
        st.tuples(st.just("keeper"), st.sampled_from(PATHS[:3]), st.floats(0, 1)),
        st.tuples(st.just("deliver"), st.none(), st.none()),
        st.tuples(st.just("answer"), st.none(), st.none()),
        st.tuples(st.just("again"), st.none(), st.none()),
    ),
    max_size=60,
)


@given(STEPS)
def test_both_sides_end_with_the_same_show(steps):
    both, hands = Both(), 0
    for what, path, value in steps:
        if what == "hand":
            both.hand(SetValue(path=path, value=value))
            hands += 1
            assert both.performer.show.name and _at(both.performer.show, path) == value
        elif what == "keeper":
            both.keeper.edit(SetValue(path=path, value=value))
        elif what == "again":
            both.letters.extend(both.own.again())
        else:
            getattr(both, what)()
    both.settle()
    assert both.keeper.known == hands and not both.own.waiting
    assert both.performer.show == both.keeper.show


def _at(show, path):
    if path == "/sound_amount":
        return show.sound_amount
    return next(route for route in show.routes if route.id == path.split("/")[2]).amount


def test_what_the_keeper_refuses_is_taken_back():
    both = Both()
    both.keeper.edit(RemoveItem(path="/routes/r2"))
    both.hand(SetValue(path="/routes/r2/amount", value=0.5))
    assert _at(both.performer.show, "/routes/r2/amount") == 0.5
    both.settle()
    assert both.performer.show == both.keeper.show and len(both.performer.show.routes) == 1


def test_a_press_takes_effect_in_the_tick_whoever_keeps_the_document():
    both = Both()
    both.performer.act(PadPressed(pad="pad-1"))
    both.performer.tick()
    assert both.performer.show.look == "second" and both.keeper.show.look == "first"
    both.letters.extend(both.own.add(both.performer.played.take_made()))
    both.settle()
    assert both.keeper.show.look == "second"
    assert both.performer.show is both.own.base, "what was confirmed costs nothing more"


def test_while_the_keeper_is_away_all_waits_and_is_made_on_what_it_comes_back_with():
    both = Both()
    for n in range(MANY + 300):
        both.hand(SetValue(path="/sound_amount", value=n / 1000), "one long pull")
    assert len(both.own.waiting) <= MANY + 1
    returned = apply(both.keeper.show, AddItem(path="/looks", item={"id": "third", "name": "Third"}))[0]
    both.keeper.show = returned
    both.own.whole(returned)
    assert both.performer.show.sound_amount == (MANY + 299) / 1000 and len(both.performer.show.looks) == 3
    both.letters.clear()
    both.letters.extend(both.own.again())
    both.settle()
    assert both.keeper.show == both.performer.show and both.keeper.show.sound_amount == (MANY + 299) / 1000
