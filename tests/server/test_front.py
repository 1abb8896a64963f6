"""Slow clients, TLS, a killed master: the web server as started, with a tiny application."""

from __future__ import annotations

import gzip
import io
import os
import signal
import socket
import ssl
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from config.certificates import renew
from cryptography import x509
from django.test import Client

from tests.conftest import ROOT

APPLICATION = """
import asyncio, time
from config.buffering import BufferedWsgi

def answer(environ, begin):
    if environ["PATH_INFO"] == "/slow":
        time.sleep(1.0)
    if environ["PATH_INFO"] == "/fails":
        raise RuntimeError("a bug")
    body = environ["wsgi.input"].read()
    begin("200 OK", [("Content-Type", "text/plain"), ("X-Scheme", environ["wsgi.url_scheme"])])
    many = 40_000_000 if environ["PATH_INFO"] == "/large" else 0
    return [b"%d %s" % (len(body), environ["CONTENT_LENGTH"].encode()), b"x" * many]

def refusal(status, words):
    return words.encode()

application = BufferedWsgi(answer, refusal, threads=2, largest=100_000, pause=1.5, slowest=50_000.0)
"""


class Server:
    """Hypercorn with the tiny application, on a socket that the test holds as a start does."""

    def __init__(self, folder: Path, *words: str, application: str = APPLICATION) -> None:
        (folder / "tiny.py").write_text(application)
        self.held = socket.create_server(("127.0.0.1", 0), backlog=512)
        self.held.set_inheritable(True)
        self.port = self.held.getsockname()[1]
        path = os.pathsep.join([str(folder), str(ROOT / "server"), str(ROOT)])
        self._command = [
            sys.executable, "-m", "hypercorn", "tiny:application", "--config",
            "python:config.serving", "--bind", f"fd://{self.held.fileno()}", *words,
        ]  # fmt: skip
        self._env = {**os.environ, "PYTHONPATH": path}
        self.begin()

    def begin(self) -> None:
        fds = [self.held.fileno()]
        self.process = subprocess.Popen(self._command, env=self._env, pass_fds=fds)

    def connect(self, said: bytes = b"") -> socket.socket:
        made = socket.create_connection(("127.0.0.1", self.port), timeout=30)
        made.sendall(said)
        return made

    def get(self, path: str = "/", data: bytes | None = None) -> bytes:
        address = f"http://127.0.0.1:{self.port}{path}"
        with urllib.request.urlopen(address, data, timeout=30) as answer:
            return bytes(answer.read())

    def end(self) -> None:
        self.process.send_signal(signal.SIGTERM)
        self.process.wait()
        self.held.close()


@pytest.fixture
def server(tmp_path: Path) -> Iterator[Server]:
    made = Server(tmp_path)
    made.get()
    yield made
    made.end()


def children_of(pid: int) -> list[int]:
    """Ids of a process's own children."""
    return [int(each) for each in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]


HEAD = b"POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 90000\r\n"


def test_idle_and_stalled_connections_hold_nobody_up(server: Server) -> None:
    """200 that say nothing, 50 with half a head, 50 with half a body, and 20 that do not read."""
    held = [server.connect() for _ in range(200)]
    held += [server.connect(HEAD[:30]) for _ in range(50)]
    held += [server.connect(HEAD + b"\r\nhalf") for _ in range(50)]
    held += [server.connect(b"GET /large HTTP/1.1\r\nHost: x\r\n\r\n") for _ in range(20)]
    waited = []
    for _ in range(10):
        begun = time.monotonic()
        assert server.get(data=b"abc") == b"3 3"
        waited.append(time.monotonic() - begun)
    assert max(waited) < 5.0  # not for ever: how long is measured in docs/speed.md
    assert b"408" in held[250].recv(200)  # what stalls is told and let go
    for each in held:
        each.close()


def test_a_body_that_trickles_is_given_up(server: Server) -> None:
    with server.connect(HEAD + b"\r\n") as slow:
        begun = time.monotonic()
        slow.settimeout(0.2)
        said = b""
        while not said and time.monotonic() - begun < 20.0:
            slow.sendall(b"x")
            try:
                said = slow.recv(200)
            except TimeoutError:
                continue
        assert b"408" in said


def test_too_large_is_said_unread_and_chunks_are_counted(server: Server) -> None:
    with server.connect(HEAD.replace(b"90000", b"900000") + b"\r\n") as large:
        assert b"413" in large.recv(200)
    head = HEAD.replace(b"Content-Length: 90000", b"Transfer-Encoding: chunked") + b"\r\n"
    with server.connect(head + b"5\r\nhello\r\n0\r\n\r\n") as parted:
        said = b""
        while b"5 5" not in said:
            said += parted.recv(2000)
    with server.connect(head) as endless:
        for _ in range(3):
            endless.sendall(b"8000\r\n" + b"x" * 0x8000 + b"\r\n")
        endless.sendall(b"8000\r\n" + b"x" * 0x8000 + b"\r\n")
        assert b"413" in endless.recv(200)


