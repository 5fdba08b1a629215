"""Served to a network: what has to be set, and what is refused otherwise."""

from __future__ import annotations

import re
from collections.abc import Mapping

from velmot.storage.errors import CannotStart

LEAST_SECRET = 24  # letters
_ADDRESS = re.compile(r"https://[a-z0-9]([a-z0-9.-]*[a-z0-9])?(:\d{1,5})?/?", re.I)


def behind(surroundings: Mapping[str, str]) -> str | None:
    """The proxy's own address (`VELMOT_BEHIND`); nothing where there is none. CannotStart where it would not be safe."""
    address = surroundings.get("VELMOT_BEHIND")
    if not address:
        return None
    if not _ADDRESS.fullmatch(address):
        raise CannotStart(
            f"“{address}” is no address to be served at: name it as https://velmot.example (VELMOT_BEHIND)"
        )
    if len(surroundings.get("VELMOT_PROXY_SECRET", "")) < LEAST_SECRET:
        raise CannotStart(
            f"whoever reaches {address} could do anything: let the proxy say who may, and send X-Velmot-Proxy with a "
            f"secret of at least {LEAST_SECRET} letters (VELMOT_PROXY_SECRET)"
        )
    return address
