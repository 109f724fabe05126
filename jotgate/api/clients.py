"""Who sent a request: the address that it came from, through proxies that are named."""

from collections.abc import Sequence
from ipaddress import IPv4Network, IPv6Network, ip_address

from starlette.types import Scope

Network = IPv4Network | IPv6Network


def client_of(scope: Scope, proxies: Sequence[Network]) -> str:
    """The network address of the client.

    X-Forwarded-For counts only where the peer is one of `proxies`; then the last address in it
    that is none of them, since what stands before that anybody can have written.
    """
    peer = scope.get("client")
    found: str = peer[0] if peer else ""
    forwarded = b",".join(
        value for name, value in scope.get("headers", ()) if name == b"x-forwarded-for"
    )
    hops = [one.strip() for one in forwarded.decode("latin-1").split(",") if one.strip()]
    while hops and _is_proxy(found, proxies):
        found = hops.pop()
    return found


def _is_proxy(address: str, proxies: Sequence[Network]) -> bool:
    try:
        parsed = ip_address(address)
    except ValueError:
        return False
    return any(parsed in network for network in proxies)