def test_an_application_that_fails_takes_nothing_with_it(server: Server) -> None:
    for _ in range(4):
        with server.connect(b"GET /fails HTTP/1.1\r\nHost: x\r\n\r\n") as failed:
            failed.recv(100)
    assert server.get() == b"0 0"


def test_a_killed_master_leaves_nobody_behind_and_nobody_refused(tmp_path: Path) -> None:
    """Its workers would answer beside the next one's, those still starting up too."""
    ending = "from config.lifeline import end_with_parent\nend_with_parent()\n"
    made = Server(tmp_path, application=ending + APPLICATION)
    try:
        made.get()
        workers = children_of(made.process.pid)
        assert len(workers) >= 2
        made.process.kill()
        made.process.wait()
        until = time.monotonic() + 20.0
        while any(Path(f"/proc/{pid}").exists() for pid in workers):
            assert time.monotonic() < until, workers
            time.sleep(0.05)
        waiting = made.connect(b"GET / HTTP/1.1\r\nHost: x\r\n\r\n")  # not refused: it waits
        made.begin()
        assert b"200" in waiting.recv(100)
    finally:
        made.end()


def test_tls_by_the_shops_own_authority(tmp_path: Path) -> None:
    folder = tmp_path / "tls"
    folder.mkdir()
    assert renew(folder, ["127.0.0.1", "bench", "bench.local"])
    assert not renew(folder, ["127.0.0.1", "bench"])
    made = Server(
        tmp_path, "--certfile", str(folder / "server.pem"), "--keyfile", str(folder / "server.key")
    )
    try:
        trusting = ssl.create_default_context(cafile=str(folder / "authority.pem"))
        address = f"https://127.0.0.1:{made.port}/"
        with urllib.request.urlopen(address, context=trusting, timeout=30) as answer:
            assert answer.headers["X-Scheme"] == "https"
    finally:
        made.end()


def test_the_authority_stays_and_vouches_for_the_shop_alone(tmp_path: Path) -> None:
    renew(tmp_path, ["192.168.7.4", "bench"])
    first = (tmp_path / "authority.pem").read_bytes()
    assert (tmp_path / "authority.key").stat().st_mode & 0o077 == 0
    assert (tmp_path / "server.key").stat().st_mode & 0o077 == 0
    assert renew(tmp_path, ["192.168.7.9", "bench"])  # another address: another certificate
    assert (tmp_path / "authority.pem").read_bytes() == first
    authority = x509.load_pem_x509_certificate(first)
    bounds = authority.extensions.get_extension_for_class(x509.NameConstraints)
    assert bounds.critical
    renew(tmp_path, ["192.168.7.9", "bench.local"])  # within what it may vouch for
    assert (tmp_path / "authority.pem").read_bytes() == first
    allowed = bounds.value.permitted_subtrees or []
    names = {each.value for each in allowed if isinstance(each, x509.DNSName)}
    assert names == {"local", "localhost", "bench"}
    served = x509.load_pem_x509_certificate((tmp_path / "server.pem").read_bytes())
    served.verify_directly_issued_by(authority)
    assert renew(tmp_path, ["203.0.113.5"])  # a public address of its own: another authority
    assert (tmp_path / "authority.pem").read_bytes() != first
    lasts = served.not_valid_after_utc - served.not_valid_before_utc
    assert lasts.days <= 398  # what phones take


def test_answers_over_a_kilobyte_are_compressed(api: Any, build: Any) -> None:
    client: Client = api.client
    accepts = {"HTTP_ACCEPT_ENCODING": "gzip"}
    large = client.get(f"/api/builds/{build.pk}", **accepts)
    assert large.headers["Content-Encoding"] == "gzip"
    assert gzip.GzipFile(fileobj=io.BytesIO(large.content)).read().startswith(b"{")
    assert "Content-Encoding" not in client.get("/api/health", **accepts).headers


def test_behind_a_proxy_its_word_counts_else_not(client: Client, settings: Any) -> None:
    from config.middleware import ProxyMiddleware
    from django.http import HttpResponse
    from django.test import RequestFactory

    seen = []

    def handler(request: Any) -> HttpResponse:
        seen.append(request.META["REMOTE_ADDR"])
        return HttpResponse()

    told = {"HTTP_X_FORWARDED_FOR": "1.2.3.4, 10.0.0.7"}
    for behind in (False, True):
        settings.BEHIND_PROXY = behind
        ProxyMiddleware(handler)(RequestFactory().get("/", **told))
    assert seen == ["127.0.0.1", "10.0.0.7"]  # the last is the proxy's own word


@pytest.mark.parametrize(("size", "packed"), [(1023, False), (1024, True)])
def test_from_a_kilobyte_on_and_not_before(size: int, packed: bool) -> None:
    from config.middleware import CompressMiddleware
    from django.http import HttpResponse
    from django.test import RequestFactory

    def handler(request: Any) -> HttpResponse:
        return HttpResponse(b"a" * size, content_type="application/json")

    request = RequestFactory().get("/", HTTP_ACCEPT_ENCODING="gzip")
    answer = CompressMiddleware(handler)(request)
    assert ("Content-Encoding" in answer.headers) == packed
