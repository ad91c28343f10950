"""A shape that answers the room's bass, thrown onto a box: its faces are fitted on the wall itself."""

import io

import numpy as np
from PIL import Image

from harness.stack import wait_for
from tests.desk.jobs.conftest import tone

SIZE = (640, 360)
FACES = {
    "front": [(0.2, 0.3), (0.5, 0.4), (0.5, 0.95), (0.2, 0.8)],
    "side": [(0.5, 0.4), (0.75, 0.3), (0.75, 0.8), (0.5, 0.95)],
    "lid": [(0.2, 0.3), (0.46, 0.2), (0.75, 0.3), (0.5, 0.4)],
}
ORDER = {"lid": (1, 2, 3, 0)}
"""In which corners are moved so that none crosses another on its way."""
CORNERS = ["Top left", "Top right", "Bottom right", "Bottom left"]


def picture(job, output):
    """Its light, shape (360, 640), 0..1."""
    raw = job.stack.raw(f"/outputs/{output}/picture.png?width={SIZE[0]}&height={SIZE[1]}")
    return np.asarray(Image.open(io.BytesIO(raw)).convert("L")) / 255.0


def inside(corners):
    """Which pixels lie in a convex shape."""
    y, x = np.mgrid[: SIZE[1], : SIZE[0]]
    x, y, found = (x + 0.5) / SIZE[0], (y + 0.5) / SIZE[1], np.ones(SIZE[::-1], dtype=bool)
    for (ax, ay), (bx, by) in zip(corners, [*corners[1:], corners[0]]):
        found &= (bx - ax) * (y - ay) - (by - ay) * (x - ax) >= -0.003
    return found


def drag(page, name, to):
    """A handle to a place of the output."""
    frame = page.locator(".frame").bounding_box()
    handle = page.get_by_role("button", name=name, exact=True)
    box = handle.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(frame["x"] + to[0] * frame["width"], frame["y"] + to[1] * frame["height"], steps=6)
    page.mouse.up()


def test_bass_moves_a_shape_on_three_faces_of_a_box(job):
    page = job.page
    page.keyboard.press("3")
    look = job.look("Drum")
    ball = job.layer("ring")
    base = f"/looks/{look}/layers/{ball['id']}/source"
    job.stack.set(f"{base}/values/width", 0.6)
    _, route = job.stack.call(
        "POST", "/routes", {"signal": "band-low", "targets": [f"{ball['source']['id']}.radius"]}
    )
    job.stack.set(f"/routes/{route['id']}/low", 0.1)
    job.stack.set(f"/routes/{route['id']}/high", 0.9)
    output = job.document()["outputs"][0]["id"]
    page.keyboard.press("6")
    page.get_by_role("button", name="Fit Main").click()
    for number, (face, corners) in enumerate(FACES.items(), 1):
        page.get_by_role("button", name="+ Wall", exact=True).click()
        wait_for(lambda number=number: len(_walls(job)) == number, 5, f"the {face}")
        for corner in ORDER.get(face, (0, 1, 2, 3)):
            drag(page, f"{CORNERS[corner]} corner of Wall {number}", corners[corner])
        wait_for(
            lambda number=number, corners=corners: (
                np.abs(np.array(_walls(job)[number - 1]["corners"]) - corners).max() < 0.02
            ),
            5,
            f"the {face}'s corners",
        )
    # A pixel further by an arrow key, and back by undo.
    before = _walls(job)[0]["corners"][0]
    page.get_by_role("button", name="Wall 1", exact=True).click()
    page.get_by_role("button", name="Top left corner of Wall 1", exact=True).press("ArrowRight")
    wait_for(lambda: abs(_walls(job)[0]["corners"][0][0] - before[0] - 1 / 1280) < 1e-6, 5, "a pixel")
    page.keyboard.press("Control+z")
    wait_for(lambda: _walls(job)[0]["corners"][0] == before, 5, "the undo")

    faces = {name: inside(np.array(wall["corners"]).tolist()) for name, wall in zip(FACES, _walls(job))}
    box = np.any(list(faces.values()), axis=0)
    job.play(tone(60, 20.0, 0.7), "Bass")
    loud = picture(job, output)
    assert loud[~box].max() < 0.02, "no light beside the box"
    for name, face in faces.items():
        assert loud[face].max() > 0.4, f"the {name} is lit"
    job.play(tone(5000, 20.0, 0.7), "High")
    high = picture(job, output)
    job.stack.set("/inputs/main/track/playing", False)
    quiet = picture(job, output)
    moved = np.abs(loud - quiet)[box].mean()
    assert moved > 0.02 and np.abs(high - quiet)[box].mean() < 0.01 * moved + 0.002, "only the bass moves it"


def _walls(job):
    return job.document()["outputs"][0]["walls"]
