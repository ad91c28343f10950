"""python -m fulgura.web DATA PORT: the web process."""

import sys
from pathlib import Path

import uvicorn

from fulgura.folders import Folders
from fulgura.store.journal import JournalInUse
from fulgura.web.app import create_app
from fulgura.web.letting_go import PageProtocol
from fulgura.web.saver import Saver


def main(folders: Folders, port: int) -> None:
    """Serve until SIGTERM or SIGINT."""
    # Who saves in the background gives way at once to who answers.
    sys.setswitchinterval(0.0005)
    try:
        saver = Saver(folders)
    except JournalInUse as error:
        sys.exit(str(error))
    uvicorn.run(
        create_app(folders, saver),
        host="127.0.0.1",
        port=port,
        log_level="warning",
        ws=PageProtocol,
        ws_max_size=1 << 21,
        # A page that answers no ping reads nothing: its connection is ended.
        ws_ping_interval=5,
        ws_ping_timeout=10,
        timeout_graceful_shutdown=2,
    )


if __name__ == "__main__":
    main(Folders(Path(sys.argv[1])), int(sys.argv[2]))
