"""python -m fulgura.engine DATA [--spare]: the engine process."""

import sys
from pathlib import Path

from fulgura.engine.main import main
from fulgura.folders import Folders

if __name__ == "__main__":
    folders = Folders(Path(sys.argv[1]))
    main(folders.run, folders.tracks, folders.kept_state, spare="--spare" in sys.argv)
