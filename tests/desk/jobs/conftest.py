"""Whole jobs, from a new show to what the stand-in received."""

import io
import json
import urllib.request
from urllib.parse import quote

import numpy as np
import pytest
import soundfile
from PIL import Image

from fulgura.core.wire import BlockId
from harness.browser import SELDOM
from harness.stack import live, wait_for
from tests.desk.helpers import choose_kind
from tests.desk.jobs.hands import Hands

RATE = 48_000


class Job:
    """A new show on the desk, and what arrives at the stand-in rig. Afterwards the show of before is open
    again.
    """

    def __init__(self, stack, page):
        self.stack, self.page = stack, page

    def document(self):
        return self.stack.show()["document"]

    def node(self, path):
        with urllib.request.urlopen(f"http://127.0.0.1:{self.stack.node_port}{path}", timeout=5) as response:
            return json.loads(response.read())

    def universe(self, number):
        """A universe as the stand-in heard it by sACN."""
        rows = self.node("/universes")
        return next(row for row in rows if (row["protocol"], row["universe"]) == ("sacn", number))

    def tell_rig(self):
        """Let the stand-in read where lamps hang, by the desk's button."""
        count = len(self.document()["lamps"])
        self.page.get_by_role("button", name="Wire", exact=True).click()
        self.page.get_by_role("button", name="Tell it this rig").click()
        wait_for(lambda: len(self.node("/lamps")) == count, 10, "the stand-in's rig")
        self.page.keyboard.press("Escape")
        self.page.wait_for_timeout(400)

    def intensities(self, ids):
        lamps = {lamp["id"]: lamp for lamp in self.node("/lamps")}
        return [lamps[id]["cells"][0][3] for id in ids]

    def colours(self, ids):
        lamps = {lamp["id"]: lamp for lamp in self.node("/lamps")}
        return [tuple(round(part, 2) for part in lamps[id]["cells"][0][:3]) for id in ids]

    def hang(self, kind, count, name=""):
        """Hang lamps by the desk's dialog; their ids."""
        before = {lamp["id"] for lamp in self.document()["lamps"]}
        page = self.page
        page.get_by_role("button", name="Hang lamps").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("How many").fill(str(count))
        dialog.get_by_role("combobox", name="Kind of lamp").click()
        page.get_by_role("option", name=kind, exact=True).click()
        dialog.get_by_label("Names").fill(name)
        dialog.get_by_role("button", name=f"Hang {count}").click()
        wait_for(lambda: len(self.document()["lamps"]) == len(before) + count, 10, "the lamps")
        return [lamp["id"] for lamp in self.document()["lamps"] if lamp["id"] not in before]

    def at(self, x, up):
        """Where a place of the room is on the screen: metres from the middle and above the floor."""
        box = self.page.locator("[data-rig] canvas").bounding_box()
        room = self.document()["lights"]["room"]
        scale = min((box["width"] - 52) / room["width"], (box["height"] - 52) / room["height"])
        bottom = box["y"] + box["height"] / 2 + room["height"] * scale / 2
        return box["x"] + box["width"] / 2 + x * scale, bottom - up * scale

    def choose(self, ids):
        """Choose lamps that hang beside one another by a box round them."""
        lamps = {lamp["id"]: lamp["place"] for lamp in self.document()["lamps"]}
        places = [lamps[id] for id in ids]
        from_x, to_x = min(p["x"] for p in places), max(p["x"] for p in places)
        low, high = min(p["z"] for p in places), max(p["z"] for p in places)
        start, end = self.at(from_x - 0.3, high + 0.6), self.at(to_x + 0.3, low - 0.6)
        self.page.mouse.move(*start)
        self.page.mouse.down()
        self.page.mouse.move(*end, steps=4)
        self.page.mouse.up()

    def look(self, name):
        """A new look of this name, shown; its id."""
        status, made = self.stack.call("POST", "/looks", {"name": name})
        assert status == 201
        self.page.wait_for_timeout(500)
        return made["id"]

    def layer(self, source):
        """A layer with this source, chosen on the desk in Picture; the layer as the document has it."""
        before = {layer["id"] for layer in self.shown()["layers"]}
        choose_kind(self.page, "Add a layer", source)
        wait_for(lambda: len(self.shown()["layers"]) == len(before) + 1, 10, "the layer")
        return next(layer for layer in self.shown()["layers"] if layer["id"] not in before)

    def shown(self):
        document = self.document()
        return next(look for look in document["looks"] if look["id"] == document["look"])

    def effect(self, layer, kind):
        """An effect on a layer of the shown look; the path of its values."""
        holder = f"/looks/{self.document()['look']}/layers/{layer}/effects"
        status, made = self.stack.call("POST", "/effects", {"holder": holder, "kind": kind})
        assert status == 201, made
        return made["id"], f"{holder}/{made['id']}/values"

    def pad(self, at, kind, **values):
        """A pad with one action, on the page that is open."""
        page = self.document()["pages"][0]["id"]
        status, made = self.stack.call(
            "POST", f"/pages/{page}/pads", {"at": at, "kind": kind, "values": values}
        )
        assert status == 201, made
        return made["id"]

    def run(self):
        """Open Run; an empty show gets a first page by the desk's button."""
        self.page.keyboard.press("5")
        if not self.document()["pages"]:
            self.page.get_by_role("button", name="Add a page").click()
            wait_for(lambda: self.document()["pages"], 10, "the page")
        self.page.wait_for_timeout(400)

    def watch(self, seconds, *addresses):
        """(stream times, rows of these parameters' live values) of every frame meanwhile."""
        layouts = [
            news["data"]["layout"] for news in live(self.stack, 0.4, [])[1] if news["type"] == "layout"
        ]
        entries = {entry["target"]: entry["index"] for entry in layouts[-1]["indices"]}
        packets, _ = live(self.stack, seconds, [BlockId.LIVE])
        at = [entries[address] for address in addresses]
        packets = [packet for packet in packets if packet.layout == packets[-1].layout]
        return (
            np.array([packet.time for packet in packets]),
            np.array([packet.blocks[BlockId.LIVE][at] for packet in packets]),
        )

    def struck(self, seconds, detector, *addresses):
        """(times of a detector's hits, times of frames, rows of these parameters' live values) meanwhile, all
        on the stream's clock.
        """
        layout = [n["data"]["layout"] for n in live(self.stack, 0.4, [])[1] if n["type"] == "layout"][-1]
        number = [hit["id"] for hit in layout["hits"]].index(detector)
        at = [next(e["index"] for e in layout["indices"] if e["target"] == address) for address in addresses]
        packets, _ = live(self.stack, seconds, [BlockId.LIVE, BlockId.HITS])
        packets = [packet for packet in packets if packet.layout == packets[-1].layout]
        rows = np.concatenate([packet.blocks[BlockId.HITS] for packet in packets]).reshape(-1, 5)
        hits = rows[(rows[:, 0] == number) & (rows[:, 1] == 0), 2]
        return (
            hits,
            np.array([packet.time for packet in packets]),
            np.array([packet.blocks[BlockId.LIVE][at] for packet in packets]),
        )

    def moment(self):
        """What the main output shows now, drawn in Python: shape (height, width, 3), 0..255."""
        url = f"{self.stack.url}/api/v1/outputs/main/picture.png?width=640&height=360"
        with urllib.request.urlopen(url, timeout=60) as answer:
            picture = Image.open(io.BytesIO(answer.read())).convert("RGB")
        return np.asarray(picture).astype(float)

    def play(self, sound, title):
        """Put a sound into the library and let the main input play it once, from its beginning."""
        file = io.BytesIO()
        soundfile.write(file, sound, RATE, format="WAV", subtype="PCM_16")
        status, track = self.stack.call("POST", f"/tracks?title={quote(title)}", file.getvalue())
        assert status == 201, track
        self.stack.set("/inputs/main/use", "track")
        self.stack.set("/inputs/main/track/loop", False)
        self.stack.set("/inputs/main/track/track", track["id"])
        self.stack.set("/inputs/main/track/playing", True)
        return track["id"]


