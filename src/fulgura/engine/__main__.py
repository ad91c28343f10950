"""python -m fulgura.engine DATA: the engine process."""

import sys
from pathlib import Path

from fulgura.engine.main import main
from fulgura.folders import Places

if __name__ == "__main__":
    places = Places(Path(sys.argv[1]))
    main(places.run, places.tracks)
