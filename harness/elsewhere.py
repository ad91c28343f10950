"""Runs a script in the environment of packages that ours must not have: see fulgura.setup.APART."""

import json
import subprocess
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from fulgura.setup import APART

PYTHON = APART["requirements-flashes.lock"] / "bin" / "python"

IRIS = """
import json, sys
import numpy as np
from iris_pse_detection.configuration import Configuration
from iris_pse_detection.flash_detection import FlashDetection
pictures = np.load(sys.argv[1])
detection = FlashDetection(fps=60, frame_size=pictures.shape[1:3], config=Configuration())
rows = []
for number, picture in enumerate(pictures):
    detection.set_current_frame(np.ascontiguousarray(picture[..., ::-1]))
    rows.append(detection.analyse_frame(number))
print(json.dumps({
    "transitions": max(row.luminance_transitions for row in rows),
    "red": max(row.red_transitions for row in rows),
    "fails": bool(detection.flash_fail),
}))
"""

OPENCV = """
import json, sys
import cv2, numpy as np
asked = json.loads(sys.argv[1])
unit = np.float32([[0, 0], [1, 0], [1, 1], [0, 1]])
matrices = [cv2.getPerspectiveTransform(unit.astype(np.float32), np.float32(c)).tolist() for c in asked]
print(json.dumps(matrices))
"""


def _run(script: str, *words: str) -> Any:
    done = subprocess.run([PYTHON, "-c", script, *words], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr[-2000:]
    return json.loads(done.stdout)


def iris(pictures: NDArray[np.uint8], folder: Path) -> dict[str, Any]:
    """What iris-pse-detection 1.1.2 says of pictures at 60 a second, shape (n, height, width, 3): the most
    changes of luminance and of red in a second, and whether it refuses them.
    """
    file = folder / "pictures.npy"
    np.save(file, pictures)
    return _run(IRIS, str(file))


def opencv_homographies(corners: list[list[tuple[float, float]]]) -> list[NDArray[np.float64]]:
    """OpenCV's maps of the unit square onto corners, clockwise from the top left: 32-bit in, 64-bit out."""
    return [np.array(matrix) for matrix in _run(OPENCV, json.dumps(corners))]
