"""The asynchronous front before the threads: whole requests in, whole answers out.

A thread is taken only when all of a request has come, and given back as soon as its answer is
made: whoever sends or reads slowly holds a socket and nothing else.
"""

from __future__ import annotations

import asyncio
import sys
import time
from collections.abc import Awaitable, Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from tempfile import SpooledTemporaryFile
from typing import Any

Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Wsgi = Callable[..., Iterable[bytes]]
Refusal = Callable[[int, str], bytes]

_PIECE = 256 * 1024  # [B] of an answer at a time
_IN_MEMORY = 1024 * 1024  # [B] of a body; beyond that it waits on disk


class _Late(Exception):
    """The body did not come in time."""


class _TooLarge(Exception):
    """The body is larger than anything that is taken."""


class _Gone(Exception):
    """The client left."""


class BufferedWsgi:
    """A WSGI application behind an event loop.

    Parameters
    ----------
    app
        The application.
    refusal
        The body of an answer of this status and in these words.
    threads
        How many requests it works on at a time.
    largest
        Most bytes of a body; more is answered with 413 unread.
    pause
        Longest time [s] without a byte of a body that is on its way, or of an answer taken.
    slowest
        Bytes a second below which a body is given up, after `pause` of grace.
    """

    def __init__(
        self,
        app: Wsgi,
        refusal: Refusal,
        *,
        threads: int,
        largest: int,
        pause: float = 20.0,
        slowest: float = 8e3,
    ) -> None:
        self._app = app
        self._refusal = refusal
        self._pool = ThreadPoolExecutor(threads, thread_name_prefix="answer")
        self._largest = largest
        self._pause = pause
        self._slowest = slowest

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        """One request, or the server's own start and end."""
        if scope["type"] == "lifespan":
            await _live(receive, send)
        elif scope["type"] == "http":
            with SpooledTemporaryFile(_IN_MEMORY) as body:
                await self._answer(scope, receive, send, body)
        else:
            await send({"type": "websocket.close"})

    async def _answer(self, scope: Message, receive: Receive, send: Send, body: Any) -> None:
        try:
            size = await self._take(scope, receive, body)
        except _Gone:
            return None
        except _Late:
            return await self._refuse(send, 408, "The request took too long to come. Try again.")
        except _TooLarge:
            return await self._refuse(send, 413, "That is larger than anything Bilge takes.")
        pieces: asyncio.Queue[Message | None] = asyncio.Queue()
        loop = asyncio.get_running_loop()

        def put(message: Message | None) -> None:
            loop.call_soon_threadsafe(pieces.put_nowait, message)

        work = loop.run_in_executor(self._pool, self._run, _environ(scope, body, size), put)
        try:
            while (message := await pieces.get()) is not None:
                await asyncio.wait_for(send(message), self._pause)
        except TimeoutError:
            return None  # it does not read: the connection is closed under it
        finally:
            await work  # the body must stay open as long as the application may read it

    async def _refuse(self, send: Send, status: int, words: str) -> None:
        headers = [(b"content-type", b"application/problem+json"), (b"connection", b"close")]
        body = self._refusal(status, words)
        await send({"type": "http.response.start", "status": status, "headers": headers})
        await send({"type": "http.response.body", "body": body, "more_body": False})

    async def _take(self, scope: Message, receive: Receive, body: Any) -> int:
        """Spool the body; its size [B]."""
        stated = dict(scope["headers"]).get(b"content-length", b"")
        if stated.isdigit() and int(stated) > self._largest:
            raise _TooLarge
        size, begun, more = 0, time.monotonic(), True
        while more:
            try:
                message = await asyncio.wait_for(receive(), self._pause)
            except TimeoutError:
                raise _Late from None
            if message["type"] == "http.disconnect":
                raise _Gone
            size += len(message.get("body", b""))
            if size > self._largest:
                raise _TooLarge
            if time.monotonic() - begun > self._pause + size / self._slowest:
                raise _Late
            body.write(message.get("body", b""))
            more = message.get("more_body", False)
        body.seek(0)
        return size

    def _run(self, environ: Message, put: Callable[[Message | None], None]) -> None:
        """In a thread: call the application and hand its answer over."""
        head: list[Message] = []

        def begin(status: str, headers: list[tuple[str, str]], exc_info: Any = None) -> None:
            rows = [(k.lower().encode("latin-1"), v.encode("latin-1")) for k, v in headers]
            code = int(status.split(" ", 1)[0])
            head[:] = [{"type": "http.response.start", "status": code, "headers": rows}]

        try:
            answer = self._app(environ, begin)
            try:
                for piece in answer:
                    while head:
                        put(head.pop())
                    for start in range(0, len(piece), _PIECE):
                        part = piece[start : start + _PIECE]
                        put({"type": "http.response.body", "body": part, "more_body": True})
                while head:  # an answer without a body
                    put(head.pop())
                put({"type": "http.response.body", "body": b"", "more_body": False})
            finally:
                getattr(answer, "close", lambda: None)()
        finally:
            put(None)


def _environ(scope: Message, body: Any, size: int) -> Message:
    """A request as PEP 3333 wants it."""
    client, server = scope.get("client") or ("", 0), scope.get("server") or ("localhost", 80)
    environ: Message = {
        "REQUEST_METHOD": scope["method"],
        "SCRIPT_NAME": "",
        "PATH_INFO": scope["path"].encode("utf-8").decode("latin-1"),
        "QUERY_STRING": scope["query_string"].decode("latin-1"),
        "SERVER_NAME": str(server[0]),
        "SERVER_PORT": str(server[1] or 80),
        "SERVER_PROTOCOL": f"HTTP/{scope['http_version']}",
        "REMOTE_ADDR": str(client[0]),
        "CONTENT_LENGTH": str(size),
        "wsgi.version": (1, 0),
        "wsgi.url_scheme": scope.get("scheme", "http"),
        "wsgi.input": body,
        "wsgi.errors": sys.stderr,
        "wsgi.multithread": True,
        "wsgi.multiprocess": True,
        "wsgi.run_once": False,
    }
    for name, value in scope["headers"]:
        key = name.decode("latin-1").upper().replace("-", "_")
        if key == "CONTENT_TYPE":
            environ[key] = value.decode("latin-1")
        elif key not in {"CONTENT_LENGTH", "TRANSFER_ENCODING"} and b"_" not in name:
            text = value.decode("latin-1")
            join = "; " if key == "COOKIE" else ","  # HTTP/2 may part cookies
            known = environ.get(f"HTTP_{key}")
            environ[f"HTTP_{key}"] = text if known is None else f"{known}{join}{text}"
    return environ


async def _live(receive: Receive, send: Send) -> None:
    while True:
        message = await receive()
        await send({"type": f"{message['type']}.complete"})
        if message["type"] == "lifespan.shutdown":
            return
