"""More than a machine can draw, as a performer sees it."""

import re

from playwright.sync_api import expect

from harness.stack import wait_for
from tests.desk.helpers import choose_kind, document, open_column


def test_solids_that_are_too_many_are_thinned_out_and_it_is_said(page, demo):
    """This page draws at every eighth frame: too slow for twenty thousand."""
    open_column(page, "3")
    look = document(demo)["looks"][0]
    choose_kind(page, "Add a layer", "placed")
    wait_for(lambda: len(document(demo)["looks"][0]["layers"]) > len(look["layers"]), 5, "the layer")
    made = next(each for each in document(demo)["looks"][0]["layers"] if each not in look["layers"])
    demo.set(f"/looks/{look['id']}/layers/{made['id']}/source/values/count", 20_000)
    said = page.get_by_text(re.compile(r"Too many for this machine: (\d+) of 20000 solids are drawn here"))
    expect(said).to_be_visible()
    some = int(re.findall(r"(\d+) of", said.inner_text())[0])
    assert 1 <= some < 20_000
    # As it was: nothing is said of what is no longer there.
    while len(document(demo)["looks"][0]["layers"]) > len(look["layers"]):
        demo.call("POST", "/show/undo")
    expect(said).to_have_count(0)
