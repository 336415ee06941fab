"""`./lauf start --lan`: tablets in the hall open Lauf over TLS, by an authority of this machine.

The authority's certificate is given out over plain http at the next port, because a tablet trusts
nothing of ours before it has it: there is nothing secret in it.
"""

from __future__ import annotations

import html
import ssl
import subprocess
import threading
import time
from collections.abc import Sequence
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Final

from ops import build, network
from ops.machine import ROOT, STATE, Lacking, say

_FOLDER: Final = STATE / "authority"
#: How often is looked whether the certificate ends soon, in seconds.
_LOOKS: Final = 3600.0
_FILE: Final = "lauf-authority.crt"

_HOW: Final = (
    "iPad: open the address in Safari, allow the profile, install it in Settings > General > VPN & "
    "Device Management, then switch it on in Settings > General > About > Certificate Trust "
    "Settings.",
    "Android: download it, then Settings > Security > Encryption & credentials > Install a "
    "certificate > CA certificate.",
    "Windows and ChromeOS: import it as a trusted root authority, or have your IT do so by policy.",
)


class Lan:
    """The certificate of a hall's own network, as long as Lauf is served there."""

    def __init__(self, host: str, port: int) -> None:
        self._port = port
        self._names = network.names_for(host)
        self._next = 0.0
        self._made = 0.0
        self._giving: ThreadingHTTPServer | None = None
        self.renewed()

    @property
    def server_words(self) -> list[str]:
        """What the server is started with."""
        certificate, key = _FOLDER / "certificate.pem", _FOLDER / "key.pem"
        return ["--certificate", str(certificate), "--key", str(key)]

    @property
    def variables(self) -> dict[str, str]:
        return {"LAUF_HTTPS": "yes", "LAUF_CERTIFICATE": str(_FOLDER / "certificate.pem")}

    @property
    def trusted(self) -> ssl.SSLContext:
        """For asking the server from here."""
        return ssl.create_default_context(cafile=str(_FOLDER / "authority.crt"))

    def renewed(self) -> bool:
        """Make the certificate where it is not there or ends soon; whether it is another one now.
        Looks once in an hour. Raises Lacking."""
        if time.monotonic() < self._next:
            return False
        self._next = time.monotonic() + _LOOKS
        _authority(str(_FOLDER), *self._names)
        made = (_FOLDER / "certificate.pem").stat().st_mtime
        was, self._made = self._made, made
        return was not in (0.0, made)

    def give(self) -> None:
        """Give the authority's certificate out. Raises Lacking."""
        try:
            self._giving = ThreadingHTTPServer(("", self._port + 1), _Giving)
        except OSError as error:
            raise Lacking(
                f"Port {self._port + 1} cannot be had for the authority's certificate: "
                f"{error.strerror}. Choose another: ./lauf start --lan --port N"
            ) from error
        threading.Thread(target=self._giving.serve_forever, daemon=True).start()

    def show(self) -> None:
        """Where a tablet opens Lauf, and what it trusts first, as squares to photograph."""
        for address in network.own_addresses():
            certificate = f"http://{address}:{self._port + 1}/{_FILE}"
            say("a tablet trusts this machine once:")
            print(_authority(str(_FOLDER), "--show", certificate), flush=True)
            for line in _HOW:
                say(line)
            say("then it opens Lauf:")
            print(
                _authority(str(_FOLDER), "--show", f"https://{address}:{self._port}/"), flush=True
            )

    def close(self) -> None:
        if self._giving is not None:
            self._giving.shutdown()
            self._giving.server_close()


def _authority(*words: str) -> str:
    command: Sequence[str] = [str(build.PYTHON), "-m", "lauf.serving.authority", *words]
    done = subprocess.run(
        command, cwd=ROOT, env=build.environment(), capture_output=True, text=True
    )
    if done.returncode:
        raise Lacking(f"No certificate could be made: {done.stderr.strip()[-800:]}")
    return done.stdout


class _Giving(BaseHTTPRequestHandler):
    """Gives the authority's certificate, and says how it is trusted."""

    def do_GET(self) -> None:
        if self.path == f"/{_FILE}":
            content = (_FOLDER / "authority.crt").read_bytes()
            self._answer("application/x-x509-ca-cert", content)
        else:
            steps = "".join(f"<li>{html.escape(one)}</li>" for one in _HOW)
            page = (
                '<!doctype html><html lang="en-GB"><meta charset="utf-8">'
                '<meta name="viewport" content="width=device-width">'
                "<title>Trust this Lauf</title><style>body{font:1.1rem sans-serif;margin:2rem auto;"
                "max-width:36rem;padding:0 1rem}a{font-weight:700}</style><h1>Trust this Lauf</h1>"
                f'<p><a href="/{_FILE}">Download the certificate</a>, then:</p><ul>{steps}</ul>'
            )
            self._answer("text/html; charset=utf-8", page.encode())

    def _answer(self, kind: str, content: bytes) -> None:
        self.send_response(200)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(content)))
        self.end_headers()
        self.wfile.write(content)

    def log_message(self, format: str, *words: object) -> None:
        """No line for who trusts it."""
