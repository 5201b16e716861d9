"""Where a request comes from: its own address, or the one that a proxy we trust names."""

from __future__ import annotations

from ipaddress import IPv4Network, IPv6Network, ip_address, ip_network

from django.conf import settings
from django.core.exceptions import ImproperlyConfigured
from django.http import HttpRequest

Network = IPv4Network | IPv6Network


def read_networks(text: str) -> list[Network]:
    """Addresses and networks, with commas between.

    Raises:
        ImproperlyConfigured: one is neither.
    """
    found = []
    for each in filter(None, map(str.strip, text.split(","))):
        try:
            found.append(ip_network(each))
        except ValueError as error:
            raise ImproperlyConfigured(
                f"NAILWRIGHT_TRUSTED_PROXIES holds '{each}': expected addresses or networks such as 10.0.0.2 or 10.0.0.0/24, with "
                f"commas between ({error})."
            ) from error
    return found


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
