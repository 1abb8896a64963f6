"""A database that somebody else runs: the shop's own server, named by BILGE_DB_*."""

from __future__ import annotations

import os
import socket

from launch.database import PrivateMariaDB
from launch.paths import HOME, Missing

NAMES = (
    "BILGE_DB_HOST", "BILGE_DB_PORT", "BILGE_DB_NAME", "BILGE_DB_USER", "BILGE_DB_PASSWORD",
)  # fmt: skip


class GivenDatabase:
    """Only looked at, never started or stopped."""

    process = None

    def __init__(self) -> None:
        missing = [name for name in NAMES if name not in os.environ]
        if missing:
            raise Missing(f"BILGE_DB_HOST names a database; {', '.join(missing)} must be set too")
        self.host, self.port = os.environ["BILGE_DB_HOST"], int(os.environ["BILGE_DB_PORT"])
        self.mark = f"{self.host}:{self.port}/{os.environ['BILGE_DB_NAME']}"

    def start(self) -> None:
        """See whether anything answers there.

        Raises
        ------
        Missing
        """
        try:
            socket.create_connection((self.host, self.port), timeout=10).close()
        except OSError as error:
            raise Missing(f"no database answers at {self.host}:{self.port}: {error}") from None

    def environment(self) -> dict[str, str]:
        """What Django needs to reach it."""
        return {name: os.environ[name] for name in NAMES}

    def stop(self) -> None:
        """It is not ours to stop."""


def chosen_database() -> PrivateMariaDB | GivenDatabase:
    """The database named by the environment, else a private one with the data.

    Raises
    ------
    Missing
        If it is named in part only.
    """
    return GivenDatabase() if "BILGE_DB_HOST" in os.environ else PrivateMariaDB(HOME / "database")
