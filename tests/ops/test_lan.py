"""`./lauf start --lan`: a tablet gets the authority over plain http, trusts it, and opens Lauf."""

from __future__ import annotations

import re
import socket
import ssl
import urllib.error
import urllib.request
from pathlib import Path

import pytest

from tests.ops.installed import Installed
from tests.support.served import wait_for
from tests.support.trusting import page_of

AUTHORITY = "lauf-authority.crt"


def test_a_tablet_that_trusts_the_laptop_opens_lauf(lauf: Installed, tmp_path: Path) -> None:
    lauf.start("--lan", wait=False)
    lauf.heard("here, open https://localhost")
    (given,) = set(re.findall(rf"http://[\d.]+:(\d+)/{AUTHORITY}", lauf.said))
    assert int(given) == lauf.port + 1 and "█" in lauf.said, "there is something to photograph"
    at = f"http://127.0.0.1:{given}"
    how = urllib.request.urlopen(at).read().decode()
    assert AUTHORITY in how and "iPad" in how and "Android" in how
    authority = tmp_path / AUTHORITY
    authority.write_bytes(urllib.request.urlopen(f"{at}/{AUTHORITY}").read())
    assert b"CERTIFICATE" in authority.read_bytes() and b"PRIVATE" not in authority.read_bytes()
    # Nothing else is given out there.
    assert b"PRIVATE" not in urllib.request.urlopen(f"{at}/authority-key.pem").read()
    address = f"https://localhost:{lauf.port}/"
    assert "Sign in" in page_of(address, tmp_path / "trusting", authority)
    assert "Sign in" not in page_of(address, tmp_path / "strange", None)
    # Cookies go no other way, and nothing is served in the clear.
    trusted = ssl.create_default_context(cafile=str(authority))
    with urllib.request.urlopen(f"{address}api/session", context=trusted) as answer:
        assert "Secure" in answer.headers["Set-Cookie"]
    with pytest.raises((urllib.error.URLError, OSError)):
        urllib.request.urlopen(f"http://127.0.0.1:{lauf.port}/api/session")
    first = certificate_of(lauf.port, trusted)
    # As it is when the certificate ends soon: another one is made, by the same authority.
    lauf.stop()
    (lauf.state / "authority" / "certificate.pem").unlink()
    lauf.start("--lan", wait=False)
    lauf.heard("here, open https://localhost")
    assert wait_for(lambda: certificate_of(lauf.port, trusted), bool) != first


def certificate_of(port: int, trusted: ssl.SSLContext) -> bytes | None:
    plain = socket.create_connection(("127.0.0.1", port))
    with trusted.wrap_socket(plain, server_hostname="localhost") as connection:
        return connection.getpeercert(binary_form=True)
