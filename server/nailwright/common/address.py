"""Where a request comes from: its own address, or the one that a proxy we trust names."""

from __future__ import annotations

from ipaddress import IPv4Network, IPv6Network, ip_address, ip_network

from django.conf import settings
from django.http import HttpRequest

Network = IPv4Network | IPv6Network


def read_networks(text: str) -> list[Network]:
    """Addresses and networks, with commas between.

    Raises:
        ValueError: one is neither.
    """
    return [ip_network(each.strip()) for each in text.split(",") if each.strip()]


def address_of(request: HttpRequest) -> str:
    """The sender's address. Behind trusted proxies it is the last one that none of them has: whatever stands further left was
    written by the sender."""
    here = str(request.META.get("REMOTE_ADDR", ""))
    for told in reversed(request.META.get("HTTP_X_FORWARDED_FOR", "").split(",")):
        if not told.strip() or not _trusted(here):
            break
        here = told.strip()
    return here[:45]


def _trusted(text: str) -> bool:
    try:
        address = ip_address(text)
    except ValueError:
        return False
    return any(address in network for network in settings.TRUSTED_PROXIES)
