"""Which network addresses calls may go to: none that only we can reach (OWASP, Server-Side Request
Forgery Prevention Cheat Sheet)."""

from ipaddress import IPv4Address, IPv6Address, IPv6Network, ip_address, ip_network

_CARRYING: tuple[tuple[IPv6Network, int], ...] = tuple(
    (IPv6Network(network), bits)
    for network, bits in (
        ("::/96", 0),
        ("::ffff:0:0/96", 0),
        ("::ffff:0:0:0/96", 0),
        ("64:ff9b::/96", 0),
        ("2002::/16", 80),
    )
)
"""Networks whose addresses stand for one of IPv4, and how many bits follow that: compatible and
mapped ones (RFC 4291), translated ones (RFC 2765, RFC 6052), 6to4 (RFC 3056)."""

_CLOSED = tuple(
    ip_network(network)
    for network in (
        *("100.64.0.0/10", "192.0.0.0/24", "192.88.99.0/24", "198.18.0.0/15"),
        *("64:ff9b:1::/48", "2001::/23", "fec0::/10"),
    )
)
"""Networks for special purposes that Python may call global (IANA's registries of those)."""


def is_public(written: str) -> bool:
    """Whether an IP address, as it is `written`, is one that anybody can reach."""
    try:
        address = ip_address(written.partition("%")[0])
    except ValueError:
        return False
    if isinstance(address, IPv6Address):
        inner = _carried(address)
        if inner is not None:
            return is_public(str(inner))
    if any(address in network for network in _CLOSED if network.version == address.version):
        return False
    return address.is_global and not address.is_multicast and not address.is_reserved


def _carried(address: IPv6Address) -> IPv4Address | None:
    for network, bits in _CARRYING:
        if address in network:
            return IPv4Address(int(address) >> bits & 0xFFFFFFFF)
    return None
