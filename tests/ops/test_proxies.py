"""The samples for nginx and Caddy, started as they are but for name, ports and certificate: a
browser that trusts the authority opens Lauf through them, and signs in."""

from __future__ import annotations

import http.client
import json
import os
import socket
import ssl
import subprocess
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest

from lauf.serving.authority import Files, ensure
from ops.machine import ROOT
from ops.network import free_port
from tests.support.served import Served, served, wait_for
from tests.support.trusting import page_of

NAME = "lauf.local"
DEPLOY = ROOT / "deploy"


def nginx(folder: Path, files: Files, lauf: Served, port: int) -> list[str]:
    site = (DEPLOY / "nginx.conf").read_text()
    for was, now in {
        "pe.school.example": NAME,
        "listen 80;": f"listen 127.0.0.1:{free_port()};",
        "listen 443 ssl http2;": f"listen 127.0.0.1:{port} ssl http2;",
        "/etc/lauf/tls/certificate.pem": str(files.certificate),
        "/etc/lauf/tls/key.pem": str(files.key),
        "127.0.0.1:8400": f"127.0.0.1:{lauf.port}",
    }.items():
        assert was in site, f"the sample has no {was} any more"
        site = site.replace(was, now)
    whole = folder / "nginx.conf"
    # What Debian's nginx.conf has around a site.
    whole.write_text(
        f"daemon off; pid {folder}/pid; error_log stderr; events {{}} http {{ access_log off;"
        f" client_body_temp_path {folder}/body; proxy_temp_path {folder}/proxy;"
        f" fastcgi_temp_path {folder}/f; uwsgi_temp_path {folder}/u; scgi_temp_path {folder}/s;\n"
        f"{site}\n}}"
    )
    return ["nginx", "-p", str(folder), "-c", str(whole)]


def caddy(folder: Path, files: Files, lauf: Served, port: int) -> list[str]:
    site = (DEPLOY / "Caddyfile").read_text()
    for was, now in {
        "\npe.school.example {": f"\nhttps://{NAME}:{port} {{\n"
        f"\ttls {files.certificate} {files.key}\n\tbind 127.0.0.1",
        "127.0.0.1:8400": f"127.0.0.1:{lauf.port}",
    }.items():
        assert was in site, f"the sample has no {was} any more"
        site = site.replace(was, now)
    whole = folder / "Caddyfile"
    whole.write_text(f"{{\n\tadmin off\n\tauto_https disable_redirects\n}}\n{site}")
    return ["caddy", "run", "--adapter", "caddyfile", "--config", str(whole)]


@contextmanager
def running(command: list[str], home: Path) -> Iterator[None]:
    process = subprocess.Popen(command, env={**os.environ, "HOME": str(home)})
    try:
        yield
    finally:
        process.terminate()
        process.wait()


@pytest.mark.parametrize("proxy", [nginx, caddy])
def test_a_browser_that_trusts_the_authority_opens_lauf_behind_the_sample(
    demo_template: str, tmp_path: Path, proxy: Callable[[Path, Files, Served, int], list[str]]
) -> None:
    port = free_port()
    files = ensure(tmp_path / "tls", [NAME])
    address = f"https://{NAME}:{port}"
    own = {
        "LAUF_HOSTS": f"127.0.0.1,{NAME}", "LAUF_ORIGINS": address, "LAUF_HTTPS": "yes",
        "LAUF_PROXY": "127.0.0.1",
    }  # fmt: skip
    with (
        served(demo_template, **own) as lauf,
        running(proxy(tmp_path, files, lauf, port), tmp_path),
    ):
        here = Through(port, files)
        answer = wait_for(here.begun, bool)
        assert answer.headers["Strict-Transport-Security"] == "max-age=31536000"
        resolved = f"--host-resolver-rules=MAP {NAME} 127.0.0.1"
        shown = page_of(f"{address}/", tmp_path / "trusting", files.authority, resolved)
        assert "Sign in" in shown
        # Who does not trust it is not let through.
        refused = page_of(f"{address}/", tmp_path / "strange", None, resolved)
        assert "Sign in" not in refused
        signed_in(here, address)
        lines = read_events(here)
        assert lines and lines[0].startswith(b"data:")


class Through:
    """Asks through the proxy by its name, with the cookies a browser would keep."""

    def __init__(self, port: int, files: Files) -> None:
        self._port = port
        self._trusted = ssl.create_default_context(cafile=str(files.authority))
        self._cookies: dict[str, str] = {}

    def ask(self, path: str, body: object = None, **headers: str) -> http.client.HTTPResponse:
        connection = http.client.HTTPSConnection(NAME, self._port)
        plain = socket.create_connection(("127.0.0.1", self._port))
        connection.sock = self._trusted.wrap_socket(plain, server_hostname=NAME)
        cookies = "; ".join(f"{name}={held}" for name, held in self._cookies.items())
        connection.request(
            "GET" if body is None else "POST", path, None if body is None else json.dumps(body),
            {"Cookie": cookies, "Content-Type": "application/json", **headers},
        )  # fmt: skip
        answer = connection.getresponse()
        for one in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = one.partition(";")[0].partition("=")
            self._cookies[name] = value
            assert "Secure" in one, "over https no cookie goes another way"
        return answer

    def begun(self) -> http.client.HTTPResponse | None:
        """None where nobody listens yet."""
        try:
            return self.ask("/api/ready")
        except OSError:
            return None

    @property
    def token(self) -> str:
        return next(held for name, held in self._cookies.items() if "csrf" in name)


def signed_in(here: Through, origin: str) -> None:
    here.ask("/api/session")
    who = {"username": "demo", "password": "painted-floor-7"}
    own = {"X-CSRFToken": here.token, "Origin": origin, "Referer": f"{origin}/"}
    assert here.ask("/api/session", who, **own).status == 200
    assert json.load(here.ask("/api/today"))["lessons"]


def read_events(here: Through) -> list[bytes]:
    """The first events of a lesson: they come at once, though the answer never ends."""
    lesson = json.load(here.ask("/api/today"))["lessons"][0]["id"]
    stream = here.ask(f"/api/lessons/{lesson}/live")
    found = [line for line in iter(stream.readline, b"\r\n") if line.strip()]
    stream.close()
    return found
