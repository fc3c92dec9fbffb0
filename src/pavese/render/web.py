"""Fetching addresses that a person typed in: public http(s) only, within bounds, never into the own network.

The address that a name resolves to is checked where the connection is made, so that neither a redirect nor a name that
changes its mind between two look-ups (DNS rebinding) leads inside. Ranges: IANA special-purpose address registries, as
known to Python's `ipaddress` (`is_global`).
"""

from __future__ import annotations

import hashlib
import ipaddress
import re
import socket
import ssl
import time
from collections.abc import Iterable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from posixpath import splitext
from typing import Any
from urllib.parse import quote, urljoin, urlsplit

import httpcore

from pavese.core.errors import PaveseError
from pavese.core.formats.data_url import data_url

_REDIRECTS = 5
#: The longest path under which a picture is put.
_LONGEST = 140
#: Pictures that are fetched at a time.
_AT_ONCE = 4
_AGENT = b"Pavese/1 (reads the colors of a page)"


class AddressRefusedError(PaveseError):
    """An address that is not fetched, or that did not answer, with the reason."""


@dataclass(frozen=True)
class FetchPolicy:
    """What may be fetched: any public address, or only the listed (host, port); and how much of it."""

    public: bool
    listed: frozenset[tuple[str, int]] = frozenset()
    seconds: float = 20.0
    megabytes: float = 20.0


@dataclass(frozen=True)
class Fetched:
    """An answer: the address it came from in the end, its media type, and its bytes."""

    url: str
    media_type: str
    body: bytes
    charset: str = "utf-8"


@dataclass
class Fetcher:
    """Fetches under one policy; time and size are shared by all that one page needs."""

    policy: FetchPolicy
    _spent: int = 0
    _ends: float = field(default=0.0)

    def __post_init__(self) -> None:
        self._ends = time.monotonic() + self.policy.seconds
        self._pool = httpcore.ConnectionPool(
            ssl_context=ssl.create_default_context(),
            network_backend=_Guarded(self.policy, self._ends),
            max_connections=4,
        )

    def get(self, url: str) -> Fetched:
        """What stands at an address, redirects followed. Raises AddressRefusedError with the reason."""
        for _ in range(_REDIRECTS + 1):
            response, body = self._ask(url)
            headers = {key.decode("latin-1").lower(): value.decode("latin-1") for key, value in response.headers}
            if response.status in (301, 302, 303, 307, 308) and "location" in headers:
                url = _joined(url, headers["location"])
                continue
            if response.status >= 400:
                raise AddressRefusedError(f"{_short(url)} answers “{response.status}”: the page is not there.")
            media_type, _, rest = headers.get("content-type", "").partition(";")
            charset = rest.partition("charset=")[2].strip().strip('"') or "utf-8"
            return Fetched(url, media_type.strip().lower(), body, charset)
        raise AddressRefusedError(f"{_short(url)} sends from one address to the next without end.")

    def _ask(self, url: str) -> tuple[httpcore.Response, bytes]:
        clean = _clean(url)
        left = self._ends - time.monotonic()
        if left <= 0:
            raise AddressRefusedError(f"{_short(url)} takes longer than {self.policy.seconds:g} seconds.")
        timeout = {"connect": min(left, 8.0), "read": left, "write": left, "pool": left}
        headers = [(b"user-agent", _AGENT), (b"accept-encoding", b"identity"), (b"accept", b"*/*")]
        try:
            with self._pool.stream("GET", clean, headers=headers, extensions={"timeout": timeout}) as response:
                return response, self._read(url, response.iter_stream())
        except httpcore.TimeoutException as error:
            raise AddressRefusedError(f"{_short(url)} does not answer in time.") from error
        except (httpcore.NetworkError, httpcore.ProtocolError, ssl.SSLError, OSError, ValueError) as error:
            reason = str(error) or type(error).__name__
            raise AddressRefusedError(
                f"{_short(url)} cannot be reached ({reason[:80]}). Without a network, save the page and drop its file."
            ) from error

    def _read(self, url: str, chunks: Iterable[bytes]) -> bytes:
        body = bytearray()
        for chunk in chunks:
            body += chunk
            self._spent += len(chunk)
            if self._spent > self.policy.megabytes * 1024 * 1024:
                raise AddressRefusedError(f"{_short(url)} is larger than {self.policy.megabytes:g} MB with its parts.")
            if time.monotonic() > self._ends:
                raise AddressRefusedError(f"{_short(url)} takes longer than {self.policy.seconds:g} seconds.")
        return bytes(body)


class _Guarded(httpcore.NetworkBackend):
    """Connects to the very address that was checked, until a moment (of `time.monotonic`) for all that is sent."""

    def __init__(self, policy: FetchPolicy, ends: float) -> None:
        self._policy = policy
        self._ends = ends
        self._plain = httpcore.SyncBackend()

    def connect_tcp(
        self,
        host: str,
        port: int,
        timeout: float | None = None,
        local_address: str | None = None,
        socket_options: Iterable[httpcore.SOCKET_OPTION] | None = None,
    ) -> httpcore.NetworkStream:
        if (host, port) not in self._policy.listed:
            if not self._policy.public:
                raise AddressRefusedError(f"{host} is not on the list of addresses that may be fetched here.")
            host = _public_address(host, port)
        stream = self._plain.connect_tcp(host, port, timeout, local_address, socket_options)
        return _Timed(stream, self._ends)

    def connect_unix_socket(
        self, path: str, timeout: float | None = None, socket_options: Iterable[httpcore.SOCKET_OPTION] | None = None
    ) -> httpcore.NetworkStream:
        raise AddressRefusedError("Only web addresses are fetched.")


