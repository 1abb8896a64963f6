"""The local socket that loggers send to: lines of text, the first one the key of the car.

Whoever finds that nobody listens does: one process of all, by a lease of the database's clock.
"""

from __future__ import annotations

import logging
import os
import socket
import socketserver
import threading
import time
from datetime import timedelta

from bilge_core.errors import InvalidInput
from django.conf import settings
from django.db import DatabaseError, close_old_connections, connection
from django.db.models import Q
from django.db.models.functions import Now
from typing_extensions import override

from live.following import Following, NobodyFollowsError
from live.models import LiveListener

logger = logging.getLogger(__name__)

LOOPBACK = "127.0.0.1"
_LEASE = timedelta(seconds=10)
_LOOKS = 2.0  # [s]
_LONGEST_LINE = 4096  # [B]
_SILENT = 20.0  # [s] after which a logger is given up
_MOST = 8  # loggers at a time


class _Handler(socketserver.StreamRequestHandler):
    timeout = _SILENT

    @override
    def handle(self) -> None:
        """Hear one logger out."""
        following: Following | None = None
        try:
            following = Following(self._line().removeprefix("key ").strip())
            while line := self._line():
                following.hear(line)
            following.write()
        except InvalidInput as error:
            self._answer(f"refused: {error}")
            if following is not None:
                following.refuse(error)
        except NobodyFollowsError:
            self._answer("refused: no car is followed by this key")
        except (TimeoutError, ConnectionError, UnicodeDecodeError):
            pass  # it went away, or is no logger
        except DatabaseError as error:
            logger.warning("a logger is not heard, the database is away: %s", error)
        finally:
            connection.close()

    def _line(self) -> str:
        raw = self.rfile.readline(_LONGEST_LINE)
        if len(raw) == _LONGEST_LINE and not raw.endswith(b"\n"):
            raise ConnectionError  # no logger has lines so long
        return raw.decode("utf-8")

    def _answer(self, words: str) -> None:
        try:
            self.wfile.write(f"{words}\n".encode())
        except OSError:
            return  # it does not listen


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True
    block_on_close = False

    def __init__(self, port: int) -> None:
        self._room = threading.BoundedSemaphore(_MOST)
        super().__init__((LOOPBACK, port), _Handler)

    @override
    def process_request(self, request: socket.socket | tuple[bytes, socket.socket],
                        client_address: object) -> None:  # fmt: skip
        """As many at a time as there is room for."""
        if not self._room.acquire(blocking=False):
            self.shutdown_request(request)
            return
        super().process_request(request, client_address)

    @override
    def process_request_thread(self, request: socket.socket | tuple[bytes, socket.socket],
                               client_address: object) -> None:  # fmt: skip
        """One of them."""
        try:
            super().process_request_thread(request, client_address)
        finally:
            self._room.release()


def _bound() -> _Server:
    """On the port that is wanted, or on another where that is taken."""
    try:
        return _Server(settings.LIVE_PORT)
    except OSError:
        return _Server(0)


def _holds(holder: str, port: int) -> bool:
    """Take the row that says who listens, or keep it; False: another has it."""
    mine = Q(holder=holder) | Q(lease_until__isnull=True) | Q(lease_until__lt=Now())
    LiveListener.objects.get_or_create(pk=1)
    return bool(
        LiveListener.objects.filter(mine, pk=1).update(
            holder=holder, port=port, lease_until=Now() + _LEASE
        )
    )


def listen(until: threading.Event) -> None:
    """Listen for as long as nobody else does, and look again and again.

    Parameters
    ----------
    until : Event
        Ends it.
    """
    holder = f"{socket.gethostname()} {os.getpid()} {threading.get_ident()}"
    server: _Server | None = None
    while not until.is_set():
        try:
            close_old_connections()
            port = 0 if server is None else server.server_address[1]
            if not _holds(holder, port):
                _close(server)
                server = None
            elif server is None:
                server = _bound()
                threading.Thread(target=server.serve_forever, daemon=True).start()
                continue  # say on which port
        except DatabaseError as error:
            logger.warning("cannot say who listens for loggers: %s", error)
        until.wait(_LOOKS)
    _close(server)
    LiveListener.objects.filter(holder=holder).update(lease_until=None, port=0)
    connection.close()


def _close(server: _Server | None) -> None:
    if server is not None:
        server.shutdown()
        server.server_close()


def wait_for_port(seconds: float) -> int:
    """The port that is listened on; nil where there is none in time."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        row = LiveListener.objects.filter(pk=1, lease_until__gt=Now(), port__gt=0).first()
        if row is not None:
            return row.port
        time.sleep(0.1)
    return 0
