"""Whom a request comes from, as wrong tries are counted."""

from __future__ import annotations

import ipaddress

from django.http import HttpRequest

OF_ONE_HOME = 64  # bits: whoever has one address of IPv6 has all that begin alike


def of_request(request: HttpRequest) -> str:
    """Return the address; of IPv6 the network of it that one home has."""
    return counted(request.META.get("REMOTE_ADDR", ""))


def counted(said: str) -> str:
    """Return an address as it is counted.

    >>> counted("2001:db8:1:2:3:4:5:6"), counted("198.51.100.7")
    ('2001:db8:1:2::', '198.51.100.7')
    """
    try:
        address = ipaddress.ip_address(said)
    except ValueError:
        return said
    if isinstance(address, ipaddress.IPv4Address):
        return said
    return str(ipaddress.ip_network((address, OF_ONE_HOME), strict=False).network_address)
