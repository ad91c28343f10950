"""Hands on the desk that count what they do: a click, a key, a drag, something typed is one step each."""

import re
from pathlib import Path

from harness.stack import wait_for
from tests.desk.helpers import act

DOCS = Path(__file__).parents[3] / "docs" / "jobs.md"


def promised() -> dict[str, int]:
    """How many steps docs/jobs.md says that each job takes now."""
    rows = re.findall(r"^\| (J\d\d) \|[^|]*\|\s*\d*\s*\|\s*(\d+)\s*\|", DOCS.read_text(), re.MULTILINE)
    return {job: int(steps) for job, steps in rows}


class Hands:
    """What somebody does at the desk in one job."""

    def __init__(self, job):
        self.job, self.page, self.steps = job, job.page, 0

    # -- single steps ---------------------------------------------------------------------------------------

    def key(self, key):
        self.steps += 1
        self.page.keyboard.press(key)
        self.page.wait_for_timeout(150)

    def click(self, where, **more):
        self.steps += 1
        (self.page.locator(where) if isinstance(where, str) else where).click(**more)

    def type(self, text, end="Enter"):
        """Letters, and the key that ends them."""
        self.steps += 1
        self.page.keyboard.type(text)
        if end:
            self.page.keyboard.press(end)

    def drag(self, where, by):
        self.steps += 1
        box = where.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + by[0], y + by[1], steps=6)
        self.page.mouse.up()

    # -- what they do again and again -----------------------------------------------------------------------

    def side_by_side(self):
        """Picture, and Route beside it."""
        self.key("3")
        self.key("Shift+Digit2")
        self.page.wait_for_selector("[data-column=route].column")

    def look(self, name):
        """A new look, which is shown: two steps."""
        looks = len(self.job.document()["looks"])
        self.click(self.page.get_by_role("button", name="New look", exact=True))
        self.type(name)
        wait_for(
            lambda: len(self.job.document()["looks"]) > looks and self.job.shown()["name"] == name,
            10,
            "the look",
        )
        self.page.wait_for_timeout(200)

    def layer(self, words, name=None):
        """A layer, found by words: two steps. The layer as the document has it."""
        before = {layer["id"] for layer in self.job.shown()["layers"]}
        self.click(self.page.get_by_role("button", name="Add a layer", exact=True))
        self.page.wait_for_selector(".kind-chooser input:focus")
        self.type(words)
        wait_for(lambda: len(self.job.shown()["layers"]) == len(before) + 1, 10, "the layer")
        made = next(layer for layer in self.job.shown()["layers"] if layer["id"] not in before)
        self.page.wait_for_selector(f"[data-layer={made['id']}] .part.chosen")
        return made

    def effect(self, words, layer=None):
        """An effect, on a layer or on the whole picture: two steps. Its id."""
        before = {part["id"] for part in self._effects()}
        label = f"Add an effect to {layer['name']}" if layer else "Add a finishing effect"
        self.click(self.page.get_by_role("button", name=label, exact=True))
        self.page.wait_for_selector(".kind-chooser input:focus")
        self.type(words)
        wait_for(lambda: len(self._effects()) == len(before) + 1, 10, "the effect")
        made = next(part for part in self._effects() if part["id"] not in before)
        self.page.wait_for_function(
            "id => document.querySelector(`[data-path$='/${id}'].chosen`) !== null", arg=made["id"]
        )
        return made["id"]

    def _effects(self):
        look = self.job.shown()
        return [part for layer in look["layers"] for part in layer["effects"]] + look["finish"]

    def part(self, layer, number):
        """Open a part of a layer: its source is 0, how it is laid last (-1)."""
        steps = self.page.locator(f"[data-layer={layer['id']}] .step")
        self.click(steps.nth(number) if number >= 0 else steps.last)
        self.page.wait_for_timeout(150)

    def numbers(self, first, *texts):
        """Type a parameter, and with Tab those after it: a step to begin, and one for each."""
        box = self.page.locator(f"aside [data-parameter={first}] .read")
        box.scroll_into_view_if_needed()
        self.click(box)
        for i, text in enumerate(texts):
            self.page.wait_for_selector("input.typed:focus")
            self.type(text, "Enter" if i == len(texts) - 1 else "Tab")
        self.page.wait_for_timeout(150)

    def choice(self, parameter, option):
        """A choice among few: two steps."""
        self.click(self.page.locator(f"aside [data-parameter={parameter}] .choice"))
        self.click(self.page.get_by_role("option", name=option, exact=True))

    def route(self, words):
        """A typed route: two steps. Its id."""
        before = {route["id"] for route in self.job.document()["routes"]}
        self.click(self.page.get_by_label("Type a route"))
        self.steps += 1
        self.page.keyboard.type(words)
        self.page.wait_for_selector(".p-autocomplete-option")
        self.page.wait_for_timeout(400)
        self.page.keyboard.press("Enter")
        wait_for(lambda: len(self.job.document()["routes"]) == len(before) + 1, 10, f"the route “{words}”")
        made = next(r for r in self.job.document()["routes"] if r["id"] not in before)
        self.page.wait_for_selector(f"[data-route={made['id']}].open")
        return made["id"]

    def keep(self, within):
        """Keep what stands there under the name that is offered."""
        count = len(self.job.document()["presets"])
        self.click(within.get_by_role("button", name="Keep", exact=True))
        wait_for(lambda: len(self.job.document()["presets"]) == count + 1, 10, "the preset")

    def pick(self, within, label, words):
        """Take one of a long list by some of its letters: two steps."""
        self.click(within.get_by_role("combobox", name=label, exact=True))
        self.steps += 1
        self.page.wait_for_selector(".p-select-filter:focus")
        self.page.keyboard.type(words)
        self.page.wait_for_timeout(250)
        self.page.keyboard.press("Enter")
        self.page.wait_for_timeout(400)

    def chip(self, route, label, text):
        """Type a number of a route's sentence: two steps."""
        self.click(self.page.locator(f"article[data-route={route}]").get_by_label(label, exact=True).first)
        self.page.wait_for_selector("input.typed:focus")
        self.type(text)
        self.page.wait_for_timeout(150)

    def step(self, route, kind):
        """One more step of a route that is open: two steps."""
        self.steps += 2
        act(self.page.locator(f"article[data-route={route}]"), "Add a step…", re.compile(f"^{kind}"))
        self.page.wait_for_timeout(400)

    # -- at the end -----------------------------------------------------------------------------------------

    def finished(self, name):
        """The hands are done: no more steps than docs/jobs.md says."""
        assert self.steps <= promised()[name], f"{name} took {self.steps} steps"
