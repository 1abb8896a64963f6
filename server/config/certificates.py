"""A small certificate authority of one shop, and the certificate of its Bilge.

The authority may vouch for private addresses and local names only (name constraints, RFC 5280,
4.2.1.10), so that its key in the wrong hands opens nothing else to a phone that trusts it.
"""

from __future__ import annotations

import datetime
import ipaddress
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_YEARS = 10
CERTIFICATE_DAYS = 397
"""Phones refuse certificates that are good for longer."""
RENEWED_DAYS = 30
"""Before the end."""

_PRIVATE = ("10.0.0.0/8", "100.64.0.0/10", "172.16.0.0/12", "192.168.0.0/16",
            "169.254.0.0/16", "127.0.0.0/8", "fc00::/7", "fe80::/10", "::1/128")  # fmt: skip


def _name(words: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, words)])


def _alternative(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _keep_key(key: ec.EllipticCurvePrivateKey, file: Path) -> None:
    file.touch(mode=0o600)
    file.write_bytes(
        key.private_bytes(
            serialization.Encoding.PEM,
            serialization.PrivateFormat.PKCS8,
            serialization.NoEncryption(),
        )
    )


def _keep(certificate: x509.Certificate, file: Path) -> None:
    file.write_bytes(certificate.public_bytes(serialization.Encoding.PEM))


def _begun(subject: str, issuer: str, days: int) -> x509.CertificateBuilder:
    now = datetime.datetime.now(datetime.UTC)
    return (
        x509.CertificateBuilder()
        .subject_name(_name(subject))
        .issuer_name(_name(issuer))
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - datetime.timedelta(hours=1))
        .not_valid_after(now + datetime.timedelta(days=days))
    )


def _allowed(names: list[str]) -> x509.NameConstraints:
    """Private networks, local names, and this machine's own addresses and bare names."""
    networks = [ipaddress.ip_network(each) for each in _PRIVATE]
    words = {"local", "localhost"}
    for name in names:
        kind = _alternative(name)
        if isinstance(kind, x509.DNSName):
            words |= {name} if "." not in name else set()
        elif not _is_within(name, networks):
            networks.append(ipaddress.ip_network(name))
    addresses = [x509.IPAddress(each) for each in networks]
    named = [x509.DNSName(each) for each in sorted(words)]
    return x509.NameConstraints(permitted_subtrees=[*addresses, *named], excluded_subtrees=None)


def _is_within(address: str, networks: Iterable[Any]) -> bool:
    asked = ipaddress.ip_address(address)
    return any(asked.version == each.version and asked in each for each in networks)


def _may_vouch(folder: Path, names: list[str]) -> bool:
    """Whether the authority there is may vouch for all of these."""
    if not ((folder / "authority.pem").exists() and (folder / "authority.key").exists()):
        return False
    authority = x509.load_pem_x509_certificate((folder / "authority.pem").read_bytes())
    bounds = authority.extensions.get_extension_for_class(x509.NameConstraints).value
    permitted = [each.value for each in bounds.permitted_subtrees or ()]
    words = [each for each in permitted if isinstance(each, str)]
    networks = [each for each in permitted if not isinstance(each, str)]
    for name in names:
        if isinstance(_alternative(name), x509.DNSName):
            if not any(name == word or name.endswith(f".{word}") for word in words):
                return False
        elif not _is_within(name, networks):
            return False
    return True


_AUTHORITY = "Bilge of this shop"


def _make_authority(folder: Path, names: list[str]) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    usage = x509.KeyUsage(False, False, False, False, False, True, True, False, False)
    certificate = (
        _begun(_AUTHORITY, _AUTHORITY, 365 * AUTHORITY_YEARS)
        .public_key(key.public_key())
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(usage, critical=True)
        .add_extension(_allowed(names), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _keep_key(key, folder / "authority.key")
    _keep(certificate, folder / "authority.pem")


def _make_certificate(folder: Path, names: list[str]) -> None:
    authority = x509.load_pem_x509_certificate((folder / "authority.pem").read_bytes())
    signer = serialization.load_pem_private_key((folder / "authority.key").read_bytes(), None)
    assert isinstance(signer, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    certificate = (
        _begun("Bilge", _AUTHORITY, CERTIFICATE_DAYS)
        .public_key(key.public_key())
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(
            x509.SubjectAlternativeName([_alternative(name) for name in names]), critical=False
        )
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(signer.public_key()), critical=False
        )
        .sign(signer, hashes.SHA256())
    )
    assert certificate.issuer == authority.subject
    _keep_key(key, folder / "server.key")
    _keep(certificate, folder / "server.pem")


def _still_good(folder: Path, names: list[str]) -> bool:
    file = folder / "server.pem"
    if not (file.exists() and (folder / "server.key").exists()):
        return False
    certificate = x509.load_pem_x509_certificate(file.read_bytes())
    held = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    left = certificate.not_valid_after_utc - datetime.datetime.now(datetime.UTC)
    wanted = {_alternative(name) for name in names}
    return left > datetime.timedelta(days=RENEWED_DAYS) and wanted <= set(held)


def renew(folder: Path, names: list[str]) -> bool:
    """Make the authority where there is none, and a certificate for `names` where it is needed.

    Whether one was made. The authority stays, so that phones that took it need not take another,
    unless the machine has got a name or a public address that it may not vouch for.
    """
    if not _may_vouch(folder, names):
        _make_authority(folder, names)
        (folder / "server.pem").unlink(missing_ok=True)
    if _still_good(folder, names):
        return False
    _make_certificate(folder, names)
    return True
