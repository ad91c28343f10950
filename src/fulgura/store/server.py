"""The private MariaDB server: own data folder, own socket, no network at all, never the system's instance."""

import os
import shutil
import subprocess
import time
from pathlib import Path

import pymysql

from fulgura.store.connection import StoreError

PROGRAMS = ("mariadbd", "mariadb-install-db")


def program(name: str) -> str:
    """The path of one of Debian's MariaDB programs; StoreError when it is not installed."""
    found = shutil.which(name) or shutil.which(name, path="/usr/sbin:/usr/bin")
    if found is None:
        raise StoreError(
            f"{name} is missing. Run ./fulgura setup, or install Debian's package mariadb-server-core."
        )
    return found


def _as_user() -> list[str]:
    """MariaDB refuses to run as root unless told to; any other user it must not be told of."""
    return ["--user=root"] if os.geteuid() == 0 else []


def is_new(folder: Path) -> bool:
    return not (folder / "mysql").is_dir()


def create(folder: Path) -> None:
    """Make the server's files in an empty folder."""
    folder.mkdir(parents=True, exist_ok=True)
    made = subprocess.run(
        [
            program("mariadb-install-db"),
            "--no-defaults",
            f"--datadir={folder}",
            "--auth-root-authentication-method=normal",
            "--skip-test-db",
            *_as_user(),
        ],
        capture_output=True,
        text=True,
    )
    if made.returncode != 0:
        said = [line for line in (made.stdout + made.stderr).splitlines() if "ERROR" in line.upper()]
        raise StoreError(
            f"The database could not be created in {folder}:"
            f" {' '.join(said)[:400] or 'see the disk and its rights'}"
        )


def command(folder: Path, socket: Path) -> list[str]:
    """The server's command line. No configuration file of the system is read, and no network port is
    opened.
    """
    return [
        program("mariadbd"),
        "--no-defaults",
        f"--datadir={folder}",
        f"--socket={socket}",
        f"--pid-file={socket.with_suffix('.pid')}",
        "--skip-networking",
        *_as_user(),
        "--innodb-buffer-pool-size=64M",
        "--innodb-log-file-size=24M",
        "--max-connections=40",
        "--skip-name-resolve",
        f"--log-error={folder.parent / 'database.log'}",
    ]


def wait_until_ready(socket: Path, process: subprocess.Popen, log: Path, seconds: float = 180.0) -> None:
    """Return once the server answers; StoreError with the log's last line when it ends or takes too long."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        if process.poll() is not None:
            raise StoreError(
                f"The database could not open its files in {log.parent}. Its last words: {_last_error(log)}"
            )
        try:
            pymysql.connect(unix_socket=str(socket), user="root", connect_timeout=1).close()
            return
        except pymysql.MySQLError:
            time.sleep(0.05)
    raise StoreError(f"The database did not answer within {seconds:.0f} s; see {log}.")


def _last_error(log: Path) -> str:
    if not log.exists():
        return "none"
    lines = [line for line in log.read_text(errors="replace").splitlines() if "[ERROR]" in line]
    return lines[0].split("[ERROR]", 1)[1].strip() if lines else "none"
