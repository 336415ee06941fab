"""At which addresses a server on this machine is found."""

from __future__ import annotations

import fcntl
import ipaddress
import socket
import struct
import time
from typing import Final

from ops.machine import Lacking

_SIOCGIFADDR: Final = 0x8915
LOOPBACK: Final = ("127.0.0.1", "localhost", "[::1]")
_EVERYWHERE: Final = ("0.0.0.0", "::")


def free_port() -> int:
    """A port of this machine's own address that nobody has at this moment."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def is_loopback(host: str) -> bool:
    """Whether only this machine reaches a server that listens there."""
    try:
        return host == "localhost" or ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def own_addresses() -> list[str]:
    """The addresses of this machine's network cards, as the kernel knows them: its name may stand
    for loopback."""
    found = []
    for _, name in socket.if_nameindex():
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
            asked = struct.pack("256s", name.encode()[:15])
            try:
                answer = fcntl.ioctl(probe.fileno(), _SIOCGIFADDR, asked)
            except OSError:
                continue  # a card without an address
        address = socket.inet_ntoa(answer[20:24])
        if not is_loopback(address):
            found.append(address)
    return found


def names_for(host: str) -> list[str]:
    """The names a request may ask for, when the server listens at `host`."""
    if is_loopback(host):
        return [*LOOPBACK]
    here = own_addresses() if host in _EVERYWHERE else [host]
    name = socket.gethostname()
    return [*LOOPBACK, *here, name, f"{name}.local"]


def shown_for(host: str, port: int) -> list[str]:
    """The addresses to open, for who sits here or elsewhere."""
    if host in _EVERYWHERE:
        return [f"http://{one}:{port}/" for one in ("127.0.0.1", *own_addresses())]
    return [f"http://{f'[{host}]' if ':' in host else host}:{port}/"]


def listen(host: str, port: int) -> socket.socket:
    """A socket that listens there, with room for those who wait while a server is started again.
    Raises Lacking."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    try:
        return socket.create_server((host, port), family=family, backlog=2048)
    except OSError as error:
        raise Lacking(f"Port {port} of {host} cannot be had: {error.strerror}.") from error


def demand_port(host: str, port: int, *, within: float = 6.0) -> None:
    """Raises Lacking for a port that somebody has; a server that ends at this moment is given the
    time to."""
    deadline = time.monotonic() + within
    kind = socket.AF_INET6 if ":" in host else socket.AF_INET
    while True:
        with socket.socket(kind) as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError as error:
                if time.monotonic() > deadline:
                    other = "Choose another: ./lauf start --port N"
                    raise Lacking(f"Port {port} of {host} cannot be had: {error.strerror}. {other}"
                                  ) from error  # fmt: skip
            else:
                return
        time.sleep(0.2)