@pytest.fixture
def job(stack, chromium):
    before = stack.show()["id"]
    context = chromium.new_context(viewport={"width": 1280, "height": 800})
    context.add_init_script(SELDOM)
    page = context.new_page()
    status, made = stack.call("POST", "/shows", {"name": "Club"})
    assert status == 201
    port = stack.call("GET", "/show")[1]["document"]["light_outputs"][0]
    stack.set("/light_outputs/output-1/port", _sacn_port(stack))
    page.goto(stack.url)
    page.wait_for_selector("[data-column]")
    page.keyboard.press("4")
    page.wait_for_selector("[data-rig] canvas")
    yield Job(stack, page)
    context.close()
    stack.call("POST", f"/shows/{before}/open")
    assert port["protocol"] == "sacn" and made["id"] != before


@pytest.fixture
def hands(job):
    """Hands on the desk that count their steps."""
    return Hands(job)


def _sacn_port(stack):
    """Where the stand-in of this stack listens: as its own command line says."""
    words = stack.child("standin rig").cmdline()
    return int(words[words.index("--sacn-port") + 1])


def tone(hz, seconds, level=0.5):
    """A tone with soft edges, mono."""
    t = np.arange(int(seconds * RATE)) / RATE
    edge = np.minimum(1.0, np.minimum(t, seconds - t) / 0.01)
    return level * np.sin(2 * np.pi * hz * t) * edge


def struck_sound(sound, count, apart_s, level=0.8, lead_s=3.0):
    """One sound again and again; whoever watches has begun by the first."""
    out = np.zeros(int((lead_s + count * apart_s + 2.0) * RATE))
    for k in range(count):
        start = int((lead_s + k * apart_s) * RATE)
        out[start : start + len(sound)] += sound[: len(out) - start] * level
    return out
