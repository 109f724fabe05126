"""Where somebody signs in: a name for their browser, and the network of their address."""

from ipaddress import IPv6Address, ip_address, ip_network

_BROWSERS = (
    ("Edg/", "Edge"),
    ("OPR/", "Opera"),
    ("Firefox/", "Firefox"),
    ("Chrome/", "Chrome"),
    ("Safari/", "Safari"),
)
_SYSTEMS = (
    ("Android", "Android"),
    ("iPhone", "iPhone"),
    ("iPad", "iPad"),
    ("Windows", "Windows"),
    ("Mac OS X", "macOS"),
    ("CrOS", "ChromeOS"),
    ("Linux", "Linux"),
)


def client_name(agent: str) -> str:
    """A browser's User-Agent (RFC 9110, 10.1.5) in words, as far as it is known."""
    browser = next((name for mark, name in _BROWSERS if mark in agent), "A browser")
    system = next((name for mark, name in _SYSTEMS if mark in agent), "")
    return f"{browser} on {system}" if system else browser


def network_of(place: str) -> str:
    """The network that an address is counted with: itself, or for IPv6 its /64, which one customer
    has whole (RFC 6177)."""
    try:
        address = ip_address(place)
    except ValueError:
        return place
    if isinstance(address, IPv6Address):
        return str(ip_network(f"{address}/64", strict=False))
    return str(address)
