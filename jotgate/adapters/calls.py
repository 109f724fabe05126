"""Calls over HTTPS, to addresses that anybody can reach.

The name is looked up once, every address that it has is looked at, and the connection goes to one
of those: a name that means something else a moment later changes nothing. Redirects are not
followed.
"""

import asyncio
import socket
import time
from urllib.parse import SplitResult, urlsplit

import httpx

from jotgate.core.dispatch.hosts import is_public
from jotgate.core.signed_calls import signature
from jotgate.ports.calls import Answered, Call, CallFailed

SECONDS = 10.0
"""How long a call may take, from the first to the last byte."""

MOST_READ = 4_096
"""Bytes of an answer that are read."""

GONE = 410
"""An endpoint that wants no more calls (Standard Webhooks; RFC 9110, 15.5.11)."""

CLOSED = "It leads to an address that only this server can reach."


class HttpCalls:
    """With `private`, calls also go to addresses in private networks, and without TLS: for
    installations whose other systems are beside them, and for trying."""

    def __init__(
        self, private: bool = False, transport: httpx.AsyncBaseTransport | None = None
    ) -> None:
        self._private = private
        self._transport = transport

    def fault_of(self, address: str) -> str:
        try:
            parts = urlsplit(address)
            port = parts.port
        except ValueError:
            return "This is not a web address."
        schemes = ("https", "http") if self._private else ("https",)
        if parts.scheme not in schemes or not parts.hostname:
            return "Write a web address that begins with https://."
        if parts.username or parts.password or parts.fragment or port == 0:
            return "Write the address without a name, a password or a part behind #."
        if not self._private and _is_ip(parts.hostname) and not is_public(parts.hostname):
            return CLOSED
        return ""

    async def send(self, call: Call) -> Answered:
        fault = self.fault_of(call.address)
        if fault:
            raise CallFailed(fault, for_good=True)
        try:
            async with asyncio.timeout(SECONDS):
                answered = await self._sent(call)
        except TimeoutError:
            raise CallFailed(f"Nothing was answered within {SECONDS:.0f} seconds.") from None
        except (httpx.HTTPError, httpx.InvalidURL, OSError, ValueError) as error:
            raise CallFailed(f"It could not be reached: {type(error).__name__}.") from None
        if 300 <= answered.status < 400:
            raise CallFailed("It answered with a redirect, which is not followed.", answered)
        if not 200 <= answered.status < 300:
            told = f"It answered with status {answered.status}."
            raise CallFailed(told, answered, for_good=answered.status == GONE)
        return answered

    async def _sent(self, call: Call) -> Answered:
        parts = urlsplit(call.address)
        host = parts.hostname or ""
        port = parts.port or (443 if parts.scheme == "https" else 80)
        reached = await self._reached(host, port)
        headers = _headers(call, host if parts.port is None else f"{host}:{parts.port}")
        async with (
            httpx.AsyncClient(
                follow_redirects=False,
                trust_env=False,
                timeout=SECONDS,
                transport=self._transport,
            ) as client,
            client.stream(
                "POST",
                _at(parts, reached, port),
                content=call.body,
                headers=headers,
                extensions={"sni_hostname": host},
            ) as response,
        ):
            read = b""
            async for piece in response.aiter_raw():
                read += piece
                if len(read) >= MOST_READ:
                    break
        return Answered(response.status_code, read[:MOST_READ].decode("utf-8", "replace"))

    async def _reached(self, host: str, port: int) -> str:
        """The network address to connect to. Raises CallFailed."""
        try:
            found = await asyncio.get_running_loop().getaddrinfo(
                host, port, type=socket.SOCK_STREAM
            )
        except (OSError, UnicodeError):
            raise CallFailed("There is no computer by that name.") from None
        addresses = [str(one[4][0]) for one in found]
        if not addresses:
            raise CallFailed("There is no computer by that name.")
        if not self._private and not all(map(is_public, addresses)):
            raise CallFailed(CLOSED, for_good=True)
        return addresses[0]


def _is_ip(host: str) -> bool:
    """Whether a host is an address in digits, in any of the forms that systems read."""
    try:
        socket.getaddrinfo(host, None, flags=socket.AI_NUMERICHOST)
    except (OSError, UnicodeError):
        return False
    return True


def _at(parts: SplitResult, address: str, port: int) -> str:
    host = f"[{address}]" if ":" in address else address
    return parts._replace(netloc=f"{host}:{port}").geturl()


def _headers(call: Call, host: str) -> dict[str, str]:
    moment = str(int(time.time()))
    signed = (signature(secret, call.id, moment, call.body) for secret in call.secrets)
    return {
        "Host": host,
        "Content-Type": "application/json",
        "User-Agent": "JotGate",
        "webhook-id": call.id,
        "webhook-timestamp": moment,
        "webhook-signature": " ".join(signed),
    }
