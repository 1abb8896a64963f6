"""Where Bilge is reached: this machine alone, or the shop's network with TLS."""

from __future__ import annotations

import ipaddress
import socket
import subprocess
from dataclasses import dataclass
from pathlib import Path

from launch.keys import own_secrets
from launch.paths import HOME, PYTHON, ROOT, Missing, environment
from launch.tools import run

DEFAULT_PORT = 8750
_LOOPBACK = "127.0.0.1"
TLS = HOME / "tls"


@dataclass(frozen=True)
class Asked:
    """What the words of ``./bilge start`` ask for."""

    port: int = DEFAULT_PORT
    host: str | None = None
    lan: bool = False
    certificate: Path | None = None
    key: Path | None = None
    demo: bool = False

    @property
    def bound_to(self) -> str:
        """The address that the server listens on."""
        return self.host or ("0.0.0.0" if self.lan else _LOOPBACK)  # noqa: S104 - asked for

    @property
    def only_here(self) -> bool:
        """Whether nobody but this machine can reach it."""
        try:
            return ipaddress.ip_address(self.bound_to).is_loopback
        except ValueError:
            return self.bound_to == "localhost"

    @property
    def with_demo(self) -> bool:
        """The demo account is there on this machine, on a network only when asked for."""
        return self.demo or self.only_here


def own_network_address() -> str:
    """This machine's address on its network; loopback where it has none.

    Nothing is sent: a datagram socket is only pointed at an address reserved for documentation.
    """
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))
            return str(probe.getsockname()[0])
        except OSError:
            return _LOOPBACK


@dataclass(frozen=True)
class Address:
    """Where people reach it, and by which certificate."""

    asked: Asked
    names: tuple[str, ...]
    certificate: Path | None
    key: Path | None

    @property
    def url(self) -> str:
        """What is typed into a browser."""
        name = f"[{self.names[0]}]" if ":" in self.names[0] else self.names[0]
        return f"{'https' if self.certificate else 'http'}://{name}:{self.asked.port}"

    def environment(self) -> dict[str, str]:
        """What Django needs to know of it."""
        authority = TLS / "authority.pem"
        own = self.certificate is not None and self.certificate.parent == TLS
        return {
            "BILGE_NAMES": ",".join(self.names),
            "BILGE_ADDRESS": self.url,
            "BILGE_SECURE": "1" if self.certificate else "",
            "BILGE_AUTHORITY": str(authority) if own else "",
        }


def _names(asked: Asked) -> tuple[str, ...]:
    here = ("127.0.0.1", "localhost")
    if asked.only_here:
        return (*dict.fromkeys((asked.bound_to, *here)),)
    any_address = asked.bound_to in {"0.0.0.0", "::"}  # noqa: S104
    first = own_network_address() if any_address else asked.bound_to
    machine = socket.gethostname().split(".")[0].lower()
    return (*dict.fromkeys((first, machine, f"{machine}.local", *here)),)


def _own_certificate(names: tuple[str, ...]) -> tuple[Path, Path]:
    """A certificate by this Bilge's own small authority, both made where they are missing."""
    TLS.mkdir(mode=0o700, exist_ok=True)
    manage: list[str | Path] = [PYTHON, ROOT / "server" / "manage.py"]
    run(
        "making a certificate",
        [*manage, "lan_certificate", TLS, *names],
        env=environment(**own_secrets()),
    )
    return TLS / "server.pem", TLS / "server.key"


def settle(asked: Asked) -> Address:
    """Decide names and certificate.

    Raises
    ------
    Missing
        If only one of certificate and key is given, or one cannot be read.
    """
    names = _names(asked)
    if (asked.certificate is None) != (asked.key is None):
        raise Missing("--cert and --key go together: a certificate and its private key, as PEM")
    for file in (asked.certificate, asked.key):
        if file is not None and not file.is_file():
            raise Missing(f"there is no file {file}")
    if asked.certificate is not None and asked.key is not None:
        return Address(asked, names, asked.certificate.absolute(), asked.key.absolute())
    if asked.lan:
        return Address(asked, names, *_own_certificate(names))
    return Address(asked, names, None, None)


def listen(asked: Asked) -> socket.socket:
    """A socket at the address asked for, held for as long as Bilge is up.

    A web server that is started again takes it over: meanwhile callers wait instead of being
    refused.

    Raises
    ------
    Missing
        If the address is not this machine's, or the port is taken.
    """
    family = socket.AF_INET6 if ":" in asked.bound_to else socket.AF_INET
    held = socket.socket(family, socket.SOCK_STREAM)
    held.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        held.bind((asked.bound_to, asked.port))
    except OSError as error:
        held.close()
        if error.errno == 98:  # address in use
            raise Missing(
                f"port {asked.port} is taken; choose another: ./bilge start --port 8751"
            ) from None
        raise Missing(f"cannot listen on {asked.bound_to}:{asked.port}: {error}") from None
    held.set_inheritable(True)
    return held


def show(address: Address, env: dict[str, str]) -> None:
    """Print the address, on a network with a code that a phone reads."""
    print(f"\nBilge is at {address.url}", flush=True)
    if not address.asked.only_here:
        manage = [str(PYTHON), str(ROOT / "server" / "manage.py"), "show_address", address.url]
        subprocess.run(manage, env=env, check=False)
