"""The hall's own authority: a certificate that a client takes, renewed in time, and for nothing
outside the hall."""

from __future__ import annotations

import socket
import ssl
import threading
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from lauf.serving.authority import Files, ensure, until

NAMES = (
    "127.0.0.1",
    "::1",
    "localhost",
    "192.168.4.20",
    "192.0.2.2",
    f"{socket.gethostname()}.local",
)


def handshake(files: Files, name: str) -> str:
    """What who trusts the authority gets of a server with the certificate: "taken", or why not."""
    server = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    server.load_cert_chain(files.certificate, files.key)
    listening = socket.create_server(("127.0.0.1", 0))

    def answer() -> None:
        connection, _ = listening.accept()
        try:
            server.wrap_socket(connection, server_side=True).close()
        except OSError:
            connection.close()

    thread = threading.Thread(target=answer)
    thread.start()
    client = ssl.create_default_context(cafile=str(files.authority))
    try:
        plain = socket.create_connection(listening.getsockname())
        client.wrap_socket(plain, server_hostname=name).close()
        return "taken"
    except ssl.SSLCertVerificationError as error:
        return str(error.verify_message)
    finally:
        thread.join()
        listening.close()


@pytest.mark.parametrize("name", NAMES)
def test_a_tablet_that_trusts_the_authority_takes_the_certificate(
    tmp_path: Path, name: str
) -> None:
    files = ensure(tmp_path / "tls", NAMES)
    assert handshake(files, name) == "taken"
    assert "mismatch" in handshake(files, "pe.school.example")
    for secret in (files.key, files.key.with_name("authority-key.pem")):
        assert secret.stat().st_mode & 0o077 == 0


def test_it_is_renewed_in_time_and_for_other_names_by_the_same_authority(tmp_path: Path) -> None:
    now = datetime.now(UTC) - timedelta(days=61)
    files = ensure(tmp_path, NAMES, now)
    trusted, first = files.authority.read_bytes(), files.certificate.read_bytes()
    assert ensure(tmp_path, NAMES, now + timedelta(days=59)).certificate.read_bytes() == first
    ensure(tmp_path, NAMES, now + timedelta(days=61))
    assert files.certificate.read_bytes() != first
    assert until(files.certificate) > now + timedelta(days=149)
    ensure(tmp_path, [*NAMES, "10.0.0.7"], now + timedelta(days=61))
    assert files.authority.read_bytes() == trusted
    assert handshake(files, "10.0.0.7") == "taken"


def test_it_speaks_for_nothing_outside_the_hall(tmp_path: Path) -> None:
    with pytest.raises(ValueError, match=r"8\.8\.8\.8"):
        ensure(tmp_path, ["8.8.8.8"])
    # Nor is it believed where it does: RFC 5280, 4.2.1.10.
    files = ensure(tmp_path, ["pe.school.example"])
    assert "permitted subtree" in handshake(files, "pe.school.example")
