"""python -m fulgura.engine DATA [--spare]: the engine process."""

import sys
from pathlib import Path

from fulgura.engine.priority import stand_back
from fulgura.folders import Folders

if __name__ == "__main__":
    spare = "--spare" in sys.argv
    if spare:
        stand_back()
    # After that: loading all of it is most of what a spare does.
    from fulgura.engine.main import main

    folders = Folders(Path(sys.argv[1]))
    main(folders.run, folders.tracks, folders.kept_state, spare=spare)
