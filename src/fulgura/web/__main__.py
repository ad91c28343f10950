"""python -m fulgura.web DATA PORT: the web process."""

import sys
from pathlib import Path

import uvicorn

from fulgura.folders import Folders
from fulgura.web.app import create_app

if __name__ == "__main__":
    uvicorn.run(
        create_app(Folders(Path(sys.argv[1]))),
        host="127.0.0.1",
        port=int(sys.argv[2]),
        log_level="warning",
        ws_max_size=1 << 21,
        # A page that answers no ping reads nothing: its connection is ended.
        ws_ping_interval=5,
        ws_ping_timeout=10,
        timeout_graceful_shutdown=2,
    )
