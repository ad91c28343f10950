"""python -m fulgura.control DATA OSC_PORT MIDI_PORT: the control process."""

import sys
from pathlib import Path

from fulgura.control.main import main
from fulgura.folders import Folders

if __name__ == "__main__":
    main(Folders(Path(sys.argv[1])).run, int(sys.argv[2]), int(sys.argv[3]))
