"""A certificate for tablets in the hall, by an authority of this machine alone.

The authority can speak for names of this kind only: addresses of private networks, this machine's
own name and `.local`. Whoever gets hold of its key can pretend to be nothing else.
Its certificate is for tablets to trust; the key never leaves the folder.
"""

from __future__ import annotations

import argparse
import ipaddress
import os
import socket
import sys
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Final

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

_AUTHORITY_LASTS: Final = timedelta(days=3650)
#: Browsers take none that lasts much longer than a year.
_LASTS: Final = timedelta(days=90)
_RENEWED_BEFORE: Final = timedelta(days=30)
#: Networks that are nobody's on the internet: RFC 1918, 3927, 4193, 4291, 5737, 6598.
_PRIVATE: Final = tuple(
    ipaddress.ip_network(one)
    for one in (
        "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "100.64.0.0/10", "169.254.0.0/16",
        "127.0.0.0/8", "192.0.2.0/24", "198.51.100.0/24", "203.0.113.0/24", "fc00::/7",
        "fe80::/10", "::1/128",
    )
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Files:
    """Where they stand: the authority's certificate, and what a server is started with."""

    authority: Path
    certificate: Path
    key: Path


def ensure(folder: Path, names: Sequence[str], now: datetime | None = None) -> Files:
    """The files in a folder, made where they are not there, for other names, or soon to end. Raises
    ValueError for a name or an address that is not of a hall's own network."""
    now = now or datetime.now(UTC)
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    files = Files(folder / "authority.crt", folder / "certificate.pem", folder / "key.pem")
    authority_key = folder / "authority-key.pem"
    if not authority_key.exists() or not files.authority.exists() or _ends(files.authority, now):
        _make_authority(files.authority, authority_key, now)
        files.certificate.unlink(missing_ok=True)
    if not files.certificate.exists() or _ends(files.certificate, now) or _lacks(files, names):
        _make_certificate(files, authority_key, names, now)
    return files


def until(file: Path) -> datetime:
    """When a certificate ends."""
    return _read(file).not_valid_after_utc


def _read(file: Path) -> x509.Certificate:
    return x509.load_pem_x509_certificate(file.read_bytes())


def _ends(file: Path, now: datetime) -> bool:
    return until(file) - now < _RENEWED_BEFORE


def _lacks(files: Files, names: Sequence[str]) -> bool:
    """Whether it is of other names, or of another authority."""
    found = _read(files.certificate)
    held = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return set(held) != set(_alternatives(names)) or found.issuer != _read(files.authority).subject


def _alternatives(names: Sequence[str]) -> list[x509.GeneralName]:
    found: list[x509.GeneralName] = []
    for name in dict.fromkeys(names):
        try:
            address = ipaddress.ip_address(name.strip("[]"))
        except ValueError:
            found.append(x509.DNSName(name))
            continue
        if not any(address in one for one in _PRIVATE):
            raise ValueError(
                f"{address} is an address of the internet: serve there behind a proxy with a "
                "certificate of its own (docs/operations/proxy.md)"
            )
        found.append(x509.IPAddress(address))
    return found


def _make_authority(file: Path, key_file: Path, now: datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    named = x509.Name([
        x509.NameAttribute(NameOID.COMMON_NAME, f"Lauf on {socket.gethostname()}"[:64]),
        # Two authorities of one machine are not one.
        x509.NameAttribute(NameOID.SERIAL_NUMBER, os.urandom(8).hex()),
    ])  # fmt: skip
    networks = [x509.IPAddress(one) for one in _PRIVATE]
    hosts = [x509.DNSName(one) for one in ("localhost", "local", socket.gethostname())]
    made = (
        x509.CertificateBuilder(named, named, key.public_key(), x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + _AUTHORITY_LASTS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(x509.NameConstraints([*hosts, *networks], None), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write(key_file, _pem(key))
    _write(file, made.public_bytes(serialization.Encoding.PEM))


def _make_certificate(files: Files, key_file: Path, names: Sequence[str], now: datetime) -> None:
    authority = _read(files.authority)
    signing = serialization.load_pem_private_key(key_file.read_bytes(), None)
    assert isinstance(signing, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    named = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Lauf")])
    public = key.public_key()
    made = (
        x509.CertificateBuilder(authority.subject, named, public, x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + _LASTS)
        .add_extension(x509.SubjectAlternativeName(_alternatives(names)), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(signing.public_key()),
            critical=False,
        )
        .sign(signing, hashes.SHA256())
    )
    _write(files.key, _pem(key))
    _write(files.certificate, made.public_bytes(serialization.Encoding.PEM))


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs, content_commitment=False, key_encipherment=False,
        data_encipherment=False, key_agreement=False, key_cert_sign=signs, crl_sign=signs,
        encipher_only=False, decipher_only=False,
    )  # fmt: skip


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )


def _write(file: Path, content: bytes) -> None:
    """Whole or not at all, for its owner alone."""
    part = file.with_suffix(".part")
    part.touch(mode=0o600)
    part.write_bytes(content)
    part.replace(file)


def main() -> int:
    """For `./lauf start --lan`: makes the files, and shows addresses as squares to photograph."""
    words = argparse.ArgumentParser(prog="lauf.serving.authority")
    words.add_argument("folder", type=Path)
    words.add_argument("names", nargs="*")
    words.add_argument("--show", action="append", default=[], metavar="ADDRESS")
    asked = words.parse_args()
    if asked.names:
        try:
            ensure(asked.folder, asked.names)
        except (ValueError, OSError) as error:
            sys.stderr.write(f"{error}\n")
            return 1
    if asked.show:
        import segno

        for address in asked.show:
            sys.stdout.write(f"{address}\n")
            segno.make(address, micro=False).terminal(out=sys.stdout, compact=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
