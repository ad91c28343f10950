"""A private database server that a test can stop and start."""

import subprocess

from fulgura.folders import Folders
from fulgura.store import server


class Database:
    """Made in the folders, and running."""

    def __init__(self, folders: Folders) -> None:
        self.folders = folders
        folders.make()
        server.create(folders.database)
        self.start()

    def start(self) -> None:
        self.process = subprocess.Popen(server.command(self.folders.database, self.folders.database_socket))
        server.wait_until_ready(
            self.folders.database_socket, self.process, self.folders.data / "database.log"
        )

    def stop(self) -> None:
        self.process.kill()
        self.process.wait()