class _Timed(httpcore.NetworkStream):
    """A connection that ends at a moment, however slowly it drips: a time limit for each read alone would begin anew
    with every byte."""

    def __init__(self, stream: httpcore.NetworkStream, ends: float) -> None:
        self._stream = stream
        self._ends = ends

    def read(self, max_bytes: int, timeout: float | None = None) -> bytes:
        return self._stream.read(max_bytes, self._left(timeout, httpcore.ReadTimeout))

    def write(self, buffer: bytes, timeout: float | None = None) -> None:
        self._stream.write(buffer, self._left(timeout, httpcore.WriteTimeout))

    def close(self) -> None:
        self._stream.close()

    def start_tls(
        self, ssl_context: ssl.SSLContext, server_hostname: str | None = None, timeout: float | None = None
    ) -> httpcore.NetworkStream:
        left = self._left(timeout, httpcore.ConnectTimeout)
        return _Timed(self._stream.start_tls(ssl_context, server_hostname, left), self._ends)

    def get_extra_info(self, info: str) -> Any:
        return self._stream.get_extra_info(info)

    def _left(self, timeout: float | None, late: type[httpcore.TimeoutException]) -> float:
        left = self._ends - time.monotonic()
        if left <= 0:
            raise late("the time for all of it is over")
        return left if timeout is None else min(timeout, left)


def _public_address(host: str, port: int) -> str:
    """An address of a host, all of whose addresses are public. Raises AddressRefusedError."""
    try:
        found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
    except (socket.gaierror, UnicodeError) as error:
        raise AddressRefusedError(
            f"{host[:80]} is not found. Is there a network? Without one, save the page and drop its file."
        ) from error
    addresses = [str(entry[4][0]) for entry in found]
    for address in addresses:
        if not is_public(address):
            raise AddressRefusedError(f"{host[:80]} lies in a private network; only public addresses are fetched.")
    return addresses[0]


def host_of(url: str) -> str:
    """The host that an address names, with its port where it names one; "" for none."""
    try:
        return urlsplit(_whole(url)).netloc.rpartition("@")[2].lower()
    except ValueError:
        return ""


def path_of(url: str) -> str:
    """Where what lies at an address is put among other files: by its host and its path, with a sign of what was asked
    there."""
    parts = urlsplit(_whole(url))
    path = re.sub(r"[^\w./-]+|\.{2,}", "-", parts.path.strip("/"))[-_LONGEST:].strip("/") or "picture"
    stem, ending = splitext(path)
    asked = f"-{hashlib.sha256(parts.query.encode()).hexdigest()[:6]}" if parts.query else ""
    return f"pictures/{re.sub(r'[^a-z0-9.-]', '-', host_of(url))}/{stem}{asked}{ending}"


def fetched_pictures(urls: Sequence[str], policy: FetchPolicy) -> tuple[dict[str, bytes], dict[str, str]]:
    """The pictures at some addresses, several at a time, and why others could not be had; all of them share the time
    and the size of one policy."""
    fetcher = Fetcher(policy)
    found: dict[str, bytes] = {}
    failed: dict[str, str] = {}

    def fetch(url: str) -> bytes:
        body = fetcher.get(_whole(url)).body
        if data_url(body) is None:
            raise AddressRefusedError("what lies there is no picture.")
        return body

    with ThreadPoolExecutor(_AT_ONCE) as threads:
        for url, task in [(url, threads.submit(fetch, url)) for url in urls]:
            try:
                found[url] = task.result()
            except AddressRefusedError as error:
                failed[url] = str(error)
    return found, failed


def _whole(url: str) -> str:
    """An address that leaves out its scheme is meant to be asked for safely."""
    return f"https:{url}" if url.startswith("//") else url


def is_public(address: str) -> bool:
    """Whether an IP address is one of the public internet, IPv4 in IPv6 clothing included."""
    ip = ipaddress.ip_address(address.partition("%")[0])
    mapped = getattr(ip, "ipv4_mapped", None) or getattr(ip, "sixtofour", None)
    if mapped is not None:
        ip = mapped
    # Site-local addresses were given up (RFC 3879), and still lead inside where they are in use.
    site_local = isinstance(ip, ipaddress.IPv6Address) and ip.is_site_local
    return ip.is_global and not ip.is_multicast and not ip.is_reserved and not site_local


def _clean(url: str) -> bytes:
    """An address as it goes over the wire (RFC 3986; host names as in RFC 3490). Raises AddressRefusedError."""
    try:
        parts = urlsplit(url)
        host, port = parts.hostname or "", parts.port
        if parts.scheme not in ("http", "https") or not host:
            raise ValueError
        if parts.username is not None:
            raise AddressRefusedError("An address with a user name in it is not fetched.")
        name = host if host.isascii() else host.encode("idna").decode()
    except ValueError as error:
        raise AddressRefusedError(f"{_short(url)} is no web address; one begins with http:// or https://.") from error
    place = (f"[{name}]" if ":" in name else name) + (f":{port}" if port is not None else "")
    path = quote(parts.path or "/", safe="/%:@!$&'()*+,;=~")
    query = f"?{quote(parts.query, safe='/?%:@!$&()*+,;=~')}" if parts.query else ""
    return f"{parts.scheme}://{place}{path}{query}".encode()


def _joined(url: str, location: str) -> str:
    try:
        return urljoin(url, location)
    except ValueError as error:
        raise AddressRefusedError(f"{_short(url)} sends to an address that is none.") from error


def _short(url: str) -> str:
    return url if len(url) <= 80 else f"{url[:77]}…"
